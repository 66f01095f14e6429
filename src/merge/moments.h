// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "merge/compared_cells.h"

namespace ml {

/// The moment that is shown, for each region, and the one that most show: of the reference, unless less can be told of
/// that than of another. All show the same, so that nobody stands twice, but a region of which it tells too little.
struct Moments {
  std::vector<int> ofRegions;
  int common = -1;
};
[[nodiscard]] Moments momentsOf(const CellScene& scene, const std::vector<std::vector<int>>& regions,
                                const Sensitivity& s);

} // namespace ml
