// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "judge/set_judge.h"
#include "session/job.h"

namespace ml {

/// Before and between frames: is the view's folder still there? Errors: CannotWrite with what to do.
Result<void> checkFolder(const View& view);

/// A frame of the active set has reached the disk: it is listed and the list saved. Errors: CannotWrite; the frame
/// stays listed in memory and is found again by Job::open.
Result<void> recordFrame(View& view, const std::filesystem::path& file);

/// The next free frame number in the active set's folder.
[[nodiscard]] int nextFrameNumber(const View& view);

/// What the active set is judged by: its plan, the readings with their places, the camera.
[[nodiscard]] JudgeSetup judgeSetupOf(const View& view);

/// Never changes: "soft".
[[nodiscard]] const char* idOf(Flaw flaw);
/// What the check says of a set of `view`, kept with it; `judged`: as the frames arrived.
void keepCheck(const View& view, FrameSet& set, const SetVerdict& verdict, const std::vector<FrameJudgement>& judged);

/// Darkest and brightest reading that must keep texture; nothing when fewer than two do.
[[nodiscard]] std::optional<MustKeep> mustKeepOf(const View& view);
/// What the darkest and the brightest of these readings do not know: the spread of the light inside the spot, at least
/// half a third of a stop.
[[nodiscard]] std::pair<Stops, Stops> unsureOf(const View& view);

} // namespace ml
