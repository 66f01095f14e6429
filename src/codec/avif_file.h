// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "codec/code_image.h"

#include <string>

namespace ml {

/// Rec. 2020 primaries and the perceptual quantiser (ITU-R BT.2100) in codes of 10 bits, 4:4:4; tagged 9/16/9 (ITU-T
/// H.273), full range. `signal`: 0..65535 of the PQ signal, three channels. `exif`: as of exifBlob, may be empty.
/// `quality` 0..100.
Result<void> writeAvifPq(const std::filesystem::path& file, ImageView<const std::uint16_t> signal, int quality,
                         const std::vector<unsigned char>& exif);

struct HdrReading {
  Image<std::uint16_t> signal;     ///< 0..65535.
  int primaries = 0, transfer = 0; ///< As in ITU-T H.273: 9 and 16 for BT.2100 PQ.
};
[[nodiscard]] Result<HdrReading> readAvif(const std::filesystem::path& file);

} // namespace ml
