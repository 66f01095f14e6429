// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "plan/planned_positions.h"
#include "session/job.h"

namespace ml {

/// A position of a view as it is planned, and the set that was shot there last.
struct ViewPosition {
  PlannedPosition planned;
  int set = -1; ///< With frames that are used; -1: not shot yet.
};

/// In the order they are to be shot; one where no panorama, shift or plane is planned.
[[nodiscard]] std::vector<ViewPosition> viewPositions(const View& view);
/// Is this set, or this reading, of that position?
[[nodiscard]] bool isAt(const FrameSet& set, const PlannedPosition& position);
[[nodiscard]] bool isAt(const SpotReading& reading, const PlannedPosition& position);
/// The first that was not shot, from `after` on and then from the beginning.
[[nodiscard]] std::optional<int> nextMissing(const std::vector<ViewPosition>& positions, int after);

} // namespace ml
