// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "base/progress.h"
#include "positions/canvas.h"
#include "positions/light_codes.h"

#include <array>
#include <vector>

namespace ml {

/// What brings the positions' light together: stops to take from each position and channel, and how much light the lens
/// loses towards the corners.
struct Balance {
  std::vector<std::array<double, 3>> gain; ///< Stops that a position shows too much.
  double fallOff2 = 0, fallOff4 = 0;       ///< Stops at the corner, with the square and the fourth power.
  [[nodiscard]] double lensAt(double rho2) const { return rho2 * (fallOff2 + rho2 * fallOff4); }
};

/// Least squares over what overlapping positions show of the same directions.
[[nodiscard]] Balance balanceLight(const Arrangement& arrangement, const std::vector<Image<std::uint16_t>>& pictures,
                                   const LightCodes& codes, const Canvas& canvas);

} // namespace ml
