// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "positions/fisheye_pair.h"

#include <array>
#include <optional>

namespace ml {

/// Two circles of light side by side in the dark, as wide as high each; nothing: there are none. `tones` in stops.
[[nodiscard]] std::optional<std::array<FisheyeCircle, 2>> fisheyeCircles(ImageView<const float> tones);

} // namespace ml
