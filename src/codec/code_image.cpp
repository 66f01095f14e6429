// SPDX-License-Identifier: GPL-3.0-or-later
#include "codec/code_image.h"
#include "base/phrase.h"
#include "codec/tiff_open.h"

#include <algorithm>
#include <array>
#include <cstring>
#include <fstream>
#include <string>
#include <vector>

namespace ml {
namespace fs = std::filesystem;
namespace {

bool hasRawExtension(const fs::path& file) {
  static constexpr std::array kExtensions{".dng", ".cr2", ".cr3", ".nef", ".arw", ".raf",
                                          ".orf", ".rw2", ".pef", ".srw", ".raw"};
  std::string extension = file.extension().string();
  std::transform(extension.begin(), extension.end(), extension.begin(),
                 [](unsigned char c) { return char(std::tolower(c)); });
  return std::find(kExtensions.begin(), kExtensions.end(), extension) != kExtensions.end();
}

bool saysDngVersion(const fs::path& file) {
  const Tiff tiff = openTiff(file, "r");
  const std::uint8_t* version = nullptr;
  return tiff && TIFFGetField(tiff.get(), TIFFTAG_DNGVERSION, &version);
}

} // namespace

Result<FileKind> sniff(const fs::path& file) {
  std::error_code error;
  if (!fs::exists(file, error))
    return fail(ErrorCode::FileMissing, phrase("`{}` is not there; check the name.", file.string()));
  if (!fs::is_regular_file(file, error)) return unreadable(file, phrase("it is not a file"));
  std::ifstream in(file, std::ios::binary);
  if (!in) return unreadable(file, phrase("reading it is not permitted"));
  char head[16] = {};
  in.read(head, sizeof head);
  const auto got = in.gcount();
  if (got == 0) return unreadable(file, phrase("it is empty"));
  const auto starts = [&](const char* magic, std::size_t n) {
    return got >= std::streamsize(n) && std::memcmp(head, magic, n) == 0;
  };
  if (starts("\xff\xd8\xff", 3)) return FileKind::Jpeg;
  if (starts("\x89PNG\r\n\x1a\n", 8)) return FileKind::Png;
  if (starts("\x76\x2f\x31\x01", 4)) return FileKind::OpenExr;
  if (starts("#?RADIANCE", 10) || starts("#?RGBE", 6)) return FileKind::RadianceHdr;
  if (got >= 12 && std::memcmp(head + 4, "ftyp", 4) == 0)
    for (const char* brand : {"heic", "heix", "mif1", "msf1", "avif"})
      if (std::memcmp(head + 8, brand, 4) == 0) return FileKind::Heif;
  if (hasRawExtension(file)) return FileKind::Raw;
  if (starts("II*\0", 4) || starts("MM\0*", 4)) return saysDngVersion(file) ? FileKind::Raw : FileKind::Tiff;
  return FileKind::Unknown;
}

Result<void> checkSize(const fs::path& file, std::int64_t width, std::int64_t height) {
  if (width < 1 || height < 1) return unreadable(file, phrase("its header gives no size"));
  constexpr std::int64_t kLongest = 1'000'000;
  if (width <= kLongest && height <= kLongest) {
    if (width * height <= kMaxPixels) return {};
    std::error_code error;
    const auto bytes = fs::file_size(file, error);
    if (!error && width * height <= kMaxPixelsExplained && std::int64_t(bytes) >= width * height / kMostPixelsOfAByte)
      return {};
  }
  return fail(ErrorCode::FileUnreadable,
              phrase("`{}` claims {} x {} pixels, more than the {} megapixels handled here; reduce it first.",
                     file.string(), width, height, kMaxPixels / 1'000'000));
}

tl::unexpected<Error> unreadable(const fs::path& file, const std::string& why) {
  return fail(ErrorCode::FileUnreadable,
              phrase("`{}` cannot be read: {}; copy it again from the card or leave it out.", file.string(), why));
}

tl::unexpected<Error> unwritable(const fs::path& file, const std::string& why) {
  return fail(ErrorCode::CannotWrite,
              phrase("`{}` cannot be written: {}; free some space or choose another folder.", file.string(), why));
}

} // namespace ml
