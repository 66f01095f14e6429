// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "exposure/aim.h"
#include "plan/situation.h"

#include <vector>

namespace ml {

/// One position of the camera as it is planned. Row and column count from 1 at the top left, planes of focus from the
/// nearest; 0 where there is only one.
struct PlannedPosition {
  int row = 0, column = 0, plane = 0;
  int lensShift = 0; ///< 1 up, 0 middle, -1 down.
  Aim aim{};
};

/// How many there are each way.
struct PositionGrid {
  int rows = 1, columns = 1, shifts = 1, planes = 1;
  double columnFov = 0, rowFov = 0; ///< Degrees of one position.
  [[nodiscard]] int count() const { return rows * columns * shifts * planes; }
};
[[nodiscard]] PositionGrid positionGrid(const Situation& situation, const CameraProfile& camera);

/// All positions in the order in which the camera moves least: every other row backwards, planes of focus last. Columns
/// and rows share the whole angle evenly; a full circle begins behind the camera's left. A shifted lens goes half a
/// frame up and down. Planes of focus are even steps of 1 / distance, from `focusDistance` to far away.
[[nodiscard]] std::vector<PlannedPosition> plannedPositions(const Situation& situation, const CameraProfile& camera);

} // namespace ml
