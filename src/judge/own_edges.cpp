// SPDX-License-Identifier: GPL-3.0-or-later
#include "judge/own_edges.h"

#include "judge/detail.h"

#include <algorithm>
#include <cmath>
#include <vector>

namespace ml {
namespace {

constexpr int kEdgeBlock = 16;
constexpr int kLeastEdgeSamples = 60;
constexpr std::size_t kLeastBlocks = 12;
constexpr double kLeastOwnLight = 0.012;
constexpr double kLeastOwnEdge = 0.004; ///< Energy of first differences over the squared mean.
constexpr double kEdgeOverNoise = 12;
constexpr double kSharpest = 0.85; ///< Of the blocks: nearly all places are smooth or lie out of focus by themselves.

/// Sums over one block along an axis; `step`: to the next pixel, `aside`: across.
struct Sums {
  double first = 0, second = 0, checker = 0, mean = 0;
  int samples = 0;
};

Sums sumsOf(const Image<float>& light, int x0, int y0, std::ptrdiff_t step, std::ptrdiff_t aside) {
  Sums s;
  for (int y = y0; y < y0 + kEdgeBlock; ++y)
    for (int x = x0; x < x0 + kEdgeBlock; ++x) {
      const float* v = light.data() + std::ptrdiff_t(y) * light.width() + x;
      bool shown = true;
      for (std::ptrdiff_t i = -1; i <= 1 && shown; ++i)
        for (std::ptrdiff_t j = -1; j <= 1 && shown; ++j) shown = v[i * step + j * aside] != kNoLight;
      if (!shown) continue;
      const auto second = [step](const float* p) { return double(p[-step]) - 2 * double(p[0]) + double(p[step]); };
      const double first = double(v[step]) - double(v[0]), bend = second(v),
                   checker = second(v - aside) - 2 * bend + second(v + aside);
      s.first += first * first, s.second += bend * bend, s.checker += checker * checker / 6, s.mean += *v;
      ++s.samples;
    }
  return s;
}

std::optional<double> finenessAlong(const Image<float>& light, std::ptrdiff_t step, std::ptrdiff_t aside) {
  std::vector<double> found;
  for (int y = 1; y + kEdgeBlock < light.height(); y += kEdgeBlock)
    for (int x = 1; x + kEdgeBlock < light.width(); x += kEdgeBlock) {
      const Sums s = sumsOf(light, x, y, step, aside);
      if (s.samples < kLeastEdgeSamples) continue;
      const double mean = s.mean / s.samples;
      // The weights of first differences squared add up to 2, of second ones to 6; the checkerboard is laid at 6.
      const double first = s.first - s.checker / 3, second = s.second - s.checker;
      if (mean < kLeastOwnLight || first < kLeastOwnEdge * mean * mean * s.samples ||
          first < kEdgeOverNoise * s.checker)
        continue;
      found.push_back(std::log(std::max(second, 0.01 * first) / first));
    }
  if (found.size() < kLeastBlocks) return {};
  const auto at = found.begin() + std::ptrdiff_t(kSharpest * double(found.size() - 1));
  std::nth_element(found.begin(), at, found.end());
  return *at;
}

} // namespace

std::optional<double> edgeFineness(const Image<float>& light) {
  const auto across = finenessAlong(light, 1, light.width()), down = finenessAlong(light, light.width(), 1);
  if (!across || !down) return across ? across : down;
  return std::min(*across, *down);
}

} // namespace ml
