// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "positions/seams.h"

#include <functional>

namespace ml {

/// What is needed to draw any part of the joined picture.
struct JoinedView : PlacedLight {
  const Seams& seams;
};

/// Takes finished rows from `y` on: linear light, three channels, 0 where nothing covers. False: stop.
using RowsTaken = std::function<bool(int y, ImageView<const float> rows)>;

/// Draws the whole canvas tile by tile, blended across seams over several scales (Burt and Adelson 1983) in stops.
/// False when stopped.
bool drawJoined(const JoinedView& view, const RowsTaken& taken, const Progress& progress);

} // namespace ml
