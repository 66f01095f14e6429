// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "codec/code_image.h"

namespace ml {

/// The main picture of a HEIF file (HEVC or AV1 inside) to RGB: 8-bit codes, or 0..65535 for 10 and 12 bits. Turned as
/// the file says.
[[nodiscard]] Result<CodeImage> readHeif(const std::filesystem::path& file);

} // namespace ml
