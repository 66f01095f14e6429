// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <bit>
#include <cstdint>

namespace ml {

/// log2 of a positive, normal float, for inner loops that the compiler widens. Absolute error below 4e-7 (tested).
[[gnu::always_inline]] inline float fastLog2(float x) {
  const std::uint32_t bits = std::bit_cast<std::uint32_t>(x),
                      shifted = bits - 0x3f3504f3u; // mantissa in sqrt(1/2) .. sqrt(2)
  const float exponent = float(std::int32_t(shifted) >> 23);
  const float t = std::bit_cast<float>((shifted & 0x007fffffu) + 0x3f3504f3u) - 1;
  return exponent +
         t * (1.442694995f +
              t * (-0.721352931f +
                   t * (0.480916708f +
                        t * (-0.360225182f +
                             t * (0.287288882f + t * (-0.249271822f + t * (0.232652579f - t * 0.142759734f)))))));
}

/// 2^x for -126 < x < 127; garbage beyond. Relative error below 4e-7 (tested).
[[gnu::always_inline]] inline float fastExp2(float x) {
  const float shifted = x + 12582912.f; // 1.5 * 2^23: rounds to the nearest whole number
  const float whole = shifted - 12582912.f, f = x - whole;
  const float p =
      1 +
      f * (0.693147181f + f * (0.240226507f + f * (0.0555041087f +
                                                   f * (0.00961812911f + f * (0.00133335581f + f * 0.000154035304f)))));
  return p * std::bit_cast<float>((std::bit_cast<std::uint32_t>(shifted) + 127u) << 23);
}

/// The same, held to 2^-60 .. 2^60.
[[gnu::always_inline]] inline float heldExp2(float x) {
  const float most = x < 60.f ? x : 60.f;
  return fastExp2(most > -60.f ? most : -60.f);
}

/// atan2 within 2e-5 radians (Abramowitz and Stegun 1964, 4.4.49); 0 where both are 0.
[[gnu::always_inline]] inline float fastAtan2(float y, float x) {
  const float ax = x < 0 ? -x : x, ay = y < 0 ? -y : y, most = ax > ay ? ax : ay, least = ax > ay ? ay : ax;
  const float t = least / (most > 1e-30f ? most : 1e-30f), t2 = t * t;
  const float small = t * (0.9998660f + t2 * (-0.3302995f + t2 * (0.1801410f + t2 * (-0.0851330f + t2 * 0.0208351f))));
  const float steep = ay > ax ? 1.57079633f - small : small, full = x < 0 ? 3.14159265f - steep : steep;
  return y < 0 ? -full : full;
}

/// sRGB encoding (IEC 61966-2-1) of 0..1 to 0..65535, by a polynomial in the fourth root; within a fifth of a code
/// (tested).
[[gnu::always_inline]] inline float fastSrgbCode(float v) {
  const float s = __builtin_sqrtf(__builtin_sqrtf(v));
  const float curved =
      65535 *
      (-0.059704464f +
       s * (0.141575068f +
            s * (1.356261720f + s * (-0.829083198f + s * (0.625636393f + s * (-0.297157118f + s * 0.062472468f))))));
  return v <= 0.0031308f ? 12.92f * 65535 * v : curved;
}

} // namespace ml
