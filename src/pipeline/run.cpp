#include "pipeline/run.h"

#include "base/atomic_file.h"
#include "deliver/deliver.h"
#include "finish/finish.h"
#include "pipeline/report.h"

#include <fmt/format.h>
#include <future>
#include <nlohmann/json.hpp>
#include <set>

namespace ml {
namespace fs = std::filesystem;
using nlohmann::json;
namespace {

Result<void> deliverSet(const FileGroup& group, const RunOptions& options, const Progress& progress, SetOutcome& outcome) {
  std::vector<fs::path> files;
  for (const auto& file : group.files) files.push_back(file.path);
  auto combined = combineFiles(files, options.combine, progress);
  if (!combined) return passOn(combined.error());
  RadianceOptions radiance;
  radiance.ev100OfUnit = combined->ev100OfUnit;
  // The radiance is compressed and written while the picture is finished.
  auto kept = std::async(std::launch::async, [&] { return deliverRadiance(combined->radiance.view(), outcome.radiance, radiance); });
  const auto analysis = analyseTone(combined->radiance.view());
  auto finished = finishPicture(combined->radiance.view(), analysis, options.recipe, progress);
  if (!finished) return passOn(finished.error());
  const auto reference = combined->frames[combined->reference].path;
  DeliverOptions picture;
  picture.metadataFrom = reference;
  outcome.verdict = verdict(*combined);
  json report = toJson(*combined);
  report["finish"] = toJson(finished->report);
  report["recipe"] = json::parse(toJson(options.recipe));
  if (auto done = deliverPicture(finished->picture.view(), outcome.picture, picture); !done) return done;
  if (auto done = kept.get(); !done) return done;
  return writeTextAtomically(outcome.report, report.dump(2));
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
    if (s.failure) entry["failure"] = s.failure->message;
    else entry.update({{"picture", s.picture.string()}, {"radiance", s.radiance.string()}, {"report", s.report.string()}, {"verdict", s.verdict}});
    sets.push_back(entry);
  }
  for (const auto& l : summary.leftOut) left.push_back({{"file", l.path.string()}, {"reason", l.reason.message}});
  return {{"version", 1}, {"kind", "run"}, {"sets", sets}, {"left_out", left}};
}

} // namespace

Result<RunSummary> runAll(const std::vector<fs::path>& paths, const RunOptions& options, const Progress& progress,
                          const std::function<void(const SetOutcome&)>& setDone) {
  RunSummary summary;
  std::vector<LeftOut> missing;
  const auto files = collectFiles(paths, missing);
  Grouping grouping = groupFiles(files);
  summary.leftOut = std::move(missing);
  summary.leftOut.insert(summary.leftOut.end(), grouping.leftOut.begin(), grouping.leftOut.end());
  if (grouping.sets.empty()) {
    if (!summary.leftOut.empty()) return passOn(summary.leftOut.front().reason);
    return fail(ErrorCode::FileMissing, "There is no frame in what was named; give a folder of frames or the frames themselves.");
  }
  std::set<std::string> taken{"report"};
  for (std::size_t i = 0; i < grouping.sets.size(); ++i) {
    if (progress.stopRequested()) return stopped();
    const FileGroup& group = grouping.sets[i];
    SetOutcome outcome;
    outcome.name = freeName(group.name, taken);
    outcome.files = group.files.size();
    outcome.picture = options.out / (outcome.name + ".jpg");
    outcome.radiance = options.out / (outcome.name + ".exr");
    outcome.report = options.out / (outcome.name + ".json");
    const Progress set{progress.stop, [&, i](const std::string& stage, double f) {
                         progress.at(fmt::format("{}: {}", outcome.name, stage), (double(i) + f) / double(grouping.sets.size()));
                       }};
    if (auto done = deliverSet(group, options, set, outcome); !done) {
      if (done.error().code == ErrorCode::Stopped || done.error().code == ErrorCode::CannotWrite) return passOn(done.error());
      outcome.failure = done.error();
    }
    if (setDone) setDone(outcome);
    summary.sets.push_back(std::move(outcome));
  }
  summary.report = options.out / "report.json";
  if (auto written = writeTextAtomically(summary.report, summaryJson(summary).dump(2)); !written) return passOn(written.error());
  return summary;
}

} // namespace ml
