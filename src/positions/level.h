// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "positions/adjust.h"

#include <vector>

namespace ml {

/// Turns all poses together so that the cameras are as level as they can be thought to have been held, and the middle
/// of what they see lies straight ahead. A shifted lens: its axis lies in the middle of the shifts. One view alone:
/// straight ahead of its first frame.
void levelAndCentre(Arrangement& arrangement);
/// Turns all poses together.
void turnAll(Arrangement& arrangement, const Matrix3& turn);

/// Place of a position in the rows (from the top) and columns (from the left) of the whole.
struct GridPlace {
  int row = 0, column = 0;
};
[[nodiscard]] std::vector<GridPlace> gridOf(const Arrangement& arrangement);

} // namespace ml
