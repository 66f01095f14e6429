// SPDX-License-Identifier: GPL-3.0-or-later
#include "finish/lines.h"

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>
#include <numbers>
#include <vector>

namespace ml {
namespace {

constexpr double kDegrees = 180 / std::numbers::pi;
constexpr double kOuter = 0.67; ///< In half long edges: where the eye compares a plumb line with the picture's border.
constexpr float kLineEdge = 0.25f; ///< Stops across two cells.

/// An edge pixel as a line a x + b y + c = 0 in half long edges from the middle, (a, b) of length 1.
struct Edgel {
  double x, y, a, b, c, weight;
};

/// Gradient of a lightly smoothed picture (Sobel); direction good to about a degree on clean edges.
std::vector<Edgel> edgels(const Image<float>& log, bool plumb) {
  const int w = log.width(), h = log.height();
  const double half = std::max(w, h) / 2.0;
  std::vector<Edgel> out;
  for (int y = 2; y < h - 2; ++y)
    for (int x = 2; x < w - 2; ++x) {
      const auto at = [&](int i, int j) { return log.row(y + j)[x + i]; };
      const float gx = (at(1, -1) - at(-1, -1) + 2 * (at(1, 0) - at(-1, 0)) + at(1, 1) - at(-1, 1)) / 4;
      const float gy = (at(-1, 1) - at(-1, -1) + 2 * (at(0, 1) - at(0, -1)) + at(1, 1) - at(1, -1)) / 4;
      const float across = plumb ? std::abs(gx) : std::abs(gy), along = plumb ? std::abs(gy) : std::abs(gx);
      if (across < kLineEdge || along > 0.36f * across) continue; // 20 degrees
      // Only the crest of an edge.
      const float before = plumb ? std::abs(at(0, 0) - at(-2, 0)) : std::abs(at(0, 0) - at(0, -2)),
                  after = plumb ? std::abs(at(2, 0) - at(0, 0)) : std::abs(at(0, 2) - at(0, 0));
      if (std::abs(before - after) > 0.8f * std::max(before, after)) continue;
      const double length = std::hypot(gx, gy), a = gx / length, b = gy / length;
      const double px = (x + 0.5 - w / 2.0) / half, py = (y + 0.5 - h / 2.0) / half;
      out.push_back({px, py, a, b, -(a * px + b * py), std::min(1.0, double(length))});
    }
  return out;
}

double wrapped(double degrees) {
  return degrees > 90 ? degrees - 180 : degrees < -90 ? degrees + 180 : degrees;
}

} // namespace

Verticals findVerticals(const Image<float>& logLight, double focal) {
  const auto edges = edgels(logLight, true);
  Verticals out;
  if (edges.size() < 200) return out;
  // The vanishing point v minimises the sum of (l . v)^2; |v| = 1. Started at infinity, reweighted.
  Eigen::Vector3d v(0, 1, 0);
  for (int round = 0; round < 12; ++round) {
    const double limit = std::max(0.015, 0.2 / (1 + round)); // sine of the angle to the point
    Eigen::Matrix3d sum = Eigen::Matrix3d::Zero();
    for (const Edgel& e : edges) {
      // Angle between the edge and the direction from its place to the point.
      const double dx = v.x() - e.x * v.z(), dy = v.y() - e.y * v.z(), length = std::hypot(dx, dy);
      const double sine = std::abs(e.a * dx + e.b * dy) / std::max(1e-12, length);
      if (sine > limit) continue;
      const Eigen::Vector3d line(e.a, e.b, e.c);
      sum += e.weight / (length * length) * line * line.transpose();
    }
    sum(2, 2) += 0.0005 * sum.trace(); // few lines say little of how far away the point is: infinity is likely
    const Eigen::SelfAdjointEigenSolver<Eigen::Matrix3d> solver(sum);
    v = solver.eigenvectors().col(0);
  }
  if (v.y() < 0) v = -v;
  const double ux = v.x() / focal, uy = v.y() / focal, uz = v.z();
  out.roll = -std::atan2(ux, uy) * kDegrees;
  out.pitch = std::atan2(uz, std::hypot(ux, uy)) * kDegrees;
  for (const Edgel& e : edges) {
    const double dx = v.x() - e.x * v.z(), dy = v.y() - e.y * v.z();
    out.edges += std::abs(e.a * dx + e.b * dy) / std::hypot(dx, dy) <= 0.03;
  }
  for (const double x : {-kOuter, kOuter}) out.lean += std::abs(std::atan2(v.x() - x * v.z(), v.y())) * kDegrees / 2;
  return out;
}

double findHorizon(const Image<float>& logLight) {
  const auto edges = edgels(logLight, false);
  if (edges.size() < 200) return 0;
  // The most voted tilt, in bins of a quarter degree, smoothed.
  std::vector<double> votes(161, 0.0);
  for (const Edgel& e : edges) {
    const double tilt = wrapped(std::atan2(-e.a, e.b) * kDegrees);
    if (std::abs(tilt) < 19.9) votes[std::size_t(std::lround((tilt + 20) * 4))] += e.weight;
  }
  double best = 0, most = 0;
  for (int i = 2; i < 159; ++i) {
    const double sum = votes[std::size_t(i - 2)] + 2 * votes[std::size_t(i - 1)] + 3 * votes[std::size_t(i)] +
                       2 * votes[std::size_t(i + 1)] + votes[std::size_t(i + 2)];
    if (sum > most) most = sum, best = i / 4.0 - 20;
  }
  return best;
}

} // namespace ml
