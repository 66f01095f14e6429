// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "session/job.h"

namespace ml {

/// What the planner of a view is asked, besides the readings.
struct PlanChoices {
  std::string camera = "full-frame-24";
  std::string school = "auto";
  FNumber aperture{8};
  double snrTarget = 10;
  std::optional<Iso> isoCap;
  Situation situation;
  std::optional<OwnBracket> own;
  friend bool operator==(const PlanChoices&, const PlanChoices&) = default;
};

[[nodiscard]] PlanChoices choicesOf(const View& view);
/// Puts them into the view. A camera of the user's own is brought by the caller (View::ownCamera).
void putChoices(View& view, const PlanChoices& choices);

/// The view's camera for the files that will be shot: raw and JPEG clip at different places.
[[nodiscard]] CameraProfile cameraForPlan(const View& view);
/// What the planner is asked; nothing as long as fewer than two readings must keep their texture. `cardMegabytes`: free
/// on the camera's card, where that is known.
[[nodiscard]] std::optional<PlanRequest> planRequestOf(const View& view, std::optional<double> cardMegabytes);
/// The view's plan as its readings and choices make it; nothing without readings. Errors: of planBracket.
[[nodiscard]] Result<std::optional<Plan>> planOf(const View& view, std::optional<double> cardMegabytes);

} // namespace ml
