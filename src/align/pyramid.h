// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "capture/frame.h"

#include <vector>

namespace ml {

/// Square root of the light of the brightest channel, 0..1 (noise of photons becomes even), at halving sizes; level 0
/// is the finest. `scale` is the size of a level-0 pixel in frame pixels.
struct LightPyramid {
  std::vector<Image<float>> levels;
  int scale = 1;
  double exposure = 1;       ///< Relative; tones of two pyramids differ by the square root of its ratio.
  bool linear = false;       ///< The curve is known: one ratio tells all tones.
  float floor = 0, clip = 1; ///< Tones outside carry no information.
};

/// 3x3 binomial of one channel; borders repeat.
[[nodiscard]] Image<float> smoothed(const Image<float>& in);

[[nodiscard]] LightPyramid buildPyramid(const Frame& frame);

} // namespace ml
