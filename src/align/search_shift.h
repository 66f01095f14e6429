// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "align/common_tones.h"

namespace ml {

/// Whole shifts within a fifth of the picture at which the correlation of what both show has a peak, the highest first;
/// at least one, `most` at most.
[[nodiscard]] std::vector<Transform> searchShifts(const CommonTones& tones, std::size_t most);

} // namespace ml
