// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <filesystem>
#include <memory>
#include <string>
#include <tiffio.h>

namespace ml {

using Tiff = std::unique_ptr<TIFF, void (*)(TIFF*)>;

/// `mode` as TIFFOpen's. Null when it cannot be opened; libtiff writes nothing to the terminal.
[[nodiscard]] Tiff openTiff(const std::filesystem::path& file, const char* mode);

/// What libtiff said last on this thread since a file was opened.
[[nodiscard]] const std::string& tiffMessage();

} // namespace ml
