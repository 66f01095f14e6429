// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "merge/placed_cells.h"

namespace ml {

/// Differences below noise x sigmas + relative x light + edge x local range are no movement; colours by `chroma`.
struct Sensitivity {
  float sigmas, relative, edge, chroma;
};
[[nodiscard]] Sensitivity sensitivityOf(MotionMode mode);

/// One cell of one frame.
struct Reading {
  float radiance, sigma, range, chroma, chromaRange;
  float red = 0, green = 0; ///< Shares of all light; 0: not known.
  [[nodiscard]] float channel(int c) const { return 3 * radiance * (c == 0 ? red : c == 1 ? green : 1 - red - green); }
};

[[nodiscard]] inline Reading reading(const PlacedCells& cells, int x, int y) {
  Reading r{*cells.radiance.at(x, y), *cells.sigma.at(x, y), *cells.range.at(x, y), *cells.chroma.at(x, y),
            *cells.chromaRange.at(x, y)};
  r.red = *cells.red.at(x, y), r.green = *cells.green.at(x, y);
  return r;
}
[[nodiscard]] inline bool records(const PlacedCells& cells, int x, int y) {
  return *cells.recorded.at(x, y);
}
/// Well enough to do without the others.
[[nodiscard]] inline bool recordsWell(const PlacedCells& cells, int x, int y) {
  return records(cells, x, y) && *cells.radiance.at(x, y) > 16 * *cells.sigma.at(x, y);
}

[[nodiscard]] bool agree(const Reading& a, const Reading& b, const Sensitivity& s);
/// Whether `r` can be what a frame saw there that only says "at least" (clipped) or "at most" (dark).
[[nodiscard]] bool within(const PlacedCells& frame, int x, int y, const Reading& r, const Sensitivity& s);

/// What a frame costs that something is taken from, for each stop away.
inline constexpr double kPerStop = 0.08;

/// All frames of a set on cells.
struct CellScene {
  std::vector<PlacedCells> cells;
  std::vector<std::vector<int>> orders; ///< For each frame all of them by distance in exposure from it, itself first.
  int reference = 0;
  bool emptied = false;
  [[nodiscard]] int width() const { return cells.front().radiance.width(); }
  [[nodiscard]] int height() const { return cells.front().radiance.height(); }
  [[nodiscard]] const std::vector<int>& order(int from) const { return orders[std::size_t(from)]; }
  [[nodiscard]] double stopsAway(std::size_t i, int from) const;
};

/// Whether frame `i` may have seen `truth` at a cell.
[[nodiscard]] bool same(const CellScene& scene, std::size_t i, int x, int y, const Reading& truth,
                        const Sensitivity& s);

} // namespace ml
