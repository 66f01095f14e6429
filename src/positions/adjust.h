// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "positions/matches.h"

#include <vector>

namespace ml {

/// How the frames came to look at different places.
enum class PositionKind { Turned, Shifted };

/// Everything that is found together. Sizes of all frames are equal.
struct Arrangement {
  PositionKind kind = PositionKind::Turned;
  int width = 0, height = 0; ///< Of each frame.
  std::vector<Pose> poses;
  std::vector<int> plane; ///< Plane of focus of each position; those of plane 0 share one focal length.
  std::vector<int> view;  ///< Positions with one number look at one place; the first of them is its number.
  LensBend bend;

  [[nodiscard]] CameraGeometry camera(std::size_t position) const { return {poses[position], bend, width, height}; }
};

struct AdjustOptions {
  double scale = 2;      ///< Residuals well above count for nothing, standard deviations of a match.
  bool freeLens = true;  ///< Focal length and bend are found too.
  double focalPrior = 0; ///< Known focal length, pixels; 0: nothing is known.
};

/// Least squares over all matches (Triggs et al. 1999; Levenberg-Marquardt with weights of Geman and McClure). Returns
/// the weighted rms residual in pixels.
double adjust(Arrangement& arrangement, const std::vector<PairMatches>& pairs, const AdjustOptions& options);

/// Distance in pixels between where match `m` of pair (a, b) lies in b and where a's place is expected there; a large
/// number where it cannot be seen.
[[nodiscard]] double residualOf(const Arrangement& arrangement, int a, int b, const Match& m);

} // namespace ml
