// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "round_room.h"

#include <filesystem>

namespace ml::test {

/// Three frames (s0.tif, s1.tif, s2.tif, two stops apart) of an ideal camera that sees all of a room at once: sRGB
/// codes of 16 bits, some noise. `turned`: by so many pixels.
void shootSphere(const RoundRoom& room, const std::filesystem::path& folder, int width, int turned);

/// The light of all directions, equirectangular.
[[nodiscard]] Image<float> sphereOf(const RoundRoom& room, int width);

} // namespace ml::test
