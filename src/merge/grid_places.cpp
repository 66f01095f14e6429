// SPDX-License-Identifier: GPL-3.0-or-later
#include "merge/grid_places.h"

#include "align/transform.h"
#include "base/vector_clones.h"
#include "image/interpolate.h"

#include <algorithm>
#include <cmath>

namespace ml {
namespace {

/// Pixels; weights are kept from row to row while no position moves further.
constexpr double kSteady = 1 / 256.0;

/// Fractions of `position` (not negative) to six rows of weights, each n long.
ML_VECTOR_CLONES void interpolatingRows(const float* position, int n, float* __restrict a, float* __restrict b,
                                        float* __restrict c, float* __restrict d, float* __restrict e,
                                        float* __restrict f) {
  for (int i = 0; i < n; ++i) {
    float w[kInterpolationTaps];
    interpolationWeights(position[i] - float(int(position[i])), w);
    a[i] = w[0], b[i] = w[1], c[i] = w[2], d[i] = w[3], e[i] = w[4], f[i] = w[5];
  }
}

void interpolatingWeights(const float* position, int n, float* out) {
  interpolatingRows(position, n, out, out + n, out + 2 * n, out + 3 * n, out + 4 * n, out + 5 * n);
}

/// Fractions of `position` to four rows of (1 - d^2 / 4)^8, which is next to exp(-2 d^2) and ends at two pixels.
ML_VECTOR_CLONES void hillRows(const float* position, int n, float* __restrict a, float* __restrict b,
                               float* __restrict c, float* __restrict d) {
  const auto hill = [](float away) {
    const float t = 1 - 0.25f * away * away, t2 = t * t, t4 = t2 * t2;
    return t4 * t4;
  };
  for (int i = 0; i < n; ++i) {
    const float f = position[i] - float(int(position[i]));
    a[i] = hill(1 + f), b[i] = hill(f), c[i] = hill(1 - f), d[i] = hill(2 - f);
  }
}

void gatheringWeights(const float* position, int n, float* out) {
  hillRows(position, n, out, out + n, out + 2 * n, out + 3 * n);
}

/// Positions that a smooth function takes at 0..n-1, from its values at 0, (n-1)/2 and n-1 (a homography bends little
/// within a tile).
ML_VECTOR_CLONES void quadratic(double atStart, double atMiddle, double atEnd, int n, float* __restrict out) {
  const double last = std::max(1, n - 1);
  const float base = float(atStart), slope = float((4 * atMiddle - 3 * atStart - atEnd) / last),
              bend = float((2 * atEnd + 2 * atStart - 4 * atMiddle) / (last * last));
  for (int i = 0; i < n; ++i) out[i] = base + float(i) * (slope + bend * float(i));
}

/// Whole parts of positions, less i where `moving`; true when they are all the same.
ML_VECTOR_CLONES bool wholeParts(const float* position, int n, int moving, int* __restrict out) {
  int differ = 0;
  const int first = int(position[0]);
  for (int i = 0; i < n; ++i) {
    out[i] = int(position[i]) - moving * i;
    differ |= out[i] ^ first;
  }
  return differ == 0;
}

} // namespace

const PlaceKernel kInterpolating{kInterpolationTaps, interpolatingWeights}, kGathering{4, gatheringWeights};

ML_VECTOR_CLONES void sumOfFour(const float* p, std::ptrdiff_t step, const float* w, int pitch, int n,
                                float* __restrict out) {
  for (int i = 0; i < n; ++i)
    out[i] = w[i] * p[i] + w[pitch + i] * p[i + step] + w[2 * pitch + i] * p[i + 2 * step] +
             w[3 * pitch + i] * p[i + 3 * step];
}

ML_VECTOR_CLONES void sumOfSix(const float* p, std::ptrdiff_t step, const float* w, int pitch, int n,
                               float* __restrict out) {
  for (int i = 0; i < n; ++i) {
    const float a = p[i], b = p[i + step], c = p[i + 2 * step], d = p[i + 3 * step], e = p[i + 4 * step],
                f = p[i + 5 * step];
    const float sum = w[i] * a + w[pitch + i] * b + w[2 * pitch + i] * c + w[3 * pitch + i] * d + w[4 * pitch + i] * e +
                      w[5 * pitch + i] * f;
    out[i] =
        std::min(std::max(sum, std::min(std::min(b, c), std::min(d, e))), std::max(std::max(b, c), std::max(d, e)));
  }
}

Roi boundsOn(const Matrix3& toFrame, const Roi& where, int width, int height, int margin) {
  const Transform transform{toFrame};
  double left = 1e30, top = 1e30, right = -1e30, bottom = -1e30;
  for (const int x : {where.x, where.x + where.width - 1})
    for (const int y : {where.y, where.y + where.height - 1}) {
      double u, v;
      transform.map(x, y, u, v);
      left = std::min(left, u), right = std::max(right, u), top = std::min(top, v), bottom = std::max(bottom, v);
    }
  const auto held = [](double value, int size) { return int(std::floor(std::clamp(value, -100.0, size + 100.0))); };
  const int x0 = held(left, width) - margin, y0 = held(top, height) - margin;
  return {x0, y0, held(right, width) + margin + 2 - x0, held(bottom, height) + margin + 2 - y0};
}

void GridPlaces::begin(const Matrix3& h, const Roi& where, const Roi& source, const PlaceKernel& kernel) {
  h_ = h, where_ = where, source_ = source, kernel_ = &kernel;
  position_.resize(std::size_t(std::max(source.width, where.width)));
  down_.known = along_.known = false;
}

void GridPlaces::row(int y) {
  const Transform transform{h_};
  const Matrix3& h = h_;
  const double Y = where_.y + y;
  // The place (u, v) in the source where column u meets row Y.
  const auto down = [&](double u) {
    const double x = (h[1] * Y + h[2] - u * (h[7] * Y + h[8])) / (u * h[6] - h[0]);
    double px, py;
    transform.map(x, Y, px, py);
    return py - source_.y;
  };
  const int n = source_.width, wide = where_.width;
  find({down(source_.x), down(source_.x + (n - 1) / 2.0), down(source_.x + n - 1)}, n, 0, source_.height, down_);
  const auto across = [&](double x) {
    double px, py;
    transform.map(x, Y, px, py);
    return px - source_.x;
  };
  find({across(where_.x), across(where_.x + (wide - 1) / 2.0), across(where_.x + wide - 1)}, wide, 1, n, along_);
}

/// Weights for positions that are `at` its start, middle and end; kept where the last ones serve.
void GridPlaces::find(const double (&at)[3], int n, int moving, int size, Weights& w) {
  const int least = kernel_->before(), most = size - kernel_->taps / 2 - 1;
  w.first = int(std::floor(at[0]));
  const double base = w.first;
  const bool within = std::all_of(at, at + 3, [&](double v) { return v >= least + 0.5 && v <= most - 0.5; });
  if (w.known && within && std::abs(at[0] - base - w.at[0]) < kSteady && std::abs(at[1] - base - w.at[1]) < kSteady &&
      std::abs(at[2] - base - w.at[2]) < kSteady)
    return;
  quadratic(at[0], at[1], at[2], n, position_.data());
  for (int i = 0; i < n; ++i)
    position_[std::size_t(i)] = std::clamp(position_[std::size_t(i)], float(least), float(most));
  w.values.resize(std::size_t(n) * std::size_t(kernel_->taps));
  w.whole.resize(std::size_t(n));
  kernel_->weigh(position_.data(), n, w.values.data());
  w.single = wholeParts(position_.data(), n, moving, w.whole.data());
  for (int i = 0; i < n; ++i) w.whole[std::size_t(i)] -= w.first;
  for (int k = 0; k < 3; ++k) w.at[k] = at[k] - base;
  w.known = within;
}

} // namespace ml
