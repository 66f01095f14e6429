// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

namespace ml {

/// Where a camera on its stand looks, and at what distance it is sharp.
struct Aim {
  double yaw = 0, pitch = 0, roll = 0; ///< Degrees: to the right, up, the camera's right side down.
  /// Of the lens, in shares of the frame's width and height: what lies to the right of the axis, and above it, is seen.
  double shiftX = 0, shiftY = 0;
  double focusMetres = 0; ///< 0: all is sharp.
  bool portrait = false;  ///< The frame stands on its short side.
  friend bool operator==(const Aim&, const Aim&) = default;
};

} // namespace ml
