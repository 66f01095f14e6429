// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "image/colour.h"

#include <array>
#include <optional>

namespace ml {

/// What a raw file says of its camera's colour under one light (DNG specification 1.4, chapter 6).
struct IlluminantColour {
  int illuminant = 0;               ///< Exif's LightSource.
  Matrix3 fromXyz = kIdentity3;     ///< XYZ to the camera's own colour (ColorMatrix).
  std::optional<Matrix3> forward;   ///< White-balanced camera colour to XYZ of D50 (ForwardMatrix).
  Matrix3 calibration = kIdentity3; ///< From the model's colour to this camera's (CameraCalibration).
};

/// Correlated colour temperature of Exif's LightSource, kelvin; nothing for unknown and other ones.
[[nodiscard]] std::optional<double> temperatureOf(int lightSource);

/// Correlated colour temperature of a chromaticity, kelvin (McCamy, Color Research and Application 17, 1992; within 2 K
/// on the locus from 2856 to 6504 K).
[[nodiscard]] double temperatureOf(double x, double y);

/// White-balanced camera colour to linear Rec. 709, (1, 1, 1) to (1, 1, 1): between two illuminants by the inverse of
/// the temperature of the light that `neutral` (the camera's values of white, `analogBalance` inside) was, found by
/// iteration; by the forward matrices where both have one, else by the colour matrices and Bradford's adaptation.
/// Nothing when the two illuminants cannot be told apart or a matrix cannot be inverted.
[[nodiscard]] std::optional<Matrix3> balancedToRec709(const std::array<IlluminantColour, 2>& lights,
                                                      const std::array<double, 3>& analogBalance,
                                                      const std::array<double, 3>& neutral);

} // namespace ml
