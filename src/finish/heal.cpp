// SPDX-License-Identifier: GPL-3.0-or-later
#include "finish/heal.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace ml {
namespace {

constexpr int kRim = 32;        ///< Samples of the border.
constexpr int kDirections = 24; ///< Sources that are tried at each of three distances.

struct Rim {
  double x[kRim], y[kRim]; ///< From the centre, pixels.
};

float logAt(const Image<float>& in, double x, double y, int c) {
  const int i = std::clamp(int(std::lround(x)), 0, in.width() - 1),
            j = std::clamp(int(std::lround(y)), 0, in.height() - 1);
  return std::log2(std::max(1e-9f, in.at(i, j)[c]));
}

/// How badly the rim fits when the source lies at (dx, dy).
double misfit(const Image<float>& in, const Rim& rim, double cx, double cy, double dx, double dy) {
  double sum = 0, squares = 0;
  for (int i = 0; i < kRim; ++i)
    for (int c = 0; c < 3; ++c) {
      const double d =
          logAt(in, cx + rim.x[i], cy + rim.y[i], c) - logAt(in, cx + rim.x[i] + dx, cy + rim.y[i] + dy, c);
      sum += d, squares += d * d;
    }
  const double n = 3 * kRim;
  return (squares - sum * sum / n) / n + 0.1 * std::abs(sum / n); // an even offset is mended, structure is not
}

void healOne(Image<float>& in, const Healing& h) {
  const double cx = h.at.x * in.width() - 0.5, cy = h.at.y * in.height() - 0.5,
               r = std::max(2.0, h.radius * in.width()) + 1.5;
  Rim rim;
  for (int i = 0; i < kRim; ++i)
    rim.x[i] = r * std::cos(2 * std::numbers::pi * i / kRim), rim.y[i] = r * std::sin(2 * std::numbers::pi * i / kRim);
  double least = 1e30, dx = 0, dy = 0;
  for (const double away : {2.3, 3.0, 4.0})
    for (int k = 0; k < kDirections; ++k) {
      const double u = away * r * std::cos(2 * std::numbers::pi * k / kDirections),
                   v = away * r * std::sin(2 * std::numbers::pi * k / kDirections);
      if (cx + u < r || cy + v < r || cx + u > in.width() - 1 - r || cy + v > in.height() - 1 - r) continue;
      const double bad = misfit(in, rim, cx, cy, u, v);
      if (bad < least) least = bad, dx = u, dy = v;
    }
  if (least > 1e29) return; // no room beside it
  float difference[kRim][3];
  for (int i = 0; i < kRim; ++i)
    for (int c = 0; c < 3; ++c)
      difference[i][c] =
          logAt(in, cx + rim.x[i], cy + rim.y[i], c) - logAt(in, cx + rim.x[i] + dx, cy + rim.y[i] + dy, c);
  const int ox = int(std::lround(dx)), oy = int(std::lround(dy));
  for (int y = std::max(0, int(cy - r)); y <= std::min(in.height() - 1, int(cy + r) + 1); ++y)
    for (int x = std::max(0, int(cx - r)); x <= std::min(in.width() - 1, int(cx + r) + 1); ++x) {
      const double px = x - cx, py = y - cy;
      if (std::hypot(px, py) >= r - 0.7) continue;
      // Mean-value weights: (tan(a before / 2) + tan(a after / 2)) / distance.
      double weights[kRim], total = 0;
      for (int i = 0; i < kRim; ++i) {
        const int next = (i + 1) % kRim, before = (i + kRim - 1) % kRim;
        const auto tangent = [&](int a, int b) {
          const double ax = rim.x[a] - px, ay = rim.y[a] - py, bx = rim.x[b] - px, by = rim.y[b] - py;
          return std::tan(std::abs(std::atan2(ax * by - ay * bx, ax * bx + ay * by)) / 2);
        };
        weights[i] = (tangent(before, i) + tangent(i, next)) / std::max(1e-6, std::hypot(rim.x[i] - px, rim.y[i] - py));
        total += weights[i];
      }
      for (int c = 0; c < 3; ++c) {
        double shift = 0;
        for (int i = 0; i < kRim; ++i) shift += weights[i] / total * difference[i][c];
        in.at(x, y)[c] = float(std::exp2(logAt(in, x + ox, y + oy, c) + shift));
      }
    }
}

} // namespace

void heal(Image<float>& radiance, const std::vector<Healing>& healings) {
  for (const Healing& h : healings) healOne(radiance, h);
}

} // namespace ml
