// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "merge/consistency.h"

namespace ml {

/// As findConsistency, for frames of which some are lent (MergeOptions::lent): these are not compared with anything and
/// have no share, but where the user takes a place from them; there nobody else has one.
[[nodiscard]] Consistency consistencyWithLent(const std::vector<PlacedFrame>& frames, const MergeOptions& options,
                                              const Progress& progress);

/// Marks cells in which photosites of a frame that lies in place are full, or nearly.
void markFull(const Frame& mosaic, int cell, CellMask& cells);

/// 1 where any of them has a share.
[[nodiscard]] CellMask lentCells(const Consistency& consistency, const std::vector<int>& lent);

} // namespace ml
