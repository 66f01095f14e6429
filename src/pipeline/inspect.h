// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "base/progress.h"
#include "ingest/grouping.h"
#include "judge/set_judge.h"

namespace ml {

/// One set as it lies on the card, and what is wrong with it.
struct InspectedSet {
  FileGroup group;
  std::vector<FrameJudgement> frames; ///< In the order of group.files; empty when a frame could not be read.
  SetVerdict verdict;                 ///< Of a set that is complete as it is: nothing is known of a plan.
};

/// Reads every frame of every set and judges it. A frame that cannot be read makes its set's verdict. Whether the
/// camera stood on a tripod is seen from the frames. Returns what was done when stopped.
[[nodiscard]] std::vector<InspectedSet> inspectSets(const Grouping& grouping, const Progress& progress);

} // namespace ml
