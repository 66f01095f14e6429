// SPDX-License-Identifier: GPL-3.0-or-later
#include "tone/rendering.h"

#include "image/metrics.h"

#include <algorithm>

#include <cmath>

namespace ml {

double lightnessOf(double paper) {
  const double y = std::exp2(paper);
  return y > 216.0 / 24389 ? 116 * std::cbrt(y) - 16 : 24389.0 / 27 * y;
}

double paperOf(double lightness) {
  const double y = lightness > 8 ? std::pow((lightness + 16) / 116, 3) : lightness * 27 / 24389;
  return std::log2(std::max(1e-6, y));
}

double shouldered(double light) {
  constexpr double kRoom = 1 - kShoulderFrom;
  return light <= kShoulderFrom ? light : 1 - kRoom * std::exp((kShoulderFrom - light) / kRoom);
}

double beforeShoulder(double light) {
  constexpr double kRoom = 1 - kShoulderFrom, kAlmostWhite = 0.9995;
  return light <= kShoulderFrom ? light : kShoulderFrom - kRoom * std::log((1 - std::min(light, kAlmostWhite)) / kRoom);
}

Rendering::Rendering(std::vector<Tie> ties) : curve_(std::move(ties)) {}

double Rendering::paper(double light) const {
  return std::log2(shouldered(std::exp2(std::min(6.0, curve_(light)))));
}

double Rendering::slope(double light) const {
  constexpr double kReach = 0.1;
  return (paper(light + kReach) - paper(light - kReach)) / (2 * kReach);
}

double Rendering::lightAt(double paper) const {
  paper = std::log2(beforeShoulder(std::exp2(paper)));
  double low = curve_.ties().front().scene - 20, high = curve_.ties().back().scene + 20;
  for (int round = 0; round < 50; ++round) {
    const double middle = (low + high) / 2;
    (curve_(middle) < paper ? low : high) = middle;
  }
  return (low + high) / 2;
}

std::vector<Tie> standardRendering(double midGrey) {
  constexpr double kGrey = -2.4739; // log2 of 0.18
  static constexpr Tie kCurve[] = {{-9, -13.4},        {-6, -9.7},         {-4, -7.25},
                                   {-2, kGrey - 2.38}, {-1, kGrey - 1.18}, {0, kGrey},
                                   {1, kGrey + 1.18},  {2, kGrey + 2.36},  {4, kGrey + 4.5}};
  std::vector<Tie> out;
  for (const Tie& tie : kCurve) out.push_back({tie.scene + midGrey, tie.paper});
  return out;
}

std::vector<Tie> shownAlready() {
  std::vector<Tie> out;
  for (double light = -16; light < -0.01; light += 0.125)
    out.push_back({light, std::log2(beforeShoulder(std::exp2(light)))});
  return out;
}

std::vector<Tie> meteredRendering(const Image<float>& logLight) {
  const double median = quantile(logLight.data(), logLight.size(), 0.5);
  return standardRendering(median - Rendering(standardRendering()).lightAt(paperOf(kMeteredLightness)));
}

std::vector<Tie> exposedForTheMiddle(std::vector<Tie> ties, const Image<float>& logLight, bool dusk) {
  constexpr double kOff = 16; // L*: somewhat more than a stop, half the usual step of brackets
  const Rendering rendering(ties);
  const double median = quantile(logLight.data(), logLight.size(), 0.5),
               lightness = lightnessOf(rendering.paper(median));
  const double wanted = std::clamp(lightness, kMeteredLightness - (dusk ? 2 * kOff : kOff), kMeteredLightness + kOff);
  if (wanted == lightness) return ties;
  const double move = median - rendering.lightAt(paperOf(wanted));
  for (Tie& tie : ties) tie.scene += move;
  return ties;
}

} // namespace ml
