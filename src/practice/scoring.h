// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "practice/truths.h"

namespace ml {

/// How an answer did, and why, with figures.
struct Score {
  double points = 0;                    ///< 0..100
  std::vector<std::string> explanation; ///< Sentences.
  [[nodiscard]] bool passed() const { return points >= kPassed; }
  static constexpr double kPassed = 70;
};

/// Spots within a third of a stop are right; two stops off are worth nothing. Brackets are held against the exact plan:
/// 12 points for a frame too many, 30 for each stop of light left out. Faults count by kind and frame, half when only
/// the kind is right; what is not there costs as much as what was missed. Frames left out count only while the rest
/// covers. The kinds must match; an answer too many or too few is said and costs.
[[nodiscard]] Score scoreOf(const ExerciseTruth& truth, const ExerciseAnswer& answer);

/// An answer that is right.
[[nodiscard]] ExerciseAnswer rightAnswer(const ExerciseTruth& truth);

} // namespace ml
