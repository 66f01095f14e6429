// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "exposure/units.h"

#include <string>
#include <vector>

namespace ml {

/// How a school places its frames.
enum class SchoolShape {
  Free,          ///< The search over everything the camera offers.
  Fixed,         ///< `count` frames, `step` apart.
  SmallSteps,    ///< Five frames or more, a stop apart or less.
  FullRun,       ///< By hand, a stop apart, from the highlights to all-white.
  DarkerOnly,    ///< First frame bright for the shadows, the others darker.
  ShiftedCentre, ///< Three frames, two stops, the centre one stop below the meter's middle.
  TwoSets,       ///< Three frames, two stops, and the same again two stops darker.
  TwoExposures,  ///< One frame for the bright, one for the dark, nothing between.
  InCamera       ///< Three frames three stops apart, merged by the camera, without raw.
};

/// A named way to bracket (common practice, no source).
struct School {
  std::string id, name;
  SchoolShape shape = SchoolShape::Free;
  int count = 0;
  Stops step{0};
  std::string who;     ///< Who works this way, and why.
  std::string cost;    ///< What it costs.
  int extraFrames = 0; ///< Fired besides the bracket: a frame with flash on the window.
};

/// "auto" first.
[[nodiscard]] const std::vector<School>& schools();
[[nodiscard]] const School* findSchool(const std::string& id);

} // namespace ml
