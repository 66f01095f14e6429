// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "merge/variance_curve.h"

#include <array>

/// The merge's arithmetic on rows of n samples; light has saturation about 1, `exposure` is relative to the reference.
namespace ml::rows {

/// How far samples can be trusted by how near they stand to clipping; light may be in any unit.
void trustOfRow(const float* light, int n, float inverseClip, float* trust);
[[nodiscard]] bool anyAboveZero(const float* in, int n);

/// What all channels of a sample allow, and what one allows beyond that, others being clipped; `share` may be null.
/// Returns whether any is allowed beyond.
bool useOfRow(const float* red, const float* green, const float* blue, const float* share, int n, float* use,
              float* beyondRed, float* beyondGreen, float* beyondBlue);

/// Adds to the light gathered by all frames, and to their exposures: over each other the estimate that the variances
/// are taken at.
void gather(const float* light, const float* use, float exposure, int n, float* sum, float* exposures);
void estimate(const float* sum, const float* exposures, int n, float* out);

void squaredGradient(const float* above, const float* row, const float* below, int n, float* out);

/// Adds a frame's light by its inverse variance at the estimate; `gradient` may be null.
void weigh(const float* light, const float* use, const float* level, const float* gradient, VarianceCurve curve,
           float exposure, float misplaced, int n, float* sum, float* weights);

/// Adds a channel whose neighbours clip, where it agrees within the noise of both, and a few hundredths of the
/// brightest channel (what coding does to a channel far below the others), with what was gathered so far: else what
/// moved, or was demosaiced otherwise, would come out coloured. `light` is merged and weighted already, and is so
/// again.
void weighSurplus(const float* sample, const float* surplus, const float* gradient, const float* brightest,
                  VarianceCurve curve, float exposure, float misplaced, int n, float* light, float* weights,
                  float* exposures);

/// Where in a row anything is above zero, in whole blocks: [first, last).
struct Stretch {
  int first = 0, last = 0;
};
[[nodiscard]] Stretch stretchOf(const float* in, int n);

[[nodiscard]] bool anyAtMost(const float* a, const float* b, const float* c, float limit, int n);
void largestOfThree(const float* a, const float* b, const float* c, int n, float* out);
void divide(const float* sum, const float* weights, int n, float* out);
void toRec709(const float* r, const float* g, const float* b, const float* matrix, int n, float* out);

/// The same in place, three values a pixel.
void toRec709(float* pixels, const float* matrix, int n);

/// Of a frame just below clipping (`use` between 0 and 1): nothing, where a darker one that records well (`sure` 1)
/// shows more than half as much again.
void doubt(const float* light, float scale, const float* darker, float darkerScale, const float* sure, int n,
           float* use);

inline constexpr float kLess = 0.7f; ///< Of what a darker frame near clipping shows: clearly less.
/// Nothing of a frame's channel, where the same channel of a darker frame is near clipping (`trust` below a half; below
/// 0 it lies outside) and shows clearly more.
void keepAtLeast(const float* light, float scale, const float* darker, float darkerScale, const float* trust, int n,
                 float* use);

/// Clipped everywhere: the darkest frame's value. A channel at its limit is at least the mean of the other two, so that
/// a lamp stays warm and a cloud grey; where all come near their limits the colour becomes neutral, never that of the
/// limits.
void clippedColour(const float* linear, const std::array<float, 3>& saturation, float exposure, float* out);

} // namespace ml::rows
