// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "plan/situation.h"

namespace ml {

/// One setting on the camera, in the order it is set.
struct CameraSetting {
  std::string name, value;
  std::string why; ///< May be empty.
};
/// Mode, aperture, ISO, white balance, focus, drive, timer, bracket count, step and the one time to set, all of which a
/// hand can set (or the times one by one). Fixed times come first, a compensation of the meter, which is a guess, last.
[[nodiscard]] std::vector<CameraSetting> cameraSettings(const Plan& plan, const Situation& situation,
                                                        bool feet = false);

/// What may go wrong with this plan in this situation, and what to do; most important first.
[[nodiscard]] std::vector<std::string> planWarnings(const Plan& plan, const Situation& situation);

/// To tick off before the first frame.
[[nodiscard]] std::vector<std::string> checklist(const Plan& plan, const Situation& situation);

/// Usual cautions that fit the situation; local rules come first.
[[nodiscard]] std::vector<std::string> cautions(const Plan& plan, const Situation& situation);

} // namespace ml
