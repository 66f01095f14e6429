// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <array>

namespace ml {

/// 3x3, row-major: out[r] = sum_c m[3 r + c] in[c].
using Matrix3 = std::array<double, 9>;

inline constexpr Matrix3 kIdentity3{1, 0, 0, 0, 1, 0, 0, 0, 1};

[[nodiscard]] Matrix3 multiply(const Matrix3& a, const Matrix3& b);
/// m must be invertible (asserted).
[[nodiscard]] Matrix3 inverse(const Matrix3& m);
[[nodiscard]] std::array<double, 3> apply(const Matrix3& m, const std::array<double, 3>& v);

/// Linear Rec. 709 (sRGB) primaries with D65 white to CIE XYZ. IEC 61966-2-1:1999, matrix of the informative annex.
inline constexpr Matrix3 kRec709ToXyz{0.4124, 0.3576, 0.1805, 0.2126, 0.7152, 0.0722, 0.0193, 0.1192, 0.9505};

/// Luminance of linear Rec. 709 colour; weights of ITU-R BT.709-6.
[[nodiscard]] inline float luminance(const float* rgb) {
  return 0.2126f * rgb[0] + 0.7152f * rgb[1] + 0.0722f * rgb[2];
}

/// sRGB transfer function, IEC 61966-2-1: linear 0..1 to encoded 0..1 and back; odd-symmetric below 0.
[[nodiscard]] double srgbEncode(double linear);
[[nodiscard]] double srgbDecode(double encoded);

} // namespace ml
