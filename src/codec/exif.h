// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "base/result.h"
#include "exposure/shot_metadata.h"

#include <filesystem>
#include <optional>
#include <utility>
#include <vector>

namespace ml {

/// What the file's Exif says; absent fields stay empty. A file without Exif gives an empty ShotMetadata.
[[nodiscard]] Result<ShotMetadata> readExif(const std::filesystem::path& file);

/// Latitude and longitude in degrees, north and east positive; nothing when it does not say.
[[nodiscard]] std::optional<std::pair<double, double>> readLocation(const std::filesystem::path& file);

/// Writes the fields that are present into a JPEG, TIFF or DNG that exists. Times are stored as the printed mark.
Result<void> writeExif(const std::filesystem::path& file, const ShotMetadata& metadata);

/// What the user wants of metadata.
struct MetadataWishes {
  bool keepLocation = true;
  std::string creator, rights; ///< Written where not empty.
  int ppi = 0;                 ///< Resolution for print; 0: none.
  friend bool operator==(const MetadataWishes&, const MetadataWishes&) = default;
};

/// Copies Exif, IPTC and XMP of `from` into `to`, less what no longer holds: exposure of one frame, thumbnail,
/// orientation (pixels are already turned), maker notes and raw-only tags; and without the location when `wishes` say
/// so.
Result<void> carryMetadata(const std::filesystem::path& from, const std::filesystem::path& to,
                           const std::string& software, const MetadataWishes& wishes = {});

/// Says in XMP that a JPEG or TIFF shows all directions, equirectangular (Photo Sphere XMP Metadata, namespace
/// http://ns.google.com/photos/1.0/panorama/), so that viewers look around in it.
Result<void> markSphere(const std::filesystem::path& file, int width, int height);

/// Says in XMP that a JPEG has a gain map of `bytes` bytes behind it.
Result<void> markGainMap(const std::filesystem::path& file, std::size_t bytes);

/// The same Exif as one block, for files that this library does not write; empty when there is none.
[[nodiscard]] std::vector<unsigned char> exifBlob(const std::filesystem::path& from, const std::string& software,
                                                  const MetadataWishes& wishes);

} // namespace ml
