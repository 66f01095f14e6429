// SPDX-License-Identifier: GPL-3.0-or-later
#include "model/finish_drags.h"

#include "finish/hues.h"
#include "image/colour.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace ml {
namespace {

constexpr double kStopsPerHeight = 4; ///< A drag over the picture's height.
constexpr double kHuePerWidth = 2;    ///< Saturation gain over its width.
constexpr double kSameLight = 0.6;    ///< Stops; a pull near another replaces it.
constexpr double kSameHue = 20;       ///< Degrees; likewise.
constexpr double kLeastChroma = 0.08; ///< Below, a place has no colour to move.
constexpr double kSpot = 0.006;       ///< Of the width: what a click reads.
constexpr double kShortestLine = 20;  ///< Pixels.
constexpr double kNewPlace = 0.4;     ///< Stops that a new area is lifted by, so that it is seen.

/// Mean radiance around a place of a picture.
std::array<float, 3> meanAt(ImageView<const float> picture, const Spot2& at) {
  const int r = std::max(1, int(kSpot * picture.width)), cx = int(at.x * picture.width),
            cy = int(at.y * picture.height);
  std::array<float, 3> sum{};
  int n = 0;
  for (int y = std::max(0, cy - r); y <= std::min(picture.height - 1, cy + r); ++y)
    for (int x = std::max(0, cx - r); x <= std::min(picture.width - 1, cx + r); ++x, ++n)
      for (std::size_t c = 0; c < 3; ++c) sum[c] += picture.at(x, y)[c];
  for (float& v : sum) v = std::max(1e-9f, v / float(std::max(1, n)));
  return sum;
}

Recipe with(const Recipe& recipe, const Area& area) {
  Recipe out = recipe;
  out.areas.push_back(area);
  return out;
}

} // namespace

void setPull(ToneSettings& tone, double scene, double paper) {
  std::erase_if(tone.pulls, [&](const Tie& p) { return std::abs(p.scene - scene) < kSameLight; });
  tone.pulls.push_back({scene, std::clamp(paper, -11.0, 1.0)});
}

DraggedRecipe liftLight(const FinishDrag& d) {
  const auto c = meanAt(d.state.picture(), d.from);
  const double scene = std::log2(luminance(c.data())),
               paper = ToneCurve(placedTies(d.state.analysis(), d.recipe.tone))(scene);
  Recipe out = d.recipe;
  setPull(out.tone, scene, paper - d.dy() * kStopsPerHeight);
  return out;
}

DraggedRecipe takeWhite(const FinishDrag& d) {
  const Neutral neutral = neutralFor(meanAt(d.state.picture(), d.to));
  Recipe out = d.recipe;
  out.tone.warmth = neutral.warmth, out.tone.tint = neutral.tint;
  return out;
}

DraggedRecipe takePlaceWhite(const FinishDrag& d) {
  if (d.area < 0) return {};
  const Neutral neutral = neutralFor(meanAt(d.state.picture(), d.to));
  Recipe out = d.recipe;
  Area& area = out.areas[std::size_t(d.area)];
  area.warmth = std::clamp(neutral.warmth - out.tone.warmth, -4.0, 4.0);
  area.tint = std::clamp(neutral.tint - out.tone.tint, -4.0, 4.0);
  return out;
}

DraggedRecipe moveHue(const FinishDrag& d) {
  const auto c = meanAt(d.state.picture(), d.from);
  const HueAndChroma found = hueOf(c.data());
  if (found.chroma < kLeastChroma) return {};
  Recipe out = d.recipe;
  auto near = std::find_if(out.hues.begin(), out.hues.end(), [&](const HueMove& h) {
    return std::abs(std::remainder(h.hue - found.hue, 360.0)) < kSameHue;
  });
  if (near == out.hues.end()) near = out.hues.insert(out.hues.end(), HueMove{found.hue, 40, 0, 0});
  near->saturation = std::clamp(near->saturation + d.dx() * kHuePerWidth, -1.0, 1.0);
  near->lightness = std::clamp(near->lightness - d.dy() * kStopsPerHeight / 2, -3.0, 3.0);
  return out;
}

DraggedRecipe layOval(const FinishDrag& d) {
  Area area;
  area.shape = AreaShape::Oval;
  area.a = d.combinedFrom;
  area.b = {std::max(0.01, std::abs(d.combinedTo.x - area.a.x)), std::max(0.01, std::abs(d.combinedTo.y - area.a.y))};
  area.exposure = kNewPlace;
  return with(d.recipe, area);
}

DraggedRecipe layRamp(const FinishDrag& d) {
  Area area;
  area.shape = AreaShape::Ramp;
  area.a = d.combinedFrom;
  area.b = d.combinedTo;
  area.exposure = kNewPlace;
  return with(d.recipe, area);
}

DraggedRecipe cover(const FinishDrag& d) {
  const double reach = std::hypot(d.combinedTo.x - d.combinedFrom.x, d.combinedTo.y - d.combinedFrom.y);
  Recipe out = d.recipe;
  out.healings.push_back({d.combinedFrom, std::clamp(reach, 0.006, 0.08)});
  return out;
}

DraggedRecipe level(const FinishDrag& d) {
  const double px = d.dx() * d.state.width(), py = d.dy() * d.state.height();
  if (std::hypot(px, py) < kShortestLine) return {};
  const double off = std::remainder(std::atan2(py, px) * 180 / std::numbers::pi, 90.0);
  Recipe out = d.recipe;
  out.geometry.roll = std::clamp(out.geometry.roll + off, -45.0, 45.0);
  out.geometry.strength = 1;
  return out;
}

} // namespace ml
