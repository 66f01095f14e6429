// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "image/image.h"

#include <cstdint>

namespace ml {

/// Codes 0..65535 of three channels as the nearest of 0..255.
[[nodiscard]] Image<std::uint8_t> bytesOf(ImageView<const std::uint16_t> codes);

} // namespace ml
