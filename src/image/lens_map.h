// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "image/image.h"

namespace ml {

/// Where a lens puts what it should put elsewhere: on an even grid over the picture, for each channel, the place (0..1)
/// that it is found at; and the gain that its fall-off needs.
struct LensMap {
  static constexpr int kGrid = 65;
  Image<float> places; ///< kGrid x kGrid, 6 channels: x and y for red, green, blue. Empty: no correction.
  Image<float> gain;   ///< The same grid, 1 channel. Empty: none.
};

/// Assumed where the frame does not say: 28 mm on a full frame. In half long edges.
inline constexpr double kAssumedFocal = 28.0 / 18.0;

/// What a picture's frame knows of its lens.
struct LensFacts {
  LensMap map;
  double focal = kAssumedFocal; ///< In half long edges.
};

} // namespace ml
