// SPDX-License-Identifier: GPL-3.0-or-later
#include "exposure/optics.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <numbers>

namespace ml {

double circleOfConfusion(const Optics& o) {
  return std::hypot(o.sensorWidthMm, o.sensorHeightMm) / 1500;
}

double hyperfocal(const Optics& o, FNumber n) {
  return o.focalMm * o.focalMm / (n.value * circleOfConfusion(o)) + o.focalMm;
}

std::pair<double, double> depthOfField(const Optics& o, FNumber n, double distance) {
  const double h = hyperfocal(o, n), f = o.focalMm;
  const double near = distance * (h - f) / (h + distance - 2 * f);
  const double far = distance >= h ? std::numeric_limits<double>::infinity() : distance * (h - f) / (h - distance);
  return {near, far};
}

double airyDiameterUm(FNumber n, double wavelengthUm) {
  return 2.44 * wavelengthUm * n.value;
}

Seconds handHeldLimit(const Optics& o) {
  return {std::exp2(o.stabiliserStops) / o.equivalentFocalMm()};
}

double chanceOfSharpHand(const Optics& o, Seconds t) {
  const double beyond = std::log2(t.value / handHeldLimit(o).value);
  return beyond <= -1 ? 0.98 : beyond <= 0 ? 0.8 - 0.18 * beyond : 0.8 * std::exp2(-beyond);
}

int repeatsForSharpHand(const Optics& o, Seconds t) {
  const double miss = 1 - chanceOfSharpHand(o, t);
  int n = 1;
  while (n < 9 && std::pow(miss, n) > 0.05) ++n;
  return n;
}

double movementPixels(const Optics& o, double speed, double distance, Seconds t) {
  return speed * t.value * o.focalMm / (distance * o.pixelPitchUm * 1e-3);
}

Seconds longestForMovement(const Optics& o, double speed, double distance, double pixels) {
  return {pixels * distance * o.pixelPitchUm * 1e-3 / (speed * o.focalMm)};
}

double fieldOfView(double sizeMm, double focalMm) {
  return 2 * std::atan(sizeMm / (2 * focalMm)) * 180 / std::numbers::pi;
}

} // namespace ml
