// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "capture/frame.h"

#include <vector>

namespace ml {

/// Does the frame show all directions? It is twice as wide as high, its left edge goes on at its right, and its first
/// and last rows, a pole each, hardly change along. A photograph that happens to be as wide does neither.
[[nodiscard]] bool showsAllDirections(const Frame& frame);

/// Frames of spheres get margins, so that aligning, movement and merging see over the wrap and the poles; what was
/// merged is cropped to the sphere again. Returns the margin.
int addSphereMargins(std::vector<Frame>& frames);

} // namespace ml
