// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "image/image.h"
#include "positions/pose.h"

#include <cstdint>
#include <functional>

namespace ml {

/// One position seen on part of the canvas.
struct Warped {
  Image<float> stops;          ///< log2(L / unit + 4), three channels, balanced; undefined where not covered.
  Image<std::uint8_t> covered; ///< 1 where the position has a pixel with all its neighbours.
  bool any = false, all = true;
};

/// Direction that a pixel of the target looks in.
using DirectionAt = std::function<Vector3(double x, double y)>;

/// What is taken from a position's light before it is joined.
struct LightChange {
  std::array<double, 3> gain{};      ///< Stops.
  double fallOff2 = 0, fallOff4 = 0; ///< As Balance.
};

/// Resamples (Lanczos, three lobes) a picture taken by `camera` to `tile` of a plane, which may reach over its edges.
[[nodiscard]] Warped warp(const CameraGeometry& camera, const Image<std::uint16_t>& picture, const LightChange& change,
                          const DirectionAt& direction, const Roi& tile);

} // namespace ml
