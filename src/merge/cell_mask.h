// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "image/image.h"

#include <cstdint>
#include <vector>

namespace ml {

using CellMask = Image<std::uint8_t>; ///< 1 inside, 0 outside.

[[nodiscard]] CellMask emptyMask(int width, int height);
/// Connected components (8 neighbours), each a list of cell indices.
[[nodiscard]] std::vector<std::vector<int>> components(const CellMask& mask);
/// Grown by a square of 2 radius + 1; cost does not depend on the radius.
[[nodiscard]] CellMask dilated(const CellMask& mask, int radius);
void dropSpecks(CellMask& mask, std::size_t least);
void unite(CellMask& into, const CellMask& other);
/// Grown by `radius`, 0 inside; beyond, rising to 1 over a further `radius` cells.
[[nodiscard]] Image<float> softShare(const CellMask& mask, int radius);

} // namespace ml
