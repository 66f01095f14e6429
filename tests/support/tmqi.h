// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "image/image.h"

namespace ml::test {

/// Tone-mapped image quality index (Yeganeh and Wang, IEEE TIP 22, 2013; constants from memory of the paper):
/// structural fidelity over five scales and statistical naturalness. `scene`: linear luminance; `picture`: grey codes
/// 0..255; one channel each, same size, at least 200 px.
struct Tmqi {
  double quality = 0, fidelity = 0, naturalness = 0;
};
[[nodiscard]] Tmqi tmqi(const Image<float>& scene, const Image<float>& picture);

} // namespace ml::test
