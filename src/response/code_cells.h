// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "capture/placed_frame.h"

#include <array>
#include <vector>

namespace ml {

/// How a frame's samples are compared with another's: a scale 0..1 on which noise is about even. Codes of rendered
/// files as they are; linear light as its square root.
struct CompareScale {
  explicit CompareScale(const Frame& frame);
  std::array<std::vector<float>, 3> value; ///< By code.
  bool linear = false;
};

/// Mean compared values of flat blocks, three channels; -1 where a block is not flat, out of range, or perhaps touched
/// by clipping before a colour matrix (a bright channel beside a dark one). Blocks lie `pitch` pixels of the reference
/// apart.
[[nodiscard]] Image<float> flatCells(const PlacedFrame& placed, int pitch);
/// A pitch at which a picture has about a quarter of a million blocks at most.
[[nodiscard]] int cellPitch(int width, int height);

/// Values that two frames show at the same place, gathered in bins of both.
struct PairBin {
  float count = 0, a = 0, b = 0; ///< Means of the values.
};
struct CodePairs {
  int dark = 0, light = 0; ///< Which frames.
  double stops = 0;        ///< How much more light the second gathered, by its settings.
  std::array<std::vector<PairBin>, 3> bins;
  std::size_t samples = 0;
};
/// Both on the same grid.
[[nodiscard]] CodePairs pairsOf(const Image<float>& dark, const Image<float>& light, int darkFrame, int lightFrame,
                                double stops);

} // namespace ml
