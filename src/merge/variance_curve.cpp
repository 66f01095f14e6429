// SPDX-License-Identifier: GPL-3.0-or-later
#include "merge/variance_curve.h"

#include <Eigen/Dense>
#include <cmath>

namespace ml {
namespace {

/// Non-negative least squares in three unknowns: every subset of them is tried, the best admissible one taken.
Eigen::Vector3d nonNegative(const Eigen::Matrix3d& h, const Eigen::Vector3d& g) {
  Eigen::Vector3d best = Eigen::Vector3d::Zero();
  double least = 0;
  for (int subset = 1; subset < 8; ++subset) {
    std::vector<int> on;
    for (int k = 0; k < 3; ++k)
      if (subset >> k & 1) on.push_back(k);
    Eigen::MatrixXd a(on.size(), on.size());
    Eigen::VectorXd b(on.size());
    for (std::size_t r = 0; r < on.size(); ++r) {
      b[Eigen::Index(r)] = g[on[r]];
      for (std::size_t c = 0; c < on.size(); ++c) a(Eigen::Index(r), Eigen::Index(c)) = h(on[r], on[c]);
    }
    const Eigen::VectorXd x = a.ldlt().solve(b);
    if (!x.allFinite() || (x.array() < 0).any()) continue;
    if (const double cost = x.dot(a * x) - 2 * b.dot(x); cost < least) {
      least = cost;
      best.setZero();
      for (std::size_t r = 0; r < on.size(); ++r) best[on[r]] = x[Eigen::Index(r)];
    }
  }
  return best;
}

} // namespace

VarianceCurve varianceCurve(const Frame& frame) {
  Eigen::Matrix3d h = Eigen::Matrix3d::Zero();
  Eigen::Vector3d g = Eigen::Vector3d::Zero();
  for (int k = -14 * 4; k <= 0; ++k) {
    const double x = std::exp2(k / 4.0), variance = sampleVariance(frame, x);
    if (!(variance > 0)) continue;
    const Eigen::Vector3d row(1 / variance, x / variance, x * x / variance);
    h += row * row.transpose();
    g += row;
  }
  const Eigen::Vector3d scale(1e-8, 1e-5, 1e-5),
      solution = nonNegative(scale.asDiagonal() * h * scale.asDiagonal(), scale.asDiagonal() * g).cwiseProduct(scale);
  return {std::max(1e-12f, float(solution[0])), float(solution[1]), float(solution[2])};
}

} // namespace ml
