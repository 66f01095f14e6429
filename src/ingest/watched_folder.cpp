// SPDX-License-Identifier: GPL-3.0-or-later
#include "ingest/watched_folder.h"

#include "base/phrase.h"
#include "codec/code_image.h"

#include <algorithm>
#include <fstream>
#include <string>

namespace ml {
namespace fs = std::filesystem;
namespace {

/// Cameras append padding and previews; the marker stands near the end, not always last.
constexpr std::streamoff kTail = 4096;

std::string tailOf(const fs::path& file) {
  std::ifstream in(file, std::ios::binary | std::ios::ate);
  const auto size = std::streamoff(in.tellg());
  if (size <= 0) return {};
  in.seekg(std::max<std::streamoff>(0, size - kTail));
  return std::string(std::istreambuf_iterator<char>(in), {});
}

std::vector<fs::path> filesOf(const fs::path& folder, std::error_code& error) {
  std::vector<fs::path> files;
  for (const auto& entry : fs::directory_iterator(folder, error)) {
    std::error_code ignored;
    if (entry.is_regular_file(ignored) && entry.path().filename().string().front() != '.')
      files.push_back(entry.path());
  }
  return files;
}

} // namespace

bool hasItsEnd(const fs::path& file) {
  const auto kind = sniff(file);
  if (!kind) return false;
  const std::string tail = tailOf(file);
  if (*kind == FileKind::Jpeg) return tail.find("\xff\xd9") != std::string::npos;
  if (*kind == FileKind::Png) return tail.find("IEND") != std::string::npos;
  return !tail.empty();
}

WatchedFolder::WatchedFolder(fs::path folder) : folder_(std::move(folder)) {
  std::error_code error;
  for (const auto& file : filesOf(folder_, error)) taken_.insert(file);
}

Result<std::vector<fs::path>> WatchedFolder::look() {
  std::error_code error;
  const auto files = filesOf(folder_, error);
  if (error)
    return fail(
        ErrorCode::FileMissing,
        phrase("The watched folder `{}` has vanished; bring it back, and frames are taken again.", folder_.string()));
  std::vector<std::pair<fs::file_time_type, fs::path>> complete;
  for (const auto& file : files) {
    if (taken_.count(file)) continue;
    const auto size = fs::file_size(file, error);
    if (error || size == 0) continue;
    const auto before = sizes_.find(file);
    const bool still = before != sizes_.end() && before->second == size;
    sizes_[file] = size;
    if (const auto refused = refused_.find(file); refused != refused_.end() && refused->second == size) continue;
    if (!still || !hasItsEnd(file)) continue;
    complete.emplace_back(fs::last_write_time(file, error), file);
  }
  std::sort(complete.begin(), complete.end());
  std::vector<fs::path> out;
  for (auto& [time, file] : complete) {
    taken_.insert(file);
    out.push_back(std::move(file));
  }
  return out;
}

void WatchedFolder::giveBack(const fs::path& file) {
  taken_.erase(file);
  refused_[file] = sizes_[file];
}

} // namespace ml
