#pragma once
#include "finish/recipe.h"
#include "pipeline/combine.h"

#include <functional>

namespace ml {

struct RunOptions {
  CombineOptions combine;
  Recipe recipe;
  std::filesystem::path out;
};

/// What became of one set.
struct SetOutcome {
  std::string name;
  std::size_t files = 0;
  std::optional<Error> failure;
  std::string verdict;
  std::filesystem::path picture, radiance, report;
};

struct RunSummary {
  std::vector<SetOutcome> sets;
  std::vector<LeftOut> leftOut;
  std::filesystem::path report;
};

/// Groups the paths into sets and, for each, combines, finishes and delivers `<name>.jpg`, `<name>.exr`, `<name>.json` into
/// options.out, then writes report.json. `setDone` is called after each. Errors: nothing readable, CannotWrite, Stopped.
Result<RunSummary> runAll(const std::vector<std::filesystem::path>& paths, const RunOptions& options, const Progress& progress,
                          const std::function<void(const SetOutcome&)>& setDone);

} // namespace ml
