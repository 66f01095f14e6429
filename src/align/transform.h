// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "image/colour.h"

namespace ml {

/// Homography from reference pixel coordinates to a frame's: (x', y', w') = h (x, y, 1). Pixel centres at whole
/// numbers.
struct Transform {
  Matrix3 h = kIdentity3;

  void map(double x, double y, double& u, double& v) const {
    const double w = h[6] * x + h[7] * y + h[8];
    u = (h[0] * x + h[1] * y + h[2]) / w;
    v = (h[3] * x + h[4] * y + h[5]) / w;
  }
  [[nodiscard]] bool isIdentity() const { return h == kIdentity3; }
  /// First `first`, then this one.
  [[nodiscard]] Transform after(const Transform& first) const { return {multiply(h, first.h)}; }
  /// The same movement seen on a picture `factor` times as large (block averages: centres shift by half a pixel).
  [[nodiscard]] Transform scaled(double factor) const;
  /// Largest distance a corner of a width x height picture moves; pixels.
  [[nodiscard]] double reach(int width, int height) const;
};

} // namespace ml
