// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "image/image.h"
#include "merge/merge.h"

#include <vector>

/// Whether light and colour continue across the border of a place that comes from one frame.
namespace ml::zoo {

/// Steps of CIEDE2000 that are not in the truth. Measured between two strips that lie against one another (4 px deep,
/// 9 px along, side by side or one above the other), where the truth itself steps by less than 3 between them.
struct BorderSteps {
  std::vector<double> atBorders; ///< Strips that meet within two cells of a place's border.
  std::vector<double> elsewhere; ///< The same far from all borders: what noise, coding and sharpening make of it.
  int ofOurs = 0; ///< Of `atBorders` above 2: what no frame alone shows either, as its sharpening and coding left it.
  int worstX = 0, worstY = 0; ///< Where the largest of `atBorders` lies.
};

/// `found` and `truth`: linear Rec. 709 of one size; their common scale is removed and the truth's median luminance
/// shown as a grey of 0.18. `unknown`: places of which nothing is said where it is above 1 (as MadeSet::walked).
/// `alone`: each frame's light by its true curve and time in its true place, in the truth's scale; NaN where it knows
/// none.
[[nodiscard]] BorderSteps borderSteps(const Image<float>& found, const Image<float>& truth,
                                      const Image<std::uint8_t>& unknown, const MotionReport& motion,
                                      const std::vector<Image<float>>& alone = {});

} // namespace ml::zoo
