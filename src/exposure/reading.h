// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "exposure/ev.h"

#include <optional>
#include <string_view>
#include <vector>

namespace ml {

/// A spot reading as a photographer gives it, as EV100: "13 1/3", "EV 12.5"; a shutter time, for `aperture` and `iso`
/// unless it names its own, "1/125", "0.4 s f/4 ISO 200"; or a luminance, "4000 cd/m2" (K = 12.5, ISO 2720). Nothing
/// for anything else, and for light outside EV -15 .. 30.
[[nodiscard]] std::optional<Stops> parseReading(std::string_view text, FNumber aperture, Iso iso);

inline constexpr double kDarkestReading = -15, kBrightestReading = 30;

/// An everyday light level, for the legend of a scale of light.
struct LightLevel {
  Stops ev100;
  const char* name;
};
/// Brightest first. American National Standard PH2.7-1986, Photographic Exposure Guide, table of typical exposure
/// values; from memory, where the standard gives a range its middle.
[[nodiscard]] const std::vector<LightLevel>& everydayLight();

} // namespace ml
