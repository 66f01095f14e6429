// SPDX-License-Identifier: GPL-3.0-or-later
#include "image/display_colour.h"

#include <algorithm>
#include <cmath>

namespace ml {

Primaries primariesOf(ColourSpace space) {
  switch (space) {
  case ColourSpace::DisplayP3: return {{0.680, 0.320, 0.265, 0.690, 0.150, 0.060}};
  case ColourSpace::OpRgb: return {{0.64, 0.33, 0.21, 0.71, 0.15, 0.06}};
  default: return {{0.64, 0.33, 0.30, 0.60, 0.15, 0.06}};
  }
}

Matrix3 toXyz(const Primaries& p) {
  Matrix3 columns{};
  for (std::size_t c = 0; c < 3; ++c) {
    const double x = p.xy[2 * c], y = p.xy[2 * c + 1];
    columns[c] = x / y, columns[3 + c] = 1, columns[6 + c] = (1 - x - y) / y;
  }
  const double wx = 0.3127, wy = 0.3290;
  const auto scale = apply(inverse(columns), {wx / wy, 1, (1 - wx - wy) / wy});
  for (std::size_t r = 0; r < 3; ++r)
    for (std::size_t c = 0; c < 3; ++c) columns[3 * r + c] *= scale[c];
  return columns;
}

const Matrix3& rec709To(ColourSpace space) {
  static const Matrix3 p3 =
      multiply(inverse(toXyz(primariesOf(ColourSpace::DisplayP3))), toXyz(primariesOf(ColourSpace::Srgb)));
  static const Matrix3 op =
      multiply(inverse(toXyz(primariesOf(ColourSpace::OpRgb))), toXyz(primariesOf(ColourSpace::Srgb)));
  return space == ColourSpace::DisplayP3 ? p3 : space == ColourSpace::OpRgb ? op : kIdentity3;
}

double encodeFor(ColourSpace space, double linear) {
  return space == ColourSpace::OpRgb ? std::pow(std::max(0.0, linear), 256.0 / 563) : srgbEncode(linear);
}

namespace {
constexpr double kM1 = 2610.0 / 16384, kM2 = 2523.0 / 4096 * 128, kC1 = 3424.0 / 4096, kC2 = 2413.0 / 4096 * 32,
                 kC3 = 2392.0 / 4096 * 32;
}

double pqEncode(double nits) {
  const double y = std::pow(std::clamp(nits, 0.0, 10000.0) / 10000, kM1);
  return std::pow((kC1 + kC2 * y) / (1 + kC3 * y), kM2);
}

double pqDecode(double signal) {
  const double e = std::pow(std::clamp(signal, 0.0, 1.0), 1 / kM2);
  return 10000 * std::pow(std::max(e - kC1, 0.0) / (kC2 - kC3 * e), 1 / kM1);
}

} // namespace ml
