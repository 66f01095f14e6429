// SPDX-License-Identifier: GPL-3.0-or-later
#include "pipeline/assemble_json.h"

#include <cmath>
#include <nlohmann/json.hpp>

namespace ml {
using nlohmann::json;
namespace {

json positionJson(const AssembledPosition& p) {
  const Angles angles = anglesOf(p.pose.turn);
  json files = json::array();
  for (const auto& file : p.files) files.push_back(file.string());
  return {{"files", files},
          {"row", p.place.row},
          {"column", p.place.column},
          {"plane", p.plane},
          {"yaw_degrees", angles.yaw},
          {"pitch_degrees", angles.pitch},
          {"roll_degrees", angles.roll},
          {"focal_px", p.pose.focal},
          {"shift_x_px", p.pose.shiftX},
          {"shift_y_px", p.pose.shiftY},
          {"residual_px", p.fit.residual},
          {"overlap", p.fit.overlap},
          {"parallax_px", p.fit.parallax}};
}

} // namespace

json toJson(const Assembly& a) {
  json positions = json::array(), left = json::array();
  for (const auto& p : a.positions) positions.push_back(positionJson(p));
  for (const auto& l : a.leftOut)
    if (!l.companion) left.push_back({{"file", l.path.string()}, {"reason", l.reason.message}});
  const bool shifted = a.arrangement.kind == PositionKind::Shifted;
  return {{"version", 1},
          {"kind", "assemble"},
          {"verdict", verdict(a)},
          {"remarks", a.remarks},
          {"left_out", left},
          {"panorama",
           {{"kind", a.sphere  ? "sphere"
                     : shifted ? "shifted"
                               : "turned"},
            {"projection", nameOf(a.canvas.projection)},
            {"focal_px", a.canvas.focal},
            {"centre_x", a.canvas.centreX},
            {"centre_y", a.canvas.centreY},
            {"width", a.canvas.width},
            {"height", a.canvas.height},
            {"closed", a.canvas.closed},
            {"positions", positions},
            {"radial", {a.arrangement.bend.k1, a.arrangement.bend.k2}}}}};
}

} // namespace ml
