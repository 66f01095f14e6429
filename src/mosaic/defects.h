// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <cstddef>
#include <cstdint>

namespace ml {

/// A mosaic as it left the sensor, whose pattern repeats every two pixels.
struct MosaicView {
  std::uint16_t* data;
  int width, height;
  std::ptrdiff_t pitch; ///< Samples from row to row.
};

/// Mends pixels that are hot, stuck or dead: one that stands out from the eight nearest of its own colour by more than
/// the noise of its tone, as measured in this mosaic, and more than their spread, while its nearest neighbours of other
/// colours do not: no lens draws a point that small. Each becomes the median of the eight. Returns how many. Mosaics
/// smaller than 16 pixels stay as they are.
std::size_t mendDefects(const MosaicView& mosaic, double black);

} // namespace ml
