// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "capture/frame.h"

#include <optional>

namespace ml {

/// How many stops more light one frame shows than another.
struct SeenStep {
  double stops = 0;
  double least = 0, most = 0; ///< Where up to a twentieth of the picture shows something else (somebody walks): next to
                              ///< a gap in the distribution of light that is a wide range.
};

/// From the pixels alone: the median over quantiles of both distributions that both record (Grossberg and Nayar, ECCV
/// 2002: histograms need no alignment). Follows the frames' tables; a curve that is only assumed makes it uncertain by
/// about a tenth of itself. Empty when they share too few tones.
[[nodiscard]] std::optional<SeenStep> estimateStops(const Frame& dark, const Frame& light);

/// Gives exposures to frames that have none (`exposureKnown` false): times that follow from the pixels, the first known
/// frame fixing the scale (none known: the middle frame 1/60 s at f/8, ISO 100). False when the frames share too
/// little.
[[nodiscard]] bool estimateExposures(std::vector<Frame>& frames);

} // namespace ml
