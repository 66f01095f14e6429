// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "positions/warp.h"

#include <vector>

namespace ml {

/// How far a blend reaches from a border between layers, pixels: tiles need as much around them.
inline constexpr int kBlendReach = 96;

/// Blends layers across the borders of `held` (0: nothing, else the number of the layer plus 1) over several scales
/// (Burt and Adelson 1983), in stops, three channels. `hard` is the picture without blending; layers are filled with it
/// where they do not cover.
[[nodiscard]] Image<float> blendLayers(std::vector<Warped>& layers, const Image<float>& hard,
                                       const Image<std::uint8_t>& held);

} // namespace ml
