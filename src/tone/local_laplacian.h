// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "image/image.h"

#include <functional>

namespace ml {

/// How light around a level is placed: what differs from it little has a contrast of its own, what differs much, and
/// what is coarser than the pyramid, follows one curve for all.
struct LocalTones {
  std::function<double(double)> curve;    ///< Placed light of scene light; both log2.
  std::function<double(double)> contrast; ///< Placed stops a scene stop, around a level.
  double from = 0, to = 0;                ///< Levels of the scene.
  double reach = 3;                       ///< Stops: how much is little, by half.
  int levels = 4;                         ///< Of the pyramid.
};

/// Local Laplacian filter (Paris, Hasinoff, Kautz, SIGGRAPH 2011) over levels sampled at half the reach and
/// interpolated (Aubry et al., ACM TOG 33, 2014). Beside strong edges all follows the curve, so that nothing glows
/// there. `log`: log2 light, one channel, some 768 pixels long; the same shape comes back, placed.
[[nodiscard]] Image<float> localLaplacian(const Image<float>& log, const LocalTones& tones);

} // namespace ml
