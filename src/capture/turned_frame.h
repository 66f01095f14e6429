// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "capture/frame.h"

#include <vector>

namespace ml {

/// Turns a frame as if its file had said another orientation (Exif's, 1..8): pixels, the mosaic's colours, and what the
/// metadata say. What tells a camera which side is up fails where it looks at the floor or the ceiling.
void turnAs(Frame& frame, int orientation);

/// Turns the frames that differ as most of the others are, the first of them where there are as many; only frames
/// whose stored pictures are of one size. Returns the indices of those that were turned.
std::vector<std::size_t> turnAlike(std::vector<Frame>& frames);

} // namespace ml
