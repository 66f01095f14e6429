// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "base/result.h"
#include "finish/recipe.h"
#include "pipeline/combine.h"
#include "plan/planner.h"

#include <filesystem>
#include <string>

namespace ml::cli {

/// Exit codes of design and docs/formats.md.
enum Exit {
  kDone = 0,
  kSetLeftOut = 1,
  kWrongUse = 2,
  kUnreadable = 3,
  kCannotCombine = 4,
  kCannotWrite = 5,
  kStopped = 130
};
[[nodiscard]] int exitCodeFor(const Error& error);

[[nodiscard]] Result<AlignMode> alignMode(const std::string& name);
[[nodiscard]] Result<CombineMethod> combineMethod(const std::string& name);
[[nodiscard]] Result<MotionMode> motionMode(const std::string& name);
[[nodiscard]] Result<CropMode> cropMode(const std::string& name);
[[nodiscard]] Result<std::optional<int>> referenceFrame(const std::string& text);
/// A shipped profile's id, or a JSON file.
[[nodiscard]] Result<CameraProfile> cameraNamed(const std::string& idOrFile);
/// A look's id, or a recipe file when that is given.
[[nodiscard]] Result<Recipe> recipeFrom(const std::string& look, const std::string& file);

/// Where jobs lie: `folder`, or where the window keeps them when it is empty.
[[nodiscard]] std::filesystem::path jobsIn(const std::string& folder);

/// Worlds lie beside the program, in the installed share folder, or in the source tree it was built from.
[[nodiscard]] Result<std::filesystem::path> worldFolder(const std::string& id);

} // namespace ml::cli
