// SPDX-License-Identifier: GPL-3.0-or-later
#include "finish/foot.h"

#include "base/parallel.h"
#include "finish/heal.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace ml {
namespace {

constexpr double kRadians = std::numbers::pi / 180;
constexpr double kAround = 3.6; ///< Half the look over the radius that is covered: room for a source beside it.
constexpr double kSoft = 0.06;  ///< Share of the radius over which the cover ends.

/// Bilinear; left meets right.
void sample(const Image<float>& in, double u, double v, bool wraps, float* rgb) {
  const int w = in.width(), h = in.height();
  v = std::clamp(v, 0.0, h - 1.0);
  if (!wraps) u = std::clamp(u, 0.0, w - 1.0);
  const int x = int(std::floor(u)), y = std::min(int(v), h - 2);
  const float fx = float(u - x), fy = float(v - y);
  const int left = wraps ? (x % w + w) % w : std::min(x, w - 2), right = wraps ? (left + 1) % w : left + 1;
  for (int c = 0; c < 3; ++c)
    rgb[c] = (1 - fy) * ((1 - fx) * in.at(left, y)[c] + fx * in.at(right, y)[c]) +
             fy * ((1 - fx) * in.at(left, y + 1)[c] + fx * in.at(right, y + 1)[c]);
}

} // namespace

void coverFoot(Image<float>& sphere, double degrees) {
  const int w = sphere.width(), h = sphere.height();
  if (w != 2 * h || !(degrees > 0)) return;
  const double radius = std::tan(std::min(degrees, kWidestFoot) * kRadians); // tangents
  const double perTangent = w / (2 * std::numbers::pi), half = kAround * radius;
  const int n = std::max(32, 2 * int(std::ceil(perTangent * half)));
  const double scale = half / (n / 2.0); // tangents a pixel
  Image<float> look(n, n, 3);
  forEachBand(n, [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y)
      for (int x = 0; x < n; ++x) { // x to the right, y to the world's behind, looking down
        const double a = (x + 0.5 - n / 2.0) * scale, b = (y + 0.5 - n / 2.0) * scale;
        const double yaw = std::atan2(a, -b), down = std::atan2(1.0, std::hypot(a, b));
        sample(sphere, (yaw / (2 * std::numbers::pi) + 0.5) * w - 0.5, (down / std::numbers::pi + 0.5) * h - 0.5, true,
               look.at(x, y));
      }
  });
  heal(look, {{{0.5, 0.5}, radius / scale / n}});
  const int top = std::clamp(int((1 - degrees / 90) * h / 2 + h / 2.0) - 1, 0, h - 1);
  forEachBand(h - top, [&](const Band& band) {
    for (int y = top + band.begin; y < top + band.end; ++y)
      for (int x = 0; x < w; ++x) {
        const double yaw = ((x + 0.5) / w - 0.5) * 2 * std::numbers::pi,
                     down = ((y + 0.5) / h - 0.5) * std::numbers::pi, away = 1 / std::tan(down);
        const double share = std::clamp((1 - away / radius) / kSoft, 0.0, 1.0);
        if (share <= 0) continue;
        float covered[3];
        sample(look, away * std::sin(yaw) / scale + n / 2.0 - 0.5, -away * std::cos(yaw) / scale + n / 2.0 - 0.5, false,
               covered);
        for (int c = 0; c < 3; ++c) sphere.at(x, y)[c] = float((1 - share) * sphere.at(x, y)[c] + share * covered[c]);
      }
  });
}

} // namespace ml
