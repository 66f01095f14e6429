// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "base/result.h"
#include "capture/frame.h"

#include <filesystem>

namespace ml {

/// Assumed for files whose camera is unknown, at ISO 100; divided by ISO / 100. Typical of a current full-frame sensor
/// (common practice, no source).
inline constexpr double kAssumedFullWell = 40000;
inline constexpr double kAssumedReadNoise = 3.5;

/// Standard deviation of a code: of rounding (1 / sqrt 12), and of compression at a camera's usual quality (measured on
/// JPEG of quality 90 to 97: 0.5 to 1).
inline constexpr double kRoundedCodeError = 0.29, kCompressedCodeError = 0.7;

/// Reads one file as a frame: raw (LibRaw), JPEG, HEIF, PNG or TIFF with an sRGB curve unless its profile says it is
/// linear; turned as Exif says; exposure from Exif made exact. Errors: FileMissing, FileUnreadable, UnsupportedFormat,
/// MissingExposure (no exposure time). With Unsaid::Allowed a file that does not say its exposure time is read too,
/// `exposureKnown` false.
enum class Unsaid { Refused, Allowed };
[[nodiscard]] Result<Frame> loadFrame(const std::filesystem::path& file, Unsaid unsaid = Unsaid::Refused);

/// The same reduced, for a first look: the longest side is at least `edge` where the file has that many, and less than
/// twice as long. JPEG is decoded no larger than that, raw without interpolation.
[[nodiscard]] Result<Frame> loadSmallFrame(const std::filesystem::path& file, int edge,
                                           Unsaid unsaid = Unsaid::Refused);

/// What the file says without reading its pixels. Same errors, but a file that does not say its exposure is taken:
/// `exposureKnown` false.
struct FileFacts {
  std::filesystem::path path;
  ShotMetadata metadata;
  ExposureSettings settings;
  bool exposureKnown = true;
  int width = 0, height = 0; ///< As Exif says, else the header of a JPEG; 0: neither does.
};
[[nodiscard]] Result<FileFacts> inspectFile(const std::filesystem::path& file);

} // namespace ml
