// SPDX-License-Identifier: GPL-3.0-or-later
#include "positions/adjust.h"

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>

namespace ml {
namespace {

constexpr double kUnseen = 1e4;
// What is believed of lenses before looking: standard deviations.
constexpr double kBendPrior = 0.06, kSecondBendPrior = 0.01, kBreathingPrior = 0.05, kFocalPrior = 0.03;

/// Where each unknown lies in the vector of all; -1: it is held.
struct Layout {
  std::vector<int> turn, shift, breathing; ///< First of three, first of two, one; by position.
  int focal = -1, bend = -1;
  int count = 0;
};

Layout layoutOf(const Arrangement& a, const AdjustOptions& options) {
  Layout out;
  const std::size_t n = a.poses.size();
  out.turn.assign(n, -1), out.shift.assign(n, -1), out.breathing.assign(n, -1);
  for (std::size_t i = 0; i < n; ++i) {
    if (a.kind == PositionKind::Turned && i > 0) out.turn[i] = out.count, out.count += 3;
    if (a.kind == PositionKind::Shifted && i > 0) out.shift[i] = out.count, out.count += 2;
    if (a.plane[i] > 0) out.breathing[i] = out.count++;
  }
  if (options.freeLens && a.kind == PositionKind::Turned) {
    out.focal = out.count++;
    out.bend = out.count, out.count += 2;
  }
  return out;
}

/// `a` with unknown number k moved by `step`. Turns move in the world, focal lengths by their logarithm.
void move(Arrangement& a, const Layout& layout, const Eigen::VectorXd& step) {
  for (std::size_t i = 0; i < a.poses.size(); ++i) {
    Pose& pose = a.poses[i];
    if (const int k = layout.turn[i]; k >= 0)
      pose.turn = multiply(rotationBy({step[k], step[k + 1], step[k + 2]}), pose.turn);
    if (const int k = layout.shift[i]; k >= 0) pose.shiftX += step[k], pose.shiftY += step[k + 1];
    double growth = layout.focal >= 0 ? step[layout.focal] : 0;
    if (const int k = layout.breathing[i]; k >= 0) growth += step[k];
    pose.focal *= std::exp(growth);
  }
  if (layout.bend >= 0) a.bend.k1 += step[layout.bend], a.bend.k2 += step[layout.bend + 1];
}

/// The unknowns that a pair depends on.
std::vector<int> unknownsOf(const Layout& layout, int a, int b) {
  std::vector<int> out;
  for (const int i : {a, b}) {
    const auto p = std::size_t(i);
    for (int k = 0; k < 3; ++k)
      if (layout.turn[p] >= 0) out.push_back(layout.turn[p] + k);
    for (int k = 0; k < 2; ++k)
      if (layout.shift[p] >= 0) out.push_back(layout.shift[p] + k);
    if (layout.breathing[p] >= 0) out.push_back(layout.breathing[p]);
  }
  if (layout.focal >= 0) out.push_back(layout.focal);
  if (layout.bend >= 0) out.push_back(layout.bend), out.push_back(layout.bend + 1);
  return out;
}

double sizeOfStep(const Layout& layout, int k, const Arrangement& a) {
  const bool pixels = a.kind == PositionKind::Shifted && k != layout.focal && k != layout.bend &&
                      std::none_of(layout.breathing.begin(), layout.breathing.end(), [&](int b) { return b == k; });
  return pixels ? 1e-2 : 1e-6;
}

Eigen::Vector2d difference(const CameraGeometry& a, const CameraGeometry& b, const Match& m) {
  double x, y;
  if (!b.pixel(a.ray(m.ax, m.ay), x, y)) return {kUnseen, kUnseen};
  return {x - m.bx, y - m.by};
}

/// In standard deviations of the match.
Eigen::Vector2d weighed(const Eigen::Vector2d& d, const Match& m) {
  return {m.w11 * d[0] + m.w12 * d[1], m.w22 * d[1]};
}

double weightOf(double squared, double scale) {
  const double t = 1 + squared / (scale * scale);
  return 1 / (t * t);
}
/// Geman and McClure 1985: what the weights above minimise.
double costOf(double squared, double scale) {
  return squared / (1 + squared / (scale * scale));
}

struct Priors {
  std::vector<double> sigma; ///< 0: none.
  Eigen::VectorXd value;     ///< Of the unknown, from where the prior stands.
};

Priors priorsOf(const Arrangement& a, const Layout& layout, const AdjustOptions& options) {
  Priors out;
  out.sigma.assign(std::size_t(layout.count), 0);
  out.value = Eigen::VectorXd::Zero(layout.count);
  const auto set = [&](int k, double sigma, double value) {
    if (k < 0) return;
    out.sigma[std::size_t(k)] = sigma;
    out.value[k] = value;
  };
  if (layout.bend >= 0) {
    set(layout.bend, kBendPrior, a.bend.k1);
    set(layout.bend + 1, kSecondBendPrior, a.bend.k2);
  }
  if (layout.focal >= 0 && options.focalPrior > 0)
    set(layout.focal, kFocalPrior, std::log(a.poses[0].focal / options.focalPrior));
  for (std::size_t i = 0; i < a.poses.size(); ++i)
    set(layout.breathing[i], kBreathingPrior, std::log(a.poses[i].focal / a.poses[0].focal));
  return out;
}

double wholeCost(const Arrangement& a, const std::vector<PairMatches>& pairs, const Priors& priors, double scale) {
  double sum = 0;
  for (std::size_t k = 0; k < priors.sigma.size(); ++k)
    if (priors.sigma[k] > 0) {
      const double t = priors.value[Eigen::Index(k)] / priors.sigma[k];
      sum += t * t;
    }
  for (const PairMatches& pair : pairs) {
    const auto one = a.camera(std::size_t(pair.a)), other = a.camera(std::size_t(pair.b));
    for (const Match& m : pair.matches) sum += costOf(weighed(difference(one, other, m), m).squaredNorm(), scale);
  }
  return sum;
}

struct Normal {
  Eigen::MatrixXd h;
  Eigen::VectorXd g;
};

Normal normalOf(const Arrangement& a, const Layout& layout, const std::vector<PairMatches>& pairs, double scale) {
  Normal out{Eigen::MatrixXd::Zero(layout.count, layout.count), Eigen::VectorXd::Zero(layout.count)};
  for (const PairMatches& pair : pairs) {
    const auto unknowns = unknownsOf(layout, pair.a, pair.b);
    const auto n = Eigen::Index(unknowns.size()), m = Eigen::Index(2 * pair.matches.size());
    Eigen::VectorXd r(m), w(m);
    const auto one = a.camera(std::size_t(pair.a)), other = a.camera(std::size_t(pair.b));
    for (std::size_t i = 0; i < pair.matches.size(); ++i) {
      const Match& match = pair.matches[i];
      const Eigen::Vector2d d = weighed(difference(one, other, match), match);
      r.segment<2>(Eigen::Index(2 * i)) = d;
      w.segment<2>(Eigen::Index(2 * i)).setConstant(weightOf(d.squaredNorm(), scale));
    }
    Eigen::MatrixXd j(m, n);
    for (Eigen::Index k = 0; k < n; ++k) {
      const double size = sizeOfStep(layout, unknowns[std::size_t(k)], a);
      Eigen::VectorXd step = Eigen::VectorXd::Zero(layout.count);
      step[unknowns[std::size_t(k)]] = size;
      Arrangement moved = a;
      move(moved, layout, step);
      const auto movedOne = moved.camera(std::size_t(pair.a)), movedOther = moved.camera(std::size_t(pair.b));
      for (std::size_t i = 0; i < pair.matches.size(); ++i)
        j.block<2, 1>(Eigen::Index(2 * i), k) =
            (weighed(difference(movedOne, movedOther, pair.matches[i]), pair.matches[i]) -
             r.segment<2>(Eigen::Index(2 * i))) /
            size;
    }
    const Eigen::MatrixXd weighted = w.asDiagonal() * j;
    const Eigen::MatrixXd h = j.transpose() * weighted;
    const Eigen::VectorXd g = weighted.transpose() * r;
    for (Eigen::Index p = 0; p < n; ++p) {
      out.g[unknowns[std::size_t(p)]] += g[p];
      for (Eigen::Index q = 0; q < n; ++q) out.h(unknowns[std::size_t(p)], unknowns[std::size_t(q)]) += h(p, q);
    }
  }
  return out;
}

double weightedRms(const Arrangement& a, const std::vector<PairMatches>& pairs, double scale) {
  double sum = 0, weights = 0;
  for (const PairMatches& pair : pairs) {
    const auto one = a.camera(std::size_t(pair.a)), other = a.camera(std::size_t(pair.b));
    for (const Match& m : pair.matches) {
      const Eigen::Vector2d d = difference(one, other, m);
      const double w = weightOf(weighed(d, m).squaredNorm(), scale);
      sum += w * d.squaredNorm();
      weights += w;
    }
  }
  return weights > 0 ? std::sqrt(sum / weights) : 0;
}

} // namespace

double residualOf(const Arrangement& arrangement, int a, int b, const Match& m) {
  return difference(arrangement.camera(std::size_t(a)), arrangement.camera(std::size_t(b)), m).norm();
}

double adjust(Arrangement& a, const std::vector<PairMatches>& pairs, const AdjustOptions& options) {
  const Layout layout = layoutOf(a, options);
  if (layout.count == 0) return weightedRms(a, pairs, options.scale);
  double damping = 1e-4;
  for (int round = 0; round < 40 && damping < 1e8; ++round) {
    const Priors priors = priorsOf(a, layout, options);
    Normal normal = normalOf(a, layout, pairs, options.scale);
    for (int k = 0; k < layout.count; ++k)
      if (const double s = priors.sigma[std::size_t(k)]; s > 0) {
        normal.h(k, k) += 1 / (s * s);
        normal.g[k] += priors.value[k] / (s * s);
      }
    const double before = wholeCost(a, pairs, priors, options.scale);
    bool better = false;
    double gained = 0;
    while (!better && damping < 1e8) {
      Eigen::MatrixXd h = normal.h;
      for (int k = 0; k < layout.count; ++k) h(k, k) += damping * std::max(normal.h(k, k), 1e-6);
      const Eigen::VectorXd step = -h.ldlt().solve(normal.g);
      Arrangement moved = a;
      move(moved, layout, step);
      const double after = wholeCost(moved, pairs, priorsOf(moved, layout, options), options.scale);
      better = step.allFinite() && after < before;
      damping = better ? std::max(1e-9, damping / 8) : damping * 6;
      if (better) a = std::move(moved), gained = before - after;
    }
    if (!better || gained < 1e-7 * before) break;
  }
  return weightedRms(a, pairs, options.scale);
}

} // namespace ml
