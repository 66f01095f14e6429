// SPDX-License-Identifier: GPL-3.0-or-later
#include "base/phrase.h"
#include "finish/recipe.h"

#include <nlohmann/json.hpp>

namespace ml {
using nlohmann::json;
namespace {

constexpr const char* kShapes[] = {"oval", "ramp", "brush", "windows", "sky"};

json toJson(const Spot2& p) {
  return json::array({p.x, p.y});
}
Spot2 spotFrom(const json& j) {
  return {j.at(0).get<double>(), j.at(1).get<double>()};
}

json toJson(const Area& a) {
  json j{{"shape", kShapes[int(a.shape)]},
         {"a", toJson(a.a)},
         {"b", toJson(a.b)},
         {"angle", a.angle},
         {"softness", a.softness},
         {"inverted", a.inverted},
         {"follow_edges", a.followEdges},
         {"exposure", a.exposure},
         {"warmth", a.warmth},
         {"tint", a.tint},
         {"saturation", a.saturation},
         {"contrast", a.contrast}};
  if (a.above) j["above"] = *a.above;
  if (a.below) j["below"] = *a.below;
  for (const auto& s : a.strokes) {
    json points = json::array();
    for (const Spot2& p : s.points) points.push_back(toJson(p));
    j["strokes"].push_back({{"points", points}, {"radius", s.radius}, {"erase", s.erase}});
  }
  return j;
}

Area areaFrom(const json& j) {
  Area a;
  const std::string shape = j.at("shape");
  for (int i = 0; i < int(std::size(kShapes)); ++i)
    if (shape == kShapes[i]) a.shape = AreaShape(i);
  a.a = spotFrom(j.at("a"));
  a.b = spotFrom(j.at("b"));
  a.angle = j.value("angle", 0.0);
  a.softness = j.value("softness", a.softness);
  a.inverted = j.value("inverted", false);
  a.followEdges = j.value("follow_edges", true);
  if (j.contains("above")) a.above = j["above"].get<double>();
  if (j.contains("below")) a.below = j["below"].get<double>();
  a.exposure = j.value("exposure", 0.0);
  a.warmth = j.value("warmth", 0.0);
  a.tint = j.value("tint", 0.0);
  a.saturation = j.value("saturation", 0.0);
  a.contrast = j.value("contrast", 0.0);
  for (const auto& s : j.value("strokes", json::array())) {
    Area::Stroke stroke;
    for (const auto& p : s.at("points")) stroke.points.push_back(spotFrom(p));
    stroke.radius = s.value("radius", stroke.radius);
    stroke.erase = s.value("erase", false);
    a.strokes.push_back(std::move(stroke));
  }
  return a;
}

json toJson(const Geometry& g) {
  json corners = json::array();
  for (const Spot2& p : g.corners) corners.push_back(toJson(p));
  return {{"lens", g.lens},
          {"distortion", g.distortion},
          {"vignetting", g.vignetting},
          {"red_fringe", g.redFringe},
          {"blue_fringe", g.blueFringe},
          {"roll", g.roll},
          {"pitch", g.pitch},
          {"yaw", g.yaw},
          {"strength", g.strength},
          {"corners", corners},
          {"crop", {g.cropX, g.cropY, g.cropWidth, g.cropHeight}}};
}

Geometry geometryFrom(const json& j) {
  Geometry g;
  g.lens = j.value("lens", false);
  g.distortion = j.value("distortion", 0.0);
  g.vignetting = j.value("vignetting", 0.0);
  g.redFringe = j.value("red_fringe", 0.0);
  g.blueFringe = j.value("blue_fringe", 0.0);
  g.roll = j.value("roll", 0.0);
  g.pitch = j.value("pitch", 0.0);
  g.yaw = j.value("yaw", 0.0);
  g.strength = j.value("strength", 1.0);
  for (const auto& p : j.value("corners", json::array())) g.corners.push_back(spotFrom(p));
  if (j.contains("crop"))
    g.cropX = j["crop"].at(0), g.cropY = j["crop"].at(1), g.cropWidth = j["crop"].at(2), g.cropHeight = j["crop"].at(3);
  return g;
}

void readTone(const json& j, ToneSettings& t) {
  const std::string op = j.value("operator", "natural");
  for (const ToneOperator known : kToneOperators)
    if (op == nameOf(known)) t.op = known;
  t.exposure = j.value("exposure", t.exposure);
  t.balance = j.value("balance", t.balance);
  t.detail = j.value("detail", t.detail);
  t.form = j.value("form", t.detail); // one gain served both before form had its own
  t.saturation = j.value("saturation", t.saturation);
  t.vivid = j.value("vivid", t.vivid);
  t.warmth = j.value("warmth", t.warmth);
  t.tint = j.value("tint", t.tint);
  t.veil = j.value("veil", t.veil);
  t.quiet = j.value("quiet", t.quiet);
  for (const auto& p : j.value("pulls", json::array()))
    t.pulls.push_back({p.at(0).get<double>(), p.at(1).get<double>()});
}

} // namespace

std::string toJson(const Recipe& r) {
  const ToneSettings& t = r.tone;
  json j{{"version", 1},
         {"look", r.look},
         {"strength", r.strength},
         {"operator", nameOf(t.op)},
         {"exposure", t.exposure},
         {"balance", t.balance},
         {"detail", t.detail},
         {"form", t.form},
         {"saturation", t.saturation},
         {"vivid", t.vivid},
         {"warmth", t.warmth},
         {"tint", t.tint},
         {"veil", t.veil},
         {"quiet", t.quiet},
         {"denoise", r.denoise},
         {"sharpening", r.sharpening}};
  for (const Tie& p : t.pulls) j["pulls"].push_back({p.scene, p.paper});
  for (const HueMove& h : r.hues)
    j["hues"].push_back({{"hue", h.hue}, {"width", h.width}, {"saturation", h.saturation}, {"lightness", h.lightness}});
  for (const Area& a : r.areas) j["areas"].push_back(toJson(a));
  if (!(r.geometry == Geometry{})) j["geometry"] = toJson(r.geometry);
  for (const Healing& h : r.healings) j["healings"].push_back({{"at", toJson(h.at)}, {"radius", h.radius}});
  if (r.foot > 0) j["foot"] = r.foot;
  return j.dump(2);
}

Result<Recipe> recipeFromJson(std::string_view text) {
  try {
    const json j = json::parse(text);
    if (j.value("version", 0) != 1)
      return fail(ErrorCode::InvalidArgument, phrase("The recipe was written by another version; make it again here."));
    Recipe r;
    r.look = j.value("look", r.look);
    r.strength = j.value("strength", r.strength);
    readTone(j, r.tone);
    r.denoise = j.value("denoise", r.denoise);
    r.foot = j.value("foot", r.foot);
    r.sharpening = j.value("sharpening", r.sharpening);
    for (const auto& h : j.value("hues", json::array()))
      r.hues.push_back(
          {h.value("hue", 0.0), h.value("width", 40.0), h.value("saturation", 0.0), h.value("lightness", 0.0)});
    for (const auto& a : j.value("areas", json::array())) r.areas.push_back(areaFrom(a));
    if (j.contains("geometry")) r.geometry = geometryFrom(j["geometry"]);
    for (const auto& h : j.value("healings", json::array()))
      r.healings.push_back({spotFrom(h.at("at")), h.value("radius", 0.01)});
    if (const auto reason = r.invalidReason())
      return fail(ErrorCode::InvalidArgument, phrase("The recipe cannot be used: {}.", *reason));
    return r;
  } catch (const json::exception& error) {
    return fail(ErrorCode::InvalidArgument, phrase("The recipe is not understood ({}).", error.what()));
  }
}

} // namespace ml
