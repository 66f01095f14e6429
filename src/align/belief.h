// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "align/structure.h"

#include <cmath>

namespace ml {

struct CommonTones;

/// How far residuals of samples are believed.
struct Belief {
  double huber = 1e9; ///< Beyond it they lose weight.
  double reach = 0;   ///< Pixels: what would need more to be explained hardly counts (Geman and McClure); 0: all count.
  double even = 0;    ///< Gradient added to each: where there is little, noise explains a residual.
  double edge = 0;    ///< Pixels by which tones that are not told apart rightly move an edge, however strong it is.
  [[nodiscard]] double weight(double size, double gx, double gy) const {
    const double held = size > huber ? huber / size : 1;
    if (reach <= 0) return held;
    const double noise = reach * even, squared = gx * gx + gy * gy, t = size / (reach * std::sqrt(squared) + noise),
                 g = 1 / (1 + t * t);
    return g * g * noise * noise / (noise * noise + edge * edge * squared);
  }
};

/// By what the samples would need to be explained, pixels: the length that two fifths of them stay below, doubled. What
/// moves is rarely more than half of all structure.
[[nodiscard]] Belief beliefOf(const std::vector<Sample>& samples, const CommonTones& tones, const Transform& transform);

} // namespace ml
