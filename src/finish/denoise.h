// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "base/progress.h"
#include "base/result.h"
#include "tone/noise.h"

namespace ml {

/// Edge-avoiding smoothing at two scales (a-trous wavelets with range weights: Dammertz, Sewtz, Hanika, Lensch,
/// High-Performance Graphics 2010): neighbours count as far as they differ by no more than the measured noise at their
/// light. `strength` 0..1. Errors: Stopped.
Result<Image<float>> denoised(ImageView<const float> radiance, const NoiseByLight& noise, double strength,
                              const Progress& progress);

} // namespace ml
