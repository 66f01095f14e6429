// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "base/progress.h"
#include "capture/frame.h"
#include "positions/fisheye_pair.h"

#include <optional>
#include <vector>

namespace ml {

/// Does the frame show all directions? It is twice as wide as high, its left edge goes on at its right, and its first
/// and last rows, a pole each, hardly change along. A photograph that happens to be as wide does neither.
[[nodiscard]] bool showsAllDirections(const Frame& frame);

/// Does the frame show two fisheye circles that see all directions together? In pixels of the frame.
[[nodiscard]] std::optional<FisheyePair> fisheyePairOf(const Frame& frame);

/// Frames of two circles become spheres, all drawn by the lenses and the seam of the frame that shows them first, from
/// the middle one outwards. Nothing: they are no such frames, and stay as they are. When stopped, some are drawn and
/// some are not.
std::optional<FisheyePair> drawAsSpheres(std::vector<Frame>& frames, const Progress& progress);

/// Frames of spheres get margins, so that aligning, movement and merging see over the wrap and the poles; what was
/// merged is cropped to the sphere again. Returns the margin.
int addSphereMargins(std::vector<Frame>& frames);

} // namespace ml
