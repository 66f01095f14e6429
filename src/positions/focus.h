// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "base/progress.h"
#include "image/image.h"
#include "positions/adjust.h"

#include <cstdint>
#include <vector>

namespace ml {

/// Positions grouped by the place they look at, each group in the order of its planes of focus.
[[nodiscard]] std::vector<std::vector<std::size_t>> viewsOf(const Arrangement& arrangement);

struct FocusJoined {
  std::size_t target = 0;       ///< The position whose frame it lies on: of the planes, the one that sees least.
  Image<std::uint16_t> picture; ///< As that frame.
  Image<std::uint8_t> plane;    ///< Which plane gave each pixel, from 0; the same size.
};

/// Planes of focus of one view, `members` of the arrangement, to one picture: each place from the plane in which it is
/// sharp, blended over several scales. Empty when stopped.
[[nodiscard]] FocusJoined joinFocus(const Arrangement& arrangement, const std::vector<std::size_t>& members,
                                    const std::vector<Image<std::uint16_t>>& pictures, const Progress& progress);

} // namespace ml
