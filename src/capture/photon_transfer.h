// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "base/result.h"
#include "image/image.h"

#include <vector>

namespace ml {

/// What two flat frames of one exposure say of a sensor: mean above black and temporal variance, in codes.
struct TransferPoint {
  double mean = 0, variance = 0;
};

/// A sensor as measured from the user's own frames.
struct SensorMeasurement {
  double electronsPerCode = 0; ///< 1 / K of EMVA 1288.
  double fullWell = 0;         ///< Electrons at saturation.
  double readNoise = 0;        ///< Electrons, standard deviation, quantisation taken out.
  double fitError = 0;         ///< Largest departure of a point from the line, as a share of its variance.
  std::vector<TransferPoint> points;
};

/// Mean and temporal variance of the middle of two mosaics of the same exposure: half the variance of their difference,
/// so that fixed structure of light and pixels drops out (EMVA Standard 1288, release 3.1, section 6.5). One colour of
/// the mosaic is used, the greens. Same size; `black` is the code of no light.
[[nodiscard]] TransferPoint transferPoint(ImageView<const std::uint16_t> a, ImageView<const std::uint16_t> b,
                                          double black);

/// Photon transfer: variance = K mean + dark variance. K is fitted to the points below seven tenths of saturation (EMVA
/// 1288, 6.6), weighted by their own uncertainty; the dark pair gives the read noise; saturation in codes, above black,
/// the full well. Errors: InvalidArgument with what is missing (fewer than two exposures between a twentieth and seven
/// tenths of saturation).
[[nodiscard]] Result<SensorMeasurement> measureSensor(const TransferPoint& dark,
                                                      const std::vector<TransferPoint>& flats, double saturation);

} // namespace ml
