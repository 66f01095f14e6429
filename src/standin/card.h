// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "base/result.h"
#include "ptp/bytes.h"

#include <cstdint>
#include <filesystem>
#include <map>
#include <vector>

namespace ml {

/// The files on the stand-in's card, as the protocol numbers them: DCIM, a folder in it, and frames in that. Not for
/// several threads at once.
class CardFiles {
public:
  static constexpr std::uint32_t kStorage = 0x00010001;

  CardFiles(std::filesystem::path folder, double megabytes);

  /// The name that the next frame gets, without an extension.
  [[nodiscard]] std::string nextName();
  [[nodiscard]] const std::filesystem::path& folder() const { return folder_; }
  /// A file that has come to be in the folder; its number.
  std::uint32_t add(const std::filesystem::path& file);
  void remove(std::uint32_t handle);
  void empty();

  /// Below `parent`; 0: all there are, 0xFFFFFFFF: the topmost.
  [[nodiscard]] std::vector<std::uint32_t> handles(std::uint32_t parent) const;
  /// Empty when there is no such file or folder.
  [[nodiscard]] ptp::Bytes info(std::uint32_t handle) const;
  [[nodiscard]] ptp::Bytes storageInfo() const;
  [[nodiscard]] const std::filesystem::path* file(std::uint32_t handle) const;
  [[nodiscard]] double freeMegabytes() const;

private:
  std::filesystem::path folder_;
  double megabytes_;
  std::uint32_t nextHandle_ = 0x10;
  int frames_ = 0;
  std::map<std::uint32_t, std::filesystem::path> files_;
};

} // namespace ml
