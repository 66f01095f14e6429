// SPDX-License-Identifier: GPL-3.0-or-later
#include "positions/fisheye_circles.h"

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>
#include <vector>

namespace ml {
namespace {

constexpr double kDarker = 3.5; ///< Stops that the dark about a circle lies below its middle tone, at least.
constexpr int kRays = 180;

struct Point {
  double x, y;
};

double medianOf(std::vector<float>& values) {
  const auto middle = values.begin() + std::ptrdiff_t(values.size() / 2);
  std::nth_element(values.begin(), middle, values.end());
  return *middle;
}

/// Median of the places of a square half for which `inside(distance from its middle, in half sides)` holds.
template <class Inside> double medianWhere(ImageView<const float> half, const Inside& inside) {
  std::vector<float> values;
  const int step = std::max(1, half.height / 200);
  const double r = half.height / 2.0;
  for (int y = 0; y < half.height; y += step)
    for (int x = 0; x < half.width; x += step)
      if (inside(std::hypot(x + 0.5 - half.width / 2.0, y + 0.5 - r) / r)) values.push_back(*half.at(x, y));
  return values.empty() ? 0 : medianOf(values);
}

/// Where light of more than `edge` stops begins on the way from outside to the middle of a half, and goes on; places
/// that stay dark say nothing.
std::vector<Point> rim(ImageView<const float> half, double edge) {
  constexpr int kGoesOn = 3;
  std::vector<Point> out;
  const double cx = half.width / 2.0 - 0.5, cy = half.height / 2.0 - 0.5;
  for (int k = 0; k < kRays; ++k) {
    const double a = 2 * std::numbers::pi * k / kRays, dx = std::cos(a), dy = std::sin(a);
    bool outside = false; // dark was seen: the frame does not cut the circle off here
    int lit = 0;
    for (double r = 1.4 * half.height / 2; r > 0.7 * half.height / 2 && lit < kGoesOn; r -= 1) {
      const int x = int(std::lround(cx + r * dx)), y = int(std::lround(cy + r * dy));
      if (x < 0 || y < 0 || x >= half.width || y >= half.height) continue;
      lit = *half.at(x, y) < edge ? 0 : lit + 1;
      outside = outside || lit == 0;
      if (lit == kGoesOn && outside) out.push_back({cx + (r + kGoesOn - 1) * dx, cy + (r + kGoesOn - 1) * dy});
    }
  }
  return out;
}

/// Least squares on x^2 + y^2 = 2 a x + 2 b y + c (Kasa 1976), what lies inside the circle left out round by round:
/// dark things at the rim only take from it.
std::optional<FisheyeCircle> circleThrough(std::vector<Point> points, double size) {
  FisheyeCircle out;
  for (int round = 0; round < 6; ++round) {
    if (points.size() < kRays / 5) return std::nullopt;
    Eigen::Matrix3d normal = Eigen::Matrix3d::Zero();
    Eigen::Vector3d right = Eigen::Vector3d::Zero();
    for (const Point& p : points) {
      const Eigen::Vector3d row(2 * p.x, 2 * p.y, 1);
      normal += row * row.transpose();
      right += (p.x * p.x + p.y * p.y) * row;
    }
    const Eigen::Vector3d solved = normal.ldlt().solve(right);
    out = {solved[0], solved[1], std::sqrt(std::max(0.0, solved[2] + solved[0] * solved[0] + solved[1] * solved[1]))};
    std::vector<double> off;
    for (const Point& p : points) off.push_back(std::abs(std::hypot(p.x - out.x, p.y - out.y) - out.radius));
    std::vector<double> sorted = off;
    const auto middle = sorted.begin() + std::ptrdiff_t(sorted.size() / 2);
    std::nth_element(sorted.begin(), middle, sorted.end());
    const double limit = std::max(0.002 * size, 3 * *middle);
    std::vector<Point> kept;
    for (std::size_t i = 0; i < points.size(); ++i)
      if (off[i] <= limit) kept.push_back(points[i]);
    if (kept.size() == points.size()) break;
    points = std::move(kept);
  }
  return out;
}

} // namespace

std::optional<std::array<FisheyeCircle, 2>> fisheyeCircles(ImageView<const float> tones) {
  constexpr int kLeast = 64;
  constexpr double kInside = 0.8, kOutside = 1.2, kSmallest = 0.8, kLargest = 1.03, kOffMiddle = 0.1;
  const int h = tones.height, w = tones.width / 2;
  if (h < kLeast || tones.width != 2 * h) return std::nullopt;
  std::array<FisheyeCircle, 2> out;
  for (int side = 0; side < 2; ++side) {
    const auto half = tones.crop({side * w, 0, w, h});
    const double dark = medianWhere(half, [](double r) { return r > kOutside; }),
                 lit = medianWhere(half, [](double r) { return r < kInside; });
    if (lit < dark + kDarker) return std::nullopt;
    const auto circle = circleThrough(rim(half, (dark + lit) / 2), h);
    if (!circle || circle->radius < kSmallest * h / 2 || circle->radius > kLargest * h / 2 ||
        std::hypot(circle->x - w / 2.0, circle->y - h / 2.0) > kOffMiddle * h / 2)
      return std::nullopt;
    out[std::size_t(side)] = {circle->x + side * w, circle->y, circle->radius};
  }
  return out;
}

} // namespace ml
