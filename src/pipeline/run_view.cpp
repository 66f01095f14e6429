// SPDX-License-Identifier: GPL-3.0-or-later
#include "pipeline/run_view.h"

#include "base/atomic_file.h"
#include "deliver/row_spool.h"
#include "pipeline/assemble_json.h"
#include "pipeline/combine_json.h"
#include "pipeline/combine_report.h"
#include "pipeline/position_views.h"
#include "pipeline/report.h"

#include <future>
#include <new>
#include <nlohmann/json.hpp>

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
  const auto radiance = RowSpool::in(options.out, inside.width, inside.height);
  if (!radiance) return passOn(radiance.error());
  Result<void> kept;
  const auto keep = [&](int y, ImageView<const float> rows) {
    const int first = std::max(y, inside.y), last = std::min(y + rows.height, inside.y + inside.height);
    if (kept && first < last) kept = (*radiance)->append(rows.crop({inside.x, first - y, inside.width, last - first}));
    return bool(kept);
  };
  if (archive) {
    if (auto written = writeAssembly(*assembly, whole, progress.part(0.5, 0.7), keep); !written) return written;
    outcome.delivered.push_back(whole);
  } else if (!drawAssembly(*assembly, keep, progress.part(0.5, 0.7)) && kept) {
    return stopped();
  }
  if (!kept) return kept;
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
  auto delivered = deliverView(PictureRows(**radiance), request, progress.part(0.7, 1));
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
      const Material material{{}, {}, combined->radiance.view(), {}, notesOf(*combined), {}, {}, combined->sphere};
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

SetOutcome outcomeOf(const RunView& view, const RunOptions& options) {
  SetOutcome outcome;
  outcome.name = view.name;
  for (const FileGroup& set : view.groups) outcome.files += set.files.size();
  outcome.report = options.out / (view.name + ".json");
  return outcome;
}

} // namespace

Result<SetOutcome> makeView(const RunView& view, const RunOptions& options, const Progress& progress) {
  SetOutcome outcome = outcomeOf(view, options);
  try {
    const auto made = view.groups.size() > 1 ? deliverPositions(view.groups, options, progress, outcome)
                                             : deliverSet(view.groups.front(), options, progress, outcome);
    if (!made) return passOn(made.error());
  } catch (const std::bad_alloc&) {
    return tl::unexpected(outOfMemory("`" + view.name + "`"));
  }
  return outcome;
}

std::optional<SetOutcome> viewMade(const RunView& view, const RunOptions& options) {
  SetOutcome outcome = outcomeOf(view, options);
  return isDone(madeFrom(view.groups, options), outcome) ? std::optional(std::move(outcome)) : std::nullopt;
}

} // namespace ml
