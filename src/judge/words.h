// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "judge/scene_reading.h"
#include "judge/set_judge.h"

namespace ml {

/// One line on one frame.
[[nodiscard]] std::string describe(const FrameJudgement& frame);

/// Sentences on what cannot be told.
[[nodiscard]] std::string softPerhaps(const FrameJudgement& frame);
[[nodiscard]] std::string sharpnessUnknown(const FrameJudgement& frame);
[[nodiscard]] std::string lightPerhaps(int before, double stops, bool mayFlicker);
[[nodiscard]] std::string colourPerhaps(int before);

struct VerdictInput {
  std::vector<FrameJudgement> frames;
  std::vector<int> aside;                ///< Frames that gave way.
  std::vector<int> order;                ///< Frames that count, darkest first.
  std::vector<ExposureSettings> missing; ///< Planned and not there.
  std::vector<std::string> open;         ///< What cannot be told.
  SceneDistribution light;               ///< As the frames that count measured it.
};
/// The sentence and the one next action, by what weighs most: what is lost for good comes first.
[[nodiscard]] SetVerdict wordVerdict(const VerdictInput& in, const JudgeSetup& setup);

} // namespace ml
