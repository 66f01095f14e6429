// SPDX-License-Identifier: GPL-3.0-or-later
#include "mosaic/dng_colour.h"

#include <algorithm>
#include <cmath>

namespace ml {
namespace {

using Triple = std::array<double, 3>;

constexpr Triple kD50{0.9642, 1, 0.8249}; ///< The profile connection space's white, ICC.1:2010.

Matrix3 diagonal(const Triple& v) {
  return {v[0], 0, 0, 0, v[1], 0, 0, 0, v[2]};
}

bool invertible(const Matrix3& m) {
  const double d =
      m[0] * (m[4] * m[8] - m[5] * m[7]) - m[1] * (m[3] * m[8] - m[5] * m[6]) + m[2] * (m[3] * m[7] - m[4] * m[6]);
  return std::abs(d) > 1e-9;
}

Matrix3 mixed(const Matrix3& a, const Matrix3& b, double share) {
  Matrix3 out{};
  for (std::size_t i = 0; i < 9; ++i) out[i] = a[i] + share * (b[i] - a[i]);
  return out;
}

/// White of one light to that of another, in the cone space of Bradford (ICC.1:2010, annex E).
Matrix3 adapted(const Triple& from, const Triple& to) {
  constexpr Matrix3 kCones{0.8951, 0.2664, -0.1614, -0.7502, 1.7135, 0.0367, 0.0389, -0.0685, 1.0296};
  const Triple a = ml::apply(kCones, from), b = apply(kCones, to);
  return multiply(inverse(kCones), multiply(diagonal({b[0] / a[0], b[1] / a[1], b[2] / a[2]}), kCones));
}

/// Share of the second of two lights at a temperature.
double shareAt(double kelvin, double first, double second) {
  return std::clamp((1 / kelvin - 1 / first) / (1 / second - 1 / first), 0.0, 1.0);
}

} // namespace

std::optional<double> temperatureOf(int lightSource) {
  switch (lightSource) { // Exif 2.32, tag 0x9208; ranges of fluorescent lamps by their middles
  case 3:
  case 17: return 2856;
  case 15: return 3450;
  case 2:
  case 14: return 4200;
  case 13: return 5050;
  case 23: return 5000;
  case 1:
  case 4:
  case 9:
  case 18:
  case 20: return 5500;
  case 12: return 6400;
  case 10:
  case 19:
  case 21: return 6504;
  case 11:
  case 22: return 7500;
  case 24: return 3200;
  default: return {};
  }
}

double temperatureOf(double x, double y) {
  const double n = (x - 0.3320) / (0.1858 - y);
  return std::clamp(((449 * n + 3525) * n + 6823.3) * n + 5520.33, 1500.0, 25000.0);
}

std::optional<Matrix3> balancedToRec709(const std::array<IlluminantColour, 2>& lights, const Triple& analogBalance,
                                        const Triple& neutral) {
  const auto first = temperatureOf(lights[0].illuminant), second = temperatureOf(lights[1].illuminant);
  if (!first || !second || std::abs(*first - *second) < 100) return {};
  if (*std::min_element(neutral.begin(), neutral.end()) <= 0) return {};
  double share = 0.5;
  Triple white{};
  Matrix3 toModel{}, xyzToCamera{};
  for (int round = 0; round < 30; ++round) {
    const Matrix3 own = multiply(diagonal(analogBalance), mixed(lights[0].calibration, lights[1].calibration, share));
    xyzToCamera = multiply(own, mixed(lights[0].fromXyz, lights[1].fromXyz, share));
    if (!invertible(own) || !invertible(xyzToCamera)) return {};
    toModel = inverse(own);
    white = ml::apply(inverse(xyzToCamera), neutral);
    const double sum = white[0] + white[1] + white[2];
    if (!(white[1] > 0) || !(sum > 0)) return {};
    const double next = shareAt(temperatureOf(white[0] / sum, white[1] / sum), *first, *second);
    if (std::abs(next - share) < 1e-6) break;
    share = next;
  }
  Matrix3 toD50;
  if (lights[0].forward && lights[1].forward) {
    const Triple model = ml::apply(toModel, neutral);
    if (*std::min_element(model.begin(), model.end()) <= 0) return {};
    toD50 =
        multiply(mixed(*lights[0].forward, *lights[1].forward, share),
                 multiply(diagonal({1 / model[0], 1 / model[1], 1 / model[2]}), multiply(toModel, diagonal(neutral))));
  } else {
    toD50 = multiply(adapted(white, kD50), multiply(inverse(xyzToCamera), diagonal(neutral)));
  }
  const Triple white709 = ml::apply(kRec709ToXyz, {1, 1, 1});
  Matrix3 out = multiply(inverse(kRec709ToXyz), multiply(adapted(kD50, white709), toD50));
  for (std::size_t r = 0; r < 3; ++r) { // white stays white to the last digit
    const double sum = out[3 * r] + out[3 * r + 1] + out[3 * r + 2];
    if (!(sum > 1e-6)) return {};
    for (std::size_t c = 0; c < 3; ++c) out[3 * r + c] /= sum;
  }
  return out;
}

} // namespace ml
