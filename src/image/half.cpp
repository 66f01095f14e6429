// SPDX-License-Identifier: GPL-3.0-or-later
#include "image/half.h"

#include "base/vector_clones.h"

#include <algorithm>
#include <bit>

namespace ml {

ML_VECTOR_CLONES void toHalf(const float* in, int n, std::uint16_t* __restrict out) {
  for (int i = 0; i < n; ++i) {
    const float held = std::min(std::max(in[i], -65504.f), 65504.f);
    const std::uint32_t bits = std::bit_cast<std::uint32_t>(held), sign = bits >> 16 & 0x8000u,
                        magnitude = bits & 0x7fffffffu;
    // Small ones (below 2^-14) are rounded by adding a number whose last place is theirs.
    const std::uint32_t small =
        std::bit_cast<std::uint32_t>(std::bit_cast<float>(magnitude) + 0.5f) - std::bit_cast<std::uint32_t>(0.5f);
    const std::uint32_t large = (magnitude + 0xfffu + (magnitude >> 13 & 1u) - 0x38000000u) >> 13;
    out[i] = std::uint16_t(sign | (magnitude < 0x38800000u ? small : large));
  }
}

ML_VECTOR_CLONES void fromHalf(const std::uint16_t* in, int n, float* __restrict out) {
  const float scale = std::bit_cast<float>(0x77800000u); // 2^112: from one exponent's middle to the other's
  for (int i = 0; i < n; ++i) {
    const std::uint32_t half = in[i], sign = (half & 0x8000u) << 16;
    const float magnitude = std::bit_cast<float>((half & 0x7fffu) << 13) * scale;
    out[i] = std::bit_cast<float>(std::bit_cast<std::uint32_t>(magnitude) | sign);
  }
}

} // namespace ml
