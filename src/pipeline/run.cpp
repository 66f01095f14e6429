// SPDX-License-Identifier: GPL-3.0-or-later
#include "pipeline/run.h"

#include "base/atomic_file.h"
#include "base/large_memory.h"
#include "base/parallel.h"
#include "pipeline/assemble_json.h"
#include "pipeline/combine_json.h"
#include "pipeline/combine_report.h"
#include "pipeline/position_views.h"
#include "pipeline/report.h"

#include <atomic>
#include <fmt/format.h>
#include <future>
#include <mutex>
#include <nlohmann/json.hpp>
#include <set>
#include <thread>
#include <unistd.h>

namespace ml {
namespace fs = std::filesystem;
using nlohmann::json;
namespace {

/// All that decides what a set becomes.
json madeFrom(const std::vector<FileGroup>& groups, const RunOptions& options) {
  json files = json::array(), targets = json::array();
  for (const auto& group : groups)
    for (const auto& file : group.files) {
      std::error_code error;
      const auto size = fs::file_size(file.path, error);
      const auto changed = fs::last_write_time(file.path, error).time_since_epoch().count();
      files.push_back({{"file", fs::absolute(file.path).string()}, {"size", size}, {"changed", changed}});
    }
  for (const Target& t : options.targets) targets.push_back(t.id);
  return {{"frames", files},
          {"targets", targets},
          {"recipe", json::parse(toJson(options.recipe))},
          {"combine", toJson(options.combine)}};
}

std::optional<json> reportOf(const fs::path& file) {
  const auto text = readText(file);
  if (!text) return {};
  json report = json::parse(*text, nullptr, false);
  return report.is_object() ? std::optional(std::move(report)) : std::nullopt;
}

/// Is the set there already, made in the same way?
bool isDone(const json& made, SetOutcome& outcome) {
  const auto report = reportOf(outcome.report);
  if (!report || report->value("made_from", json()) != made) return false;
  for (const auto& name : report->value("delivered", json::array())) {
    const fs::path file = outcome.report.parent_path() / name.get<std::string>();
    std::error_code error;
    if (!fs::exists(file, error)) return false;
    outcome.delivered.push_back(file);
  }
  outcome.verdict = report->value("verdict", "");
  outcome.done = true;
  return true;
}

/// What was combined or joined, and what was made of it.
Result<void> writeReport(json report, const Delivery& delivered, const json& made, const RunOptions& options,
                         const SetOutcome& outcome) {
  report["finish"] = toJson(delivered.report);
  report["judgement"] = toJson(delivered.judgement);
  report["recipe"] = json::parse(toJson(options.recipe));
  report["made_from"] = made;
  for (const auto& file : outcome.delivered) report["delivered"].push_back(file.filename().string());
  return writeTextAtomically(outcome.report, report.dump(2));
}

/// Several positions to one picture: the radiance is written whole, pictures are cropped to what is covered.
Result<void> deliverPositions(const std::vector<FileGroup>& groups, const RunOptions& options, const Progress& progress,
                              SetOutcome& outcome) {
  const json made = madeFrom(groups, options);
  if (isDone(made, outcome)) return {};
  AssembleOptions assembling;
  assembling.combine = options.combine;
  auto assembly = assembleGroups(groups, assembling, progress.part(0, 0.5));
  if (!assembly) return passOn(assembly.error());
  const bool archive = std::any_of(options.targets.begin(), options.targets.end(),
                                   [](const Target& t) { return t.format == Target::Format::Exr; });
  const fs::path whole = options.out / (outcome.name + ".exr");
  const Roi inside = coveredRectangle(assembly->seams, assembly->canvas);
  Image<float> radiance(inside.width, inside.height, 3);
  const auto keep = [&](int y, ImageView<const float> rows) {
    for (int v = 0; v < rows.height; ++v)
      if (const int to = y + v - inside.y; to >= 0 && to < inside.height)
        std::copy_n(rows.at(inside.x, v), 3 * inside.width, radiance.row(to));
  };
  if (archive) {
    if (auto written = writeAssembly(*assembly, whole, progress.part(0.5, 0.7), keep); !written) return written;
    outcome.delivered.push_back(whole);
  } else if (!drawAssembly(
                 *assembly, [&](int y, ImageView<const float> rows) { return keep(y, rows), true; },
                 progress.part(0.5, 0.7))) {
    return stopped();
  }
  const json said = toJson(*assembly);
  outcome.verdict = verdict(*assembly);
  DeliverRequest request;
  request.recipe = options.recipe;
  request.name.view = outcome.name;
  request.folder = options.out;
  request.wishes = options.wishes;
  request.metadataFrom = assembly->metadataFrom;
  request.facts = assembly->facts;
  request.replace = true;
  assembly->pictures.clear(); // memory is wanted for the finish
  for (const Target& t : options.targets)
    if (t.format != Target::Format::Exr) request.targets.push_back(t);
  auto delivered = deliverView(std::as_const(radiance).view(), request, progress.part(0.7, 1));
  if (!delivered) return passOn(delivered.error());
  outcome.delivered.insert(outcome.delivered.begin(), delivered->files.begin(), delivered->files.end());
  json report = said;
  report["crop"] = {inside.x, inside.y, inside.width, inside.height};
  return writeReport(std::move(report), *delivered, made, options, outcome);
}

Result<void> deliverSet(const FileGroup& group, const RunOptions& options, const Progress& progress,
                        SetOutcome& outcome) {
  const json made = madeFrom({group}, options);
  if (isDone(made, outcome)) return {};
  std::vector<fs::path> files;
  for (const auto& file : group.files) files.push_back(file.path);
  auto combined = combineFiles(files, options.combine, progress.part(0, 0.6));
  if (!combined) return passOn(combined.error());
  DeliverRequest request;
  request.recipe = options.recipe;
  request.name.view = outcome.name;
  request.folder = options.out;
  request.wishes = options.wishes;
  request.metadataFrom = combined->frames[combined->reference].path;
  request.facts = sceneFacts(*combined);
  request.ghosts = ghostsLeft(*combined);
  request.noisier =
      std::make_shared<const Image<float>>(combined->noisier.empty() ? Image<float>() : combined->noisier.clone());
  request.replace = true; // names are unique among the sets of a run
  // The radiance is compressed and written while the picture is finished.
  DeliverRequest archive = request;
  std::future<Result<void>> kept;
  for (const Target& t : options.targets) {
    if (t.format != Target::Format::Exr) {
      request.targets.push_back(t);
      continue;
    }
    kept = std::async(std::launch::async, [&, t]() -> Result<void> {
      const Material material{{}, {}, combined->radiance.view(), {}, notesOf(*combined), {}, {}};
      return deliverTarget(material, t, options.out / (outcome.name + ".exr"), progress);
    });
    outcome.delivered.push_back(options.out / (outcome.name + ".exr"));
  }
  auto delivered = deliverView(combined->radiance.view(), request, progress.part(0.6, 1));
  if (kept.valid())
    if (auto done = kept.get(); !done) return done;
  if (!delivered) return passOn(delivered.error());
  outcome.delivered.insert(outcome.delivered.begin(), delivered->files.begin(), delivered->files.end());
  outcome.verdict = verdict(*combined);
  json report = toJson(combineReport(*combined));
  return writeReport(std::move(report), *delivered, made, options, outcome);
}

/// Sets at once: each takes about 40 bytes a pixel for radiance and pictures and 6 for each frame.
int setsAtOnce(const Grouping& grouping, int asked, bool joined) {
  if (joined) return 1; // a joined view holds all its positions
  if (asked > 0) return asked;
  double largest = 1;
  for (const auto& set : grouping.sets)
    for (const auto& file : set.files)
      largest = std::max(largest, double(file.width) * file.height * (40 + 6 * double(set.files.size())));
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

json summaryJson(const RunSummary& summary) {
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
  return {{"version", 1}, {"kind", "run"}, {"sets", sets}, {"left_out", left}, {"passed_over", passed}};
}

} // namespace

Result<RunSummary> runAll(const std::vector<fs::path>& paths, const RunOptions& asked, const Progress& progress,
                          const std::function<void(const SetOutcome&)>& setDone) {
  const MemoryReuse reuse;
  RunSummary summary;
  RunOptions options = asked;
  if (options.targets.empty()) options.targets = {*findTarget("jpeg"), *findTarget("archive")};
  std::vector<LeftOut> missing;
  auto files = collectFiles(paths, missing, Subfolders::Read, progress.stop);
  // What an earlier run wrote into a folder below the one named is no frame.
  if (std::any_of(paths.begin(), paths.end(), [&](const fs::path& named) { return isInside(options.out, named); })) {
    std::erase_if(files, [&](const fs::path& file) { return isInside(file, options.out); });
    std::erase_if(missing, [&](const LeftOut& left) { return isInside(left.path, options.out); });
  }
  Grouping grouping = groupFiles(files);
  summary.leftOut = std::move(missing);
  summary.leftOut.insert(summary.leftOut.end(), grouping.leftOut.begin(), grouping.leftOut.end());
  if (grouping.sets.empty()) {
    if (const auto missed = withoutCompanions(summary.leftOut); !missed.empty()) return passOn(missed.front().reason);
    return fail(ErrorCode::FileMissing,
                "There is no frame in what was named; give a folder of frames or the frames themselves.");
  }
  std::vector<std::vector<FileGroup>> views; // each a set, or positions that are joined
  bool joined = false;
  if (options.joinPositions) {
    for (const PositionView& view : positionViews(grouping, {progress.stop, {}})) {
      views.emplace_back();
      for (const std::size_t set : view.sets) views.back().push_back(grouping.sets[set]);
      joined = joined || view.sets.size() > 1;
    }
  } else {
    for (const FileGroup& set : grouping.sets) views.push_back({set});
  }
  std::set<std::string> taken{"report"};
  summary.sets.resize(views.size());
  for (std::size_t i = 0; i < views.size(); ++i) {
    SetOutcome& outcome = summary.sets[i];
    outcome.name = freeName(views[i][0].name, taken);
    for (const FileGroup& set : views[i]) outcome.files += set.files.size();
    outcome.report = options.out / (outcome.name + ".json");
  }
  std::atomic<std::size_t> next{0};
  std::mutex telling;
  std::optional<Error> fatal; // stopped, or nothing can be written: no set will fare better
  const auto work = [&] {
    for (std::size_t i = next++; i < views.size(); i = next++) {
      SetOutcome& outcome = summary.sets[i];
      const Progress set{progress.stop, [&, i](const std::string& stage, double f) {
                           const std::lock_guard lock(telling);
                           progress.at(fmt::format("{}: {}", summary.sets[i].name, stage),
                                       (double(i) + f) / double(views.size()));
                         }};
      auto done = progress.stopRequested() ? Result<void>(stopped())
                  : views[i].size() > 1    ? deliverPositions(views[i], options, set, outcome)
                                           : deliverSet(views[i][0], options, set, outcome);
      const std::lock_guard lock(telling);
      if (fatal) return;
      if (!done) {
        if (done.error().code == ErrorCode::Stopped || done.error().code == ErrorCode::CannotWrite) {
          fatal = done.error();
          return;
        }
        outcome.failure = done.error();
      }
      if (setDone) setDone(outcome);
    }
  };
  std::vector<std::thread> others;
  for (int k = 1; k < std::min(setsAtOnce(grouping, options.jobs, joined), int(views.size())); ++k)
    others.emplace_back(work);
  work();
  for (auto& thread : others) thread.join();
  if (fatal) return passOn(*fatal);
  summary.report = options.out / "report.json";
  if (auto written = writeTextAtomically(summary.report, summaryJson(summary).dump(2)); !written)
    return passOn(written.error());
  return summary;
}

} // namespace ml
