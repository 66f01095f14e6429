// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "base/progress.h"
#include "base/result.h"
#include "image/image.h"

#include <cstdint>
#include <filesystem>
#include <map>
#include <optional>
#include <string>

namespace ml {

struct DeliverOptions {
  int jpegQuality = 92;
  int longEdge = 0;                                  ///< Pixels; 0 keeps the full size.
  std::optional<std::filesystem::path> metadataFrom; ///< Frame whose Exif is carried over.
  bool sphere = false; ///< Equirectangular, of all directions: said in the metadata of JPEG and TIFF.
};

/// Writes sRGB-encoded codes (0..65535) as .jpg (8 bit), .tif (16 bit) or .png (16 bit), with the sRGB profile. Atomic.
/// Errors: UnsupportedFormat for another ending, CannotWrite.
Result<void> deliverPicture(ImageView<const std::uint16_t> picture, const std::filesystem::path& file,
                            const DeliverOptions& options);

struct RadianceOptions {
  bool half = true; ///< OpenEXR only.
  std::map<std::string, std::string>
      notes; ///< Written as string attributes into OpenEXR; the other formats carry none.
  std::optional<std::filesystem::path> metadataFrom; ///< TIFF only; OpenEXR and Radiance carry none.
  StopFlag stop{};                                   ///< OpenEXR only: Stopped, and no file.
};
/// Writes linear Rec. 709 radiance as .exr, .hdr or .tif (32-bit float). Atomic.
Result<void> deliverRadiance(ImageView<const float> radiance, const std::filesystem::path& file,
                             const RadianceOptions& options);

/// Reads what deliverRadiance wrote, or any OpenEXR, Radiance or float TIFF picture; three channels. Errors: of
/// reading, Stopped.
[[nodiscard]] Result<Image<float>> readRadiance(const std::filesystem::path& file, const StopFlag& stop = {});
/// Is it OpenEXR, Radiance or float TIFF, by its content?
[[nodiscard]] bool holdsRadiance(const std::filesystem::path& file);
/// String attributes of an OpenEXR file; none of another or an unreadable one.
[[nodiscard]] std::map<std::string, std::string> radianceNotes(const std::filesystem::path& file);

} // namespace ml
