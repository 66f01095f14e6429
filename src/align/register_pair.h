// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "align/pyramid.h"
#include "align/register.h"

namespace ml {

struct PairFit {
  Transform transform; ///< From pixels of `fixed` to pixels of `moving`, at frame size.
  double correlation = 0;
  double informative = 0;
  double residual = 0; ///< Median over blocks, pixels of the frame.
  double proof = 0; ///< As proofOfMovement; below kProven the pixels do not say that it moved, and `transform` is none.
  AlignMode model = AlignMode::Rigid;
  double still =
      0; ///< Median over blocks of what they would need where the frame lies unmoved, pixels; 0: too few blocks to say.
  double stillAgrees =
      -1; ///< Median correlation of the blocks there; -1: too few to say. Both only where no movement is proven.
};

inline constexpr double kProven = 4;

/// Fits `moving` to `fixed` starting from `initial`. `fullSearch` also looks for large shifts at the coarsest level.
[[nodiscard]] PairFit registerPair(const LightPyramid& fixed, const LightPyramid& moving, const Transform& initial,
                                   AlignMode mode, bool fullSearch);

} // namespace ml
