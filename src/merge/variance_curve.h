// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "capture/frame.h"

namespace ml {

/// Variance of one sample by its level x as floor + photon x + bend x^2, none of them negative: so that inner loops
/// need no table. The bend stands for the shoulder of a rendered curve, where a code covers more light.
struct VarianceCurve {
  float floor = 1e-8f, photon = 0, bend = 0;
  [[nodiscard, gnu::always_inline]] float at(float x) const {
    const float light = x > 0 ? x : 0.f;
    return floor + light * (photon + light * bend);
  }
};

/// Least squares of sampleVariance over levels from 2^-14 to 1, each relative to its own size.
[[nodiscard]] VarianceCurve varianceCurve(const Frame& frame);

} // namespace ml
