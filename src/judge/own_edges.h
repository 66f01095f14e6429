// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "image/image.h"

#include <optional>

namespace ml {

/// How fine a frame draws the sharpest of its strong edges: ln of the energy of second over first differences, at a
/// place of every sixth block, along the axis where it is coarser. A Gaussian edge of sigma pixels has about
/// -ln(2 sigma^2). Needs no other frame, and so depends on what the frame shows. `light`: kNoLight where nothing is
/// known. Empty: too few strong edges.
[[nodiscard]] std::optional<double> edgeFineness(const Image<float>& light);

} // namespace ml
