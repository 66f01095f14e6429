// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "merge/merge.h"

#include <array>

namespace ml {

inline constexpr std::uint8_t kAllClipped = 7;

/// One frame as mean light on the cells of the reference's grid.
struct PlacedCells {
  Image<float>
      radiance;       ///< Relative to the exposure, tones brought to those of the other frames; -1 outside the frame.
  Image<float> sigma; ///< Standard deviation of `radiance`.
  Image<float> range; ///< How much radiance varies around: what a small misplacement could explain.
  Image<float>
      chroma; ///< Red less blue, over the mean of all three, each relative to its own saturation; and its local range.
  Image<float> chromaRange;
  Image<float> red, green;      ///< Shares of all light.
  Image<std::uint8_t> recorded; ///< 1: neither clipped nor lost in noise.
  Image<std::uint8_t> clipped;  ///< Above 0: some pixel of the cell is; one bit a channel, red the lowest.
  double exposure = 1;
  bool mixed =
      false; ///< Rendered after clipping: where a channel clips, the others are off by a part of what it lacks.

  [[nodiscard]] bool outside(int x, int y) const { return *radiance.at(x, y) < 0; }
};

/// Reads all frames on cells of `cell` pixels; `order` lists them by distance in exposure from the reference, and in
/// this order each is brought to what the nearer ones say, tone by tone: a response curve that is not the assumed one
/// must not look like movement.
[[nodiscard]] std::vector<PlacedCells> placeCells(const std::vector<PlacedFrame>& frames, int cell,
                                                  const std::vector<int>& order, const Progress& progress);

} // namespace ml
