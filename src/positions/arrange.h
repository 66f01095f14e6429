// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "base/progress.h"
#include "base/result.h"
#include "image/image.h"
#include "positions/adjust.h"
#include "positions/light_codes.h"

#include <optional>
#include <string>
#include <vector>

namespace ml {

enum class PositionWish { Auto, Turned, Shifted, Sphere };

struct ArrangeOptions {
  PositionWish kind = PositionWish::Auto;
  double focalKnown = 0;  ///< Pixels; 0: nothing is known.
  bool firstLook = false; ///< Good to a pixel or two is enough: pairs are looked at closely once, not three times.
};

/// What is known of how well one position is placed.
struct PositionFit {
  double residual = 0; ///< Root mean square over its matches, pixels.
  double overlap = 0;  ///< Largest share of its frame that one neighbour sees too.
  double parallax = 0; ///< What its matches differ by beyond what the lens and noise explain, pixels; 0: nothing.
};

struct Arranged {
  Arrangement arrangement;
  std::vector<PositionFit> fits;
  std::vector<PairMatches> pairs; ///< Those that hold it together.
  std::vector<std::string> remarks;
};

/// Finds how positions lie to each other. `names` say in errors which position is meant. Errors: TooFewFrames,
/// SizeMismatch, CannotAlign with the position and the reason, Stopped.
[[nodiscard]] Result<Arranged> arrangePositions(const std::vector<Image<std::uint16_t>>& pictures,
                                                const LightCodes& codes, const std::vector<std::string>& names,
                                                const ArrangeOptions& options, const Progress& progress);

} // namespace ml
