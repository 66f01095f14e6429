// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "codec/code_image.h"

#include <vector>

namespace ml {

/// Any PNG to RGB; 8-bit codes or, for 16-bit files, 0..65535. Transparency is dropped.
[[nodiscard]] Result<CodeImage> readPng(const std::filesystem::path& file);
/// `maxCode` 255 writes 8 bits a channel, 65535 writes 16.
Result<void> writePng(const std::filesystem::path& file, ImageView<const std::uint16_t> rgb, int maxCode,
                      const std::vector<unsigned char>& icc);

} // namespace ml
