// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "codec/code_image.h"

namespace ml {

/// Radiance picture (RGBE, run-length coded rows). Ward, "Real Pixels", Graphics Gems II, 1991. Relative error of the
/// largest channel <= 1/256; the format has no negative values, they become 0.
Result<void> writeHdr(const std::filesystem::path& file, ImageView<const float> rgb);
[[nodiscard]] Result<Image<float>> readHdr(const std::filesystem::path& file);

} // namespace ml
