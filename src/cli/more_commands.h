// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "base/progress.h"
#include "cli/arguments.h"

#include <string>
#include <vector>

namespace ml::cli {

struct VisitPlanArguments {
  std::string file, ics, logbook, now;
  bool json = false;
};
struct LogArguments {
  std::string logbook, jobs; ///< Empty: where the window keeps them.
  std::string words, tag, kind, year, visit, out, format = "json";
  bool withFaults = false, json = false;
  int limit = 500;
  std::vector<std::string> folders; ///< Of jobs, for rebuild.
};
struct PracticeArguments {
  std::string exercise, answers, out, jobs;
  bool json = false, solution = false;
};

int runVisitPlan(const VisitPlanArguments& arguments);
int runLogList(const LogArguments& arguments, const Progress& progress);
int runLogShow(const LogArguments& arguments, const Progress& progress);
int runLogStats(const LogArguments& arguments, const Progress& progress);
int runLogExport(const LogArguments& arguments, const Progress& progress);
int runLogRebuild(const LogArguments& arguments, const Progress& progress);
int runPracticeList(const PracticeArguments& arguments);
int runPractice(const PracticeArguments& arguments, const Progress& progress);

} // namespace ml::cli
