// SPDX-License-Identifier: GPL-3.0-or-later
#include "image/colour_difference.h"

#include "image/colour.h"

#include <cmath>
#include <numbers>

namespace ml {
namespace {

constexpr double kDegree = std::numbers::pi / 180;

double lightnessRoot(double t) {
  return t > 216.0 / 24389 ? std::cbrt(t) : (24389.0 / 27 * t + 16) / 116;
}

double hueOf(double a, double b) {
  if (a == 0 && b == 0) return 0;
  const double h = std::atan2(b, a) / kDegree;
  return h < 0 ? h + 360 : h;
}

double seventh(double c) {
  const double p = std::pow(c, 7);
  return std::sqrt(p / (p + std::pow(25.0, 7)));
}

} // namespace

std::array<double, 3> labOf(const float* rgb) {
  const auto xyz = apply(kRec709ToXyz, {rgb[0], rgb[1], rgb[2]}), white = apply(kRec709ToXyz, {1, 1, 1});
  const double x = lightnessRoot(xyz[0] / white[0]), y = lightnessRoot(xyz[1] / white[1]),
               z = lightnessRoot(xyz[2] / white[2]);
  return {116 * y - 16, 500 * (x - y), 200 * (y - z)};
}

double ciede2000(const std::array<double, 3>& p, const std::array<double, 3>& q) {
  const double g = 0.5 * (1 - seventh((std::hypot(p[1], p[2]) + std::hypot(q[1], q[2])) / 2));
  const double a1 = (1 + g) * p[1], a2 = (1 + g) * q[1], c1 = std::hypot(a1, p[2]), c2 = std::hypot(a2, q[2]),
               h1 = hueOf(a1, p[2]), h2 = hueOf(a2, q[2]);
  const bool grey = c1 * c2 == 0;
  double turn = grey ? 0 : h2 - h1;
  if (turn > 180) turn -= 360;
  if (turn < -180) turn += 360;
  const double dl = q[0] - p[0], dc = c2 - c1, dh = 2 * std::sqrt(c1 * c2) * std::sin(turn / 2 * kDegree);
  double h = h1 + h2;
  if (!grey) h = (std::abs(h1 - h2) > 180 ? (h < 360 ? h + 360 : h - 360) : h) / 2;
  const double l = (p[0] + q[0]) / 2, c = (c1 + c2) / 2;
  const double t = 1 - 0.17 * std::cos((h - 30) * kDegree) + 0.24 * std::cos(2 * h * kDegree) +
                   0.32 * std::cos((3 * h + 6) * kDegree) - 0.20 * std::cos((4 * h - 63) * kDegree);
  const double sl = 1 + 0.015 * (l - 50) * (l - 50) / std::sqrt(20 + (l - 50) * (l - 50)), sc = 1 + 0.045 * c,
               sh = 1 + 0.015 * c * t;
  const double rt = -std::sin(60 * kDegree * std::exp(-((h - 275) / 25) * ((h - 275) / 25))) * 2 * seventh(c);
  const double x = dl / sl, y = dc / sc, z = dh / sh;
  return std::sqrt(x * x + y * y + z * z + rt * y * z);
}

} // namespace ml
