// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "cli/commands.h"
#include "pipeline/run.h"

namespace ml::cli {

struct FarmArguments {
  RunArguments run; ///< Card, folder and wishes.
  std::string engine = "local", folder;
  int set = 0;
  bool json = false;
};

/// `farm CARD... --out DIR`: writes the manifest and makes, or hands over, all that is not made.
int runFarm(const FarmArguments& arguments, const Progress& progress);
int runFarmStatus(const FarmArguments& arguments);
int runFarmResume(const FarmArguments& arguments, const Progress& progress);
/// What the workload manager calls: one set, and the end.
int runFarmTask(const FarmArguments& arguments, const Progress& progress);
int runFarmJoin(const FarmArguments& arguments);

/// A run's wishes as options; out and jobs included. Errors: InvalidArgument, those of a recipe's file.
[[nodiscard]] Result<RunOptions> runOptions(const RunArguments& arguments);

} // namespace ml::cli
