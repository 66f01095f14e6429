// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "image/display_colour.h"

#include <optional>
#include <vector>

namespace ml {

/// sRGB, IEC 61966-2-1, made by Little CMS.
[[nodiscard]] std::vector<unsigned char> srgbProfile();
/// sRGB, Display P3 or opRGB, made by Little CMS from their primaries and curves.
[[nodiscard]] std::vector<unsigned char> profileOf(ColourSpace space);
/// Rec. 709 primaries, D65, linear transfer: for float TIFF.
[[nodiscard]] std::vector<unsigned char> linearRec709Profile();

/// An RGB profile of matrix and curves, as far as a frame needs it.
struct ProfileReading {
  Matrix3 toRec709 = kIdentity3; ///< Linear device colour to linear Rec. 709, D65.
  std::vector<float> curve;      ///< Linear light at 1024 evenly spaced codes, 0..1.
  bool linear = false;           ///< The curve is a straight line.
};
/// Empty when the bytes are no profile, or one that works by tables, or not RGB.
[[nodiscard]] std::optional<ProfileReading> readProfile(const std::vector<unsigned char>& icc);

} // namespace ml
