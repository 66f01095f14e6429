// SPDX-License-Identifier: GPL-3.0-or-later
#include "session/job.h"

#include "base/atomic_file.h"
#include "base/plain_name.h"
#include "base/slug.h"
#include "exposure/marks.h"
#include "pipeline/combine_json.h"
#include "pipeline/report.h"
#include "session/view_json.h"
#include "session/whole_number.h"

#include <algorithm>
#include <fmt/format.h>
#include <nlohmann/json.hpp>
#include <set>

namespace ml {

SceneFacts factsOf(const CombineRecord& record) {
  return sceneFacts(record.ev100OfUnit, record.options.method, record.report->metered.ties);
}
namespace fs = std::filesystem;
using nlohmann::json;
namespace {

Error writtenByNewer(const fs::path& file) {
  return {ErrorCode::FileUnreadable,
          "`" + file.string() + "` was written by a newer version; open the job with that one. Nothing was changed."};
}

Result<json> readJson(const fs::path& file) {
  auto text = readText(file);
  if (!text) return passOn(text.error());
  json document = json::parse(*text, nullptr, false);
  if (document.is_discarded() || !document.is_object())
    return fail(ErrorCode::FileUnreadable,
                "`" + file.string() + "` is damaged; put it back from a copy, or remove it to start that step again.");
  if (document.value("version", 1) > 1) return tl::unexpected(writtenByNewer(file));
  return document;
}

/// Before anything of the job is touched. What is damaged is said where it is read.
Result<void> refuseNewer(const fs::path& folder) {
  std::vector<fs::path> files{folder / "visit.json", folder / "deliveries.json"};
  std::error_code error;
  for (const auto& view : fs::directory_iterator(folder / "views", error))
    for (const char* name : {"plan.json", "frames.json", "combine.json", "finish.json", "journal.json"})
      files.push_back(view.path() / name);
  for (const auto& file : files) {
    const auto text = readText(file);
    if (!text) continue;
    const json document = json::parse(*text, nullptr, false);
    if (!document.is_object()) continue;
    const json version = document.value("version", json(1));
    if (version.is_number() && version.get<double>() > 1) return tl::unexpected(writtenByNewer(file));
  }
  return {};
}

/// A job may come from a stranger: what is written into it stays in it.
Result<void> refuseWaysOut(const fs::path& viewFolder) {
  std::error_code error;
  for (const fs::path& folder :
       {viewFolder.parent_path(), viewFolder, viewFolder / "frames", viewFolder / "delivered", viewFolder / "history"})
    if (fs::is_symlink(folder, error))
      return fail(ErrorCode::FileUnreadable, "`" + folder.string() +
                                                 "` is a link that leads out of the job; put the folder itself there, "
                                                 "or remove the link.");
  return {};
}

/// Known fields over whatever other fields were there before.
Result<void> writeJson(const fs::path& file, json known, const std::string& extra) {
  if (std::error_code error; !fs::is_directory(file.parent_path(), error))
    return fail(ErrorCode::CannotWrite, "The folder `" + file.parent_path().string() +
                                            "` has vanished; bring it back (the drive, the share) and go on.");
  json document = json::parse(extra, nullptr, false);
  if (!document.is_object()) document = json::object();
  document.update(known);
  document["version"] = 1;
  return writeTextAtomically(file, document.dump(2) + "\n");
}

Result<void> makeFolder(const fs::path& folder) {
  std::error_code error;
  fs::create_directories(folder, error);
  if (error)
    return fail(ErrorCode::CannotWrite,
                "The folder `" + folder.string() + "` cannot be made (" + error.message() + "); choose another place.");
  return {};
}

/// Aperture and the user's own bracket; jobs of earlier versions have them in their plan alone.
void loadChoices(View& view, const json& document) {
  const auto& plan = view.plan;
  view.aperture = FNumber{document.value("aperture", plan ? plan->request.aperture.value : view.aperture.value)};
  if (!(view.aperture.value > 0.5 && view.aperture.value < 100)) view.aperture = FNumber{8};
  if (const auto own = document.find("own_bracket"); own != document.end() && own->is_object()) {
    const OwnBracket kept{own->value("count", 3), own->value("step_thirds", 6), own->value("first_thirds", 24),
                          Iso{own->value("iso", 100.0)}};
    if (kept.count > 0 && kept.count < 100 && kept.iso.value > 0) view.own = kept;
  } else if (!document.contains("aperture") && plan && plan->school == "own" && plan->frames.size() > 1) {
    view.own = OwnBracket{plan->count, int(std::lround(3 * plan->step.value)), nearestThirds(plan->frames.front().time),
                          plan->iso()};
  }
}

Result<void> loadPlan(View& view) {
  auto document = readJson(view.folder / "plan.json");
  if (!document) return passOn(document.error());
  view.planExtra = document->dump();
  view.name = document->value("name", view.folder.filename().string());
  view.world = document->value("world", "");
  view.camera = document->value("camera", view.camera);
  view.format = frameFormat(document->value("format", "dng")).value_or(FrameFormat::Dng);
  view.snrTarget = document->value("snr_target", view.snrTarget);
  view.school = document->value("school", view.school);
  view.situation = situationFrom(document->value("situation", json::object()));
  view.notes = document->value("notes", "");
  view.kind = document->value("kind", "");
  view.leftOut = document->value("left_out", false);
  view.framesSeen = document->value("frames_seen", false);
  if (document->contains("iso_cap")) view.isoCap = Iso{(*document)["iso_cap"].get<double>()};
  if (document->contains("own_camera")) {
    auto own = profileFromJson((*document)["own_camera"]);
    if (!own) return passOn(own.error());
    view.ownCamera = *own;
  }
  for (const auto& reading : document->value("readings", json::array())) view.readings.push_back(readingFrom(reading));
  if (document->contains("plan") && !(*document)["plan"].is_null()) {
    auto plan = planFromJson((*document)["plan"]);
    if (!plan) return passOn(plan.error());
    view.plan = *plan;
  }
  loadChoices(view, *document);
  return {};
}

/// A JPEG that lies beside its raw is no frame of its own.
bool isFrameName(const fs::path& file, const std::vector<fs::path>& all) {
  const std::string ending = file.extension().string();
  static const std::set<std::string> others{".json", ".xmp", ".txt", ""};
  const bool rendered =
      ending == ".jpg" || ending == ".jpeg" || ending == ".heif" || ending == ".heic" || ending == ".hif";
  const auto isItsRaw = [&](const fs::path& other) {
    return other.stem() == file.stem() && other != file && !others.contains(other.extension().string());
  };
  return file.filename().string().front() != '.' && !others.contains(ending) &&
         !(rendered && std::any_of(all.begin(), all.end(), isItsRaw));
}

/// Frames that reached the disk when the program did not live to note them. Each is written whole before it gets its
/// name, so what has a name is complete; what has none is rubbish.
void adoptStrays(View& view) {
  std::error_code error;
  for (const auto& folder : fs::directory_iterator(view.framesFolder(), error)) {
    if (!folder.is_directory(error)) continue;
    clearLeftovers(folder.path());
    const std::string name = folder.path().filename().string();
    std::vector<fs::path> all, strays;
    for (const auto& entry : fs::directory_iterator(folder.path(), error))
      if (entry.is_regular_file(error)) all.push_back(entry.path());
    for (const auto& file : all) {
      const auto known = [&](const FrameSet& set) {
        return std::any_of(set.frames.begin(), set.frames.end(), [&](const auto& m) { return m.file == file; });
      };
      if (isFrameName(file, all) && std::none_of(view.sets.begin(), view.sets.end(), known)) strays.push_back(file);
    }
    if (strays.empty()) continue;
    std::sort(strays.begin(), strays.end());
    auto set = std::find_if(view.sets.begin(), view.sets.end(), [&](const FrameSet& s) { return s.name == name; });
    if (set == view.sets.end()) {
      view.sets.push_back({name, "Bracket", 0, 0, 0, {}, {}, "", ""});
      set = view.sets.end() - 1;
    }
    for (const auto& file : strays) set->frames.push_back({file, true});
    if (view.activeSet < 0) view.activeSet = int(set - view.sets.begin());
  }
}

Result<void> loadFrames(View& view) {
  if (fs::exists(view.folder / "frames.json")) {
    auto document = readJson(view.folder / "frames.json");
    if (!document) return passOn(document.error());
    if (document->contains("sets")) {
      for (const auto& entry : (*document)["sets"]) {
        view.sets.push_back(setFrom(view, entry));
        if (!isPlainName(view.sets.back().name)) // the folder its frames are shot into
          return fail(ErrorCode::FileUnreadable, "`" + (view.folder / "frames.json").string() + "` names a set `" +
                                                     view.sets.back().name +
                                                     "`, which is no name of a folder; put it back from a copy.");
      }
      view.activeSet = std::clamp(document->value("active", -1), -1, int(view.sets.size()) - 1);
    } else {
      std::vector<fs::path> files;
      for (const auto& entry : document->value("frames", json::array()))
        files.push_back(restored(view, entry.get<std::string>()));
      if (!files.empty()) view.adoptFrames("Bracket", files);
    }
  }
  adoptStrays(view);
  view.refreshFrames();
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
  record.report =
      std::make_shared<const CombineReport>(combineReportFromJson(document->value("report", json::object())));
  record.options = combineOptionsFromJson(document->value("options", json::object()));
  view.radianceStamp = document->value("stamp", "");
  view.combined = std::move(record);
  return {};
}

Result<void> loadFinish(View& view) {
  if (!fs::exists(view.folder / "finish.json")) return {};
  auto document = readJson(view.folder / "finish.json");
  if (!document) return passOn(document.error());
  view.finishExtra = document->dump();
  auto recipe = recipeFromJson(document->value("recipe", json::object()).dump());
  if (!recipe) return passOn(recipe.error());
  view.recipe = *recipe;
  for (const auto& entry : document->value("delivered", json::array()))
    view.delivered.push_back({entry.value("file", ""), entry.value("recipe", ""), entry.value("radiance", ""),
                              entry.value("target", ""), entry.value("asked", "")});
  view.finishSeen = document->value("seen", "");
  return {};
}

Result<void> loadJournal(View& view) {
  if (!fs::exists(view.folder / "journal.json")) return {};
  auto document = readJson(view.folder / "journal.json");
  if (!document) return passOn(document.error());
  const json spent = document->value("seconds", json::object());
  for (const auto& [station, seconds] : spent.items())
    if (seconds.is_number()) view.spent[station] = std::max(0.0, seconds.get<double>());
  for (const auto& e : document->value("events", json::array()))
    view.events.push_back({wholeNumber(e, "at"), e.value("what", ""), e.value("subject", ""), e.value("words", "")});
  return {};
}

Result<View> loadView(const fs::path& folder) {
  View view;
  view.folder = folder;
  if (auto inside = refuseWaysOut(folder); !inside) return passOn(inside.error());
  clearLeftovers(folder);
  try {
    for (const auto step : {loadPlan, loadFrames, loadCombined, loadFinish, loadJournal})
      if (auto loaded = step(view); !loaded) return passOn(loaded.error());
  } catch (const json::exception& error) {
    return fail(ErrorCode::FileUnreadable,
                "A file in `" + folder.string() + "` is damaged (" + error.what() + "); put it back from a copy.");
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

std::vector<std::string> View::frameNames(CombineMethod method) const {
  if (method != CombineMethod::Positions) return frameNames();
  std::vector<std::string> names;
  for (const int index : positions())
    for (const auto& member : sets[std::size_t(index)].frames)
      if (member.used) names.push_back(sets[std::size_t(index)].name + "/" + member.file.filename().string());
  std::sort(names.begin(), names.end());
  return names;
}

std::vector<int> View::positions() const {
  std::vector<int> out;
  for (int i = 0; i < int(sets.size()); ++i) {
    const FrameSet& set = sets[std::size_t(i)];
    const auto used = [](const FrameSet::Member& m) { return m.used; };
    if ((set.row == 0 && set.column == 0 && set.plane == 0) || std::none_of(set.frames.begin(), set.frames.end(), used))
      continue;
    const auto same = [&](int k) {
      const FrameSet& other = sets[std::size_t(k)];
      return other.row == set.row && other.column == set.column && other.plane == set.plane;
    };
    std::erase_if(out, same);
    out.push_back(i);
  }
  return out;
}

Result<void> View::savePlan() const {
  json list = json::array();
  for (const auto& reading : readings) list.push_back(readingJson(reading));
  json extra = json::parse(planExtra, nullptr, false);
  if (extra.is_object())
    for (const char* optional : {"iso_cap", "own_camera", "own_bracket"}) extra.erase(optional);
  else
    extra = json::object();
  json known{{"name", name},
             {"world", world},
             {"camera", camera},
             {"format", nameOf(format)},
             {"snr_target", snrTarget},
             {"school", school},
             {"aperture", aperture.value},
             {"situation", situationJson(situation)},
             {"readings", list},
             {"plan", plan ? toJson(*plan) : json(nullptr)}};
  known["notes"] = notes;
  known["kind"] = kind;
  known["left_out"] = leftOut;
  known["frames_seen"] = framesSeen;
  if (isoCap) known["iso_cap"] = isoCap->value;
  if (ownCamera) known["own_camera"] = toJson(*ownCamera);
  if (own)
    known["own_bracket"] = {
        {"count", own->count}, {"step_thirds", own->step}, {"first_thirds", own->first}, {"iso", own->iso.value}};
  return writeJson(folder / "plan.json", known, extra.dump());
}

Result<void> View::saveFrames() const {
  json list = json::array();
  for (const auto& set : sets) list.push_back(setJson(*this, set));
  return writeJson(folder / "frames.json", {{"active", activeSet}, {"sets", list}}, "");
}

CameraProfile View::profile() const {
  if (ownCamera) return *ownCamera;
  const auto* shipped = findProfile(camera);
  return shipped ? *shipped : shippedProfiles().front();
}

FrameSet& View::startSet(const std::string& label, std::vector<ExposureSettings> planned) {
  if (activeSet >= 0 && sets[std::size_t(activeSet)].frames.empty()) { // begun, but nothing was shot
    FrameSet& begun = sets[std::size_t(activeSet)];
    begun.label = label;
    begun.planned = std::move(planned);
    return begun;
  }
  int number = int(sets.size()) + 1;
  std::error_code error;
  const auto taken = [&](const std::string& candidate) {
    return fs::exists(framesFolder() / candidate, error) ||
           std::any_of(sets.begin(), sets.end(), [&](const FrameSet& s) { return s.name == candidate; });
  };
  while (taken(fmt::format("set-{:02d}", number))) ++number;
  sets.push_back({fmt::format("set-{:02d}", number), label, 0, 0, 0, std::move(planned), {}, "", ""});
  activeSet = int(sets.size()) - 1;
  refreshFrames();
  return sets.back();
}

void View::adoptFrames(const std::string& label, const std::vector<fs::path>& files) {
  FrameSet& set = startSet(label, {});
  for (const auto& file : files) set.frames.push_back({file, true});
  refreshFrames();
}

void View::selectSet(int index) {
  activeSet = std::clamp(index, -1, int(sets.size()) - 1);
  refreshFrames();
}

void View::refreshFrames() {
  frames.clear();
  if (activeSet < 0) return;
  for (const auto& m : sets[std::size_t(activeSet)].frames)
    if (m.used) frames.push_back(m.file);
}

Result<void> View::saveCombined() const {
  if (!combined) {
    std::error_code ignored;
    fs::remove(folder / "combine.json", ignored);
    return {};
  }
  return writeJson(folder / "combine.json",
                   {{"frames", combined->frames},
                    {"ev100_of_unit", combined->ev100OfUnit},
                    {"metadata_from", combined->metadataFrom},
                    {"verdict", combined->verdict},
                    {"report", toJson(*combined->report)},
                    {"options", toJson(combined->options)},
                    {"stamp", radianceStamp}},
                   "");
}

Result<void> View::saveFinish() const {
  json list = json::array();
  for (const auto& d : delivered)
    list.push_back(
        {{"file", d.file}, {"recipe", d.recipe}, {"radiance", d.radiance}, {"target", d.target}, {"asked", d.asked}});
  return writeJson(folder / "finish.json",
                   {{"recipe", json::parse(toJson(recipe))}, {"delivered", list}, {"seen", finishSeen}}, finishExtra);
}

Result<void> View::saveJournal() const {
  json list = json::array();
  for (const auto& e : events)
    list.push_back({{"at", e.at}, {"what", e.what}, {"subject", e.subject}, {"words", e.words}});
  return writeJson(folder / "journal.json", {{"seconds", spent}, {"events", list}}, "");
}

Result<Job> Job::create(const fs::path& folder, const std::string& name) {
  std::error_code error;
  if (fs::exists(folder / "job.json", error))
    return fail(ErrorCode::CannotWrite,
                "`" + folder.string() + "` already holds a job; open it or choose another folder.");
  if (auto made = makeFolder(folder); !made) return passOn(made.error());
  Job job;
  job.folder_ = folder;
  job.name_ = name;
  if (auto saved = job.save(); !saved) return passOn(saved.error());
  return job;
}

Result<Job> Job::open(const fs::path& folder) {
  auto document = readJson(folder / "job.json");
  if (!document) return passOn(document.error());
  if (auto known = refuseNewer(folder); !known) return passOn(known.error());
  clearLeftovers(folder);
  Job job;
  job.folder_ = folder;
  job.extra_ = document->dump();
  job.name_ = document->value("name", folder.filename().string());
  for (const auto& entry : document->value("views", json::array())) {
    if (!entry.is_string())
      return fail(ErrorCode::FileUnreadable,
                  "`" + (folder / "job.json").string() + "` is damaged; put it back from a copy.");
    auto view = loadView(folder / "views" / fs::path(entry.get<std::string>()).filename());
    if (!view) return passOn(view.error());
    job.views_.push_back(std::move(*view));
  }
  return job;
}

/// The next number that no folder of a view has, taken out or not.
fs::path Job::freeFolder(const std::string& name) const {
  std::error_code error;
  int number = 1;
  for (const auto& entry : fs::directory_iterator(folder_ / "views", error)) {
    const std::string there = entry.path().filename().string();
    if (there.size() > 2 && std::isdigit(static_cast<unsigned char>(there[0])))
      number = std::max(number, std::atoi(there.c_str()) + 1);
  }
  return folder_ / "views" / fmt::format("{:02d}-{}", number, slug(name, "view"));
}

Result<std::size_t> Job::take(View view, std::size_t index) {
  index = std::min(index, views_.size());
  views_.insert(views_.begin() + std::ptrdiff_t(index), std::move(view));
  if (auto saved = save(); !saved) {
    views_.erase(views_.begin() + std::ptrdiff_t(index));
    return passOn(saved.error());
  }
  return index;
}

Result<std::size_t> Job::addView(const std::string& name, const std::string& world, const std::string& camera) {
  View view;
  view.name = name;
  view.world = world;
  view.camera = camera;
  view.folder = freeFolder(name);
  if (auto made = makeFolder(view.folder); !made) return passOn(made.error());
  if (auto saved = view.savePlan(); !saved) return passOn(saved.error());
  return take(std::move(view), views_.size());
}

Result<std::size_t> Job::duplicateView(std::size_t of, const std::string& name) {
  View view = views_.at(of);
  view.name = name;
  view.folder = freeFolder(name);
  view.combined.reset();
  view.radianceStamp.clear();
  view.finishSeen.clear();
  view.delivered.clear();
  view.spent.clear();
  view.events.clear();
  if (!view.world.empty()) { // shot into the other view: this one is shot anew
    view.sets.clear();
    view.activeSet = -1;
    view.frames.clear();
  }
  if (auto made = makeFolder(view.folder); !made) return passOn(made.error());
  for (const auto& saved : {view.savePlan(), view.saveFrames(), view.saveFinish()})
    if (!saved) return passOn(saved.error());
  return take(std::move(view), of + 1);
}

Result<void> Job::removeView(std::size_t index) {
  View gone = std::move(views_.at(index));
  views_.erase(views_.begin() + std::ptrdiff_t(index));
  if (auto saved = save(); !saved) {
    views_.insert(views_.begin() + std::ptrdiff_t(index), std::move(gone));
    return passOn(saved.error());
  }
  return {};
}

Result<void> Job::bringBack(const std::string& folder, std::size_t index) {
  auto view = loadView(folder_ / "views" / fs::path(folder).filename());
  if (!view) return passOn(view.error());
  if (auto taken = take(std::move(*view), index); !taken) return passOn(taken.error());
  return {};
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
  s.frames = (v.plan && (v.framesSeen || !v.frames.empty())) || ownFiles ? Done : Open;
  s.shoot = v.frames.empty() ? Open : Done;
  if (v.plan && !v.frames.empty() && !ownFiles && v.activeSet >= 0) {
    const auto& planned = v.sets[std::size_t(v.activeSet)].planned;
    const auto same = [](const ExposureSettings& a, const ExposureSettings& b) {
      return std::abs(ev100(a).value - ev100(b).value) < 0.1;
    };
    const bool all = std::all_of(v.plan->frames.begin(), v.plan->frames.end(), [&](const auto& f) {
      return planned.empty() || std::any_of(planned.begin(), planned.end(), [&](const auto& p) { return same(f, p); });
    });
    if (!all || v.frames.size() < v.plan->frames.size()) s.shoot = OutOfDate;
  }
  if (v.combined) s.combine = v.combined->frames == v.frameNames(v.combined->options.method) ? Done : OutOfDate;
  const bool current = std::any_of(v.delivered.begin(), v.delivered.end(), [&](const DeliveredFile& d) {
    return d.recipe == toJson(v.recipe) && d.radiance == v.radianceStamp;
  });
  // Combining places light by itself; finished is what somebody looked at, or gave away.
  if (v.combined && (v.finishSeen == v.radianceStamp || current))
    s.finish = s.combine;
  else if (v.combined && !v.finishSeen.empty())
    s.finish = OutOfDate;
  if (!v.delivered.empty()) s.deliver = current && s.combine == Done ? Done : OutOfDate;
  return s;
}

} // namespace ml
