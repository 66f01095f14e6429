// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "finish/recipe.h"

namespace ml {

/// Hue in degrees and chroma 0..1 (share of the largest channel) of linear colour; hue 0 for greys.
struct HueAndChroma {
  double hue = 0, chroma = 0;
};
[[nodiscard]] HueAndChroma hueOf(const float* rgb);

/// Moves saturation and lightness by hue in a row of display-linear colour: (1 - t^2)^2 of each move, t the distance
/// from its hue in its widths.
void moveHues(const std::vector<HueMove>& moves, int n, float* r, float* g, float* b);

} // namespace ml
