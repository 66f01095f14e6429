// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "base/result.h"
#include "plan/camera_profile.h"

#include <filesystem>
#include <vector>

namespace ml {

/// Camera profiles of the user's own: one JSON file each in a folder, beside those that ship.
class ProfileShelf {
public:
  explicit ProfileShelf(std::filesystem::path folder);

  /// Shipped ones first, then the user's own by name. Files that cannot be read are passed over and named in
  /// `problems`.
  [[nodiscard]] std::vector<CameraProfile> all() const;
  [[nodiscard]] std::vector<std::string> problems() const { return problems_; }
  [[nodiscard]] std::optional<CameraProfile> find(const std::string& id) const;
  [[nodiscard]] bool isOwn(const std::string& id) const;
  /// Keeps a profile under its id; a shipped id or one that is taken by another name gets a number. The profile as
  /// kept.
  Result<CameraProfile> keep(CameraProfile profile);
  Result<void> remove(const std::string& id);
  Result<CameraProfile> import(const std::filesystem::path& file);
  Result<void> exportTo(const std::string& id, const std::filesystem::path& file) const;

private:
  void read();
  std::filesystem::path folder_;
  std::vector<CameraProfile> own_;
  std::vector<std::string> problems_;
};

[[nodiscard]] Result<CameraProfile> readProfile(const std::filesystem::path& file);

} // namespace ml
