// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "exposure/aim.h"
#include "judge/sketch.h"

#include <string>

namespace ml {

/// The frames of one position: where the camera was to look, and what it saw.
struct PositionSketches {
  Aim aim;
  double focalPixels = 0; ///< Frame pixels for tangent 1, as planned.
  std::vector<std::shared_ptr<const Sketch>> frames;
};

/// How a position lies beside a neighbour that was shot before it.
struct PositionPair {
  bool found = false;              ///< What both should show was found in both.
  double yawOff = 0, pitchOff = 0; ///< Degrees further right and up than planned, seen from the neighbour.
  double overlap = 0;              ///< Share of the frame that the neighbour shows too.
  bool exposuresDiffer = false;    ///< Aperture, ISO or times are others than the neighbour's.
  double finer = 0; ///< ln of the energy of fine structure where both show the same, less the neighbour's; 0: cannot be
                    ///< told.
};

/// Compares the pair of frames with the most in common: both laid on a sphere as planned, what is left between them is
/// looked for. Level cameras of one stand; a few degrees of roll do no harm. Takes a tenth of a second.
[[nodiscard]] PositionPair comparePositions(const PositionSketches& earlier, const PositionSketches& now);

/// What is said of it; `name`: of the neighbour, "position 1".
struct PositionFinding {
  bool again = false;   ///< It must be shot again.
  std::string sentence; ///< Empty: nothing is wrong.
};
struct PositionLimits {
  double leastOverlap = 0.15; ///< Joining needs about a sixth (common practice: a third to a half is shot; no source).
  double mostOverlap = 0.85;  ///< More, where less was planned: the camera was not turned.
  double levelDegrees = 2.5;  ///< More costs height of the joined picture.
  double softer = 0.9; ///< Of `finer`: sound pairs differ by 0.1 in the tests, means of 3 x 3 pixels by 1.5 to 3.
};
[[nodiscard]] PositionFinding findingOf(const PositionPair& pair, const std::string& name, double plannedOverlap,
                                        const PositionLimits& limits = {});

} // namespace ml
