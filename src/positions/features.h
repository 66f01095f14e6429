// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "base/progress.h"
#include "image/image.h"

#include <array>
#include <vector>

namespace ml {

/// A place that can be found again in another picture, and what its surroundings look like.
struct Feature {
  float x = 0, y = 0;            ///< Pixels of the picture given.
  float size = 0;                ///< Standard deviation of the Gaussian it was found at, pixels.
  float strength = 0;            ///< Height of its extremum.
  std::array<float, 128> look{}; ///< Histograms of gradients, length one.
};

/// Extrema of differences of Gaussians with their gradient histograms (Lowe, IJCV 2004), at most `most`, spread over
/// the picture. `tones`: one channel, stops.
[[nodiscard]] std::vector<Feature> findFeatures(const Image<float>& tones, int most, const StopFlag& stop = {});

/// A pair of features (indices) of two pictures that look alike.
struct FeaturePair {
  int a = 0, b = 0;
};
/// Nearest in looks both ways, and clearly nearer than the second nearest.
[[nodiscard]] std::vector<FeaturePair> pairFeatures(const std::vector<Feature>& a, const std::vector<Feature>& b);

} // namespace ml
