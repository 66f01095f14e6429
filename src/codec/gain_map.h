// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "base/result.h"
#include "image/image.h"

#include <cstdint>
#include <filesystem>
#include <vector>

namespace ml {

/// How much lighter a picture is on a screen with a high dynamic range than on paper, as logarithms (ISO 21496-1:2025):
/// light = (base + offset) 2^(gain weight) - offset, both linear with 1 at paper white, gain = least + (most - least)
/// code / 255, weight = screen's headroom / `headroom`, at most 1.
struct GainMap {
  Image<std::uint8_t> codes;  ///< Three channels, half the picture's size, rounded up.
  double least = 0, most = 0; ///< Stops.
  double headroom = 0;        ///< Stops that a screen needs above paper white to show it all.
  double offset = 1.0 / 64;   ///< Of both.
};

/// The map that leads from `base` (8-bit sRGB codes) to `light` (display-linear Rec. 709, 1 at paper white, up to
/// `headroom` stops above), both of one size.
[[nodiscard]] GainMap gainMapOf(ImageView<const std::uint8_t> base, ImageView<const float> light, double headroom);

/// What a screen with `headroom` stops shows of both: display-linear Rec. 709. The map is enlarged bilinearly.
[[nodiscard]] Image<float> lightOf(ImageView<const std::uint8_t> base, const GainMap& map, double headroom);

/// Turns a JPEG that exists, with its metadata, into one that carries `map` behind it: the block of ISO 21496-1 in both
/// pictures, the same in XMP (as programs read it that are older than the standard), the index of CIPA DC-007. Programs
/// that know none of it show the picture as it was. Errors: CannotWrite.
Result<void> attachGainMap(const std::filesystem::path& jpeg, const GainMap& map, int quality = 95);

/// The map of a JPEG that carries one in the way attachGainMap writes it. Errors: UnsupportedFormat when it carries
/// none, FileUnreadable when it is damaged.
[[nodiscard]] Result<GainMap> readGainMap(const std::filesystem::path& jpeg);

} // namespace ml
