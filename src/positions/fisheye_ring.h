// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "positions/fisheye_pair.h"

#include <array>
#include <vector>

namespace ml {

/// Half the width of the narrowest ring seen by both lenses that says how they lie, radians.
inline constexpr double kLeastRing = 1.5 * kDegree;

/// How the right lens is turned about its axis against one whose top is up, and how alike the two rings are then
/// (normalised correlation).
struct RingTurn {
  double radians = 0, alike = 0;
};
[[nodiscard]] RingTurn turnBetweenRings(ImageView<const float> tones, const FisheyePair& pair);

/// One thing in both circles: pixels of the frame.
struct RingMatch {
  std::array<double, 2> left, right;
};
struct RingMatches {
  std::vector<RingMatch> matches;
  int tried = 0; ///< Patches with something to see.
};
/// Patches about the ring, sought within `reach` radians of where `pair` expects them.
[[nodiscard]] RingMatches matchRings(ImageView<const float> tones, const FisheyePair& pair, double reach);

/// The ring as both lenses show it: columns once around from the left lens's X over its Y, rows from the left lens's
/// side to the right one's, a quarter turn from the axes in the middle.
struct RingPictures {
  std::array<Image<float>, 2> lens;
  double pitch = 0, half = 0; ///< Radians between rows and columns, and from the middle to the first row.

  [[nodiscard]] Vector3 direction(double column, double row) const;
};
[[nodiscard]] RingPictures ringPictures(ImageView<const float> tones, const FisheyePair& pair, double pitch);

} // namespace ml
