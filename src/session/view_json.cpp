// SPDX-License-Identifier: GPL-3.0-or-later
#include "session/view_json.h"

#include <algorithm>
#include <nlohmann/json.hpp>

namespace ml {
namespace fs = std::filesystem;
using nlohmann::json;

json readingJson(const SpotReading& r) {
  json j{{"name", r.name}, {"ev100", r.ev100.value}, {"keep_texture", r.keepTexture}};
  if (r.x && r.y) j["place"] = {*r.x, *r.y};
  if (r.uncertainty > 0) j["uncertainty_stops"] = r.uncertainty;
  if (r.atLeast) j["at_least"] = true;
  if (r.row > 0 || r.column > 0) j["row"] = r.row, j["column"] = r.column;
  return j;
}

/// A reading as large as a stranger's file likes would be walked through in steps of a twentieth of a stop: it stays
/// within what there is between a moonless night and the sun.
SpotReading readingFrom(const json& j) {
  constexpr double kDarkest = -30, kBrightest = 40, kLeastSure = 10;
  SpotReading r{j.value("name", ""),
                {std::clamp(j.at("ev100").get<double>(), kDarkest, kBrightest)},
                j.value("keep_texture", true),
                {},
                {},
                std::clamp(j.value("uncertainty_stops", 0.0), 0.0, kLeastSure),
                j.value("at_least", false)};
  r.row = std::clamp(j.value("row", 0), 0, 1000);
  r.column = std::clamp(j.value("column", 0), 0, 1000);
  if (j.contains("place")) {
    r.x = std::clamp(j["place"].at(0).get<double>(), 0.0, 1.0);
    r.y = std::clamp(j["place"].at(1).get<double>(), 0.0, 1.0);
  }
  return r;
}

json timesJson(const std::vector<ExposureSettings>& frames) {
  json list = json::array();
  for (const auto& f : frames)
    list.push_back({{"seconds", f.time.value}, {"f_number", f.aperture.value}, {"iso", f.iso.value}});
  return list;
}

std::vector<ExposureSettings> timesFrom(const json& list) {
  std::vector<ExposureSettings> frames;
  for (const auto& f : list)
    frames.push_back({{f.at("seconds").get<double>()}, {f.at("f_number").get<double>()}, {f.at("iso").get<double>()}});
  return frames;
}

/// Frames shot into the view are stored relative to it, so that the job folder can move.
std::string stored(const View& view, const fs::path& file) {
  const auto inside = file.lexically_relative(view.folder);
  return !inside.empty() && *inside.begin() != ".." ? inside.string() : file.string();
}
fs::path restored(const View& view, const std::string& name) {
  const fs::path file = name;
  return file.is_absolute() ? file : view.folder / file;
}

json noteJson(const FrameNote& n) {
  return {{"file", n.file},          {"seconds", n.seconds},   {"focal_35mm", n.focal35},
          {"hand_held", n.handHeld}, {"softness", n.softness}, {"flaws", n.flaws}};
}

FrameNote noteFrom(const json& j) {
  return {j.value("file", ""),         j.value("seconds", 0.0),  j.value("focal_35mm", 0.0),
          j.value("hand_held", false), j.value("softness", 0.0), j.value("flaws", std::vector<std::string>{})};
}

json setJson(const View& view, const FrameSet& set) {
  json frames = json::array(), notes = json::array();
  for (const auto& n : set.notes) notes.push_back(noteJson(n));
  for (const auto& m : set.frames) frames.push_back({{"file", stored(view, m.file)}, {"used", m.used}});
  return {{"name", set.name},     {"label", set.label},     {"row", set.row},
          {"column", set.column}, {"plane", set.plane},     {"planned", timesJson(set.planned)},
          {"frames", frames},     {"verdict", set.verdict}, {"answer", set.answer},
          {"judged", notes}};
}

FrameSet setFrom(const View& view, const json& j) {
  FrameSet set{j.value("name", ""),
               j.value("label", ""),
               j.value("row", 0),
               j.value("column", 0),
               j.value("plane", 0),
               timesFrom(j.value("planned", json::array())),
               {},
               j.value("verdict", ""),
               j.value("answer", "")};
  for (const auto& entry : j.value("frames", json::array()))
    set.frames.push_back({restored(view, entry.at("file").get<std::string>()), entry.value("used", true)});
  for (const auto& entry : j.value("judged", json::array())) set.notes.push_back(noteFrom(entry));
  return set;
}

json situationJson(const Situation& s) {
  json movers = json::array();
  for (const auto& m : s.movers)
    movers.push_back({{"id", m.id}, {"name", m.name}, {"speed_m_s", m.speed}, {"distance_m", m.distance}});
  const auto& p = s.positions;
  json out{{"focal_mm", s.focalMm},
           {"focus_distance_m", s.focusDistance},
           {"hand_held", s.handHeld},
           {"timer_s", s.timer.value},
           {"movers", movers},
           {"tolerable_px", s.tolerablePixels},
           {"most_seconds", s.mostSeconds},
           {"fade_stops_per_minute", s.fadeStopsPerMinute},
           {"positions",
            {{"pan_degrees", p.panDegrees},
             {"tilt_degrees", p.tiltDegrees},
             {"overlap", p.overlap},
             {"lens_shifts", p.lensShifts},
             {"focus_planes", p.focusPlanes},
             {"portrait", p.portrait}}}};
  if (s.ownHandStops) out["own_hand_stops"] = *s.ownHandStops;
  return out;
}

Situation situationFrom(const json& j) {
  Situation s;
  s.focalMm = std::clamp(j.value("focal_mm", s.focalMm), 1.0, 5000.0);
  if (j.contains("own_hand_stops")) s.ownHandStops = std::clamp(j["own_hand_stops"].get<double>(), -10.0, 10.0);
  s.focusDistance = std::clamp(j.value("focus_distance_m", s.focusDistance), 0.05, 1e5);
  s.handHeld = j.value("hand_held", false);
  s.timer.value = std::clamp(j.value("timer_s", s.timer.value), 0.0, 60.0);
  s.tolerablePixels = std::max(0.0, j.value("tolerable_px", 0.0));
  s.mostSeconds = std::max(0.0, j.value("most_seconds", 0.0));
  s.fadeStopsPerMinute = j.value("fade_stops_per_minute", 0.0);
  for (const auto& m : j.value("movers", json::array()))
    s.movers.push_back({m.value("id", ""), m.value("name", ""), std::max(0.0, m.value("speed_m_s", 1.0)),
                        std::max(0.1, m.value("distance_m", 10.0))});
  const json p = j.value("positions", json::object());
  s.positions = {
      std::clamp(p.value("pan_degrees", 0.0), 0.0, 360.0), std::clamp(p.value("tilt_degrees", 0.0), 0.0, 180.0),
      std::clamp(p.value("overlap", 1.0 / 3), 0.0, 0.9),   std::clamp(p.value("lens_shifts", 1), 1, 9),
      std::clamp(p.value("focus_planes", 1), 1, 50),       p.value("portrait", false)};
  return s;
}

} // namespace ml
