// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "plan/planner.h"

namespace ml {

/// A plan as a camera can shoot it that has other times than third stops.
struct FittedPlan {
  Plan plan;
  bool changed = false; ///< A time is not the planned one.
  bool again = false;   ///< The frames were planned again: with the nearest times the bracket would not cover any more.
};

/// Every time becomes the nearest of `times` (seconds, any order). When the plan covered its readings and the nearest
/// times do not, frames no further apart than planned are laid anew over the camera's times, as few as cover; where
/// none do, the nearest times stay and the plan says what is missing. Empty `times`: any time can be set.
[[nodiscard]] FittedPlan fitToTimes(const Plan& plan, std::vector<Seconds> times);

} // namespace ml
