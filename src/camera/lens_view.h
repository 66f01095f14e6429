// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "exposure/aim.h"
#include "exposure/units.h"
#include "image/image.h"

namespace ml {

/// What a lens without distortion draws on a frame of square pixels.
struct LensView {
  Aim aim;
  double focalMm = 24;       ///< On a sensor 36 mm wide, the long side of the frame.
  FNumber aperture{8};       ///< Says how deep the sharpness is.
  int width = 0, height = 0; ///< Of the frame lying on its long side.

  [[nodiscard]] int columns() const { return aim.portrait ? height : width; }
  [[nodiscard]] int rows() const { return aim.portrait ? width : height; }
  /// Pixels for tangent 1. Focusing near moves the lens away from the sensor and enlarges: f / (1 - f / distance).
  [[nodiscard]] double focalPixels() const;
  /// Diameter in pixels of the disc that a point at so many dioptres (1 / metres) becomes: f^2 / N times the difference
  /// of dioptres. Any handbook of optics; Ray, Applied Photographic Optics, 2002, ch. 22.
  [[nodiscard]] double blurPixels(double dioptres) const;
};

/// For every pixel of the frame the place (u, v) in an equirectangular picture `width` x `height` (middle: straight
/// ahead; pixels count from their centres); two channels.
[[nodiscard]] Image<float> directionsOf(const LensView& view, int width, int height);
/// `picture` where `places` point: cubic, but never beyond its four nearest values; left meets right.
[[nodiscard]] Image<float> drawnAt(const Image<float>& picture, const Image<float>& places);
/// The nearest pixel instead: for what must not be mixed.
[[nodiscard]] Image<float> nearestAt(const Image<float>& picture, const Image<float>& places);
/// `sharp` as it is when only one distance is; `dioptres`: of every pixel. What is near spreads over what is far, what
/// is far does not spread over what is sharp before it.
[[nodiscard]] Image<float> withDepth(const Image<float>& sharp, const Image<float>& dioptres, const LensView& view);

} // namespace ml
