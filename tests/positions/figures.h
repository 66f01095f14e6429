// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "pipeline/assemble.h"
#include "position_sets.h"

#include <functional>

namespace ml::test {

/// How far an assembly is from the truth it was made from.
struct Figures {
  double degrees = 0;   ///< Worst direction of a camera's axis or side, after the whole is turned to the truth.
  double focal = 0;     ///< Relative error.
  double shift = 0;     ///< Worst, pixels, from the first position.
  double residual = 0;  ///< As the product says.
  double light = 0;     ///< Stops rms over all that is covered, one gain for all.
  double within = 0;    ///< Share within 0.2 stop.
  double covered = 0;   ///< Share of the canvas.
  double gauge[3] = {}; ///< Yaw, pitch and roll of the whole against the truth, degrees.
};
[[nodiscard]] Figures figuresOf(const PositionSet& set, const Assembly& assembly);
/// Green light of the truth as a pixel of the set's camera sees it, `direction` giving the world at any place.
[[nodiscard]] double seenAt(const PositionSet& set, const std::function<Vector3(double, double)>& direction, double x,
                            double y);
/// World direction of a pixel of an unbent, unshifted shot.
[[nodiscard]] Vector3 directionOf(const Shot& shot, double x, double y, int width, int height);
/// The whole as one picture.
[[nodiscard]] Image<float> drawn(const Assembly& assembly);

} // namespace ml::test
