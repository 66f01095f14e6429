// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <cstdint>

namespace ml {

/// IEEE 754 binary16, rounded to nearest even; beyond the largest half, the largest.
void toHalf(const float* in, int n, std::uint16_t* __restrict out);
/// Exact. Of finite halves.
void fromHalf(const std::uint16_t* in, int n, float* __restrict out);

} // namespace ml
