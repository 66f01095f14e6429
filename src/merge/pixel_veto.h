// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "merge/variance_curve.h"

#include <array>
#include <cstdint>
#include <vector>

namespace ml {

/// One frame in a row of the reference's grid, and what the row's merge makes of it.
struct VetoFrame {
  bool placed = true;                   ///< False: all of it is clipped, `linear` holds nothing.
  std::array<const float*, 3> linear{}; ///< Light, saturation about 1.
  std::array<float, 3> clip{1, 1, 1};   ///< Where each channel clips.
  float exposure = 1;                   ///< Relative to the reference.
  VarianceCurve variance;
  float misplaced = 0;             ///< Variance of its place, square pixels.
  float unsure = 0.15f;            ///< What curve and exposure leave open of its light, relative.
  const float* share = nullptr;    ///< As the cells decided; null: 1.
  float* use = nullptr;            ///< In: trust. Out: what is used.
  std::array<float*, 3> surplus{}; ///< What single channels allow beyond; null: nothing.
  std::uint8_t* vetoed = nullptr;  ///< Out: 1 where it must not speak.
};

/// Where things moved, pixel by pixel. `decides`: 0 where nothing did, else 1 + the frame whose moment is shown. What
/// that frame records stays as it saw it, and frames that contradict it beyond noise are not used; where it is clipped,
/// frames that show less than "at least this bright" are not, and of those that remain and contradict each other what
/// most of them show, else the ones that the cells chose. So borders lie where the frames agree. Elsewhere the shares
/// of the cells count.
void vetoRow(std::vector<VetoFrame>& frames, const std::uint8_t* decides, int n);

} // namespace ml
