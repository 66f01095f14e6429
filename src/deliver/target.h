// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "base/progress.h"
#include "codec/exif.h"
#include "deliver/deliver.h"
#include "image/display_colour.h"

#include <functional>
#include <string>
#include <vector>

namespace ml {

/// One kind of file that a finished view is written as.
struct Target {
  enum class Format { Jpeg, Tiff, Png, Exr, AvifHdr, JxlHdr, JpegHdr };
  std::string id, name;  ///< "web"; "JPEG for the web".
  std::string shortName; ///< "web JPEG".
  Format format = Format::Jpeg;
  ColourSpace space = ColourSpace::Srgb; ///< Of JPEG, TIFF and PNG.
  int longEdge = 0;                      ///< Pixels; 0 keeps the full size.
  int mostKilobytes = 0;                 ///< JPEG: the quality is lowered until the file is no larger; 0: no limit.
  int quality = 92;
  double sharpening = 0; ///< After reducing, 0..1.
  int ppi = 0;           ///< For print; 0: not written.
  std::string suffix;    ///< Of the file's name.
  [[nodiscard]] bool hdr() const {
    return format == Format::AvifHdr || format == Format::JxlHdr || format == Format::JpegHdr;
  }
  friend bool operator==(const Target&, const Target&) = default;
};
/// "jpeg", "web", "print", "archive", "hdr-avif", "hdr-jxl", "hdr-jpeg".
[[nodiscard]] const std::vector<Target>& targets();
[[nodiscard]] const Target* findTarget(const std::string& id);
[[nodiscard]] const char* endingOf(const Target& target);
/// Is it made from 16-bit codes? Not when it is the radiance, has light of its own, or is a JPEG of the finished
/// picture as it is.
[[nodiscard]] bool needsDeepCodes(const Target& target);

/// Pixels of a target and, at `ppi`, centimetres of print: "6000 x 4000 px, 50.8 x 33.9 cm at 300 ppi".
[[nodiscard]] std::string sizeWords(const Target& target, int width, int height);

/// What a file name may say.
struct NameFacts {
  std::string job, view, date;
  int number = 1, width = 0, height = 0;
};
/// File name by a pattern with {job}, {view}, {number}, {date}, {target}, {width}, {height}; nothing that a path could
/// be made of is left. Errors: InvalidArgument for an unknown word in braces, or an empty name.
Result<std::string> fileName(const std::string& pattern, const NameFacts& facts, const Target& target);
inline constexpr const char* kNamePattern = "{view}{target}";

/// The first of `name`, `name-2`, ... that does not exist in `folder`.
[[nodiscard]] std::filesystem::path freePath(const std::filesystem::path& folder, const std::string& name,
                                             const std::string& ending);

/// What a target is made from; the light for screens with a high dynamic range is asked for only when a target needs
/// it.
struct Material {
  ImageView<const std::uint16_t> picture; ///< sRGB codes; may be empty where no target needsDeepCodes.
  ImageView<const std::uint8_t> bytes;    ///< The same in 8 bits; may be empty where `picture` is not.
  ImageView<const float> radiance;        ///< As combined.
  std::function<Result<Image<float>>(double headroom)> light; ///< Display-linear with headroom.
  std::map<std::string, std::string> notes;                   ///< Of the radiance, for targets that carry it.
  std::optional<std::filesystem::path> metadataFrom;
  MetadataWishes wishes;
  bool sphere = false; ///< Of all directions: JPEG and TIFF say so.
};

inline constexpr double kHeadroomStops = 2.3; ///< 1000 cd/m2 over paper white at 203.

/// Writes one file, atomically, and reads it back: size, and the mean of each of 8 x 8 fields, must be those that were
/// meant. Errors: CannotWrite (also when what was read back differs), UnsupportedFormat, Stopped.
Result<void> deliverTarget(const Material& material, const Target& target, const std::filesystem::path& file,
                           const Progress& progress);

} // namespace ml
