// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "base/result.h"
#include "image/codes.h"

#include <cstdint>
#include <filesystem>
#include <vector>

namespace ml {

/// Integer picture as it lies in a file: three channels, codes 0..maxCode.
struct CodeImage {
  Codes pixels;
  int maxCode = 255;
  std::vector<unsigned char> icc; ///< Embedded profile; empty: none.
};

/// Files of more pixels are refused before memory is taken, unless they have as many bytes as so large a picture has at
/// the least: a joined view of ours, say.
inline constexpr std::int64_t kMaxPixels = 400'000'000, kMaxPixelsExplained = 4'000'000'000;
inline constexpr std::int64_t kMostPixelsOfAByte = 50;

enum class FileKind { Unknown, Jpeg, Png, Tiff, Raw, OpenExr, RadianceHdr, Heif };

/// By the first bytes, not by the name. DNG is told from TIFF by its tags' presence; other raw families by extension.
[[nodiscard]] Result<FileKind> sniff(const std::filesystem::path& file);

/// Error when width x height is not a picture we take from a file of that size.
[[nodiscard]] Result<void> checkSize(const std::filesystem::path& file, std::int64_t width, std::int64_t height);

[[nodiscard]] tl::unexpected<Error> unreadable(const std::filesystem::path& file, const std::string& why);
[[nodiscard]] tl::unexpected<Error> unwritable(const std::filesystem::path& file, const std::string& why);

} // namespace ml
