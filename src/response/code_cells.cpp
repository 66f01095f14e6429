// SPDX-License-Identifier: GPL-3.0-or-later
#include "response/code_cells.h"

#include "align/transform.h"
#include "base/parallel.h"

#include <algorithm>
#include <cmath>

namespace ml {
namespace {

constexpr int kCell = 4;            ///< Flat places are cells of this side.
constexpr float kFlat = 14.f / 255; ///< Largest range of values in a flat cell.
constexpr float kLowest = 2.5f / 255, kHighest = 251.f / 255;
constexpr float kLowestLinear = 0.09f,
                kHighestLinear =
                    0.97f; ///< Square roots; in darker places the noise that developing cuts off at nothing adds light.
constexpr int kBins = 256;
constexpr double kCellsLookedAt = 250000;
/// A camera clips before its matrix: a colour whose brightest channel stands above the first may be cut although none
/// is at its end, unless all its channels are within the second of each other.
constexpr float kMayBeCut = 0.9f, kNearlyGrey = 0.1f;

} // namespace

CompareScale::CompareScale(const Frame& frame) : linear(!frame.curveAssumed) {
  const int size = frame.table.size();
  for (std::size_t c = 0; c < 3; ++c) {
    const float* light = frame.table.channel(int(c));
    value[c].resize(std::size_t(size));
    for (int code = 0; code < size; ++code)
      value[c][std::size_t(code)] =
          linear ? std::sqrt(std::clamp(light[code] / frame.saturation[c], 0.f, 1.f)) : float(code) / float(size - 1);
  }
}

int cellPitch(int width, int height) {
  return std::max(kCell, int(std::sqrt(double(width) * height / kCellsLookedAt)));
}

namespace {

/// Sum and extremes of a cell's values by channel; of a mosaic each photosite's own, a sum of as many as there are
/// pixels.
struct CellValues {
  float sum[3] = {}, low[3] = {2, 2, 2}, high[3] = {};
  void take(int c, float value, float share) {
    sum[c] += share * value, low[c] = std::min(low[c], value), high[c] = std::max(high[c], value);
  }
};

CellValues valuesOf(const Frame& frame, const CompareScale& scale, int left, int top) {
  CellValues cell;
  const auto value = [&](int c, int code) { return scale.value[std::size_t(c)][std::size_t(code)]; };
  if (frame.isMosaic()) {
    const auto sites = frame.codes.photosites();
    for (int v = top; v < top + kCell; ++v)
      for (int u = left; u < left + kCell; ++u) {
        const int c = frame.colourAt(u, v);
        cell.take(c, value(c, *sites.at(u, v)), c == 1 ? 2.f : 4.f);
      }
    return cell;
  }
  frame.codes.visit([&](auto codes) {
    for (int v = top; v < top + kCell; ++v) {
      const auto* code = codes.at(left, v);
      for (int u = 0; u < kCell; ++u, code += 3)
        for (int c = 0; c < 3; ++c) cell.take(c, value(c, code[c]), 1);
    }
  });
  return cell;
}

} // namespace

Image<float> flatCells(const PlacedFrame& placed, int pitch) {
  const Frame& frame = *placed.frame;
  const CompareScale scale(frame);
  const float least = scale.linear ? kLowestLinear : kLowest, most = scale.linear ? kHighestLinear : kHighest;
  const int w = frame.width() / pitch, h = frame.height() / pitch;
  Image<float> out(w, h, 3);
  const Transform transform{placed.toFrame};
  forEachBand(h, [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y)
      for (int x = 0; x < w; ++x) {
        double u, v;
        transform.map(x * pitch + pitch / 2, y * pitch + pitch / 2, u, v);
        const int left = int(std::lround(u)) - kCell / 2, top = int(std::lround(v)) - kCell / 2;
        float* mean = out.at(x, y);
        mean[0] = mean[1] = mean[2] = -1;
        if (left < 0 || top < 0 || left + kCell > frame.width() || top + kCell > frame.height()) continue;
        const CellValues cell = valuesOf(frame, scale, left, top);
        const float brightest = std::max({cell.high[0], cell.high[1], cell.high[2]}),
                    darkest = std::min({cell.low[0], cell.low[1], cell.low[2]});
        if (!scale.linear && brightest > kMayBeCut && brightest - darkest > kNearlyGrey) continue;
        for (int c = 0; c < 3; ++c)
          if (cell.high[c] - cell.low[c] <= kFlat && cell.low[c] >= least && cell.high[c] <= most)
            mean[c] = cell.sum[c] / (kCell * kCell);
      }
  });
  return out;
}

CodePairs pairsOf(const Image<float>& a, const Image<float>& b, int darkFrame, int lightFrame, double stops) {
  CodePairs pairs{darkFrame, lightFrame, stops, {}, 0};
  std::array<std::vector<std::array<double, 3>>, 3> sums;
  for (auto& s : sums) s.resize(kBins * kBins, {0, 0, 0});
  for (std::size_t i = 0; i < std::min(a.size(), b.size()); ++i) {
    const float first = a.data()[i], second = b.data()[i];
    if (first < 0 || second < 0) continue;
    auto& sum = sums[i % 3][std::size_t(int(first * 255 + 0.5f) * kBins + int(second * 255 + 0.5f))];
    sum[0] += 1, sum[1] += first, sum[2] += second;
    ++pairs.samples;
  }
  for (std::size_t c = 0; c < 3; ++c)
    for (const auto& s : sums[c])
      if (s[0] > 0) pairs.bins[c].push_back({float(s[0]), float(s[1] / s[0]), float(s[2] / s[0])});
  return pairs;
}

} // namespace ml
