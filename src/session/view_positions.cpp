// SPDX-License-Identifier: GPL-3.0-or-later
#include "session/view_positions.h"

#include <algorithm>

namespace ml {

bool isAt(const FrameSet& set, const PlannedPosition& p) {
  return set.row == p.row && set.column == p.column && set.plane == p.plane;
}

bool isAt(const SpotReading& reading, const PlannedPosition& p) {
  return std::max(1, reading.row) == std::max(1, p.row) && std::max(1, reading.column) == std::max(1, p.column);
}

std::vector<ViewPosition> viewPositions(const View& view) {
  std::vector<ViewPosition> all;
  for (const PlannedPosition& planned : plannedPositions(view.situation, view.profile())) {
    ViewPosition position{planned, -1};
    for (int i = 0; i < int(view.sets.size()); ++i) {
      const FrameSet& set = view.sets[std::size_t(i)];
      if (isAt(set, planned) && std::any_of(set.frames.begin(), set.frames.end(), [](const auto& m) { return m.used; }))
        position.set = i;
    }
    all.push_back(position);
  }
  return all;
}

std::optional<int> nextMissing(const std::vector<ViewPosition>& positions, int after) {
  const int count = int(positions.size());
  for (int k = 1; k <= count; ++k) {
    const int i = (after + k) % count;
    if (positions[std::size_t(i)].set < 0) return i;
  }
  return {};
}

} // namespace ml
