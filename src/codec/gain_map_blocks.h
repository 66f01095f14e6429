// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "codec/gain_map.h"

#include <optional>
#include <span>
#include <string>

/// The blocks of a JPEG that carries a gain map, as bytes.
namespace ml {

/// ISO 21496-1, annex C: the version alone (in the picture), and all that is said of the map (in the map). From memory.
[[nodiscard]] std::vector<unsigned char> isoVersion();
[[nodiscard]] std::vector<unsigned char> isoBlock(const GainMap& map);
/// Nothing when the JPEG holds no such block, or one that cannot be.
[[nodiscard]] std::optional<GainMap> mapFromIso(std::span<const unsigned char> jpeg);

/// The same as XMP, for programs older than the standard.
[[nodiscard]] std::string gainMapXmp(const GainMap& map);

/// Segments of a JPEG, marker and length included.
[[nodiscard]] std::vector<unsigned char> xmpSegment(const std::string& xmp);
[[nodiscard]] std::vector<unsigned char> isoSegment(const std::vector<unsigned char>& block);
/// CIPA DC-007: two pictures, their sizes, and where the second begins, counted from the index's own beginning.
[[nodiscard]] std::vector<unsigned char> indexSegment(std::size_t first, std::size_t second, std::size_t offset);

/// The JPEG with segments laid in behind those of its metadata.
[[nodiscard]] std::vector<unsigned char> withSegments(const std::vector<unsigned char>& jpeg,
                                                      const std::vector<std::vector<unsigned char>>& segments);
/// From where offsets of the index count; 0: there is no index.
[[nodiscard]] std::size_t indexOffset(std::span<const unsigned char> jpeg);

struct PicturePlace {
  std::size_t begin = 0, size = 0;
};
/// Where the index says that the second picture lies, which may be beyond the end.
[[nodiscard]] std::optional<PicturePlace> secondPicture(std::span<const unsigned char> jpeg);

} // namespace ml
