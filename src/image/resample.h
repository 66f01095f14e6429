// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "image/picture_rows.h"

namespace ml {

/// Means of `factor` x `factor` blocks; the last block of a row or column may be smaller. Same channels.
[[nodiscard]] Image<float> shrink(ImageView<const float> in, int factor);

/// Area-weighted reduction to exactly width x height (each <= the input's). Same channels.
[[nodiscard]] Image<float> shrinkTo(const PictureRows& in, int width, int height);

/// Size that fits `longEdge` with the same proportions; never larger than the input.
[[nodiscard]] Roi fitted(int width, int height, int longEdge);

/// Catmull-Rom weights (Keys 1981, a = -1/2) of the four samples around a position with fraction 0 <= f < 1.
inline void cubicWeights(float f, float w[4]) {
  const float f2 = f * f, f3 = f2 * f;
  w[0] = -0.5f * f3 + f2 - 0.5f * f;
  w[1] = 1.5f * f3 - 2.5f * f2 + 1;
  w[2] = -1.5f * f3 + 2 * f2 + 0.5f * f;
  w[3] = 0.5f * f3 - 0.5f * f2;
}

} // namespace ml
