// SPDX-License-Identifier: GPL-3.0-or-later
#include "align/fit_level.h"

#include "align/correlation.h"
#include "base/parallel.h"

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>

namespace ml {
namespace {

int parameters(AlignMode mode) {
  return mode == AlignMode::Shift ? 2 : mode == AlignMode::Similarity ? 4 : mode == AlignMode::Perspective ? 8 : 3;
}

/// Derivative of the warped position by the parameters at normalised (x, y). Shift, rotation, then the rest of a
/// homography.
using Row = Eigen::Matrix<double, 1, 8>;
Row steepest(AlignMode mode, double gx, double gy, double x, double y) {
  Row j = Row::Zero();
  j[0] = gx;
  j[1] = gy;
  if (mode == AlignMode::Shift) return j;
  if (mode != AlignMode::Perspective) {
    j[2] = -gx * y + gy * x;
    if (mode == AlignMode::Similarity) j[3] = gx * x + gy * y;
    return j;
  }
  j[2] = gx * x;
  j[3] = gx * y;
  j[4] = gy * x;
  j[5] = gy * y;
  j[6] = -(gx * x + gy * y) * x;
  j[7] = -(gx * x + gy * y) * y;
  return j;
}

Matrix3 increment(AlignMode mode, const Eigen::VectorXd& p) {
  if (mode == AlignMode::Shift) return {1, 0, p[0], 0, 1, p[1], 0, 0, 1};
  if (mode == AlignMode::Similarity) {
    const double c = (1 + p[3]) * std::cos(p[2]), d = (1 + p[3]) * std::sin(p[2]);
    return {c, -d, p[0], d, c, p[1], 0, 0, 1};
  }
  if (mode != AlignMode::Perspective)
    return {std::cos(p[2]), -std::sin(p[2]), p[0], std::sin(p[2]), std::cos(p[2]), p[1], 0, 0, 1};
  return {1 + p[2], p[3], p[0], p[4], 1 + p[5], p[1], p[6], p[7], 1};
}

struct Normal {
  Eigen::Matrix<double, 8, 8> h = Eigen::Matrix<double, 8, 8>::Zero();
  Eigen::Matrix<double, 8, 1> g = Eigen::Matrix<double, 8, 1>::Zero();
  Correlation tones;
  double absolute = 0;
  void add(const Normal& o) { h += o.h, g += o.g, absolute += o.absolute, tones.add(o.tones); }
};

/// Normal equations over all samples; what moves loses weight.
template <int n>
Normal accumulate(const std::vector<Sample>& samples, const Image<float>& moving, const Matrix3& toMoving,
                  AlignMode mode, double cx, double cy, double unit, const Belief& belief) {
  constexpr int kChunk = 8192;
  const int chunks = int((samples.size() + kChunk - 1) / kChunk);
  std::vector<Normal> parts(chunks);
  const Transform transform{toMoving};
  forEachBand(
      chunks,
      [&](const Band& band) {
        Normal part;
        for (std::size_t i = std::size_t(band.begin) * kChunk;
             i < std::min(samples.size(), std::size_t(band.end) * kChunk); ++i) {
          const Sample& s = samples[i];
          double u, v;
          transform.map(s.x, s.y, u, v);
          float value;
          if (!sampleLinear(moving, u, v, value)) continue;
          const double residual = value - s.value, size = std::abs(residual);
          const double weight = belief.weight(size, s.gx, s.gy);
          const Row j = steepest(mode, s.gx * unit, s.gy * unit, (s.x - cx) / unit, (s.y - cy) / unit);
          for (int r = 0; r < n; ++r) {
            part.g[r] += weight * j[r] * residual;
            for (int c = 0; c <= r; ++c) part.h(r, c) += weight * j[r] * j[c];
          }
          part.tones.add(s.value, value);
          part.absolute += size;
        }
        parts[band.index] = part;
      },
      1);
  Normal sum;
  for (const auto& part : parts) sum.add(part);
  return sum;
}

Normal accumulate(const std::vector<Sample>& samples, const Image<float>& moving, const Matrix3& toMoving,
                  AlignMode mode, double cx, double cy, double unit, const Belief& belief) {
  switch (parameters(mode)) {
  case 2: return accumulate<2>(samples, moving, toMoving, mode, cx, cy, unit, belief);
  case 3: return accumulate<3>(samples, moving, toMoving, mode, cx, cy, unit, belief);
  case 4: return accumulate<4>(samples, moving, toMoving, mode, cx, cy, unit, belief);
  default: return accumulate<8>(samples, moving, toMoving, mode, cx, cy, unit, belief);
  }
}

} // namespace

LevelFit fitLevel(const CommonTones& tones, const Structure& found, Transform transform, AlignMode mode,
                  int iterations) {
  const auto& [samples, share] = found;
  const double cx = (tones.fixed.width() - 1) / 2.0, cy = (tones.fixed.height() - 1) / 2.0,
               unit = tones.fixed.width() / 2.0;
  const Matrix3 toUnit{1 / unit, 0, -cx / unit, 0, 1 / unit, -cy / unit, 0, 0, 1}, fromUnit = inverse(toUnit);
  const int n = parameters(mode);
  Belief belief;
  LevelFit fit{transform, 0, share};
  if (samples.size() < 40) return fit;
  for (int i = 0; i < 2 * iterations; ++i) {
    if (i >= iterations) belief = beliefOf(samples, tones, fit.transform);
    const Normal normal = accumulate(samples, tones.moving, fit.transform.h, mode, cx, cy, unit, belief);
    if (normal.tones.count < 40) return {transform, 0, 0};
    belief.huber = std::max(1e-5, 1.5 * normal.absolute / double(normal.tones.count));
    Eigen::MatrixXd h = normal.h.topLeftCorner(n, n).selfadjointView<Eigen::Lower>();
    h.diagonal() += Eigen::VectorXd::Constant(n, 1e-9 * h.trace() + 1e-12);
    const Eigen::VectorXd step = h.ldlt().solve(normal.g.head(n));
    // The increment warps the fixed picture, so its inverse is composed on the right (inverse compositional).
    Matrix3 next = multiply(fit.transform.h, multiply(fromUnit, multiply(inverse(increment(mode, step)), toUnit)));
    for (double& value : next) value /= next[8];
    fit.transform.h = next;
    if (step.cwiseAbs().maxCoeff() * unit >= 0.003) continue;
    if (i >= iterations) break;
    i = iterations - 1; // all of it has settled; now without what moves
  }
  fit.belief = belief;
  fit.correlation = accumulate(samples, tones.moving, fit.transform.h, mode, cx, cy, unit, belief).tones.value();
  return fit;
}

} // namespace ml
