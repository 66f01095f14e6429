// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "pipeline/run_view.h"

#include <functional>

namespace ml {

/// What a run will make.
struct RunPlan {
  std::vector<RunView> views;
  std::vector<LeftOut> leftOut;
};

struct RunSummary {
  std::vector<SetOutcome> sets;
  std::vector<LeftOut> leftOut;
  std::vector<std::string> lights; ///< Of two sets one after the other under two lights: which shows the wall truer.
  std::filesystem::path report;
};

/// Groups the paths into sets, sets that are positions of one view into views, and for each combines, finishes and
/// delivers its targets and `<name>.json` into options.out, then writes report.json. A set whose files are all there,
/// made from the same frames (name, size, time of change) in the same way, is not made again: a run that was stopped
/// goes on where it was. `setDone` is called after each. Errors: nothing readable, CannotWrite, Stopped.
Result<RunSummary> runAll(const std::vector<std::filesystem::path>& paths, const RunOptions& options,
                          const Progress& progress, const std::function<void(const SetOutcome&)>& setDone);

// ---- The same in parts, for a run that is spread over many machines

void useUsualTargets(RunOptions& options);
/// Errors: nothing readable.
Result<RunPlan> planRun(const std::vector<std::filesystem::path>& paths, const RunOptions& options,
                        const StopFlag& stop);
/// Makes every view, and writes report.json.
Result<RunSummary> makeAll(const RunPlan& plan, const RunOptions& options, const Progress& progress,
                           const std::function<void(const SetOutcome&)>& setDone);
[[nodiscard]] SetOutcome failedView(const RunView& view, const RunOptions& options, const Error& why);
Result<void> writeSummary(RunSummary& summary, const std::filesystem::path& out);

} // namespace ml
