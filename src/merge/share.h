// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "merge/consistency.h"
#include "merge/source.h"

namespace ml {

/// Bilinear values of a map on cells of `cell` pixels along pixels x0 .. x0 + count - 1 of row y; true when all of them
/// are 1 (then nothing is written).
bool shareRow(const Image<float>& share, int cell, int x0, int y, int count, float* out);

/// Whether every frame speaks for itself in a tile and `margin` pixels around: none is left out, nothing moved. `moved`
/// may be null.
[[nodiscard]] bool allSpeak(const std::vector<Source>& sources, const CellMask* moved, const Roi& tile, int margin);

} // namespace ml
