// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "image/colour.h"

namespace ml {

/// Colour spaces that pictures are delivered in.
enum class ColourSpace { Srgb, DisplayP3, OpRgb };

/// Linear Rec. 709 to linear Display P3 (SMPTE EG 432-1 primaries, D65) and to opRGB (IEC 61966-2-5), made from their
/// primaries.
[[nodiscard]] const Matrix3& rec709To(ColourSpace space);
/// Linear Rec. 709 to linear Rec. 2020: ITU-R BT.2087-0, section 4, four digits.
inline constexpr Matrix3 kRec709ToRec2020{0.6274, 0.3293, 0.0433, 0.0691, 0.9195, 0.0114, 0.0164, 0.0880, 0.8956};

/// Encoding of a space, linear 0..1 to 0..1: sRGB and Display P3 by IEC 61966-2-1, opRGB by the power 256/563 of IEC
/// 61966-2-5.
[[nodiscard]] double encodeFor(ColourSpace space, double linear);

/// Chromaticities x, y of red, green, blue; the white is D65 for all.
struct Primaries {
  double xy[6];
};
[[nodiscard]] Primaries primariesOf(ColourSpace space);
/// Linear RGB of these primaries with D65 white to XYZ (SMPTE RP 177).
[[nodiscard]] Matrix3 toXyz(const Primaries& primaries);

/// Perceptual quantiser, ITU-R BT.2100-2, table 4: cd/m2 0..10000 to a signal 0..1, and back.
[[nodiscard]] double pqEncode(double nits);
[[nodiscard]] double pqDecode(double signal);
/// Paper white on a screen with a high dynamic range, cd/m2: ITU-R BT.2408-4.
inline constexpr double kPaperWhiteNits = 203;

} // namespace ml
