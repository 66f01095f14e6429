// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "base/result.h"
#include "positions/adjust.h"

#include <cstdint>
#include <string>

namespace ml {

enum class Projection {
  Auto,
  Perspective,    ///< Straight lines stay straight.
  Cylindrical,    ///< Verticals stay straight; any angle to the sides.
  Equirectangular ///< Any angle; both axes in degrees.
};
[[nodiscard]] const char* nameOf(Projection projection);

/// The plane that the joined picture lies on. A direction (X right, Y down, Z ahead) lies at
/// x = centreX + focal X / Z, y = centreY + focal Y / Z; cylindrical: x by atan2(X, Z), y by Y / hypot(X, Z);
/// equirectangular: both by angles.
struct Canvas {
  Projection projection = Projection::Perspective;
  double focal = 1; ///< Pixels for tangent 1, or a radian.
  double centreX = 0, centreY = 0;
  int width = 0, height = 0;
  bool closed = false; ///< Left meets right.

  /// Direction of length one.
  [[nodiscard]] Vector3 direction(double x, double y) const;
  /// False: not on the plane. On a closed canvas x lies within half a width of the centre.
  [[nodiscard]] bool place(const Vector3& direction, double& x, double& y) const;
  /// The same view at another size.
  [[nodiscard]] Canvas scaled(double factor) const;
};

/// The canvas that holds all frames, at the scale of the frames' middles. Auto: straight lines are kept up to about 100
/// degrees, then verticals. Errors: InvalidArgument when the view does not fit the projection.
[[nodiscard]] Result<Canvas> canvasFor(const Arrangement& arrangement, Projection wish);

} // namespace ml
