// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "positions/balance.h"

namespace ml {

/// One position seen on part of the canvas.
struct Warped {
  Image<float> stops;          ///< log2(L / unit + 4), three channels, balanced; undefined where not covered.
  Image<std::uint8_t> covered; ///< 1 where the position has a pixel with all its neighbours.
  bool any = false, all = true;
};

/// Resamples (Lanczos, three lobes) position number `position` to `tile` of the canvas, which may reach over its edges.
[[nodiscard]] Warped warp(const Arrangement& arrangement, std::size_t position, const Image<std::uint16_t>& picture,
                          const Balance& balance, const Canvas& canvas, const Roi& tile);

} // namespace ml
