// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "base/result.h"

#include <filesystem>
#include <map>
#include <set>
#include <vector>

namespace ml {

/// Takes frames from a folder that some other program fills, each once, when it is complete: its size stood still
/// between two looks and its end is there. Files that lie in it at the start are passed over.
class WatchedFolder {
public:
  explicit WatchedFolder(std::filesystem::path folder);

  [[nodiscard]] const std::filesystem::path& folder() const { return folder_; }
  /// One look; files that became complete since the last one, oldest first. Errors: FileMissing when the folder has
  /// vanished; looking again after it came back goes on where it stopped.
  Result<std::vector<std::filesystem::path>> look();
  /// A file that could not be read after all is looked at again when it changes.
  void giveBack(const std::filesystem::path& file);

private:
  std::filesystem::path folder_;
  std::set<std::filesystem::path> taken_;
  std::map<std::filesystem::path, std::uintmax_t> sizes_;
  std::map<std::filesystem::path, std::uintmax_t> refused_;
};

/// Does the file have its end? JPEG: the end marker; PNG: the IEND chunk; others: anything at all.
[[nodiscard]] bool hasItsEnd(const std::filesystem::path& file);

} // namespace ml
