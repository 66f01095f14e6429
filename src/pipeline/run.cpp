// SPDX-License-Identifier: GPL-3.0-or-later
#include "pipeline/run.h"

#include "base/atomic_file.h"
#include "base/large_memory.h"
#include "base/parallel.h"
#include "base/phrase.h"
#include "pipeline/light_pairs.h"
#include "pipeline/position_views.h"

#include <atomic>
#include <fmt/format.h>
#include <mutex>
#include <nlohmann/json.hpp>
#include <set>
#include <thread>
#include <unistd.h>

namespace ml {
namespace fs = std::filesystem;
using nlohmann::json;
namespace {

/// Sets at once: each takes about 40 bytes a pixel for radiance and pictures and 6 for each frame.
int setsAtOnce(const RunPlan& plan, int asked) {
  double largest = 1;
  for (const auto& view : plan.views) {
    if (view.groups.size() > 1) return 1; // a joined view holds all its positions
    for (const auto& file : view.groups.front().files)
      largest =
          std::max(largest, double(file.width) * file.height * (40 + 6 * double(view.groups.front().files.size())));
  }
  if (asked > 0) return asked;
  const double free = double(::sysconf(_SC_AVPHYS_PAGES)) * double(::sysconf(_SC_PAGESIZE));
  return std::clamp(int(0.6 * free / largest), 1, std::max(1, threadCount() / 2));
}

/// Does `file` lie in `folder`, or below it?
bool isInside(const fs::path& file, const fs::path& folder) {
  std::error_code error;
  const fs::path inside = fs::weakly_canonical(file, error).lexically_relative(fs::weakly_canonical(folder, error));
  return !inside.empty() && inside != "." && *inside.begin() != "..";
}

std::string freeName(const std::string& wanted, std::set<std::string>& taken) {
  std::string name = wanted;
  for (int n = 2; !taken.insert(name).second; ++n) name = fmt::format("{}-{}", wanted, n);
  return name;
}

/// The JPEG that was delivered of each set.
std::vector<NamedPicture> picturesOf(const RunSummary& summary) {
  std::vector<NamedPicture> out;
  for (const auto& set : summary.sets) {
    const auto jpeg = std::find_if(set.delivered.begin(), set.delivered.end(),
                                   [](const fs::path& file) { return file.extension() == ".jpg"; });
    out.push_back({set.name, jpeg == set.delivered.end() ? fs::path() : *jpeg});
  }
  return out;
}

/// Sets under two lights, and the sentence of each pair into the summary.
json lightsJson(RunSummary& summary) {
  json out = json::array();
  const auto pictures = picturesOf(summary);
  for (const LightPair& pair : pairLights(pictures, {})) {
    json entry{{"first", pictures[pair.first].name},
               {"second", pictures[pair.second].name},
               {"sentence", sentence(pair, pictures)}};
    if (pair.wall) {
      entry["difference"] = pair.wall->difference;
      entry["warmer"] = pair.wall->warmer;
      if (pair.wall->truer >= 0) entry["truer"] = pictures[pair.wall->truer == 0 ? pair.first : pair.second].name;
    }
    summary.lights.push_back(entry["sentence"]);
    out.push_back(std::move(entry));
  }
  return out;
}

json summaryJson(RunSummary& summary) {
  json sets = json::array(), left = json::array();
  for (const auto& s : summary.sets) {
    json entry{{"name", s.name}, {"files", s.files}};
    if (s.failure)
      entry["failure"] = s.failure->message;
    else {
      entry.update({{"report", s.report.string()},
                    {"verdict", s.verdict},
                    {"done_before", s.done},
                    {"delivered", json::array()}});
      for (const auto& file : s.delivered) {
        entry["delivered"].push_back(file.string());
        if (file.extension() == ".jpg" && !entry.contains("picture")) entry["picture"] = file.string();
        if (file.extension() == ".exr") entry["radiance"] = file.string();
      }
    }
    sets.push_back(entry);
  }
  json passed = json::array();
  for (const auto& l : summary.leftOut) {
    if (l.companion)
      passed.push_back(l.path.string());
    else
      left.push_back({{"file", l.path.string()}, {"reason", l.reason.message}});
  }
  return {{"version", 1},     {"kind", "run"},        {"sets", sets}, {"lights", lightsJson(summary)},
          {"left_out", left}, {"passed_over", passed}};
}

} // namespace

void useUsualTargets(RunOptions& options) {
  if (options.targets.empty()) options.targets = {*findTarget("jpeg"), *findTarget("archive")};
}

Result<RunPlan> planRun(const std::vector<fs::path>& paths, const RunOptions& options, const StopFlag& stop) {
  RunPlan plan;
  std::vector<LeftOut> missing;
  auto files = collectFiles(paths, missing, Subfolders::Read, stop);
  // What an earlier run wrote into a folder below the one named is no frame.
  if (std::any_of(paths.begin(), paths.end(), [&](const fs::path& named) { return isInside(options.out, named); })) {
    std::erase_if(files, [&](const fs::path& file) { return isInside(file, options.out); });
    std::erase_if(missing, [&](const LeftOut& left) { return isInside(left.path, options.out); });
  }
  Grouping grouping = groupFiles(files);
  plan.leftOut = std::move(missing);
  plan.leftOut.insert(plan.leftOut.end(), grouping.leftOut.begin(), grouping.leftOut.end());
  if (grouping.sets.empty()) {
    if (const auto missed = withoutCompanions(plan.leftOut); !missed.empty()) return passOn(missed.front().reason);
    return fail(ErrorCode::FileMissing,
                phrase("There is no frame in what was named; give a folder of frames or the frames themselves."));
  }
  if (options.joinPositions) {
    for (const PositionView& view : positionViews(grouping, {stop, {}})) {
      plan.views.emplace_back();
      for (const std::size_t set : view.sets) plan.views.back().groups.push_back(grouping.sets[set]);
    }
  } else {
    for (const FileGroup& set : grouping.sets) plan.views.push_back({{}, {set}});
  }
  std::set<std::string> taken{"report"};
  for (RunView& view : plan.views) view.name = freeName(view.groups.front().name, taken);
  return plan;
}

Result<RunSummary> makeAll(const RunPlan& plan, const RunOptions& options, const Progress& progress,
                           const std::function<void(const SetOutcome&)>& setDone) {
  const MemoryReuse reuse;
  RunSummary summary;
  summary.leftOut = plan.leftOut;
  summary.sets.resize(plan.views.size());
  std::atomic<std::size_t> next{0};
  std::mutex telling;
  std::optional<Error> fatal; // stopped, or nothing can be written: no set will fare better
  const auto work = [&] {
    for (std::size_t i = next++; i < plan.views.size(); i = next++) {
      const RunView& view = plan.views[i];
      const Progress set{progress.stop, [&, i](const std::string& stage, double f) {
                           const std::lock_guard lock(telling);
                           progress.at(fmt::format("{}: {}", view.name, stage),
                                       (double(i) + f) / double(plan.views.size()));
                         }};
      auto made = progress.stopRequested() ? Result<SetOutcome>(stopped()) : makeView(view, options, set);
      const std::lock_guard lock(telling);
      if (fatal) return;
      if (!made && (made.error().code == ErrorCode::Stopped || made.error().code == ErrorCode::CannotWrite)) {
        fatal = made.error();
        return;
      }
      summary.sets[i] = made ? std::move(*made) : failedView(view, options, made.error());
      if (setDone) setDone(summary.sets[i]);
    }
  };
  std::vector<std::thread> others;
  for (int k = 1; k < std::min(setsAtOnce(plan, options.jobs), int(plan.views.size())); ++k) others.emplace_back(work);
  work();
  for (auto& thread : others) thread.join();
  if (fatal) return passOn(*fatal);
  if (auto written = writeSummary(summary, options.out); !written) return passOn(written.error());
  return summary;
}

SetOutcome failedView(const RunView& view, const RunOptions& options, const Error& why) {
  SetOutcome outcome;
  outcome.name = view.name;
  for (const FileGroup& set : view.groups) outcome.files += set.files.size();
  outcome.report = options.out / (view.name + ".json");
  outcome.failure = why;
  return outcome;
}

Result<void> writeSummary(RunSummary& summary, const fs::path& out) {
  summary.report = out / "report.json";
  return writeTextAtomically(summary.report, summaryJson(summary).dump(2));
}

Result<RunSummary> runAll(const std::vector<fs::path>& paths, const RunOptions& asked, const Progress& progress,
                          const std::function<void(const SetOutcome&)>& setDone) {
  RunOptions options = asked;
  useUsualTargets(options);
  const auto plan = planRun(paths, options, progress.stop);
  if (!plan) return passOn(plan.error());
  return makeAll(*plan, options, progress, setDone);
}

} // namespace ml
