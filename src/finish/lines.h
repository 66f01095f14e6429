// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "finish/recipe.h"

namespace ml {

/// How a camera was held, from the straight lines in its picture. Degrees; what is to be turned back.
struct Verticals {
  double roll = 0, pitch = 0;
  int edges = 0;   ///< Edge pixels that agree.
  double lean = 0; ///< Of plumb lines at two thirds of the way to the sides, degrees; what the eye sees.
  [[nodiscard]] bool found() const { return edges >= 200; }
};

/// Edges within 20 degrees of plumb vote for one vanishing point of the vertical, by weighted least squares with
/// outliers given up (Hartley and Zisserman, section 8.6.1; Huber weights). `logLight`: one channel. `focal` in half
/// long edges.
[[nodiscard]] Verticals findVerticals(const Image<float>& logLight, double focal);

/// Tilt of the longest nearly level edges, degrees; 0 when there are too few.
[[nodiscard]] double findHorizon(const Image<float>& logLight);

} // namespace ml
