// SPDX-License-Identifier: GPL-3.0-or-later
#include "pipeline/report.h"

#include "base/phrase.h"
#include "exposure/marks.h"

#include <nlohmann/json.hpp>

namespace ml {
using nlohmann::json;

json settingsJson(const ExposureSettings& s) {
  return {{"time", markOf(s.time)},
          {"seconds", s.time.value},
          {"f_number", s.aperture.value},
          {"iso", s.iso.value},
          {"ev100", ev100(s).value}};
}

namespace {

ExposureSettings settingsFrom(const json& j) {
  return {{j.at("seconds").get<double>()}, {j.at("f_number").get<double>()}, {j.at("iso").get<double>()}};
}

json companionsJson(const std::vector<LeftOut>& leftOut) {
  json list = json::array();
  for (const auto& entry : leftOut)
    if (entry.companion) list.push_back(entry.path.string());
  return list;
}

json leftOutJson(const std::vector<LeftOut>& leftOut) {
  json list = json::array();
  for (const auto& entry : withoutCompanions(leftOut))
    list.push_back({{"file", entry.path.string()}, {"reason", entry.reason.message}});
  return list;
}

} // namespace

json toJson(const CameraProfile& p) {
  json steps = json::array();
  for (const Stops s : p.steps) steps.push_back(s.value);
  return {{"version", 1},
          {"id", p.id},
          {"name", p.name},
          {"has_raw", p.hasRaw},
          {"counts", p.counts},
          {"steps", steps},
          {"shortest_s", p.shortest.value},
          {"longest_s", p.longest.value},
          {"base_iso", p.baseIso.value},
          {"full_well_e", p.fullWell},
          {"read_noise_e", p.readNoise},
          {"bits", p.bits},
          {"raw_headroom_stops", p.rawHeadroom.value},
          {"jpeg_headroom_stops", p.jpegHeadroom.value},
          {"width", p.width},
          {"height", p.height},
          {"pixel_pitch_um", p.pixelPitchUm},
          {"file_megabytes", p.fileMegabytes},
          {"read_noise_high_iso_e", p.readNoiseHigh},
          {"highest_iso", p.highestIso.value},
          {"sensor_width_mm", p.sensorWidthMm},
          {"stabiliser_stops", p.stabiliserStops},
          {"frame_gap_s", p.frameGap.value},
          {"buffer_frames", p.bufferFrames},
          {"write_s", p.writeTime.value},
          {"compensation_stops", p.compensation.value}};
}

Result<CameraProfile> profileFromJson(const json& j) {
  try {
    CameraProfile p;
    p.id = j.value("id", std::string("own"));
    p.name = j.value("name", p.id);
    p.hasRaw = j.value("has_raw", p.hasRaw);
    p.counts = j.at("counts").get<std::vector<int>>();
    for (const double s : j.at("steps").get<std::vector<double>>()) p.steps.push_back({s});
    p.shortest.value = j.value("shortest_s", p.shortest.value);
    p.longest.value = j.value("longest_s", p.longest.value);
    p.baseIso.value = j.value("base_iso", p.baseIso.value);
    p.fullWell = j.value("full_well_e", p.fullWell);
    p.readNoise = j.value("read_noise_e", p.readNoise);
    p.bits = j.value("bits", p.bits);
    p.rawHeadroom.value = j.value("raw_headroom_stops", p.rawHeadroom.value);
    p.jpegHeadroom.value = j.value("jpeg_headroom_stops", p.jpegHeadroom.value);
    p.width = j.value("width", p.width);
    p.height = j.value("height", p.height);
    p.pixelPitchUm = j.value("pixel_pitch_um", p.pixelPitchUm);
    p.fileMegabytes = j.value("file_megabytes", p.fileMegabytes);
    p.readNoiseHigh = j.value("read_noise_high_iso_e", p.readNoiseHigh);
    p.highestIso.value = j.value("highest_iso", std::max(p.highestIso.value, p.baseIso.value));
    p.sensorWidthMm = j.value("sensor_width_mm", p.sensorWidthMm);
    p.stabiliserStops = j.value("stabiliser_stops", p.stabiliserStops);
    p.frameGap.value = j.value("frame_gap_s", p.frameGap.value);
    p.bufferFrames = j.value("buffer_frames", p.bufferFrames);
    p.writeTime.value = j.value("write_s", p.writeTime.value);
    p.compensation.value = j.value("compensation_stops", p.compensation.value);
    if (const auto reason = p.invalidReason())
      return fail(ErrorCode::InvalidArgument, phrase("The camera profile cannot be used: {}.", *reason));
    return p;
  } catch (const json::exception& error) {
    return fail(ErrorCode::InvalidArgument, phrase("The camera profile is not understood ({}).", error.what()));
  }
}

json toJson(const Plan& p) {
  json frames = json::array();
  for (const auto& frame : p.frames) frames.push_back(settingsJson(frame));
  json out{{"version", 1},
           {"kind", "plan"},
           {"camera", toJson(p.camera)},
           {"school", p.school},
           {"low_ev100", p.request.low.value},
           {"high_ev100", p.request.high.value},
           {"snr_target", p.request.snrTarget},
           {"highlight_margin_stops", p.request.highlightMargin.value},
           {"unsure_low_stops", p.request.unsureLow.value},
           {"unsure_high_stops", p.request.unsureHigh.value},
           {"count", p.count},
           {"step_stops", p.step.value},
           {"centre_seconds", p.centre.value},
           {"runs", p.runs},
           {"compensation_stops", p.compensation.value},
           {"by_hand", p.byHand},
           {"fired", p.fired},
           {"set_seconds", setDuration(p.camera, p.frames, p.fired).value},
           {"frames", frames},
           {"covers", p.covers},
           {"coverage",
            {{"low_ev100", p.coverage.low.value},
             {"high_ev100", p.coverage.high.value},
             {"spare_low_stops", p.coverage.spareLow.value},
             {"spare_high_stops", p.coverage.spareHigh.value},
             {"worst_snr", p.coverage.worstSnr},
             {"worst_at_ev100", p.coverage.worstAt.value}}},
           {"verdict", verdict(p)}};
  if (p.request.longest) out["longest_s"] = p.request.longest->value;
  return out;
}

Result<Plan> planFromJson(const json& j) {
  try {
    if (j.value("kind", "") != "plan" || j.value("version", 0) != 1)
      return fail(ErrorCode::InvalidArgument,
                  phrase("This is not a plan of this version; make one with `mellow-lantern-cli plan --json`."));
    auto camera = profileFromJson(j.at("camera"));
    if (!camera) return passOn(camera.error());
    Plan p;
    p.camera = *camera;
    p.school = j.value("school", "auto");
    p.request.school = p.school;
    p.request.low.value = j.at("low_ev100").get<double>();
    p.request.high.value = j.at("high_ev100").get<double>();
    p.request.snrTarget = j.value("snr_target", p.request.snrTarget);
    p.request.highlightMargin.value = j.value("highlight_margin_stops", p.request.highlightMargin.value);
    p.request.unsureLow.value = j.value("unsure_low_stops", 0.0);
    p.request.unsureHigh.value = j.value("unsure_high_stops", 0.0);
    if (j.contains("longest_s")) p.request.longest = Seconds{j.at("longest_s").get<double>()};
    p.count = j.at("count").get<int>();
    p.step.value = j.at("step_stops").get<double>();
    p.centre.value = j.at("centre_seconds").get<double>();
    for (const auto& frame : j.at("frames")) p.frames.push_back(settingsFrom(frame));
    const bool sound =
        !p.frames.empty() && p.frames.size() < 100 && std::all_of(p.frames.begin(), p.frames.end(), [](const auto& f) {
          return f.time.value > 0 && f.aperture.value > 0 && f.iso.value > 0;
        });
    if (!sound) return fail(ErrorCode::InvalidArgument, phrase("The plan holds no usable frames; make it again."));
    p.request.aperture = p.frames.front().aperture;
    p.request.iso = p.frames.front().iso;
    p.runs = j.value("runs", 1);
    p.compensation.value = j.value("compensation_stops", 0.0);
    p.byHand = j.value("by_hand", false);
    p.fired = j.value("fired", int(p.frames.size()));
    p.coverage = coverageOf(SensorModel(p.camera), p.request.mustKeep(), p.frames);
    p.covers = p.coverage.complete(p.request.snrTarget);
    return p;
  } catch (const json::exception& error) {
    return fail(ErrorCode::InvalidArgument, phrase("The plan is not understood ({}).", error.what()));
  }
}

const char* methodName(CombineMethod method) {
  switch (method) {
  case CombineMethod::Fusion: return "fusion";
  case CombineMethod::ToneRange: return "tone-range";
  case CombineMethod::Darker: return "darker";
  case CombineMethod::Single: return "single";
  case CombineMethod::Positions: return "positions";
  case CombineMethod::Radiance: break;
  }
  return "radiance";
}

json toJson(const FinishReport& r) {
  return {{"version", 1}, {"kind", "finish"}, {"white_share", r.whiteShare}, {"black_share", r.blackShare}};
}

json toJson(const Judgement& j) {
  static const char* kNames[] = {"white_clipped", "black_clipped",    "halo",        "flat",   "unnatural_colour",
                                 "shadow_noise",  "tilted_verticals", "ghosts_left", "greyer", "milky_window",
                                 "blotches"};
  static_assert(std::size(kNames) == kFindingKinds);
  json findings = json::array();
  for (const Finding& f : j.findings) {
    json places = json::array();
    for (const Spot2& p : f.places) places.push_back({p.x, p.y});
    json finding{
        {"what", kNames[int(f.kind)]}, {"looked_at", f.figure >= 0},       {"threshold", f.threshold}, {"unit", f.unit},
        {"too_much", f.tooMuch},       {"sentence", sentence(f, j.scene)}, {"places", places}};
    if (f.figure >= 0) finding["figure"] = f.figure;
    if (f.tooMuch) finding["remedy"] = remedyWords(f.kind);
    findings.push_back(std::move(finding));
  }
  return {{"version", 1}, {"kind", "judgement"}, {"sound", j.sound()}, {"findings", findings}};
}

json toJson(const ShotList& list) {
  json shots = json::array();
  for (const Shot& s : list.shots) {
    json shot = settingsJson(s.settings);
    shot.update({{"number", s.number},
                 {"row", s.row},
                 {"column", s.column},
                 {"lens_shift", s.lensShift},
                 {"plane", s.plane},
                 {"run", s.run},
                 {"frame", s.frame}});
    shots.push_back(std::move(shot));
  }
  return {{"version", 1},
          {"kind", "shot-list"},
          {"rows", list.rows},
          {"columns", list.columns},
          {"lens_shifts", list.shifts},
          {"planes", list.planes},
          {"column_fov_degrees", list.columnFov},
          {"row_fov_degrees", list.rowFov},
          {"seconds", list.time.value},
          {"megabytes", list.megabytes},
          {"megapixels", list.megapixels},
          {"shots", shots}};
}

namespace {

json alternativeJson(const Alternative& a) {
  json times = json::array();
  for (const auto& f : a.plan.frames) times.push_back(markOf(f.time));
  return {{"school", a.school.id},
          {"name", a.school.name},
          {"times", times},
          {"fired", a.plan.fired},
          {"covers", a.plan.covers},
          {"low_ev100", a.plan.coverage.low.value},
          {"high_ev100", a.plan.coverage.high.value},
          {"worst_snr", a.plan.coverage.worstSnr},
          {"worst_at_ev100", a.plan.coverage.worstAt.value},
          {"overlap_stops", a.leastOverlap.value},
          {"seconds", a.onSite.value},
          {"megabytes", a.megabytes},
          {"ghost_px", a.ghostPixels},
          {"difference", a.difference}};
}

const char* flawName(Flaw flaw) {
  switch (flaw) {
  case Flaw::HighlightsClipped: return "highlights_clipped";
  case Flaw::ShadowsNoisy: return "shadows_noisy";
  case Flaw::WrongTime: return "wrong_time";
  case Flaw::SettingsDrifted: return "settings_drifted";
  case Flaw::ColourDrifted: return "colour_drifted";
  case Flaw::LightDrifted: return "light_drifted";
  case Flaw::Soft: return "soft";
  case Flaw::CameraMoved: return "camera_moved";
  case Flaw::ThingMoved: return "thing_moved";
  case Flaw::NotAlike: return "not_alike";
  }
  return "";
}

} // namespace

const char* answerName(Answer answer) {
  return answer == Answer::Holds ? "holds" : answer == Answer::CannotTell ? "cannot_tell" : "does_not_hold";
}

json toJson(const std::vector<InspectedSet>& inspected, const std::vector<LeftOut>& leftOut) {
  json sets = json::array();
  for (const auto& set : inspected) {
    json files = json::array();
    for (const auto& file : set.group.files)
      files.push_back({{"file", file.path.string()},
                       {"settings", settingsJson(file.settings)},
                       {"settings_said", file.exposureKnown}});
    json entry = toJson(set.frames, set.verdict);
    entry.update({{"name", set.group.name}, {"files", files}});
    sets.push_back(std::move(entry));
  }
  return {{"version", 1},
          {"kind", "inspect"},
          {"sets", sets},
          {"left_out", leftOutJson(leftOut)},
          {"passed_over", companionsJson(leftOut)}};
}

json toJson(const Comparison& c) {
  json list = json::array();
  for (const auto& a : c.alternatives) list.push_back(alternativeJson(a));
  return {{"version", 1},        {"kind", "comparison"},          {"recommended", alternativeJson(c.recommended)},
          {"reason", c.reason},  {"extra_frames", c.extraFrames}, {"one_raw", c.oneRaw},
          {"alternatives", list}};
}

json toJson(const std::vector<FrameJudgement>& frames, const SetVerdict& verdict) {
  json list = json::array();
  for (const auto& j : frames) {
    json flaws = json::array();
    for (const Flaw flaw : j.flaws) flaws.push_back(flawName(flaw));
    list.push_back({{"settings", settingsJson(j.settings)},
                    {"clipped_share", j.clippedShare},
                    {"shift_x_px", j.shiftX},
                    {"shift_y_px", j.shiftY},
                    {"rotation_degrees", j.degrees},
                    {"softness", j.softness},
                    {"light_stops", j.light.value},
                    {"moved_share", j.movedShare},
                    {"flaws", flaws},
                    {"sentence", j.sentence}});
  }
  json next = json::array();
  for (const auto& f : verdict.action.frames) next.push_back(settingsJson(f));
  return {{"frames", list},
          {"verdict", verdict.sentence},
          {"answer", answerName(verdict.answer)},
          {"cannot_tell", verdict.open},
          {"offer", verdict.offer},
          {"good", verdict.good()},
          {"next", {{"label", verdict.action.label}, {"frames", next}}}};
}

} // namespace ml
