// SPDX-License-Identifier: GPL-3.0-or-later
#include "camera/photon_noise.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>

namespace ml {
namespace {

constexpr int kBits = 12, kSteps = 1 << kBits;
constexpr double kByTheLaw = 12;

double distribution(double z) {
  return 0.5 * std::erfc(-z / std::numbers::sqrt2);
}

/// Where the normal distribution reaches k / kSteps; the ends are not used.
using Steps = std::array<double, kSteps + 1>;
const Steps& steps() {
  static const Steps table = [] {
    Steps t{};
    for (std::size_t k = 1; k < kSteps; ++k) {
      double low = -6, high = 6;
      for (int i = 0; i < 60; ++i) {
        const double middle = 0.5 * (low + high);
        (distribution(middle) < double(k) / kSteps ? low : high) = middle;
      }
      t[k] = 0.5 * (low + high);
    }
    return t;
  }();
  return table;
}

double beyond(double from, RowRandom& random) {
  for (;;) {
    const double x = -std::log(random.share()) / from, y = -std::log(random.share());
    if (2 * y > x * x) return from + x;
  }
}

} // namespace

double normal(RowRandom& random) {
  static const Steps& table = steps();
  const std::uint64_t bits = random();
  const std::size_t k = bits >> (64 - kBits);
  if (k == 0) return -beyond(table[kSteps - 1], random);
  if (k == kSteps - 1) return beyond(table[kSteps - 1], random);
  const double within = double(bits & ((std::uint64_t(1) << 40) - 1)) * 0x1p-40;
  return table[k] + within * (table[k + 1] - table[k]);
}

double photons(double mean, RowRandom& random) {
  if (!(mean > 0)) return 0;
  if (mean > kByTheLaw) {
    const double z = normal(random);
    return std::max(0.0, std::floor(mean + std::sqrt(mean) * z + (z * z - 1) / 6 + 0.5));
  }
  constexpr int kMost = 80; // of 12: one in 10^37
  double chance = std::exp(-mean), sum = chance;
  const double at = random.share();
  int n = 0;
  while (sum < at && n < kMost) {
    ++n;
    chance *= mean / n;
    sum += chance;
  }
  return n;
}

} // namespace ml
