// SPDX-License-Identifier: GPL-3.0-or-later
#include "image/look_around.h"

#include "base/parallel.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace ml {
namespace {

constexpr double kRadians = std::numbers::pi / 180;

double focalOf(const Gaze& look, int width) {
  return width / 2.0 / std::tan(look.wide / 2 * kRadians);
}

} // namespace

Gaze Gaze::dragged(double dx, double dy, int width) const {
  const double degrees = 1 / focalOf(*this, width) / kRadians;
  Gaze to = *this;
  to.yaw = std::remainder(yaw - dx * degrees, 360);
  to.pitch = std::clamp(pitch + dy * degrees, -90.0, 90.0);
  return to;
}

Gaze Gaze::closer(double steps) const {
  constexpr double kClosest = 20, kWidest = 120;
  Gaze to = *this;
  to.wide = std::clamp(wide * std::pow(0.9, steps), kClosest, kWidest);
  return to;
}

Image<std::uint8_t> lookInto(ImageView<const std::uint8_t> sphere, const Gaze& look, int width, int height) {
  Image<std::uint8_t> out(width, height, 3);
  const double f = focalOf(look, width), cp = std::cos(look.pitch * kRadians), sp = std::sin(look.pitch * kRadians);
  const int w = sphere.width, h = sphere.height;
  forEachBand(height, [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y)
      for (int x = 0; x < width; ++x) {
        const double a = (x + 0.5 - width / 2.0) / f, b = (y + 0.5 - height / 2.0) / f;
        const double down = cp * b - sp, ahead = sp * b + cp;
        const double u = (std::atan2(a, ahead) / (2 * std::numbers::pi) + look.yaw / 360 + 0.5) * w - 0.5;
        const double v =
            std::clamp((std::atan2(down, std::hypot(a, ahead)) / std::numbers::pi + 0.5) * h - 0.5, 0.0, h - 1.0);
        const int x0 = int(std::floor(u)), y0 = std::min(int(v), h - 2);
        const float fx = float(u - x0), fy = float(v - y0);
        const int left = (x0 % w + w) % w, right = (left + 1) % w;
        const std::uint8_t *p = sphere.at(left, y0), *q = sphere.at(right, y0), *r = sphere.at(left, y0 + 1),
                           *s = sphere.at(right, y0 + 1);
        for (int c = 0; c < 3; ++c)
          out.at(x, y)[c] = std::uint8_t((1 - fy) * ((1 - fx) * float(p[c]) + fx * float(q[c])) +
                                         fy * ((1 - fx) * float(r[c]) + fx * float(s[c])) + 0.5f);
      }
  });
  return out;
}

} // namespace ml
