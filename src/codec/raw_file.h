// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "codec/code_image.h"
#include "exposure/shot_metadata.h"
#include "image/colour.h"

#include <array>

namespace ml {

/// A raw file's light: linear 16-bit camera colour with the camera's white balance, highlights of each channel kept.
/// Mosaics of red, green and blue stay mosaics; other sensors (X-Trans, Foveon, four colours) are developed by LibRaw.
struct RawImage {
  Image<std::uint16_t> pixels; ///< Turned as the camera says: one channel of photosites (photositeCodes), or three.
  int black = 0;               ///< Code of no light.
  std::array<float, 3> saturation{1, 1, 1}; ///< Light at which each channel clips; 1 is code 65535.
  Matrix3 toRec709 = kIdentity3;            ///< White-balanced camera colour to linear Rec. 709.
  ShotMetadata metadata;                    ///< What LibRaw found; Exif is read apart.
  /// As Frame::pattern: of mosaics.
  std::array<int, 4> pattern{-1, -1, -1, -1};
};

/// With `edge` over 0, of pictures whose longer side is at least twice that, each block of the mosaic becomes one
/// pixel: quick, for a first look.
[[nodiscard]] Result<RawImage> readRaw(const std::filesystem::path& file, int edge = 0);

/// A raw file's samples as they left the sensor, not developed.
struct RawMosaic {
  Image<std::uint16_t> codes; ///< One channel.
  double black = 0;           ///< Code of no light.
  double white = 0;           ///< Code of saturation.
  Iso iso;                    ///< 0: not said.
  Seconds time;               ///< 0: not said.
};
/// Errors as readRaw; UnsupportedFormat when it holds no 2x2 mosaic.
[[nodiscard]] Result<RawMosaic> readMosaic(const std::filesystem::path& file);

} // namespace ml
