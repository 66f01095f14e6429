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

/// Light of a photosite as a code: kPedestal + kLightRange * light, rounded and held to 16 bits; light is 1 at
/// saturation of the channel with gain 1, and channel c clips at gain[c].
inline constexpr int kLightRange = 65535 - kPedestal;

/// Light of `n` such codes.
void lightOfCodes(const std::uint16_t* codes, int n, float* light);

/// What each photosite says, as such codes; one channel, size as the mosaic.
[[nodiscard]] Image<std::uint16_t> photositeCodes(const BayerMosaic& mosaic);

/// Each block of the mosaic as one pixel of three such codes, the two greens averaged: for a first look.
[[nodiscard]] Image<std::uint16_t> binned(const BayerMosaic& mosaic);

} // namespace ml
