// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "pipeline/combine_report.h"

namespace ml {

/// The cells of a place as smooth closed lines around them, 0..1 of the picture shown; small gaps are closed and crumbs
/// beside the thing left out. Never empty for a place that has cells.
[[nodiscard]] std::vector<std::vector<Spot2>> outlineOf(const CombineReport::Place& place, const Roi& crop);

} // namespace ml
