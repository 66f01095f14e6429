// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "practice/truths.h"

#include <cstdint>

namespace ml {

/// Frames as they lie on a card after a morning: brackets of several views, thumbs between some of them, repeats and
/// single frames. `level` 1 to 3: how many, and how close in time.
[[nodiscard]] SortTruth messyCard(std::uint64_t seed, int level);

} // namespace ml
