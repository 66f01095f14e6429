// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "positions/pose.h"

#include <vector>

namespace ml {

/// The same place seen in two frames, pixels of each.
struct Match {
  double ax = 0, ay = 0, bx = 0, by = 0;
  /// How well the place in b is known: (w11 dx + w12 dy, w22 dy) has a standard deviation of one in both.
  double w11 = 1, w12 = 0, w22 = 1;
};

/// What two frames share.
struct PairMatches {
  int a = 0, b = 0; ///< Positions.
  std::vector<Match> matches;
};

/// A guess of the lens, by which pairs are tried.
struct LensGuess {
  double focal = 1; ///< Pixels.
  LensBend bend;
};

/// How one frame lies to another as far as the matches agree.
struct PairFit {
  Matrix3 turn = kIdentity3;     ///< Rays of a to rays of b.
  double shiftX = 0, shiftY = 0; ///< Pixels of a to pixels of b.
  std::vector<int> inliers;      ///< Indices of matches.
};

/// The turn that most matches agree on within `tolerance` pixels (Fischler and Bolles 1981, from two matches each).
/// Deterministic.
[[nodiscard]] PairFit fitTurn(const PairMatches& pair, const LensGuess& lens, int width, int height, double tolerance);
/// The same for a shift, from one match each.
[[nodiscard]] PairFit fitShift(const PairMatches& pair, double tolerance);

/// Rotation that brings vectors a to b in the least squares sense (Kabsch 1976).
[[nodiscard]] Matrix3 rotationBetween(const std::vector<Vector3>& a, const std::vector<Vector3>& b);

} // namespace ml
