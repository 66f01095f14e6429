// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "align/transform.h"
#include "image/image.h"

#include <vector>

namespace ml {

struct Belief;

/// A pixel of the fixed picture that shows structure.
struct Sample {
  int x, y;
  float value, gx, gy;
};

struct Structure {
  std::vector<Sample> samples;
  double share = 0; ///< Of all pixels, those that show structure; the samples may be fewer.
};
/// Where a picture of tones low..high has a gradient above the noise.
[[nodiscard]] Structure structure(const Image<float>& fixed, float low, float high);

/// Shifts that blocks of the picture would still need after `transform`: the median length over blocks with structure
/// in both directions, pixels of this level. One step of the same method (Lucas and Kanade) for each block. 0 where
/// there are too few blocks.
struct BlockResidual {
  double median = 0;
  bool allOver =
      false; ///< Such blocks lie in every quarter of the picture: size and perspective can be told from them.
};
[[nodiscard]] BlockResidual blockResidual(const Structure& found, const Image<float>& moving,
                                          const Transform& transform, const Belief& belief, int width, int height);

/// How surely the places of a picture say that it moved: of all blocks, how much better each fits by `transform` than
/// where it lies and than moved the other way by as much (which interpolation smooths as much), as the mean over its
/// own standard error. Large and positive: it moved. Around 0 or below: nothing says so. 0 where there are too few
/// blocks.
[[nodiscard]] double proofOfMovement(const Structure& found, const Image<float>& moving, const Transform& transform,
                                     int width, int height);

/// The median correlation of the blocks of a picture after `transform`: where most of it agrees, whatever moves through
/// it. -1 where there is too little structure to tell.
[[nodiscard]] double agreement(const Structure& found, const Image<float>& moving, const Transform& transform,
                               int width, int height);

} // namespace ml
