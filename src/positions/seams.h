// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "base/progress.h"
#include "positions/balance.h"

#include <vector>

namespace ml {

/// Which position each place of the joined picture comes from, on a reduced canvas.
struct Seams {
  Canvas canvas;
  Image<std::uint8_t> owner; ///< 0: nothing covers it; else the position plus 1.
};

/// At most this many positions can be joined.
inline constexpr int kMostPositions = 250;

/// Positions placed on a plane, and their light.
struct PlacedLight {
  const Arrangement& arrangement;
  const std::vector<Image<std::uint16_t>>& pictures;
  const LightCodes& codes;
  const Balance& balance;
  const Canvas& canvas;
};

/// Pixels of the reduced canvas: of a whole, and of a first look.
inline constexpr double kSeamPixels = 350000, kSeamPixelsOfLook = 90000;

/// Laid one position after the other by minimum cuts through what differs least (Kwatra et al. 2003), so that things
/// that moved stay whole.
[[nodiscard]] Seams laySeams(const PlacedLight& light, double pixels, const Progress& progress);

} // namespace ml
