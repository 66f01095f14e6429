// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "image/image.h"

#include <array>
#include <cstdint>
#include <vector>

namespace ml {

/// Samples behind a 2x2 colour filter, as they left the sensor.
struct BayerMosaic {
  ImageView<const std::uint16_t> codes; ///< One channel; strides in samples.
  std::array<int, 4> colours{
      0, 1, 1, 2}; ///< 0 red, 1 green, 2 blue at (0,0), (1,0), (0,1), (1,1): each row and column has green once.
  std::array<float, 4> black{};       ///< Code of no light, at the same four places.
  std::vector<float> rows, columns;   ///< Codes that each reads beyond black without light; empty: none does.
  float white = 65535;                ///< Code at which a photosite is full.
  std::array<float, 3> gain{1, 1, 1}; ///< White balance; the largest is 1, so that no channel is cut.
};

/// Code of no light in what is developed: noise reaches below it and is kept, else dark light would be too bright.
inline constexpr int kPedestal = 1024;

/// Share of saturation from which a photosite counts as full.
inline constexpr float kFullPhotosite = 0.985f;

/// Every pixel with its three colours: code = kPedestal + (65535 - kPedestal) * light, light 1 at saturation of the
/// channel with gain 1, channel c clips at gain[c]. Size as the mosaic, at least 16 x 16.
///
/// Green along four directions by differences of colour, weighed by how little these change there (Pekkucuksen,
/// Altunbasak, "Gradient based threshold free color filter array interpolation", ICIP 2010): no direction is chosen, so
/// noise makes no mazes. Red and blue by the same differences over the diagonals, then across. In logarithms of light:
/// shading keeps the ratios of a surface's colours, not their differences (6 dB better than in roots on scenes with a
/// lens's blur). Where differences hold still in no direction, plain means take over. A value between full photosites
/// is full; beside them light is cut where the first channel is full while colours are looked for, so that no colour
/// comes out of a clipped neighbour. In tiles, on all cores.
[[nodiscard]] Image<std::uint16_t> demosaiced(const BayerMosaic& mosaic);

/// Each block of the mosaic as one pixel, the two greens averaged: for a first look. Same codes.
[[nodiscard]] Image<std::uint16_t> binned(const BayerMosaic& mosaic);

} // namespace ml
