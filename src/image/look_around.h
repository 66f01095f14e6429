// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "image/image.h"

#include <cstdint>

namespace ml {

/// A straight look into a sphere. Degrees; the picture's middle is yaw 0.
struct Gaze {
  double yaw = 0;   ///< To the right.
  double pitch = 0; ///< Up, -90 to 90.
  double wide = 90; ///< Angle of view across the width, 20 to 120.
  friend bool operator==(const Gaze&, const Gaze&) = default;

  /// Dragging the picture by so many pixels of a view `width` wide: what is under the pointer stays under it, near the
  /// middle.
  [[nodiscard]] Gaze dragged(double dx, double dy, int width) const;
  /// Closer by steps, as of a wheel.
  [[nodiscard]] Gaze closer(double steps) const;
};

/// What is seen: width x height, bilinear, straight lines straight. `sphere` is equirectangular, three channels.
[[nodiscard]] Image<std::uint8_t> lookInto(ImageView<const std::uint8_t> sphere, const Gaze& look, int width,
                                           int height);

} // namespace ml
