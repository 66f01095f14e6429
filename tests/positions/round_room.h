// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "image/image.h"

#include <array>
#include <cstdint>
#include <functional>

namespace ml::test {

/// A room about the camera whose light is known in every direction: six walls with patches, fine grain and two bright
/// windows. Written apart from the simulated camera and from src/positions; nothing of either is used here.
class RoundRoom {
public:
  explicit RoundRoom(std::uint32_t seed) : seed_(seed) {}
  /// Linear Rec. 709 in direction (x right, y down, z ahead), seen from `from` (the room is 4 x 2.4 x 4).
  [[nodiscard]] std::array<double, 3> light(std::array<double, 3> direction,
                                            std::array<double, 3> from = {0, 0, 0}) const;

private:
  [[nodiscard]] double grain(double u, double v, int wall, int octaves) const;
  std::uint32_t seed_;
};

/// One shot of it: a pinhole with a bent lens and fall-off.
struct Shot {
  double yaw = 0, pitch = 0, roll = 0; ///< Degrees; right, up, right side down.
  double focal = 500;                  ///< Pixels.
  double k1 = 0;                       ///< Bend at the corner: the ray at rho lies at rho (1 + k1 rho^2).
  double fallOff = 0;                  ///< Stops lost at the corner, with the square of the radius.
  double shiftX = 0, shiftY = 0;       ///< Of the frame's middle from the axis, pixels.
  std::array<double, 3> from{0, 0, 0};
  int rays = 3; ///< Of a pixel, in both directions.
};

/// Linear light of a width x height frame.
[[nodiscard]] Image<float> shoot(const RoundRoom& room, const Shot& shot, int width, int height);

/// Light of a world in a direction, seen from a place.
using World =
    std::function<std::array<double, 3>(const std::array<double, 3>& direction, const std::array<double, 3>& from)>;
[[nodiscard]] Image<float> shoot(const World& world, const Shot& shot, int width, int height);

} // namespace ml::test
