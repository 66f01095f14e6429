#pragma once
#include "base/progress.h"
#include "image/image.h"

#include <vector>

namespace ml {

/// Interleaved picture filtered with 1 4 6 4 1 in both directions and halved (Burt and Adelson 1983); borders are mirrored about the
/// outermost pixel. Size (n + 1) / 2.
[[nodiscard]] Image<float> halved(const Image<float>& in);

/// into += weight * (fine - doubled(coarse)); `weight` has one channel. With an empty `coarse` the fine picture itself is added.
void addDetail(const Image<float>& fine, const Image<float>& coarse, const Image<float>& weight, Image<float>& into);

/// fine += doubled(coarse).
void addDoubled(const Image<float>& coarse, Image<float>& fine);

} // namespace ml
