// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "finish/recipe.h"

namespace ml {

/// Local contrast of lightness in a picture, block by block, over that of an exposure made for the block: 1 is as crisp
/// as the best frame.
struct Crispness {
  double elsewhere = -1, window = -1;    ///< Medians outside and inside of windows; -1: too few blocks to say.
  std::vector<Spot2> flattest, milkiest; ///< Up to six blocks of each, the worst first; 0..1.
};

/// `scene`, `picture`: log2 luminance of the scene and stops below white, same size.
[[nodiscard]] Crispness crispnessOf(const Image<float>& scene, const Image<float>& picture,
                                    const ToneAnalysis& analysis);

} // namespace ml
