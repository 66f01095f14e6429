// SPDX-License-Identifier: GPL-3.0-or-later
#include "session/load_view.h"

#include "base/atomic_file.h"
#include "base/phrase.h"
#include "base/plain_name.h"
#include "exposure/marks.h"
#include "pipeline/combine_json.h"
#include "pipeline/report.h"
#include "session/job_documents.h"
#include "session/view_json.h"
#include "session/whole_number.h"

#include <algorithm>
#include <cmath>
#include <nlohmann/json.hpp>
#include <set>

namespace ml {
namespace fs = std::filesystem;
using nlohmann::json;
namespace {

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
  view.otherLightOf = document->value("other_light_of", "");
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
          return fail(ErrorCode::FileUnreadable,
                      phrase("`{}` names a set `{}`, which is no name of a folder; put it back from a copy.",
                             (view.folder / "frames.json").string(), view.sets.back().name));
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

} // namespace

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
                phrase("A file in `{}` is damaged ({}); put it back from a copy.", folder.string(), error.what()));
  }
  return view;
}

} // namespace ml
