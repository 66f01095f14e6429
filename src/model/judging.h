// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "judge/position_judge.h"
#include "session/shooting.h"

#include <memory>
#include <vector>

namespace ml {

/// What the field check knows of a set; replaced as a whole when a frame has been judged.
struct ShootState {
  std::vector<std::shared_ptr<const Sketch>> sketches; ///< As they arrived.
  std::vector<FrameJudgement> judged;
  SetVerdict verdict;
  bool ended = true;          ///< No frame is on its way.
  PositionFinding position{}; ///< How it lies beside the positions shot before it.
};

/// The active set of `view`, by the sketches of its frames; those that are not used are not judged.
[[nodiscard]] ShootState judged(const View& view, std::vector<std::shared_ptr<const Sketch>> sketches, bool ended);

} // namespace ml
