// SPDX-License-Identifier: GPL-3.0-or-later
#include "session/radiance_history.h"

#include "base/atomic_file.h"
#include "base/phrase.h"

#include <chrono>

namespace ml {
namespace fs = std::filesystem;
namespace {

/// `radiance.exr` becomes another name of the kept file; a copy where the disk knows no links.
Result<void> showAsCurrent(const fs::path& kept, const fs::path& current) {
  std::error_code error;
  if (fs::equivalent(kept, current, error)) return {};
  return writeAtomically(current, [&](const fs::path& temporary) -> Result<void> {
    fs::remove(temporary, error);
    fs::create_hard_link(kept, temporary, error);
    if (error) fs::copy_file(kept, temporary, fs::copy_options::overwrite_existing, error);
    if (error)
      return fail(ErrorCode::CannotWrite,
                  phrase("`{}` cannot be written ({}); free some space.", current.string(), error.message()));
    return {};
  });
}

} // namespace

std::string newStamp() {
  return std::to_string(std::chrono::system_clock::now().time_since_epoch().count());
}

fs::path historyFile(const View& view, const std::string& stamp) {
  return view.folder / "history" / ("radiance-" + stamp + ".exr");
}

fs::path joiningFolder(const View& view) {
  return view.folder / "joining";
}

fs::path radianceNow(const View& view) {
  std::error_code error;
  const fs::path kept = historyFile(view, view.radianceStamp);
  return fs::exists(kept, error) ? kept : view.radianceFile();
}

Result<void> keepCombined(const View& view) {
  std::error_code error;
  if (const fs::path kept = historyFile(view, view.radianceStamp); view.combined && fs::exists(kept, error))
    if (auto shown = showAsCurrent(kept, view.radianceFile()); !shown) return shown;
  return view.saveCombined();
}

void forgetHistory(const View& view) {
  std::error_code error;
  for (const auto& entry : fs::directory_iterator(view.folder / "history", error))
    if (entry.path().filename() != "radiance-" + view.radianceStamp + ".exr") fs::remove(entry.path(), error);
  // What is newer than the picture in force is of work that was cut off.
  const fs::path joining = joiningFolder(view);
  const auto kept = fs::last_write_time(joining, error);
  if (error) return;
  const auto made = fs::last_write_time(radianceNow(view), error);
  if (!error && made > kept) fs::remove_all(joining, error);
}

} // namespace ml
