// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "finish/recipe.h"
#include "pipeline/combine.h"
#include "pipeline/deliver_view.h"

#include <functional>

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

/// What became of one set.
struct SetOutcome {
  std::string name;
  std::size_t files = 0;
  std::optional<Error> failure;
  std::string verdict;
  bool done = false; ///< Was there already, from the same frames by the same recipe.
  std::vector<std::filesystem::path> delivered;
  std::filesystem::path report;
};

struct RunSummary {
  std::vector<SetOutcome> sets;
  std::vector<LeftOut> leftOut;
  std::filesystem::path report;
};

/// Groups the paths into sets, sets that are positions of one view into views, and for each combines, finishes and
/// delivers its targets and `<name>.json` into options.out, then writes report.json. A set whose files are all there,
/// made from the same frames (name, size, time of change) in the same way, is not made again: a run that was stopped
/// goes on where it was. `setDone` is called after each. Errors: nothing readable, CannotWrite, Stopped.
Result<RunSummary> runAll(const std::vector<std::filesystem::path>& paths, const RunOptions& options,
                          const Progress& progress, const std::function<void(const SetOutcome&)>& setDone);

} // namespace ml
