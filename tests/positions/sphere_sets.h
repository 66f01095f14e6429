// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "positions/fisheye_pair.h"
#include "round_room.h"

#include <array>
#include <filesystem>

namespace ml::test {

/// Three frames (s0.tif, s1.tif, s2.tif, two stops apart) of an ideal camera that sees all of a room at once: sRGB
/// codes of 16 bits, some noise. `turned`: by so many pixels.
void shootSphere(const RoundRoom& room, const std::filesystem::path& folder, int width, int turned);

/// Two fisheye lenses back to back, as made and not as meant.
struct TwoLenses {
  double degrees = 196;                ///< That each shows.
  double bend = 0;                     ///< A ray at a radians lies at a (1 + bend a^2).
  std::array<double, 4> off{};         ///< Of the middles, pixels: left x, y, right x, y.
  double yaw = 0, pitch = 0, roll = 0; ///< Of the right lens, off from straight back with its top up, degrees.
  std::array<double, 3> apart{};       ///< Where the right lens stands, seen from the left one.

  /// Where lens `which` shows a direction in a frame of so many pixels; false: it does not.
  [[nodiscard]] bool pixel(int which, int width, const std::array<double, 3>& direction, double& x, double& y) const;
};
/// How far two lenses as found are from two as made, pixels of a frame.
struct LensesOff {
  double between = 0; ///< From one lens to the other where both look, root mean square.
  double ring = 0;    ///< Either lens there, at most.
  double within = 0;  ///< Either lens inside, at most; a ring says little of how a lens bends there.
};
[[nodiscard]] LensesOff lensesOff(const TwoLenses& made, const FisheyePair& found, int width);

/// Two lenses drawn by a number: 188 to 206 degrees, askew by up to a degree, middles off by up to half a percent of
/// the width; every third has its right lens lying. `most`: largest bend.
[[nodiscard]] TwoLenses twoLenses(std::uint32_t seed, int width, double most);

/// Three frames as shootSphere's, of two circles in the dark.
void shootTwoLenses(const RoundRoom& room, const TwoLenses& lenses, const std::filesystem::path& folder, int width);

/// The light of all directions, equirectangular.
[[nodiscard]] Image<float> sphereOf(const RoundRoom& room, int width);

} // namespace ml::test
