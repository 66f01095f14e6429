// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "merge/consistency.h"
#include "merge/tile.h"

#include <functional>

namespace ml {

/// One row of one placed frame on the reference's grid: light by channel, and whether the frame is there (its share in
/// the merge, 0 outside).
struct PlacedRow {
  int x = 0, y = 0, count = 0;
  const float* linear[3];
  const float* use;      ///< 1 used .. 0 left out for movement, or outside the frame.
  const float* trust[3]; ///< null: all 1.
};

/// Reads a whole placed frame in tiles and hands over its rows; `work` is called from several threads for different
/// rows. False: stopped.
bool readPlaced(const PlacedFrame& frame, const Image<float>* share, int cell, int width, int height,
                const StopFlag& stop, const std::function<void(const PlacedRow&)>& work);

} // namespace ml
