// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "plan/situation.h"

namespace ml {

/// One school on this scene.
struct Alternative {
  School school;
  Plan plan;
  Seconds onSite; ///< Timer, exposures and gaps.
  double megabytes = 0;
  Stops leastOverlap{0};  ///< Of neighbouring frames; negative: a gap. One frame: 0.
  double ghostPixels = 0; ///< The fastest mover, over the set; 0 without movers.
  std::string difference; ///< What it loses or gains against the recommended one, a sentence.
};

struct Comparison {
  Alternative recommended;
  std::string reason;                    ///< Why that one, a sentence.
  std::vector<Alternative> alternatives; ///< The named schools that can be shot here, in the order of schools().
  std::string extraFrames;               ///< "Do the two extra frames show?", with numbers.
  std::string oneRaw;                    ///< "Would one raw do?", with numbers.
};

/// All schools on one scene, each at its best. Errors as planBracket.
[[nodiscard]] Result<Comparison> compareSchools(const CameraProfile& camera, PlanRequest request,
                                                const Situation& situation);

/// Figures of one plan as a row of the comparison.
[[nodiscard]] Alternative alternativeOf(const Plan& plan, const School& school, const Situation& situation);

} // namespace ml
