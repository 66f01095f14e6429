// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "image/image.h"

namespace ml {

/// Root mean square of log2(a / b) over all samples where both are above `floor`, with the mean log ratio (one global
/// scale) removed. Same shape. Unit: stops. Returns NaN when no sample qualifies.
[[nodiscard]] double logRadianceError(ImageView<const float> a, ImageView<const float> b, float floor);

/// Value below which `fraction` (0..1) of the samples of a copy of `values` lie.
[[nodiscard]] float quantile(const float* values, std::size_t count, double fraction);

} // namespace ml
