#include "session/job.h"

#include "base/atomic_file.h"
#include "pipeline/report.h"

#include <algorithm>
#include <fmt/format.h>

namespace ml {
namespace fs = std::filesystem;
using nlohmann::json;
namespace {

std::string slug(const std::string& name) {
  std::string out;
  for (const unsigned char c : name) {
    if (std::isalnum(c)) out += char(std::tolower(c));
    else if (!out.empty() && out.back() != '-') out += '-';
  }
  while (!out.empty() && out.back() == '-') out.pop_back();
  return out.empty() ? "view" : out;
}

Result<json> readJson(const fs::path& file) {
  auto text = readText(file);
  if (!text) return passOn(text.error());
  json document = json::parse(*text, nullptr, false);
  if (document.is_discarded() || !document.is_object())
    return fail(ErrorCode::FileUnreadable, "`" + file.string() + "` is damaged; put it back from a copy, or remove it to start that step again.");
  if (document.value("version", 1) > 1)
    return fail(ErrorCode::FileUnreadable, "`" + file.string() + "` was written by a newer version; open the job with that one.");
  return document;
}

/// Known fields over whatever other fields were there before.
Result<void> writeJson(const fs::path& file, json known, const json& extra) {
  json document = extra.is_object() ? extra : json::object();
  document.update(known);
  document["version"] = 1;
  return writeTextAtomically(file, document.dump(2) + "\n");
}

json readingJson(const SpotReading& r) {
  json j{{"name", r.name}, {"ev100", r.ev100.value}, {"keep_texture", r.keepTexture}};
  if (r.x && r.y) j["place"] = {*r.x, *r.y};
  return j;
}

SpotReading readingFrom(const json& j) {
  SpotReading r{j.value("name", ""), {j.at("ev100").get<double>()}, j.value("keep_texture", true), {}, {}};
  if (j.contains("place")) {
    r.x = j["place"].at(0).get<double>();
    r.y = j["place"].at(1).get<double>();
  }
  return r;
}

Result<void> loadPlan(View& view) {
  auto document = readJson(view.folder / "plan.json");
  if (!document) return passOn(document.error());
  view.planExtra = *document;
  view.name = document->value("name", view.folder.filename().string());
  view.world = document->value("world", "");
  view.camera = document->value("camera", view.camera);
  view.format = frameFormat(document->value("format", "dng")).value_or(FrameFormat::Dng);
  view.snrTarget = document->value("snr_target", view.snrTarget);
  view.school = document->value("school", view.school);
  for (const auto& reading : document->value("readings", json::array())) view.readings.push_back(readingFrom(reading));
  if (document->contains("plan") && !(*document)["plan"].is_null()) {
    auto plan = planFromJson((*document)["plan"]);
    if (!plan) return passOn(plan.error());
    view.plan = *plan;
  }
  return {};
}

/// Frames shot into the view are stored relative to it, so that the job folder can move.
Result<void> loadFrames(View& view) {
  if (!fs::exists(view.folder / "frames.json")) return {};
  auto document = readJson(view.folder / "frames.json");
  if (!document) return passOn(document.error());
  for (const auto& entry : document->value("frames", json::array())) {
    const fs::path file = entry.get<std::string>();
    view.frames.push_back(file.is_absolute() ? file : view.folder / file);
  }
  return {};
}

Result<void> loadCombined(View& view) {
  if (!fs::exists(view.folder / "combine.json") || !fs::exists(view.radianceFile())) return {};
  auto document = readJson(view.folder / "combine.json");
  if (!document) return passOn(document.error());
  CombineRecord record;
  record.frames = document->value("frames", std::vector<std::string>{});
  record.ev100OfUnit = document->value("ev100_of_unit", 0.0);
  record.metadataFrom = document->value("metadata_from", std::vector<std::string>{});
  record.verdict = document->value("verdict", "");
  record.report = document->value("report", json::object());
  view.radianceStamp = document->value("stamp", "");
  view.combined = std::move(record);
  return {};
}

Result<void> loadFinish(View& view) {
  if (!fs::exists(view.folder / "finish.json")) return {};
  auto document = readJson(view.folder / "finish.json");
  if (!document) return passOn(document.error());
  view.finishExtra = *document;
  auto recipe = recipeFromJson(document->value("recipe", json::object()).dump());
  if (!recipe) return passOn(recipe.error());
  view.recipe = *recipe;
  for (const auto& entry : document->value("delivered", json::array()))
    view.delivered.push_back({entry.value("file", ""), entry.value("recipe", ""), entry.value("radiance", "")});
  return {};
}

Result<View> loadView(const fs::path& folder) {
  View view;
  view.folder = folder;
  try {
    for (const auto step : {loadPlan, loadFrames, loadCombined, loadFinish})
      if (auto loaded = step(view); !loaded) return passOn(loaded.error());
  } catch (const json::exception& error) {
    return fail(ErrorCode::FileUnreadable, "A file in `" + folder.string() + "` is damaged (" + error.what() + "); put it back from a copy.");
  }
  return view;
}

} // namespace

std::vector<std::string> View::frameNames() const {
  std::vector<std::string> names;
  for (const auto& frame : frames) names.push_back(frame.filename().string());
  std::sort(names.begin(), names.end());
  return names;
}

Result<void> View::savePlan() const {
  json list = json::array();
  for (const auto& reading : readings) list.push_back(readingJson(reading));
  const std::string formatName = format == FrameFormat::Dng ? "dng" : format == FrameFormat::Jpeg ? "jpeg" : "tiff";
  return writeJson(folder / "plan.json",
                   {{"name", name}, {"world", world}, {"camera", camera}, {"format", formatName}, {"snr_target", snrTarget},
                    {"school", school}, {"readings", list}, {"plan", plan ? toJson(*plan) : json(nullptr)}},
                   planExtra);
}

Result<void> View::saveFrames() const {
  json list = json::array();
  for (const auto& frame : frames) {
    const auto inside = frame.lexically_relative(folder);
    list.push_back(!inside.empty() && *inside.begin() != ".." ? inside.string() : frame.string());
  }
  return writeJson(folder / "frames.json", {{"frames", list}}, {});
}

Result<void> View::saveCombined() const {
  if (!combined) {
    std::error_code ignored;
    fs::remove(folder / "combine.json", ignored);
    return {};
  }
  return writeJson(folder / "combine.json",
                   {{"frames", combined->frames}, {"ev100_of_unit", combined->ev100OfUnit}, {"metadata_from", combined->metadataFrom},
                    {"verdict", combined->verdict}, {"report", combined->report}, {"stamp", radianceStamp}},
                   {});
}

Result<void> View::saveFinish() const {
  json list = json::array();
  for (const auto& d : delivered) list.push_back({{"file", d.file}, {"recipe", d.recipe}, {"radiance", d.radiance}});
  return writeJson(folder / "finish.json", {{"recipe", json::parse(toJson(recipe))}, {"delivered", list}}, finishExtra);
}

Result<Job> Job::create(const fs::path& folder, const std::string& name) {
  std::error_code error;
  if (fs::exists(folder / "job.json", error))
    return fail(ErrorCode::CannotWrite, "`" + folder.string() + "` already holds a job; open it or choose another folder.");
  Job job;
  job.folder_ = folder;
  job.name_ = name;
  if (auto saved = job.save(); !saved) return passOn(saved.error());
  return job;
}

Result<Job> Job::open(const fs::path& folder) {
  auto document = readJson(folder / "job.json");
  if (!document) return passOn(document.error());
  Job job;
  job.folder_ = folder;
  job.extra_ = *document;
  job.name_ = document->value("name", folder.filename().string());
  for (const auto& entry : document->value("views", json::array())) {
    if (!entry.is_string()) return fail(ErrorCode::FileUnreadable, "`" + (folder / "job.json").string() + "` is damaged; put it back from a copy.");
    auto view = loadView(folder / "views" / fs::path(entry.get<std::string>()).filename());
    if (!view) return passOn(view.error());
    job.views_.push_back(std::move(*view));
  }
  return job;
}

Result<std::size_t> Job::addView(const std::string& name, const std::string& world, const std::string& camera) {
  View view;
  view.name = name;
  view.world = world;
  view.camera = camera;
  view.folder = folder_ / "views" / fmt::format("{:02d}-{}", views_.size() + 1, slug(name));
  if (auto saved = view.savePlan(); !saved) return passOn(saved.error());
  views_.push_back(std::move(view));
  if (auto saved = save(); !saved) return passOn(saved.error());
  return views_.size() - 1;
}

Result<void> Job::save() const {
  json list = json::array();
  for (const auto& view : views_) list.push_back(view.folder.filename().string());
  return writeJson(folder_ / "job.json", {{"name", name_}, {"views", list}}, extra_);
}

StationStates stationStates(const View& v) {
  using enum StationState;
  StationStates s{Open, Open, Open, Open, Open, Open};
  const bool ownFiles = v.world.empty();
  s.light = v.readings.size() >= 2 || ownFiles ? Done : Open;
  s.frames = v.plan || ownFiles ? Done : Open;
  s.shoot = v.frames.empty() ? Open : Done;
  if (v.plan && !v.frames.empty() && !ownFiles && v.frames.size() != v.plan->frames.size()) s.shoot = OutOfDate;
  if (v.combined) s.combine = v.combined->frames == v.frameNames() ? Done : OutOfDate;
  const bool current = std::any_of(v.delivered.begin(), v.delivered.end(), [&](const DeliveredFile& d) {
    return d.recipe == toJson(v.recipe) && d.radiance == v.radianceStamp;
  });
  if (v.combined) s.finish = s.combine;
  if (!v.delivered.empty()) s.deliver = current && s.combine == Done ? Done : OutOfDate;
  return s;
}

} // namespace ml
