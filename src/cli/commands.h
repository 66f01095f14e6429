// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "base/progress.h"
#include "cli/arguments.h"
#include "exposure/aim.h"

#include <cstdint>
#include <string>
#include <vector>

namespace ml::cli {

struct PlanArguments {
  std::string low, high, camera = "full-frame-24", aperture = "8", iso, school = "auto";
  std::string isoCap, snr;
  std::string logbook; ///< That knows this hand; empty: the window's, "none": no.
  bool handheld = false, json = false, compare = false;
  double focal = 0;
};
struct ShootArguments {
  std::string world, on, plan, out, format = "dng";
  double patience = 30; ///< Seconds that a camera which is gone is waited for.
  std::uint64_t seed = 1;
  std::vector<std::string> faults;
  Aim aim; ///< Of the simulated camera, in a world that has all directions.
  double focal = 24;
};
struct InspectArguments {
  std::vector<std::string> paths;
  bool json = false;
};
struct CombineArguments {
  std::vector<std::string> paths;
  std::string out, method = "radiance", align = "auto", motion = "auto", reference = "auto", crop = "reference", report,
                   curves;
  bool empty = false, evenSo = false;
  std::vector<std::string> leave;
};
struct AssembleArguments {
  CombineArguments combine; ///< Paths, out and report are those of the whole.
  std::string kind = "auto", projection = "auto", keep;
  std::vector<std::string> turned; ///< FILE=YAW,PITCH,ROLL
};
struct FinishArguments {
  std::string file, out, look = "natural", recipe, report;
};
struct RunArguments {
  CombineArguments combine;
  std::string look = "natural", recipe, targets = "jpeg,archive", creator, rights;
  bool removeLocation = false, joinPositions = true;
  int jobs = 0;
};

/// Each prints its result, or one sentence on standard error, and returns the exit code.
int runPlan(const PlanArguments& arguments);
int runShoot(const ShootArguments& arguments, const Progress& progress);
int runInspect(const InspectArguments& arguments, const Progress& progress);
int runCombine(const CombineArguments& arguments, const Progress& progress);
int runAssemble(const AssembleArguments& arguments, const Progress& progress);
int runFinish(const FinishArguments& arguments, const Progress& progress);
int runRun(const RunArguments& arguments, const Progress& progress);

} // namespace ml::cli
