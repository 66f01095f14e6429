// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <filesystem>
#include <optional>
#include <utility>

namespace ml {

/// Where a frame was taken, by its Exif: latitude and longitude in degrees, north and east positive. Nothing when it
/// does not say.
[[nodiscard]] std::optional<std::pair<double, double>> whereTaken(const std::filesystem::path& file);

} // namespace ml
