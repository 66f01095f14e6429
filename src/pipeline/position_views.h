// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "ingest/grouping.h"
#include "positions/canvas.h"
#include "positions/seams.h"

#include <vector>

namespace ml {

/// Sets that are positions of one view, or its planes of focus, in the order they were shot.
struct PositionView {
  std::vector<std::size_t> sets; ///< Indices into Grouping::sets.
  std::vector<bool> planes{};    ///< Of each: it shows what is before it again, sharp at another distance.
};

/// Which sets belong together: those shot within kPositionGapSeconds of each other with the same exposures whose
/// pictures can be joined: those that overlap, and those that show the same view sharp elsewhere (planes of focus). A
/// set that merely shows the same view again is none. Every set is in one view; most are alone.
inline constexpr double kPositionGapSeconds = 60;
[[nodiscard]] std::vector<PositionView> positionViews(const Grouping& grouping, const Progress& progress);

/// Marks sets after the first of each view as GroupKind::Panorama, and only those.
void markPositions(Grouping& grouping, const Progress& progress);

/// The largest rectangle of whole rows and columns of the canvas that is covered everywhere.
[[nodiscard]] Roi coveredRectangle(const Seams& seams, const Canvas& canvas);

} // namespace ml
