// SPDX-License-Identifier: GPL-3.0-or-later
#include "align/search_shift.h"

#include "align/correlation.h"
#include "base/vector_clones.h"

#include <algorithm>
#include <cmath>

namespace ml {
namespace {

/// Adds the pairs of two rows; the lanes keep floats exact enough for a coarse picture.
ML_VECTOR_CLONES void addRows(const float* a, const float* b, int n, Correlation& out) {
  constexpr int kLanes = 16;
  float la[kLanes] = {}, lb[kLanes] = {}, laa[kLanes] = {}, lbb[kLanes] = {}, lab[kLanes] = {};
  for (int i = 0; i + kLanes <= n; i += kLanes)
    for (int k = 0; k < kLanes; ++k) {
      const float u = a[i + k], v = b[i + k];
      la[k] += u, lb[k] += v, laa[k] += u * u, lbb[k] += v * v, lab[k] += u * v;
    }
  for (int i = n / kLanes * kLanes, k = 0; i < n; ++i, ++k) {
    const float u = a[i], v = b[i];
    la[k] += u, lb[k] += v, laa[k] += u * u, lbb[k] += v * v, lab[k] += u * v;
  }
  for (int k = 0; k < kLanes; ++k)
    out.a += double(la[k]), out.b += double(lb[k]), out.aa += double(laa[k]), out.bb += double(lbb[k]),
        out.ab += double(lab[k]);
  out.count += std::size_t(n);
}

/// Correlation of what both show when the moving picture lies (dx, dy) away; -1 where they share too little.
double correlationAt(const CommonTones& tones, int dx, int dy) {
  const int w = tones.fixed.width(), h = tones.fixed.height();
  const int x0 = std::max(0, -dx), x1 = std::min(w, w - dx), y0 = std::max(0, -dy), y1 = std::min(h, h - dy);
  if ((x1 - x0) * (y1 - y0) < w * h / 3) return -1;
  Correlation sums;
  for (int y = y0; y < y1; ++y) addRows(tones.fixed.row(y) + x0, tones.moving.row(y + dy) + dx + x0, x1 - x0, sums);
  return sums.value();
}

} // namespace

std::vector<Transform> searchShifts(const CommonTones& tones, std::size_t most) {
  const int reachX = std::max(1, tones.fixed.width() / 5), reachY = std::max(1, tones.fixed.height() / 5);
  constexpr double kForDistance = 0.02; // what the farthest must do better by
  const int across = 2 * reachX + 1, down = 2 * reachY + 1;
  Image<float> scores(across, down, 1);
  for (int y = 0; y < down; ++y)
    for (int x = 0; x < across; ++x) {
      const int dx = x - reachX, dy = y - reachY;
      *scores.at(x, y) =
          float(correlationAt(tones, dx, dy) - kForDistance * std::hypot(double(dx) / reachX, double(dy) / reachY));
    }
  const auto isPeak = [&](int x, int y) {
    for (int v = std::max(0, y - 1); v <= std::min(down - 1, y + 1); ++v)
      for (int u = std::max(0, x - 1); u <= std::min(across - 1, x + 1); ++u)
        if (*scores.at(u, v) > *scores.at(x, y)) return false;
    return true;
  };
  std::vector<std::pair<float, Transform>> peaks;
  for (int y = 0; y < down; ++y)
    for (int x = 0; x < across; ++x)
      if (isPeak(x, y))
        peaks.push_back({*scores.at(x, y), {{1, 0, double(x - reachX), 0, 1, double(y - reachY), 0, 0, 1}}});
  std::stable_sort(peaks.begin(), peaks.end(), [](const auto& a, const auto& b) { return a.first > b.first; });
  std::vector<Transform> out;
  for (std::size_t i = 0; i < std::min(most, peaks.size()); ++i) out.push_back(peaks[i].second);
  if (out.empty()) out.emplace_back();
  return out;
}

} // namespace ml
