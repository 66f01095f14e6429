// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "align/belief.h"
#include "align/common_tones.h"
#include "align/register.h"
#include "align/structure.h"

namespace ml {

struct LevelFit {
  Transform transform;
  double correlation = 0, informative = 0;
  Belief belief{}; ///< Of the last step.
};
/// Places the moving picture on the fixed one from `transform` on, by what shows structure (inverse compositional,
/// robust).
[[nodiscard]] LevelFit fitLevel(const CommonTones& tones, const Structure& found, Transform transform, AlignMode mode,
                                int iterations);

} // namespace ml
