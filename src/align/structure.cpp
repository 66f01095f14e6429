// SPDX-License-Identifier: GPL-3.0-or-later
#include "align/structure.h"

#include "align/belief.h"
#include "align/common_tones.h"
#include "align/correlation.h"
#include "base/parallel.h"
#include "base/vector_clones.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numeric>

namespace ml {
namespace {

constexpr std::size_t kMostSamples = 40000; // place a picture to a few hundredths of a pixel; more only cost time

/// Marks the pixels of a row whose gradient, squared, is above `least`; returns how many.
ML_VECTOR_CLONES int markStructure(const float* above, const float* row, const float* below, float least, int w,
                                   std::uint8_t* __restrict shows) {
  int count = 0;
  for (int x = 1; x < w - 1; ++x) {
    const float gx = (row[x + 1] - row[x - 1]) / 2, gy = (below[x] - above[x]) / 2;
    const bool strong = gx * gx + gy * gy > least;
    shows[x] = strong;
    count += strong;
  }
  return count;
}

constexpr int kAcross = 8, kDown = 6;

/// The gradient that three quarters of the places that record something stay below: noise and fixed patterns, which are
/// no structure.
float usualGradient(const Image<float>& fixed, float low, float high) {
  constexpr double kBelow = 0.75;
  constexpr std::size_t kEnoughGradients = 4000;
  std::vector<float> gradients;
  const int stride = std::max(1, int(std::sqrt(double(fixed.size()) / 40000)));
  const float margin = 0.02f * (high - low);
  for (int y = 1; y < fixed.height() - 1; y += stride)
    for (int x = 1; x < fixed.width() - 1; x += stride) {
      const float value = *fixed.at(x, y);
      if (value <= low + margin || value >= high - margin) continue;
      gradients.push_back(
          std::hypot(*fixed.at(x + 1, y) - *fixed.at(x - 1, y), *fixed.at(x, y + 1) - *fixed.at(x, y - 1)) / 2);
    }
  if (gradients.size() < kEnoughGradients) return 0;
  const auto place = gradients.begin() + std::ptrdiff_t(kBelow * double(gradients.size()));
  std::nth_element(gradients.begin(), place, gradients.end());
  return *place;
}

/// Adds each sample, and what the moving picture shows in its place, to its block.
template <class Block, class Add>
std::array<Block, kAcross * kDown> inBlocks(const Structure& found, const Image<float>& moving,
                                            const Transform& transform, int width, int height, const Add& add) {
  std::array<Block, kAcross * kDown> blocks;
  for (const Sample& s : found.samples) {
    double u, v;
    transform.map(s.x, s.y, u, v);
    float value;
    if (sampleLinear(moving, u, v, value))
      add(blocks[std::size_t(s.y * kDown / height * kAcross + s.x * kAcross / width)], s, value);
  }
  return blocks;
}

} // namespace

Structure structure(const Image<float>& fixed, float low, float high) {
  const int w = fixed.width(), h = fixed.height();
  const float least = std::max({1e-5f, 0.003f * (high - low), usualGradient(fixed, low, high)}), square = least * least;
  Image<std::uint8_t> shows(w, h, 1);
  std::vector<std::size_t> begins(std::size_t(h) + 1, 0); // samples before each row
  forEachBand(h, [&](const Band& band) {
    for (int y = std::max(1, band.begin); y < std::min(h - 1, band.end); ++y)
      begins[std::size_t(y) + 1] =
          std::size_t(markStructure(fixed.row(y - 1), fixed.row(y), fixed.row(y + 1), square, w, shows.row(y)));
  });
  std::partial_sum(begins.begin(), begins.end(), begins.begin());
  const std::size_t found = begins.back(), stride = found / kMostSamples + 1;
  Structure out{{}, double(found) / double(fixed.size())};
  out.samples.reserve(found / stride + 1);
  for (int y = 1; y < h - 1; ++y) {
    const float *above = fixed.row(y - 1), *row = fixed.row(y), *below = fixed.row(y + 1);
    std::size_t index = begins[std::size_t(y)];
    for (int x = 1; x < w - 1; ++x)
      if (shows.row(y)[x] && index++ % stride == 0)
        out.samples.push_back({x, y, row[x], (row[x + 1] - row[x - 1]) / 2, (below[x] - above[x]) / 2});
  }
  return out;
}

BlockResidual blockResidual(const Structure& found, const Image<float>& moving, const Transform& transform,
                            const Belief& belief, int width, int height) {
  struct Block {
    double xx = 0, xy = 0, yy = 0, gx = 0, gy = 0;
    int count = 0;
  };
  const auto blocks =
      inBlocks<Block>(found, moving, transform, width, height, [&belief](Block& b, const Sample& s, float value) {
        const double residual = value - s.value, w = belief.weight(std::abs(residual), s.gx, s.gy);
        b.xx += w * s.gx * s.gx, b.xy += w * s.gx * s.gy, b.yy += w * s.gy * s.gy, b.gx += w * s.gx * residual,
            b.gy += w * s.gy * residual, ++b.count;
      });
  std::vector<double> lengths;
  bool quarters[4] = {};
  for (std::size_t k = 0; k < blocks.size(); ++k) {
    const Block& b = blocks[k];
    const double determinant = b.xx * b.yy - b.xy * b.xy, trace = b.xx + b.yy;
    if (b.count < 60 || determinant < 0.02 * trace * trace) continue;
    quarters[2 * (int(k) / kAcross * 2 / kDown) + int(k) % kAcross * 2 / kAcross] = true;
    lengths.push_back(std::hypot((b.yy * b.gx - b.xy * b.gy) / determinant, (b.xx * b.gy - b.xy * b.gx) / determinant));
  }
  if (lengths.size() < 4) return {};
  std::nth_element(lengths.begin(), lengths.begin() + std::ptrdiff_t(lengths.size() / 2), lengths.end());
  return {lengths[lengths.size() / 2], quarters[0] && quarters[1] && quarters[2] && quarters[3]};
}

double proofOfMovement(const Structure& found, const Image<float>& moving, const Transform& transform, int width,
                       int height) {
  constexpr int kEnoughBlocks = 24;
  constexpr std::size_t kFewest = 5;
  struct Costs {
    double there = 0, still = 0, away = 0;
    int count = 0;
  };
  Transform opposite{inverse(transform.h)};
  for (double& value : opposite.h) value /= opposite.h[8];
  std::array<Costs, kAcross * kDown> blocks;
  for (const Sample& s : found.samples) {
    double u, v, ou, ov;
    transform.map(s.x, s.y, u, v);
    opposite.map(s.x, s.y, ou, ov);
    float there, away;
    if (!sampleLinear(moving, u, v, there) || !sampleLinear(moving, ou, ov, away)) continue;
    Costs& block = blocks[std::size_t(s.y * kDown / height * kAcross + s.x * kAcross / width)];
    block.there += std::abs(there - s.value), block.away += std::abs(away - s.value),
        block.still += std::abs(*moving.at(s.x, s.y) - s.value);
    ++block.count;
  }
  std::vector<double> gains;
  for (const Costs& b : blocks)
    if (b.count >= kEnoughBlocks && b.there > 0) gains.push_back(std::log(std::min(b.still, b.away) / b.there));
  if (gains.size() < kFewest) return 0;
  double sum = 0, squares = 0;
  for (const double g : gains) sum += g, squares += g * g;
  const double n = double(gains.size()), mean = sum / n,
               variance = std::max(1e-6, squares / n - mean * mean) * n / (n - 1);
  return mean / std::sqrt(variance / n);
}

double agreement(const Structure& found, const Image<float>& moving, const Transform& transform, int width,
                 int height) {
  constexpr std::size_t kEnoughPairs = 12, kFewest = 4;
  const auto blocks =
      inBlocks<Correlation>(found, moving, transform, width, height,
                            [](Correlation& b, const Sample& s, float value) { b.add(s.value, value); });
  std::vector<double> correlations;
  for (const Correlation& b : blocks)
    if (b.count >= kEnoughPairs) correlations.push_back(b.value());
  if (correlations.size() < kFewest) return -1;
  std::nth_element(correlations.begin(), correlations.begin() + std::ptrdiff_t(correlations.size() / 2),
                   correlations.end());
  return correlations[correlations.size() / 2];
}

} // namespace ml
