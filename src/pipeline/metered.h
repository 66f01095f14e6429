// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "capture/placed_frame.h"
#include "tone/rendering.h"

#include <nlohmann/json_fwd.hpp>

namespace ml {

/// The frame of a set that one would hand on if there were only one: metered for most of the scene.
struct Metered {
  int frame = -1; ///< Index into the set; -1: none.
  double lightness =
      0; ///< Median L* of that frame as it is shown: rendered files as they are, raw ones by standardRendering.
  std::vector<Tie> ties; ///< How it shows the merged light: log2 of radiance to stops below white, by the pixels.
                         ///< Empty: too little in common.
};

/// The frame whose median L* is nearest 55, and by the pixels how it shows the light of `radiance` (of the reference
/// frame, uncropped).
[[nodiscard]] Metered meteredOf(const std::vector<PlacedFrame>& frames, ImageView<const float> radiance);

[[nodiscard]] nlohmann::json meteredJson(const Metered& metered);
/// Of a report of combining; without ties when it says nothing, or nothing sound.
[[nodiscard]] Metered meteredFromReport(const nlohmann::json& combineReport);

} // namespace ml
