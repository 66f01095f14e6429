// SPDX-License-Identifier: GPL-3.0-or-later
#include "figures.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace ml::test {
namespace {

constexpr double kDegree = std::numbers::pi / 180;

/// World axes of a shot, by its angles alone (not by the product's functions): right, down, ahead.
std::array<Vector3, 3> axesOf(const Shot& s) {
  const double y = s.yaw * kDegree, p = s.pitch * kDegree, r = s.roll * kDegree;
  const auto turned = [&](Vector3 v) {
    v = {std::cos(r) * v[0] - std::sin(r) * v[1], std::sin(r) * v[0] + std::cos(r) * v[1], v[2]};
    v = {v[0], std::cos(p) * v[1] - std::sin(p) * v[2], std::sin(p) * v[1] + std::cos(p) * v[2]};
    return Vector3{std::cos(y) * v[0] + std::sin(y) * v[2], v[1], -std::sin(y) * v[0] + std::cos(y) * v[2]};
  };
  return {turned({1, 0, 0}), turned({0, 1, 0}), turned({0, 0, 1})};
}

} // namespace

Vector3 directionOf(const Shot& shot, double x, double y, int width, int height) {
  const auto axes = axesOf(shot);
  const double u = (x - (width - 1) / 2.0) / shot.focal, v = (y - (height - 1) / 2.0) / shot.focal;
  Vector3 d;
  for (std::size_t i = 0; i < 3; ++i) d[i] = u * axes[0][i] + v * axes[1][i] + axes[2][i];
  return d;
}

double seenAt(const PositionSet& set, const std::function<Vector3(double, double)>& direction, double x, double y) {
  constexpr int kTaps = 5; // the lens's blur and the pixel's own width, to three standard deviations
  const double sigma = std::hypot(set.camera.blur, 1 / std::sqrt(12.0)), step = 3 * sigma / kTaps;
  double sum = 0, weights = 0;
  for (int v = -kTaps; v <= kTaps; ++v)
    for (int u = -kTaps; u <= kTaps; ++u) {
      const double weight = std::exp(-step * step * (u * u + v * v) / (2 * sigma * sigma));
      sum += weight * set.light(direction(x + step * u, y + step * v))[1];
      weights += weight;
    }
  return sum / weights;
}

Image<float> drawn(const Assembly& assembly) {
  Image<float> out(assembly.canvas.width, assembly.canvas.height, 3);
  drawJoined(assembly.view(),
             [&](int y, ImageView<const float> rows) {
               for (int v = 0; v < rows.height; ++v) std::copy_n(rows.row(v), 3 * rows.width, out.row(y + v));
               return true;
             },
             {});
  return out;
}

Figures figuresOf(const PositionSet& set, const Assembly& assembly) {
  Figures out;
  std::vector<Vector3> found, truth;
  for (std::size_t i = 0; i < assembly.positions.size(); ++i) {
    const auto& p = assembly.positions[i];
    const auto axes = axesOf(set.shots[i]);
    for (std::size_t k = 0; k < 3; ++k) {
      truth.push_back(axes[k]);
      found.push_back({p.pose.turn[k], p.pose.turn[3 + k], p.pose.turn[6 + k]});
    }
    out.residual = std::max(out.residual, p.fit.residual);
    out.shift = std::max(
        out.shift,
        std::hypot(p.pose.shiftX - assembly.positions[0].pose.shiftX - set.shots[i].shiftX + set.shots[0].shiftX,
                   p.pose.shiftY - assembly.positions[0].pose.shiftY - set.shots[i].shiftY + set.shots[0].shiftY));
  }
  const Matrix3 turn = rotationBetween(found, truth);
  for (std::size_t i = 0; i < found.size(); ++i) {
    const auto v = ml::apply(turn, found[i]);
    out.degrees =
        std::max(out.degrees, std::hypot(v[0] - truth[i][0], v[1] - truth[i][1], v[2] - truth[i][2]) / kDegree);
  }
  const Angles gauge = anglesOf(turn);
  out.gauge[0] = gauge.yaw, out.gauge[1] = gauge.pitch, out.gauge[2] = gauge.roll;
  out.focal = assembly.positions[0].pose.focal / set.shots[0].focal - 1;

  const Image<float> whole = drawn(assembly);
  const Canvas& canvas = assembly.canvas;
  const bool shifted = assembly.arrangement.kind == PositionKind::Shifted;
  // A shifted set's focal length and axis are not in the pictures: the truth's are used.
  const double offX = assembly.positions[0].pose.shiftX - set.shots[0].shiftX,
               offY = assembly.positions[0].pose.shiftY - set.shots[0].shiftY;
  std::vector<double> off;
  const int step = std::max(1, int(std::sqrt(double(canvas.width) * canvas.height / 12000)));
  int all = 0;
  for (int y = step / 2; y < canvas.height; y += step)
    for (int x = step / 2; x < canvas.width; x += step) {
      ++all;
      if (!(whole.at(x, y)[1] > 0)) continue;
      const auto direction = [&](double u, double v) -> Vector3 {
        if (assembly.pictures.size() ==
            1) // the frame of the plane that shows least, whatever its focal length is thought to be
          return directionOf(set.shots.back(), u, v, canvas.width, canvas.height);
        if (shifted) return {(u - canvas.centreX - offX) / set.focal, (v - canvas.centreY - offY) / set.focal, 1};
        return ml::apply(turn, canvas.direction(u, v));
      };
      off.push_back(std::log2(whole.at(x, y)[1] / seenAt(set, direction, x, y)));
    }
  out.covered = double(off.size()) / std::max(1, all);
  auto sorted = off;
  std::nth_element(sorted.begin(), sorted.begin() + std::ptrdiff_t(sorted.size() / 2), sorted.end());
  const double middle = sorted[sorted.size() / 2];
  double squares = 0;
  for (const double v : off) squares += (v - middle) * (v - middle), out.within += std::abs(v - middle) < 0.2;
  out.light = std::sqrt(squares / double(off.size()));
  out.within /= double(off.size());
  return out;
}

} // namespace ml::test
