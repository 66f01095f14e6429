// SPDX-License-Identifier: GPL-3.0-or-later
#include "session/job_documents.h"

#include "base/atomic_file.h"
#include "base/phrase.h"

namespace ml {
namespace fs = std::filesystem;
using nlohmann::json;
namespace {

Error writtenByNewer(const fs::path& file) {
  return {
      ErrorCode::FileUnreadable,
      phrase("`{}` was written by a newer version; open the job with that one. Nothing was changed.", file.string())};
}

} // namespace

Result<json> readJson(const fs::path& file) {
  auto text = readText(file);
  if (!text) return passOn(text.error());
  json document = json::parse(*text, nullptr, false);
  if (document.is_discarded() || !document.is_object())
    return fail(
        ErrorCode::FileUnreadable,
        phrase("`{}` is damaged; put it back from a copy, or remove it to start that step again.", file.string()));
  if (document.value("version", 1) > 1) return tl::unexpected(writtenByNewer(file));
  return document;
}

Result<void> refuseNewer(const fs::path& folder) {
  std::vector<fs::path> files{folder / "visit.json", folder / "deliveries.json"};
  std::error_code error;
  for (const auto& view : fs::directory_iterator(folder / "views", error))
    for (const char* name : {"plan.json", "frames.json", "combine.json", "finish.json", "journal.json"})
      files.push_back(view.path() / name);
  for (const auto& file : files) {
    const auto text = readText(file);
    if (!text) continue;
    const json document = json::parse(*text, nullptr, false);
    if (!document.is_object()) continue;
    const json version = document.value("version", json(1));
    if (version.is_number() && version.get<double>() > 1) return tl::unexpected(writtenByNewer(file));
  }
  return {};
}

Result<void> refuseWaysOut(const fs::path& viewFolder) {
  std::error_code error;
  for (const fs::path& folder :
       {viewFolder.parent_path(), viewFolder, viewFolder / "frames", viewFolder / "delivered", viewFolder / "history"})
    if (fs::is_symlink(folder, error))
      return fail(ErrorCode::FileUnreadable,
                  phrase("`{}` is a link that leads out of the job; put the folder itself there, or remove the link.",
                         folder.string()));
  return {};
}

Result<void> writeJson(const fs::path& file, json known, const std::string& extra) {
  if (std::error_code error; !fs::is_directory(file.parent_path(), error))
    return fail(ErrorCode::CannotWrite,
                phrase("The folder `{}` has vanished; bring it back (the drive, the share) and go on.",
                       file.parent_path().string()));
  json document = json::parse(extra, nullptr, false);
  if (!document.is_object()) document = json::object();
  document.update(known);
  document["version"] = 1;
  return writeTextAtomically(file, document.dump(2) + "\n");
}

Result<void> makeFolder(const fs::path& folder) {
  std::error_code error;
  fs::create_directories(folder, error);
  if (error)
    return fail(ErrorCode::CannotWrite,
                phrase("The folder `{}` cannot be made ({}); choose another place.", folder.string(), error.message()));
  return {};
}

} // namespace ml
