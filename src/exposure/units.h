// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <compare>

namespace ml {

struct Seconds {
  double value = 0;
  friend auto operator<=>(const Seconds&, const Seconds&) = default;
};
struct FNumber {
  double value = 0;
  friend auto operator<=>(const FNumber&, const FNumber&) = default;
};
struct Iso {
  double value = 0;
  friend auto operator<=>(const Iso&, const Iso&) = default;
};
/// A ratio of light in powers of two; also an exposure value, which counts in the same unit.
struct Stops {
  double value = 0;
  friend auto operator<=>(const Stops&, const Stops&) = default;
  friend Stops operator+(Stops a, Stops b) { return {a.value + b.value}; }
  friend Stops operator-(Stops a, Stops b) { return {a.value - b.value}; }
};

/// What a photographer sets for one frame.
struct ExposureSettings {
  Seconds time{1.0 / 128};
  FNumber aperture{8};
  Iso iso{100};
  friend bool operator==(const ExposureSettings&, const ExposureSettings&) = default;
};

} // namespace ml
