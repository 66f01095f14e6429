// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "image/image.h"

#include <vector>

/// How a finished picture compares with the photographer's own frames of it: measured from 8-bit pictures alone,
/// sharing no code with the finish. Frames lie on each other.
namespace ml::test {

using Picture = Image<std::uint8_t>; ///< sRGB, three channels.

struct NaturalFigures {
  double signedL = 0,
         absoluteL = 0; ///< Mean difference of L* from the metered frame where that lies between 25 and 85.
  double contrast = 0,
         within = 0;  ///< Local contrast over that of the frame that exposes a block best: median; share in 0.8..1.25.
  double white = 0;   ///< 95th percentile of L* outside light that every frame clips.
  double atWhite = 0; ///< Share of the picture at the display's white where a frame shows more.
  double disorder =
      0; ///< Share of pairs of large places, more than a stop apart, that are printed the other way round.
};

/// The frame whose median L* is nearest 55, as one would meter the room and not the window.
[[nodiscard]] std::size_t meteredOf(const std::vector<Picture>& frames);
/// `light`: linear luminance of the same view, one channel, for the order of places.
[[nodiscard]] NaturalFigures figuresOf(const Picture& finished, const std::vector<Picture>& frames,
                                       const Image<float>& light);

} // namespace ml::test
