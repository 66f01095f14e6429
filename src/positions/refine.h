// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "base/progress.h"
#include "image/image.h"
#include "positions/adjust.h"

#include <vector>

namespace ml {

/// The tones that positions are compared by, one channel each, reduced by `factor` from the frames.
struct ComparedPictures {
  std::vector<Image<float>> tones;
  int factor = 1;
};

/// What came of looking at textured places that two frames should share.
struct PairLook {
  PairMatches found;            ///< Places that look alike, to a fraction of a pixel, pixels of the full frames.
  std::vector<Match> backwards; ///< The same from b to a, where it was looked for.
  int tried = 0;                ///< Textured places looked at.
};

/// Looks from every textured place of frame `a` for the same in `b`, near where the arrangement expects it (Lucas and
/// Kanade 1981, after light that falls off is removed). Finds what lies within about 4 pixels of the compared pictures
/// and correlates by `leastAlike`.
[[nodiscard]] PairLook lookAtPair(const Arrangement& arrangement, const ComparedPictures& pictures, int a, int b,
                                  double leastAlike);

/// Share of a's frame that b sees.
[[nodiscard]] double overlapOf(const Arrangement& arrangement, std::size_t a, std::size_t b);

} // namespace ml
