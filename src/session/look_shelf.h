// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "finish/recipe.h"

#include <filesystem>

namespace ml {

/// Looks of the user's own, or areas with their settings, one JSON file each.
class LookShelf {
public:
  explicit LookShelf(std::filesystem::path folder) : folder_(std::move(folder)) { reload(); }
  /// By name. Files that are no looks are passed over.
  [[nodiscard]] const std::vector<Look>& looks() const { return looks_; }
  [[nodiscard]] const Look* find(const std::string& id) const;
  /// Tone and hues of `recipe`, without what belongs to its picture. A look of that name is replaced. Errors:
  /// InvalidArgument, CannotWrite.
  Result<void> save(const std::string& name, const Recipe& recipe);
  /// An area for other pictures: a look that has nothing else.
  Result<void> saveArea(const std::string& name, const Area& area);
  Result<void> remove(const std::string& id);

private:
  Result<void> keep(const std::string& name, Recipe bare);
  void reload();
  std::filesystem::path folder_;
  std::vector<Look> looks_;
};

} // namespace ml
