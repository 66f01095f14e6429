// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "image/image.h"

#include <vector>

namespace ml {

/// Laplacian pyramids (Burt and Adelson 1983) of planes with one channel: filtered with 1 4 6 4 1 in both directions.
/// Borders are mirrored about the outermost pixel when halving; when doubling, mirrored at the start and repeated at
/// the end.
[[nodiscard]] constexpr int halvedSize(int n) {
  return (n + 1) / 2;
}

/// Row `y` of a plane halved: halvedSize(width) values.
void halveRow(const ImageView<const float>& fine, int y, std::vector<float>& scratch, float* out);

/// Row `y` of a plane doubled: `width` values, of which halvedSize is the coarse width.
void doubleRow(const ImageView<const float>& coarse, int y, int width, std::vector<float>& scratch, float* out);

/// into[i] += weight[i] (fine[i] - smooth[i]); `smooth` may be null.
void addDetail(const float* fine, const float* smooth, const float* weight, int n, float* into);

} // namespace ml
