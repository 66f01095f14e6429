// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "merge/consistency.h"

namespace ml {

/// Bilinear values of a map on cells of `cell` pixels along pixels x0 .. x0 + count - 1 of row y; true when all of them
/// are 1 (then nothing is written).
bool shareRow(const Image<float>& share, int cell, int x0, int y, int count, float* out);

} // namespace ml
