// SPDX-License-Identifier: GPL-3.0-or-later
#include "positions/fisheye_pair.h"

#include "positions/fisheye_circles.h"
#include "positions/fisheye_ring.h"

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>

namespace ml {
namespace {

constexpr double kQuarter = std::numbers::pi / 2;
constexpr Matrix3 kBack{-1, 0, 0, 0, 1, 0, 0, 0, -1}; ///< Both lenses have their tops up.
constexpr int kUnknowns = 9;   ///< Two middles, focal length (logarithm), bend, turn about three axes.
constexpr double kHuber = 0.7; ///< Pixels.

using Unknowns = Eigen::Matrix<double, kUnknowns, 1>;

/// How far each may lie from where it was thought, standard deviations: pixels as shares of the radius, then the
/// focal length's logarithm, bend, and radians.
Unknowns doubts(double radius) {
  Unknowns out;
  const double middle = 0.01 * radius;
  out << middle, middle, middle, middle, 0.05, 0.03, 0.03, 0.03, 0.2;
  return out;
}

FisheyePair changed(const FisheyePair& from, const Unknowns& by) {
  FisheyePair out = from;
  for (std::size_t lens = 0; lens < 2; ++lens) {
    out.lenses[lens].x += by[Eigen::Index(2 * lens)];
    out.lenses[lens].y += by[Eigen::Index(2 * lens + 1)];
  }
  out.focal *= std::exp(by[4]);
  out.bend += by[5];
  out.toRight = multiply(rotationBy({by[6], by[7], by[8]}), from.toRight);
  return out;
}

/// What is left between the two directions of one match, pixels across and along the ring.
std::array<double, 2> apart(const FisheyePair& pair, const RingMatch& m) {
  const Vector3 a = pair.ray(0, m.left[0], m.left[1]), b = pair.ray(1, m.right[0], m.right[1]);
  const double flat = std::max(1e-9, std::hypot(a[0], a[1]));
  const Vector3 along{-a[1] / flat, a[0] / flat, 0};
  const double off = (b[0] - a[0]) * along[0] + (b[1] - a[1]) * along[1];
  return {pair.focal * (std::acos(std::clamp(b[2], -1.0, 1.0)) - std::acos(std::clamp(a[2], -1.0, 1.0))),
          pair.focal * off};
}

/// Gauss and Newton with weights of Huber; `moved`: how far the unknowns lie from where they
/// were before anything was matched, which holds them.
FisheyePair fitted(FisheyePair pair, const std::vector<RingMatch>& matches, Unknowns& moved) {
  const Unknowns doubt = doubts(pair.lenses[0].radius);
  for (int round = 0; round < 8; ++round) {
    Eigen::Matrix<double, kUnknowns, kUnknowns> normal = doubt.array().square().inverse().matrix().asDiagonal();
    Unknowns right = -(moved.array() / doubt.array().square()).matrix();
    std::array<FisheyePair, kUnknowns> stepped;
    const Unknowns step = doubt * 1e-3;
    for (int k = 0; k < kUnknowns; ++k) {
      Unknowns one = Unknowns::Zero();
      one[k] = step[k];
      stepped[std::size_t(k)] = changed(pair, one);
    }
    for (const RingMatch& m : matches) {
      const auto now = apart(pair, m);
      const double size = std::hypot(now[0], now[1]), weight = size > kHuber ? kHuber / size : 1;
      for (std::size_t axis = 0; axis < 2; ++axis) {
        Unknowns slope;
        for (int k = 0; k < kUnknowns; ++k) slope[k] = (apart(stepped[std::size_t(k)], m)[axis] - now[axis]) / step[k];
        normal += weight * slope * slope.transpose();
        right -= weight * now[axis] * slope;
      }
    }
    const Unknowns by = normal.ldlt().solve(right);
    pair = changed(pair, by);
    moved += by;
    if ((by.array() / doubt.array()).abs().maxCoeff() < 1e-6) break;
  }
  return pair;
}

double medianOff(const FisheyePair& pair, const std::vector<RingMatch>& matches) {
  std::vector<double> off;
  for (const RingMatch& m : matches) {
    const auto d = apart(pair, m);
    off.push_back(std::hypot(d[0], d[1]));
  }
  std::nth_element(off.begin(), off.begin() + std::ptrdiff_t(off.size() / 2), off.end());
  return off[off.size() / 2];
}

/// By what both lenses see of the ring: its focal length among those that circles have, and how the right one is
/// turned.
std::optional<FisheyePair> firstGuess(ImageView<const float> tones, const std::array<FisheyeCircle, 2>& circles) {
  constexpr double kLeastAlike = 0.35, kNarrowest = 184, kWidest = 226, kStep = 2;
  double best = kLeastAlike;
  std::optional<FisheyePair> out;
  for (double degrees = kNarrowest; degrees <= kWidest; degrees += kStep) {
    FisheyePair pair;
    pair.lenses = circles;
    pair.widest = degrees / 2 * kDegree;
    pair.focal = (circles[0].radius + circles[1].radius) / 2 / pair.widest;
    pair.toRight = kBack;
    const RingTurn turn = turnBetweenRings(tones, pair);
    if (turn.alike <= best) continue;
    best = turn.alike;
    pair.toRight = multiply(rotationBy({0, 0, turn.radians}), kBack);
    out = pair;
  }
  return out;
}

} // namespace

double FisheyePair::angleAt(double radius) const {
  double a = radius / focal;
  for (int i = 0; i < 6; ++i) a -= (a * (1 + bend * a * a) - radius / focal) / std::max(0.2, 1 + 3 * bend * a * a);
  return a;
}

void FisheyePair::pixel(int which, const Vector3& direction, double& x, double& y) const {
  const Vector3 d = which == 0 ? direction : ml::apply(toRight, direction);
  const double flat = std::hypot(d[0], d[1]), scale = flat > 0 ? radiusAt(std::atan2(flat, d[2])) / flat : 0;
  const FisheyeCircle& lens = lenses[std::size_t(which)];
  x = lens.x + scale * d[0];
  y = lens.y + scale * d[1];
}

Vector3 FisheyePair::ray(int which, double x, double y) const {
  const FisheyeCircle& lens = lenses[std::size_t(which)];
  const double dx = x - lens.x, dy = y - lens.y, r = std::hypot(dx, dy), a = angleAt(r);
  const double s = r > 0 ? std::sin(a) / r : 0;
  const Vector3 d{s * dx, s * dy, std::cos(a)};
  return which == 0 ? d : ml::apply(transposed(toRight), d);
}

FisheyePair enlarged(const FisheyePair& pair, double factor) {
  FisheyePair out = pair;
  for (FisheyeCircle& lens : out.lenses) {
    lens.x = (lens.x + 0.5) * factor - 0.5;
    lens.y = (lens.y + 0.5) * factor - 0.5;
    lens.radius *= factor;
  }
  out.focal *= factor;
  out.residual *= factor;
  return out;
}

std::optional<FisheyePair> findFisheyePair(ImageView<const float> tones) {
  constexpr int kRounds = 4;
  constexpr double kMostOff = 1.5, kLeastMatched = 0.4;
  const auto circles = fisheyeCircles(tones);
  if (!circles) return std::nullopt;
  auto pair = firstGuess(tones, *circles);
  if (!pair) return std::nullopt;
  Unknowns moved = Unknowns::Zero();
  RingMatches found;
  for (int round = 0; round < kRounds; ++round) {
    found = matchRings(tones, *pair, round == 0 ? 0.03 : 0.01);
    if (found.matches.size() < 8) return std::nullopt;
    *pair = fitted(*pair, found.matches, moved);
    pair->widest = pair->angleAt(std::min(pair->lenses[0].radius, pair->lenses[1].radius));
  }
  pair->residual = medianOff(*pair, found.matches);
  if (pair->residual > kMostOff || double(found.matches.size()) < kLeastMatched * found.tried ||
      pair->widest < kQuarter + kLeastRing)
    return std::nullopt;
  return pair;
}

} // namespace ml
