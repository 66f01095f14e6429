// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "capture/frame.h"

namespace ml {

/// What a block of pixels or photosites says, saturation about 1.
struct BlockLight {
  float red = 0, green = 0, blue = 0; ///< Sums or means of light.
  float hues = 0;                     ///< How far red or blue differs more from green at one photosite than at another.
  std::uint8_t clipped = 0;           ///< One bit a channel, red the lowest: some photosite is.
};

/// Means of blocks of a mosaic that begin anywhere, their borders counting half: a block is placed by whole pixels.
/// Sides are odd, so that each colour's photosites lie about the middle, whatever colour the block begins with. Red and
/// blue are green and the means of their differences from the greens beside them: threads that fall between photosites
/// of one colour are no colour, and no movement.
class PhotositeCells {
public:
  static constexpr int kSide = 5;

  /// `limit`: codes from which a channel counts as clipped.
  PhotositeCells(const Frame& frame, const std::array<int, 3>& limit);
  /// The block must lie in the frame.
  [[nodiscard]] BlockLight at(int left, int top) const;

private:
  ImageView<const std::uint16_t> sites_;
  std::array<int, 4> pattern_;
  std::array<int, 3> limit_;
  float black_, scale_; ///< Of codes; light is linear.
};

} // namespace ml
