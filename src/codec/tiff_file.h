// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "base/progress.h"
#include "codec/code_image.h"

#include <array>
#include <functional>
#include <vector>

namespace ml {

/// Does the file hold 32-bit float samples? False when it cannot be read at all.
[[nodiscard]] bool isFloatTiff(const std::filesystem::path& file);
/// 8- or 16-bit grey or RGB TIFF to RGB codes; further channels are dropped. Errors: of reading, Stopped.
[[nodiscard]] Result<CodeImage> readTiff(const std::filesystem::path& file, const StopFlag& stop = {});
/// 32-bit float RGB TIFF.
[[nodiscard]] Result<Image<float>> readFloatTiff(const std::filesystem::path& file);

/// 16-bit RGB, deflate with horizontal prediction. `ppi`: pixels an inch in print; 0: not said. Errors:
/// CannotWrite, Stopped; then what is there of the file is for the caller to remove.
Result<void> writeTiff16(const std::filesystem::path& file, ImageView<const std::uint16_t> rgb,
                         const std::vector<unsigned char>& icc, int ppi = 0, const StopFlag& stop = {});
/// 32-bit IEEE float RGB, deflate with floating-point prediction; lossless.
Result<void> writeTiffFloat(const std::filesystem::path& file, ImageView<const float> rgb,
                            const std::vector<unsigned char>& icc);

/// The same for a picture that never exists as a whole: `fill` hands its rows on from the top.
Result<void> writeTiffFloatRows(
    const std::filesystem::path& file, int width, int height, const std::vector<unsigned char>& icc,
    const std::function<Result<void>(const std::function<Result<void>(ImageView<const float>)>& write)>& fill);

/// A Bayer mosaic (RGGB) and what a raw developer must know of it.
struct MosaicDescription {
  int blackLevel = 512, whiteLevel = 16383;
  std::array<double, 9> xyzToCamera{};    ///< DNG ColorMatrix1, D65.
  std::array<double, 3> neutral{1, 1, 1}; ///< DNG AsShotNeutral: camera value of white.
  std::string camera;
};
/// Digital negative, uncompressed 16-bit CFA. DNG Specification 1.4. `mosaic` has one channel.
Result<void> writeDng(const std::filesystem::path& file, ImageView<const std::uint16_t> mosaic,
                      const MosaicDescription& description);

} // namespace ml
