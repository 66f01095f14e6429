// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "tone/local_map.h"

namespace ml {

struct BaseOptions {
  int radius = 8;        ///< Of the window, in cells of the reduced grid.
  double contrast = 0.6; ///< Standard deviation in stops below which variation counts as detail.
  const Image<float>* noise =
      nullptr; ///< Standard deviation of noise in stops on the grid: three times this counts as detail too.
};

/// Edge-aware base layer of log2 luminance. `logLight`: one channel, on the reduced grid.
/// Weighted guided filter (Li, Zheng, Zhu, Yao, Wu, IEEE TIP 24, 2015) with the picture as its own guide, solved at
/// reduced size and applied at full size (He and Sun, arXiv:1505.00996). At strong edges a -> 1, so the base follows
/// the edge and no halo can appear there. Between texture and edge it changes over with the cube of the variance: with
/// the plain quotient either texture went into the base (views through windows kept 0.36 of their contrast, now 0.9) or
/// rims of 0.3 to 0.4 stop stood beside edges of 2 stops.
[[nodiscard]] LocalMap baseLayerOf(const Image<float>& logLight, const BaseOptions& options);

/// Pixel by pixel; one channel, one size.
[[nodiscard]] Image<float> product(const Image<float>& a, const Image<float>& b);

/// Mean over (2 r + 1)^2 windows, fewer cells at the border. One channel.
[[nodiscard]] Image<float> boxMean(const Image<float>& in, int radius);
/// The least of a square window, one channel.
[[nodiscard]] Image<float> leastAround(const Image<float>& in, int reach);

} // namespace ml
