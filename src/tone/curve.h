// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "exposure/units.h"

#include <vector>

namespace ml {

/// Scene light and where it lands on paper; both in stops. Paper white is 0, ink black about -8.
struct Tie {
  double scene = 0, paper = 0;
  friend bool operator==(const Tie&, const Tie&) = default;
};

/// Smooth, never falling curve through ties (piecewise cubic Hermite with limited slopes: Fritsch and Carlson, SIAM J.
/// Numer. Anal. 17, 1980), straight beyond the outer ties. Needs at least two ties with increasing `scene`.
class ToneCurve {
public:
  explicit ToneCurve(std::vector<Tie> ties);
  [[nodiscard]] double operator()(double scene) const;
  [[nodiscard]] const std::vector<Tie>& ties() const { return ties_; }

private:
  std::vector<Tie> ties_;
  std::vector<double> slopes_;
};

} // namespace ml
