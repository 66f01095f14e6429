// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "image/image.h"

#include <cstdint>
#include <filesystem>
#include <optional>
#include <span>

namespace ml {

/// What a raw file's header says of the samples that are wanted.
struct DngSamples {
  int width = 0, height = 0;             ///< Of the whole sensor, masked photosites included.
  std::span<const std::uint16_t> linear; ///< The file's own linearisation, of every code.
};

/// The samples of a DNG (specification 1.4) of one sample a pixel: plain 16-bit codes or lossless JPEG, in strips or
/// tiles, on all cores. Nothing when the file is of another kind, holds more than one picture of that size, or is
/// damaged: LibRaw reads those, and says what is wrong.
[[nodiscard]] std::optional<Image<std::uint16_t>> readDngSamples(const std::filesystem::path& file,
                                                                 const DngSamples& wanted);

/// The part of it that is to be shown (DefaultCropOrigin and Size), counted from the first photosite that sees light
/// (ActiveArea). `width`, `height`: as above. Nothing when the file does not say.
[[nodiscard]] std::optional<Roi> readDngCrop(const std::filesystem::path& file, int width, int height);

} // namespace ml
