// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "base/progress.h"
#include "codec/code_image.h"

#include <span>
#include <vector>

namespace ml {

/// Baseline or progressive JPEG, grey or colour, to 8-bit RGB. A file that ends early is an error, not a grey area.
/// Told to stop: Stopped.
[[nodiscard]] Result<CodeImage> readJpeg(const std::filesystem::path& file, const StopFlag& stop = {});

/// The same of a file in memory; messages call it "picture".
[[nodiscard]] Result<CodeImage> readJpeg(std::span<const unsigned char> bytes);

/// Pixels as stored, from the header alone; x and y are 0. Errors as readJpeg.
[[nodiscard]] Result<Roi> jpegSize(const std::filesystem::path& file);

/// readJpeg at a half, a quarter or an eighth of its size (the transform does it), whichever still has `edge` pixels on
/// its longer side.
[[nodiscard]] Result<CodeImage> readSmallJpeg(const std::filesystem::path& file, int edge);

struct JpegOptions {
  int quality = 92;               ///< 1-100; 92 shows no blocks at 100 % (common practice, no source).
  bool fullColour = true;         ///< No chroma subsampling: red lamps and window bars keep their edges.
  std::vector<unsigned char> icc; ///< Embedded when not empty.
  bool smallest = false; ///< Code tables made for the picture: 1 to 10 % fewer bytes in more than twice the time.
  StopFlag stop{};       ///< Then Stopped, and the file is not whole.
};
/// 8-bit RGB.
Result<void> writeJpeg(const std::filesystem::path& file, ImageView<const std::uint8_t> rgb,
                       const JpegOptions& options);

} // namespace ml
