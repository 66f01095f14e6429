// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "finish/recipe.h"
#include "pipeline/combine.h"
#include "pipeline/deliver_view.h"

namespace ml {

struct RunOptions {
  bool joinPositions = true; ///< Sets that are positions of one view become one picture.
  CombineOptions combine;
  Recipe recipe;
  std::filesystem::path out;
  std::vector<Target> targets; ///< Empty: full JPEG and the radiance.
  MetadataWishes wishes;
  int jobs = 0; ///< Sets worked on at once; 0: as many as memory allows, at most two for each four cores.
};

/// One picture to be made: a set, or the positions that are joined to one.
struct RunView {
  std::string name; ///< Of its files.
  std::vector<FileGroup> groups;
};

/// What became of one.
struct SetOutcome {
  std::string name;
  std::size_t files = 0;
  std::optional<Error> failure;
  std::string verdict;
  bool done = false; ///< Was there already, from the same frames by the same recipe.
  std::vector<std::filesystem::path> delivered;
  std::filesystem::path report;
};

/// Combines, finishes and delivers one into options.out, and writes `<name>.json` last: when that is there and names
/// the same frames (name, size, time of change) and the same way, nothing is made. Every file is written whole; two
/// that make the same one do each other no harm. Errors: those of the set, CannotWrite, Stopped.
Result<SetOutcome> makeView(const RunView& view, const RunOptions& options, const Progress& progress);

/// When all of it is there already.
[[nodiscard]] std::optional<SetOutcome> viewMade(const RunView& view, const RunOptions& options);

} // namespace ml
