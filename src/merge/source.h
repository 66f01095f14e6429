// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "merge/merge.h"
#include "merge/variance_curve.h"

namespace ml {

/// A placed frame as the merge sees it.
struct Source {
  PlacedFrame placed;
  float exposure = 1; ///< Relative to the reference frame.
  VarianceCurve variance;
  float misplaced = 0; ///< Variance of the place, square pixels.
  const Image<float>* share = nullptr;
  int shareCell = 4;
  int index = 0;        ///< Among the frames.
  bool lent = false;    ///< Says nothing but where its share is.
  bool filling = false; ///< And where all that are not lent are full.
};

/// Exposure ratio below which a frame adds too little; information goes with exposure where photons decide, so at most
/// 2 % of signal to noise.
inline constexpr float kAddsTooLittle = 1 / 25.f;

} // namespace ml
