// SPDX-License-Identifier: GPL-3.0-or-later
#include "cli/farm_commands.h"

#include "base/atomic_file.h"
#include "cli/say.h"
#include "farm/farm.h"

#include <algorithm>
#include <cstdio>
#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace ml::cli {
namespace fs = std::filesystem;
using nlohmann::json;
namespace {

using Words = std::map<std::string, std::string>;

/// Relative names would mean other files on another machine.
std::string absolute(const std::string& file) {
  return file.empty() ? file : fs::absolute(file).lexically_normal().string();
}

Words wordsOf(const RunArguments& a) {
  Words w{{"method", a.combine.method},
          {"align", a.combine.align},
          {"motion", a.combine.motion},
          {"reference", a.combine.reference},
          {"crop", a.combine.crop},
          {"curves", absolute(a.combine.curves)},
          {"look", a.look},
          {"recipe", absolute(a.recipe)},
          {"targets", a.targets},
          {"creator", a.creator},
          {"rights", a.rights}};
  if (a.combine.empty) w["empty"] = "yes";
  if (a.combine.evenSo) w["even_so"] = "yes";
  if (a.removeLocation) w["remove_location"] = "yes";
  if (!a.joinPositions) w["apart"] = "yes";
  for (std::size_t i = 0; i < a.combine.leave.size(); ++i) w["leave_" + std::to_string(i)] = a.combine.leave[i];
  return w;
}

RunArguments argumentsOf(const Words& w, const std::string& out) {
  RunArguments a;
  const auto take = [&](const char* name, std::string& into) {
    if (const auto found = w.find(name); found != w.end()) into = found->second;
  };
  take("method", a.combine.method), take("align", a.combine.align), take("motion", a.combine.motion),
      take("reference", a.combine.reference);
  take("crop", a.combine.crop), take("curves", a.combine.curves), take("look", a.look), take("recipe", a.recipe);
  take("targets", a.targets), take("creator", a.creator), take("rights", a.rights);
  a.combine.empty = w.contains("empty");
  a.combine.evenSo = w.contains("even_so");
  a.removeLocation = w.contains("remove_location");
  a.joinPositions = !w.contains("apart");
  for (std::size_t i = 0; w.contains("leave_" + std::to_string(i)); ++i)
    a.combine.leave.push_back(w.at("leave_" + std::to_string(i)));
  a.combine.out = absolute(out);
  return a;
}

struct Farm {
  FarmManifest manifest;
  RunOptions options;
};

Result<Farm> farmIn(const std::string& folder) {
  auto manifest = loadManifest(folder);
  if (!manifest) return passOn(manifest.error());
  auto options = runOptions(argumentsOf(manifest->arguments, folder));
  if (!options) return passOn(options.error());
  useUsualTargets(*options);
  return Farm{std::move(*manifest), std::move(*options)};
}

int exitCodeOf(const RunSummary& summary) {
  const auto failed = std::count_if(summary.sets.begin(), summary.sets.end(),
                                    [](const SetOutcome& s) { return s.failure.has_value(); });
  if (failed == std::ptrdiff_t(summary.sets.size())) return kCannotCombine;
  return failed > 0 || !withoutCompanions(summary.leftOut).empty() ? int(kSetLeftOut) : kDone;
}

int join(const Farm& farm) {
  const auto summary = joinFarm(farm.manifest, farm.options);
  if (!summary) return refuse(summary.error());
  const auto failed = std::count_if(summary->sets.begin(), summary->sets.end(),
                                    [](const SetOutcome& s) { return s.failure.has_value(); });
  std::printf("%zu of %zu sets done; %s\n", summary->sets.size() - std::size_t(failed), summary->sets.size(),
              summary->report.c_str());
  return exitCodeOf(*summary);
}

int makeHere(const Farm& farm, const std::vector<std::size_t>& open, const Progress& progress) {
  for (std::size_t n = 0; n < open.size(); ++n) {
    const auto made = makeFarmSet(farm.manifest, open[n], farm.options,
                                  progress.part(double(n) / double(open.size()), double(n + 1) / double(open.size())));
    if (!made) return refuse(made.error());
    std::printf("%s: %s\n", made->name.c_str(), made->failure ? made->failure->message.c_str() : made->verdict.c_str());
    std::fflush(stdout);
  }
  return join(farm);
}

int work(const Farm& farm, const std::string& engine, const std::vector<std::size_t>& open, const Progress& progress) {
  forgetStale(farm.manifest, open, farm.options.out);
  if (open.empty() || engine == "local") return makeHere(farm, open, progress);
  std::error_code error;
  const auto jobs = submitToSlurm(fs::read_symlink("/proc/self/exe", error), farm.options.out, open);
  if (!jobs) return refuse(jobs.error());
  say(fmt::format("{} sets are handed to Slurm (job {}); `mellow-lantern-cli farm status {}` says how far they are.",
                  open.size(), fmt::join(*jobs, ", "), farm.options.out.string()));
  return kDone;
}

bool isEngine(const std::string& name) {
  return name == "local" || name == "slurm";
}

} // namespace

int runFarm(const FarmArguments& a, const Progress& progress) {
  if (!isEngine(a.engine)) return wrongUse("--engine takes slurm or local, not \"" + a.engine + "\".");
  if (a.run.combine.paths.empty() || a.run.combine.out.empty())
    return wrongUse("farm takes cards or folders, and --out with the folder for the pictures.");
  RunArguments asked = a.run;
  asked.combine.out = absolute(asked.combine.out);
  auto options = runOptions(asked);
  if (!options) return refuse(options.error());
  useUsualTargets(*options);
  const auto plan = planRun({asked.combine.paths.begin(), asked.combine.paths.end()}, *options, progress.stop);
  if (!plan) return refuse(plan.error());
  Farm farm{manifestOf(*plan), *options};
  farm.manifest.arguments = wordsOf(asked);
  farm.manifest.engine = a.engine;
  if (auto saved = saveManifest(farm.manifest, options->out); !saved) return refuse(saved.error());
  std::vector<std::size_t> open; // what an earlier farm made of the same frames in the same way is not made again
  for (std::size_t i = 0; i < plan->views.size(); ++i)
    if (!viewMade(plan->views[i], *options)) open.push_back(i);
  return work(farm, a.engine, open, progress);
}

int runFarmStatus(const FarmArguments& a) {
  const auto manifest = loadManifest(a.folder);
  if (!manifest) return refuse(manifest.error());
  const FarmState state = farmState(*manifest, a.folder);
  const std::string jobs = slurmSays(a.folder);
  if (a.json) {
    say(json{{"sets", state.sets},
             {"made", state.made},
             {"failed", state.failed},
             {"open", state.open.size()},
             {"joined", state.joined},
             {"failures", state.failures},
             {"jobs", jobs}}
            .dump(2));
    return kDone;
  }
  say(fmt::format("{} of {} sets are made, {} failed, {} are open{}.", state.made, state.sets, state.failed,
                  state.open.size(), jobs.empty() ? "" : "; Slurm: " + jobs));
  for (const auto& failure : state.failures) say("  " + failure);
  if (!state.open.empty() && jobs.empty()) say("`mellow-lantern-cli farm resume " + a.folder + "` makes what is open.");
  return kDone;
}

int runFarmResume(const FarmArguments& a, const Progress& progress) {
  const auto farm = farmIn(a.folder);
  if (!farm) return refuse(farm.error());
  const std::string engine = a.engine.empty() ? farm->manifest.engine : a.engine;
  if (!isEngine(engine)) return wrongUse("--engine takes slurm or local, not \"" + engine + "\".");
  std::vector<std::size_t> open;
  for (std::size_t i = 0; i < farm->manifest.sets.size(); ++i) {
    const auto view = viewOf(farm->manifest.sets[i]);
    if (!view || !viewMade(*view, farm->options)) open.push_back(i);
  }
  return work(*farm, engine, open, progress);
}

int runFarmTask(const FarmArguments& a, const Progress& progress) {
  const auto farm = farmIn(a.folder);
  if (!farm) return refuse(farm.error());
  if (a.set < 0 || std::size_t(a.set) >= farm->manifest.sets.size())
    return wrongUse(fmt::format("There is no set {} in this farm.", a.set));
  const auto made = makeFarmSet(farm->manifest, std::size_t(a.set), farm->options, progress);
  if (!made) return refuse(made.error());
  if (made->failure) return refuse(*made->failure);
  say(made->name + ": " + (made->done ? "done before; " : "") + made->verdict);
  return kDone;
}

int runFarmJoin(const FarmArguments& a) {
  const auto farm = farmIn(a.folder);
  return farm ? join(*farm) : refuse(farm.error());
}

} // namespace ml::cli
