// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "image/picture_rows.h"

#include <vector>

namespace ml {

/// Noise of a picture by its light: standard deviation of luminance relative to luminance, one value for each whole
/// stop of log2 luminance.
struct NoiseByLight {
  int darkest = 0;             ///< log2 luminance of the first value.
  std::vector<float> relative; ///< Falling towards the light; empty: not measured.
  /// Interpolated; the ends hold beyond them.
  [[nodiscard]] double at(double logLight) const;
};

/// From the picture itself: second differences in blocks (Immerkaer, Computer Vision and Image Understanding 64, 1996),
/// of the blocks of each stop the quietest tenth, because texture only adds. `radiance`: three channels, full size.
[[nodiscard]] NoiseByLight measureNoise(const PictureRows& radiance);

} // namespace ml
