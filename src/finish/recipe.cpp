// SPDX-License-Identifier: GPL-3.0-or-later
#include "finish/recipe.h"

#include "base/phrase.h"
#include "finish/foot.h"

#include <algorithm>

namespace ml {
namespace {

constexpr std::size_t kMost =
    500; ///< Areas, strokes, hues, healings or pulls of a recipe; more is no picture but an attack.

bool outside(double v, double low, double high) {
  return !(v >= low && v <= high);
}
bool outside(const Spot2& p) {
  return outside(p.x, -1, 2) || outside(p.y, -1, 2);
}

std::optional<std::string> invalidTone(const ToneSettings& t) {
  if (outside(t.exposure, -6, 6)) return phrase("exposure must lie between -6 and 6 stops");
  if (outside(t.balance, 0, 1.5)) return phrase("balance must lie between 0 and 1.5");
  if (outside(t.detail, 0, 3) || outside(t.form, 0, 3)) return phrase("detail and form must lie between 0 and 3");
  if (outside(t.saturation, 0, 2) || outside(t.vivid, -1, 2))
    return phrase("saturation must lie between 0 and 2, vivid between -1 and 2");
  if (outside(t.warmth, -4, 4) || outside(t.tint, -4, 4))
    return phrase("warmth and tint must lie between -4 and 4 stops");
  if (outside(t.veil, 0, 1) || outside(t.quiet, 0, 2))
    return phrase("veil must lie between 0 and 1, quiet between 0 and 2");
  if (t.pulls.size() > kMost) return phrase("there are too many pulls");
  for (const Tie& p : t.pulls)
    if (outside(p.scene, -60, 60) || outside(p.paper, -12, 2))
      return phrase("pulls must lie between -12 and 2 stops of paper");
  return {};
}

std::optional<std::string> invalidArea(const Area& a) {
  if (outside(a.a) || outside(a.b) || outside(a.angle, -360, 360))
    return phrase("an area lies far outside the picture");
  if (outside(a.softness, 0, 1)) return phrase("softness must lie between 0 and 1");
  if (outside(a.exposure, -6, 6) || outside(a.warmth, -4, 4) || outside(a.tint, -4, 4) ||
      outside(a.saturation, -1, 2) || outside(a.contrast, -1, 2))
    return phrase("an area's moves are too large");
  if (a.strokes.size() > kMost) return phrase("an area has too many strokes");
  for (const auto& s : a.strokes) {
    if (outside(s.radius, 0, 1) || s.points.size() > 100000) return phrase("a stroke is too large");
    if (std::any_of(s.points.begin(), s.points.end(), [](const Spot2& p) { return outside(p); }))
      return phrase("a stroke lies far outside the picture");
  }
  return {};
}

std::optional<std::string> invalidGeometry(const Geometry& g) {
  if (outside(g.distortion, -0.3, 0.3) || outside(g.vignetting, -3, 3) || outside(g.redFringe, -20, 20) ||
      outside(g.blueFringe, -20, 20))
    return phrase("the lens correction is too large");
  if (outside(g.roll, -45, 45) || outside(g.pitch, -45, 45) || outside(g.yaw, -45, 45) || outside(g.strength, 0, 2))
    return phrase("the picture is turned too far");
  if (!g.corners.empty() && g.corners.size() != 4) return phrase("a perspective needs four corners");
  if (std::any_of(g.corners.begin(), g.corners.end(), [](const Spot2& p) { return outside(p); }))
    return phrase("a corner lies far outside the picture");
  if (outside(g.cropX, 0, 1) || outside(g.cropY, 0, 1) || !(g.cropWidth >= 0.02) || !(g.cropHeight >= 0.02) ||
      g.cropX + g.cropWidth > 1.000001 || g.cropY + g.cropHeight > 1.000001)
    return phrase("the crop must lie inside the picture");
  return {};
}

} // namespace

std::optional<std::string> Recipe::invalidReason() const {
  if (const auto reason = invalidTone(tone)) return reason;
  if (outside(sharpening, 0, 2) || outside(denoise, 0, 1))
    return phrase("sharpening must lie between 0 and 2, noise reduction between 0 and 1");
  if (outside(foot, 0, kWidestFoot)) return phrase("the foot of a sphere is covered by at most 40 degrees");
  if (outside(strength, 0, 1)) return phrase("strength must lie between 0 and 1");
  if (hues.size() > kMost || areas.size() > kMost || healings.size() > kMost) return phrase("there are too many parts");
  for (const HueMove& h : hues)
    if (outside(h.hue, -360, 720) || outside(h.width, 1, 180) || outside(h.saturation, -1, 1) ||
        outside(h.lightness, -3, 3))
      return phrase("a colour is moved too far");
  for (const Area& a : areas)
    if (const auto reason = invalidArea(a)) return reason;
  for (const Healing& h : healings)
    if (outside(h.at) || outside(h.radius, 0, 0.1)) return phrase("a healed place is too large");
  return invalidGeometry(geometry);
}

const std::vector<Look>& looks() {
  static const std::vector<Look> all = [] {
    const auto look = [](std::string id, std::string name, ToneSettings tone, std::vector<HueMove> hues = {}) {
      Recipe r;
      r.look = id;
      r.tone = std::move(tone);
      r.hues = std::move(hues);
      return Look{std::move(id), std::move(name), std::move(r)};
    };
    // The first three are starting points: what a photographer would expose for. None moves light out of what the
    // metered frame holds by more than a third of a stop, so that at full strength nothing clips, rims or changes its
    // order (tests/finish/test_start.cpp).
    ToneSettings lighter, deeper, quiet, open, mono, warmLand, coolLand, twilight, sign;
    lighter.exposure = 0.3, lighter.balance = 1.2;
    deeper.exposure = -0.35, deeper.form = 1.05;
    quiet.form = 0.93, quiet.saturation = 0.92;
    open.exposure = 0.15, open.balance = 1.15, open.detail = 1.05, open.warmth = 0.05;
    mono.detail = mono.form = 1.1, mono.saturation = 0;
    warmLand.warmth = 0.18, warmLand.vivid = 0.2, warmLand.form = 1.08, warmLand.veil = 0.15, warmLand.exposure = -0.08;
    coolLand.warmth = -0.15, coolLand.vivid = 0.12, coolLand.form = 1.08, coolLand.veil = 0.2,
    coolLand.exposure = -0.08;
    twilight.exposure = -0.2, twilight.vivid = 0.15, twilight.warmth = -0.06;
    sign.exposure = -0.3, sign.saturation = 0.95;
    return std::vector<Look>{look("natural", phrase("As metered"), {}),
                             look("lighter", phrase("Lighter"), lighter),
                             look("deeper", phrase("Deeper"), deeper),
                             look("quiet", phrase("Quiet: softer contrast, calm colour"), quiet),
                             look("open", phrase("Open: a light room, whites without a cast"), open,
                                  {{45, 40, -0.15, 0.05}, {220, 40, -0.2, 0}}),
                             look("warm-land", phrase("Land in warm light"), warmLand),
                             look("cool-land", phrase("Land in cool light"), coolLand),
                             look("twilight", phrase("Twilight"), twilight),
                             look("night-sign", phrase("Lit signs at night"), sign),
                             look("monochrome", phrase("Monochrome"), mono)};
  }();
  return all;
}

double balanceShown(double balance) {
  return balance <= 1 ? balance - 1 : 2 * (balance - 1);
}
double balanceFrom(double shown) {
  return shown <= 0 ? 1 + shown : 1 + shown / 2;
}

const Look* findLook(const std::string& id) {
  const auto found = std::find_if(looks().begin(), looks().end(), [&](const Look& l) { return l.id == id; });
  return found == looks().end() ? nullptr : &*found;
}

Recipe withLook(const Recipe& recipe, const Look& look, double strength) {
  Recipe out = recipe;
  const ToneSettings plain, &full = look.recipe.tone;
  const auto mixed = [&](double ToneSettings::*field) {
    out.tone.*field = plain.*field + strength * (full.*field - plain.*field);
  };
  for (const auto field : {&ToneSettings::exposure, &ToneSettings::balance, &ToneSettings::detail, &ToneSettings::form,
                           &ToneSettings::saturation, &ToneSettings::vivid, &ToneSettings::veil, &ToneSettings::quiet})
    mixed(field);
  // Warmth and tint come on top of the white point, which is the picture's own: the look's share of before goes, that
  // of now comes.
  const Look* before = findLook(recipe.look);
  const double was = before ? recipe.strength : 0;
  out.tone.warmth += strength * full.warmth - (before ? was * before->recipe.tone.warmth : 0);
  out.tone.tint += strength * full.tint - (before ? was * before->recipe.tone.tint : 0);
  out.tone.op = full.op;
  out.hues = look.recipe.hues;
  for (HueMove& h : out.hues) h.saturation *= strength, h.lightness *= strength;
  out.look = look.id;
  out.strength = strength;
  return out;
}

Recipe forAnotherView(const Recipe& recipe, const Recipe& other) {
  Recipe out = recipe;
  out.tone.pulls.clear();
  out.tone.warmth = other.tone.warmth;
  out.tone.tint = other.tone.tint;
  out.areas = other.areas;
  for (const Area& a : recipe.areas)
    if (isFound(a.shape) &&
        std::none_of(out.areas.begin(), out.areas.end(), [&](const Area& o) { return o.shape == a.shape; }))
      out.areas.push_back(a);
  out.geometry = other.geometry;
  out.geometry.lens = recipe.geometry.lens;
  out.healings = other.healings;
  return out;
}

} // namespace ml
