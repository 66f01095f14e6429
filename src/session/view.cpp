// SPDX-License-Identifier: GPL-3.0-or-later
#include "session/job.h"

#include "pipeline/combine_json.h"
#include "pipeline/report.h"
#include "session/job_documents.h"
#include "session/view_json.h"

#include <algorithm>
#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace ml {
namespace fs = std::filesystem;
using nlohmann::json;

SceneFacts factsOf(const CombineRecord& record) {
  SceneFacts facts = sceneFacts(record.ev100OfUnit, record.options.method, record.report->metered.ties);
  facts.sphere = record.options.sphere.value_or(false);
  facts.plumb = facts.sphere || record.report->plumb;
  return facts;
}

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

std::vector<std::filesystem::path> View::lentFiles(const std::vector<std::string>& lent) const {
  std::vector<std::filesystem::path> out;
  for (const std::string& wanted : lent)
    for (int i = 0; i < int(sets.size()); ++i)
      for (const auto& member : sets[std::size_t(i)].frames)
        if (i != activeSet && wanted == sets[std::size_t(i)].name + "/" + member.file.filename().string())
          out.push_back(member.file);
  return out;
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
  known["other_light_of"] = otherLightOf;
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
