// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "base/result.h"
#include "capture/frame.h"

#include <string>
#include <vector>

namespace ml {

/// Frames of one set, darkest first.
using OwnFrames = std::vector<const Frame*>;

/// Stops from each frame to the next by their settings.
[[nodiscard]] std::vector<double> stepsSaid(const OwnFrames& frames);

/// Frames whose settings and pixels cannot both be right (wrong times, or frames of another place). Errors:
/// Contradiction, with the figure.
[[nodiscard]] Result<void> checkSteps(const OwnFrames& frames);

/// A sentence for each step that the pixels contradict, read through what is known of the curve by now; `said` as the
/// files say.
[[nodiscard]] std::vector<std::string> doubtfulSteps(const OwnFrames& frames, const std::vector<double>& said);

} // namespace ml
