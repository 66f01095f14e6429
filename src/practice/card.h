// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "base/progress.h"
#include "image/image.h"
#include "practice/truths.h"

#include <vector>

namespace ml {

/// What a camera stood before when the frames of a card were shot.
struct CardScene {
  std::string name;
  Image<float> light; ///< cd/m^2, linear Rec. 709.
  double middle = 0;  ///< EV100.
};

/// Parts of the worlds that ship; the last is the floor, which a shutter pressed by mistake shows. Errors: FileMissing.
[[nodiscard]] Result<std::vector<CardScene>> cardScenes();

/// Frames of several sets in the order of their names: sets at different times, thumbs before and after, at higher
/// levels two sets of one view, clocks close together and stray frames. `scenes`: at least two, the floor last.
[[nodiscard]] SortTruth messyCard(const std::vector<CardScene>& scenes, std::uint64_t seed, int level);

/// The frame as the back of a camera shows it: sRGB codes, as large as its scene.
[[nodiscard]] Image<std::uint8_t> cardPicture(const std::vector<CardScene>& scenes, const SortTruth::CardFrame& frame,
                                              std::uint64_t seed);

} // namespace ml
