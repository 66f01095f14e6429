// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <array>

namespace ml {

/// CIE 1976 L*, a*, b* (CIE 15:2018) of linear Rec. 709 colour, against its white D65.
[[nodiscard]] std::array<double, 3> labOf(const float* rgb);

/// CIEDE2000 (CIE 142-2001; formulas as in Sharma, Wu, Dalal, Color Research and Application 30, 2005), all weights 1.
[[nodiscard]] double ciede2000(const std::array<double, 3>& a, const std::array<double, 3>& b);

} // namespace ml
