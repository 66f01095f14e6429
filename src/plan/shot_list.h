// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "plan/planned_positions.h"

namespace ml {

/// One frame to be taken.
struct Shot {
  int number = 1;          ///< Of the whole list.
  int row = 1, column = 1; ///< Of the panorama; every other row goes backwards.
  int lensShift = 0;       ///< -1 down, 0 middle, +1 up.
  int plane = 1;           ///< Of focus.
  int run = 1;
  int frame = 1; ///< Inside the set.
  ExposureSettings settings;
};

struct ShotList : PositionGrid {
  std::vector<Shot> shots;
  Seconds time; ///< Sets with their timers; moving the camera in between is not counted.
  double megabytes = 0;
  double megapixels = 0; ///< Of the finished picture, overlap counted once.
};

/// What is fired at one position, run by run, each darkest first: an exposure that two runs share stands in both.
/// Frames with flash are not among them.
[[nodiscard]] std::vector<std::vector<ExposureSettings>> runsOf(const Plan& plan);

/// The plan at every position, lens shift and plane of focus. Each shift of the lens adds to the height by half a
/// frame.
[[nodiscard]] ShotList shotList(const Plan& plan, const Situation& situation);

/// RFC 4180; header row: number, row, column, shift, plane, run, frame, time, seconds, f_number, iso.
[[nodiscard]] std::string toCsv(const ShotList& list);

} // namespace ml
