// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <bit>
#include <cstdint>
#include <numbers>

namespace ml {

/// Half stops from 1 down or up, rounded down: the whole part of 2 log2(light). `light` is a positive normal number.
[[nodiscard]] inline int halfStop(float light) {
  const auto bits = std::bit_cast<std::uint32_t>(light);
  const float mantissa = std::bit_cast<float>((bits & 0x007fffffu) | 0x3f800000u); // 1 to 2
  return 2 * (int(bits >> 23) - 127) + (mantissa >= std::numbers::sqrt2_v<float> ? 1 : 0);
}

} // namespace ml
