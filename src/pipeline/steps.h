// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "base/result.h"
#include "ingest/estimate_exposure.h"

#include <optional>
#include <string>
#include <vector>

namespace ml {

/// Frames of one set, darkest first.
using OwnFrames = std::vector<const Frame*>;

/// From each frame to the next, stops.
struct Steps {
  std::vector<double> said;                  ///< By the settings.
  std::vector<std::optional<SeenStep>> seen; ///< By the pixels, through the curves that are assumed; empty where they
                                             ///< share too few tones or the files say no times.
};
[[nodiscard]] Steps stepsOf(const OwnFrames& frames);

/// Frames whose settings and pixels cannot both be right (wrong times, or frames of another place). Errors:
/// Contradiction, with the figure.
[[nodiscard]] Result<void> checkSteps(const OwnFrames& frames, const Steps& steps);

/// A sentence for each step that the pixels contradict, read through what is known of the curve by now.
[[nodiscard]] std::vector<std::string> doubtfulSteps(const OwnFrames& frames, const Steps& before);

} // namespace ml
