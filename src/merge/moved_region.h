// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "image/image.h"

#include <cstdint>
#include <vector>

namespace ml {

/// A connected place where the frames do not show the same thing.
struct MovedRegion {
  Roi cells;                      ///< Bounds on the grid of the consistency check.
  std::vector<std::uint8_t> mask; ///< 1 inside; row after row of `cells`.
  int source = 0;                 ///< Frame that it is taken from.
  std::vector<int> recording;     ///< Frames that record most of it: those worth choosing.
  bool painted = false;           ///< Laid by the user, not found.
  [[nodiscard]] bool holds(int x, int y) const {
    x -= cells.x, y -= cells.y;
    return x >= 0 && y >= 0 && x < cells.width && y < cells.height && mask[std::size_t(y * cells.width + x)];
  }
};

/// The user's word on a place. Points in shares of the picture's width and height.
struct SourceChoice {
  struct Point {
    double x = 0, y = 0;
    friend bool operator==(const Point&, const Point&) = default;
  };
  std::vector<Point> stroke; ///< One point: the found region that holds it. More: a brush stroke.
  double radius = 0;         ///< Of the brush, share of the width; 0 for a found region.
  int frame = 0;             ///< Index among the merged frames, darkest first.
  friend bool operator==(const SourceChoice&, const SourceChoice&) = default;
};

} // namespace ml
