// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "image/image.h"
#include "positions/pose.h"

#include <array>
#include <optional>

namespace ml {

/// The circle that a fisheye lens leaves in a frame, and its axis. Pixels, centres at whole numbers.
struct FisheyeCircle {
  double x = 0, y = 0;
  double radius = 0; ///< Of what is lit.
};

/// Two fisheye lenses back to back, their circles side by side in one frame: the left one looks ahead, the right one
/// back. A ray at `a` radians from a lens's axis lies at focal a (1 + bend a^2) from its middle (equidistant with
/// one radial term, as Kannala and Brandt, PAMI 2006; cited from memory).
struct FisheyePair {
  std::array<FisheyeCircle, 2> lenses;
  double focal = 1; ///< Pixels a radian.
  double bend = 0;
  Matrix3 toRight = kIdentity3; ///< From the left lens's directions to those of the right one, whose axis is its Z.
  double widest = 0;            ///< Radians from the axis that both lenses still show.
  double residual = 0;          ///< Median of what is left between them where both look, pixels.

  [[nodiscard]] double radiusAt(double angle) const { return focal * angle * (1 + bend * angle * angle); }
  [[nodiscard]] double angleAt(double radius) const;
  /// Where lens `which` (0 left, 1 right) shows a direction of the left one.
  void pixel(int which, const Vector3& direction, double& x, double& y) const;
  /// Direction, by the left lens, of a place in the circle of lens `which`.
  [[nodiscard]] Vector3 ray(int which, double x, double y) const;
};

/// Is this a frame of two circles, and how do they lie? `tones`: one channel of stops, the frame's own size or less;
/// the answer is in its pixels. Circles are found by the dark about them; focal length, middles, bend and turn by least
/// squares over patches of the ring that both lenses see. Nothing: it is no such frame, or the rings do not agree.
[[nodiscard]] std::optional<FisheyePair> findFisheyePair(ImageView<const float> tones);

/// The same for a frame `factor` times as large.
[[nodiscard]] FisheyePair enlarged(const FisheyePair& pair, double factor);

} // namespace ml
