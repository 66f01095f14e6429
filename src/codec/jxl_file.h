// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "codec/avif_file.h"

namespace ml {

/// JPEG XL with BT.2100 PQ colour, 16 bits. `distance`: 0 lossless, 1 no visible loss. `exif` may be empty.
Result<void> writeJxlPq(const std::filesystem::path& file, ImageView<const std::uint16_t> signal, float distance,
                        const std::vector<unsigned char>& exif);
[[nodiscard]] Result<HdrReading> readJxl(const std::filesystem::path& file);

} // namespace ml
