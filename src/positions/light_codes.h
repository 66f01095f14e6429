// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "image/image.h"

#include <cstdint>
#include <vector>

namespace ml {

/// Light in 16 bits: code 0 is nothing recorded, code c is L with log2(L / unit + 4) = (c - 1) / 1024. A step is 0.0007
/// stop; noise about black keeps its mean down to -3 units.
struct LightCodes {
  float unit = 1e-5f;
  static constexpr float kSteps = 1024;
  [[nodiscard]] float light(float code) const;
  /// Light of every code.
  [[nodiscard]] std::vector<float> table() const;
  /// Light of a value in stops (the code's scale without its offset), log2(L / unit + 4).
  [[nodiscard]] float lightOfStops(float stops) const;
  /// The same for `count` values; at least 1e-30: 0 is for what nothing covers.
  void toLight(const float* stops, int count, float* light) const;
  /// A unit 14 stops below the picture's median luminance.
  [[nodiscard]] static LightCodes of(ImageView<const float> rgb);
};

/// The whole picture, three channels; times `scale`.
[[nodiscard]] Image<std::uint16_t> toLightCodes(ImageView<const float> rgb, float scale, const LightCodes& codes);

/// What the pictures are compared by: log2 of luminance over `middle`, from 1/64 of it on, in blocks of factor x factor
/// means; one channel.
[[nodiscard]] Image<float> comparedTones(const Image<std::uint16_t>& picture, const LightCodes& codes, float middle,
                                         int factor);
/// Median luminance of every 16th pixel in both directions.
[[nodiscard]] float medianLight(const Image<std::uint16_t>& picture, const LightCodes& codes);

} // namespace ml
