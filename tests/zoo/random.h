// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <cmath>
#include <cstdint>
#include <numbers>

namespace ml::zoo {

/// PCG32 (O'Neill, HMC-CS-2014-0905): the zoo's own chance, the same on every machine and library.
class Random {
public:
  explicit Random(std::uint64_t seed, std::uint64_t stream = 1) : increment_(stream << 1 | 1) {
    next();
    state_ += seed;
    next();
  }
  std::uint32_t next() {
    const std::uint64_t old = state_;
    state_ = old * 6364136223846793005ull + increment_;
    const auto shifted = std::uint32_t(((old >> 18) ^ old) >> 27), turn = std::uint32_t(old >> 59);
    return shifted >> turn | shifted << (-turn & 31);
  }
  double uniform(double low = 0, double high = 1) { return low + (high - low) * (next() / 4294967296.0); }
  /// Evenly spread logarithm.
  double logUniform(double low, double high) { return std::exp(uniform(std::log(low), std::log(high))); }
  int whole(int low, int high) { return low + int(uniform() * (high - low + 1)); }
  bool chance(double p) { return uniform() < p; }
  /// Box and Muller 1958.
  double normal() {
    if (kept_) {
      kept_ = false;
      return spare_;
    }
    const double r = std::sqrt(-2 * std::log(1 - uniform())), a = 2 * std::numbers::pi * uniform();
    spare_ = r * std::sin(a);
    kept_ = true;
    return r * std::cos(a);
  }
  /// Electrons counted where `mean` are expected: Knuth's product for few, the normal law for many.
  double poisson(double mean) {
    if (mean > 40) return std::max(0.0, std::floor(mean + std::sqrt(mean) * normal() + 0.5));
    if (mean <= 0) return 0;
    const double limit = std::exp(-mean);
    double product = uniform();
    int count = 0;
    for (; product > limit; ++count) product *= uniform();
    return count;
  }

private:
  std::uint64_t state_ = 0, increment_;
  double spare_ = 0;
  bool kept_ = false;
};

} // namespace ml::zoo
