// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "merge/merge.h"

namespace ml {

/// Powers of the three measures (Mertens, Kautz and Van Reeth, Pacific Graphics 2007, section 3.1).
struct FusionOptions {
  float contrast = 1, saturation = 1, exposedness = 1;
};

/// Exposure fusion of placed frames: each pixel of the frames as they would be shown (sRGB code, 0..1) is weighted by
/// its local contrast, colour and distance from mid-grey, and the frames are blended over Laplacian pyramids (Burt and
/// Adelson 1983). Frames that moved are left out where the consistency check says so. Returns linear Rec. 709 for the
/// Finish station, 0.18 = mid-tone of the result; it is a picture, not radiance: light ratios between its parts are not
/// the scene's. Errors as mergeRadiance.
Result<MergeResult> fuseExposures(const std::vector<PlacedFrame>& frames, const MergeOptions& options,
                                  const FusionOptions& fusion, const Progress& progress);

} // namespace ml
