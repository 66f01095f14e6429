#pragma once
#include "capture/frame.h"

#include <array>
#include <bit>

namespace ml {

/// Variance of one sample by its level, eight entries a stop from 2^-20 of saturation to 2: looked up by the exponent and the first
/// three bits of the mantissa, so that inner loops need no logarithm. Within 5 % of the model between the entries' middles.
class VarianceTable {
public:
  explicit VarianceTable(const Frame& frame) {
    for (int i = 0; i < kEntries; ++i) {
      const double level = std::bit_cast<float>(std::uint32_t(i + kFirst) << 20) * (1 + 1.0 / 16);
      values_[std::size_t(i)] = float(sampleVariance(frame, level));
    }
  }
  [[nodiscard]] const float* data() const { return values_.data(); }
  /// Place of a level in the table.
  [[nodiscard]] static int index(float level) {
    return std::min(std::max(int(std::bit_cast<std::uint32_t>(level > 0 ? level : 0.f) >> 20) - kFirst, 0), kEntries - 1);
  }

private:
  static constexpr int kFirst = (127 - 20) * 8, kEntries = 21 * 8;
  std::array<float, kEntries> values_{};
};

} // namespace ml
