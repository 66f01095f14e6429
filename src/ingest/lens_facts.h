// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "image/lens_map.h"

#include <filesystem>
#include <optional>

namespace ml {

/// The lens of a frame, for a picture of that size, as the installed profiles know it; empty when they do not.
[[nodiscard]] std::optional<LensFacts> lensFactsOf(const std::filesystem::path& frame, int width, int height);

} // namespace ml
