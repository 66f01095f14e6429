// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "base/result.h"
#include "exposure/units.h"

#include <filesystem>
#include <optional>
#include <set>
#include <string>
#include <vector>

namespace ml {

/// What a set shot by wire is made of, kept in the set's folder while it is shot, so that frames which stayed on the
/// camera are found again. "camera-set.json"; docs/formats.md.
struct SetRecord {
  struct Entry {
    ExposureSettings settings;
    std::string file;     ///< In the folder; chosen before the frame is exposed.
    std::string onCamera; ///< Folder and name there; empty: not known yet.
  };
  std::set<std::string> before; ///< Files on the camera that are not of this set.
  std::vector<Entry> entries;

  static constexpr const char* kName = "camera-set.json";
  /// Nothing when there is none, or when it cannot be read.
  [[nodiscard]] static std::optional<SetRecord> load(const std::filesystem::path& folder);
  Result<void> save(const std::filesystem::path& folder) const;
};

[[nodiscard]] std::string toText(const SetRecord& record);
/// Errors: FileUnreadable.
[[nodiscard]] Result<SetRecord> setRecordFrom(const std::string& text);

/// Names of frames in `folder` may have another extension than was planned: the file with this stem, if there is one.
[[nodiscard]] std::optional<std::filesystem::path> frameAt(const std::filesystem::path& folder,
                                                           const std::string& stem);

} // namespace ml
