// SPDX-License-Identifier: GPL-3.0-or-later
#include "pipeline/place_outline.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <map>

namespace ml {
namespace {

constexpr int kReach = 2;       ///< Cells over which a place is smoothed, twice.
constexpr float kLevel = 0.16f; ///< Of the smoothed mask: a line one cell wide stays a line (its top is 0.2).
constexpr double kCrumb = 0.04; ///< Rings below this share of the largest are left out.

/// A mask of cells with a margin, smoothed.
struct Field {
  int width = 0, height = 0;
  std::vector<float> value;
  [[nodiscard]] float at(int x, int y) const { return value[std::size_t(y) * std::size_t(width) + std::size_t(x)]; }
  float& at(int x, int y) { return value[std::size_t(y) * std::size_t(width) + std::size_t(x)]; }
};

Field maskOf(const CombineReport::Place& place, int margin) {
  Field f;
  f.width = place.cells.width + 2 * margin, f.height = int(place.rows.size()) + 2 * margin;
  f.value.assign(std::size_t(f.width) * std::size_t(f.height), 0.f);
  for (std::size_t y = 0; y < place.rows.size(); ++y)
    for (const auto& run : place.rows[y])
      for (int x = std::max(0, run.from); x < std::min(place.cells.width, run.from + run.length); ++x)
        f.at(x + margin, int(y) + margin) = 1;
  return f;
}

/// Mean over 2 * kReach + 1 cells along one direction; nothing outside.
Field smoothed(const Field& in, int dx, int dy) {
  Field out = in;
  for (int y = 0; y < in.height; ++y)
    for (int x = 0; x < in.width; ++x) {
      float sum = 0;
      for (int k = -kReach; k <= kReach; ++k)
        if (const int u = x + k * dx, v = y + k * dy; u >= 0 && v >= 0 && u < in.width && v < in.height)
          sum += in.at(u, v);
      out.at(x, y) = sum / (2 * kReach + 1);
    }
  return out;
}

using Edge = std::array<int, 3>; ///< x, y and 0: to the right, 1: downwards.

Spot2 crossing(const Field& f, const Edge& e) {
  const int x = e[0], y = e[1], u = x + (e[2] == 0), v = y + (e[2] == 1);
  const float a = f.at(x, y), b = f.at(u, v), t = (kLevel - a) / (b - a);
  return {double(x) + double(t) * (u - x), double(y) + double(t) * (v - y)};
}

/// Lines of equal value by squares (Lorensen and Cline 1987, in the plane), joined to rings.
std::vector<std::vector<Spot2>> ringsOf(const Field& f) {
  std::multimap<Edge, Edge> joined;
  const auto join = [&](const Edge& a, const Edge& b) {
    joined.emplace(a, b);
    joined.emplace(b, a);
  };
  for (int y = 0; y + 1 < f.height; ++y)
    for (int x = 0; x + 1 < f.width; ++x) {
      const bool a = f.at(x, y) >= kLevel, b = f.at(x + 1, y) >= kLevel, c = f.at(x, y + 1) >= kLevel,
                 d = f.at(x + 1, y + 1) >= kLevel;
      std::vector<Edge> cut;
      if (a != b) cut.push_back({x, y, 0});
      if (b != d) cut.push_back({x + 1, y, 1});
      if (c != d) cut.push_back({x, y + 1, 0});
      if (a != c) cut.push_back({x, y, 1});
      for (std::size_t i = 0; i + 1 < cut.size(); i += 2) join(cut[i], cut[i + 1]);
    }
  std::vector<std::vector<Spot2>> rings;
  while (!joined.empty()) {
    std::vector<Spot2> ring;
    Edge at = joined.begin()->first;
    for (auto next = joined.find(at); next != joined.end(); next = joined.find(at)) {
      ring.push_back(crossing(f, at));
      const Edge to = next->second;
      joined.erase(next);
      const auto [first, last] = joined.equal_range(to);
      const auto back = std::find_if(first, last, [&](const auto& entry) { return entry.second == at; });
      if (back != last) joined.erase(back);
      at = to;
    }
    rings.push_back(std::move(ring));
  }
  return rings;
}

double areaOf(const std::vector<Spot2>& ring) {
  double twice = 0;
  for (std::size_t i = 0; i < ring.size(); ++i) {
    const Spot2 &a = ring[i], &b = ring[(i + 1) % ring.size()];
    twice += a.x * b.y - b.x * a.y;
  }
  return std::abs(twice) / 2;
}

} // namespace

std::vector<std::vector<Spot2>> outlineOf(const CombineReport::Place& place, const Roi& crop) {
  constexpr int kMargin = 2 * kReach + 1;
  Field f = maskOf(place, kMargin);
  for (int pass = 0; pass < 2; ++pass) f = smoothed(smoothed(f, 1, 0), 0, 1);
  // A cell on its own keeps the top of its own hill.
  const float top = *std::max_element(f.value.begin(), f.value.end());
  if (top < 2 * kLevel)
    for (float& v : f.value) v *= 2 * kLevel / std::max(top, 1e-6f);
  auto rings = ringsOf(f);
  double largest = 0;
  for (const auto& ring : rings) largest = std::max(largest, areaOf(ring));
  std::erase_if(rings, [&](const auto& ring) { return areaOf(ring) < kCrumb * largest; });
  for (auto& ring : rings)
    for (Spot2& p : ring) {
      p.x = ((place.cells.x + p.x - kMargin + 0.5) * place.cell - crop.x) / crop.width;
      p.y = ((place.cells.y + p.y - kMargin + 0.5) * place.cell - crop.y) / crop.height;
    }
  return rings;
}

} // namespace ml
