// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "capture/frame.h"

namespace ml {

/// A frame and where it lies: `toFrame` maps reference pixels to its own (homography, pixel centres at whole numbers).
struct PlacedFrame {
  const Frame* frame = nullptr;
  Matrix3 toFrame = kIdentity3;
  double misplacement =
      0; ///< Standard deviation of the place, pixels: at edges a frame that lies a little off says less.
};

} // namespace ml
