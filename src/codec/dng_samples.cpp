// SPDX-License-Identifier: GPL-3.0-or-later
#include "codec/dng_samples.h"

#include "base/parallel.h"
#include "codec/lossless_jpeg.h"
#include "codec/tiff_open.h"

#include <algorithm>
#include <atomic>
#include <cmath>
#include <fcntl.h>
#include <memory>
#include <unistd.h>
#include <vector>

namespace ml {
namespace {

constexpr std::uint16_t kMosaicOfColours = 32803; // PhotometricInterpretation CFA (TIFF/EP)
constexpr std::size_t kMostPictures = 32;

/// Where the samples lie: pieces of `pieceWidth` x `pieceHeight`, row by row.
struct Pieces {
  int pieceWidth = 0, pieceHeight = 0, across = 0;
  bool jpeg = false, swapped = false, tiled = false;
  std::vector<std::uint64_t> offsets, bytes;
};

/// Is the current directory a mosaic of that size, at full resolution?
bool isMosaic(TIFF* tiff, int wantedWidth, int wantedHeight) {
  std::uint32_t kind = 0, width = 0, height = 0;
  std::uint16_t samples = 1, photometric = 0;
  TIFFGetFieldDefaulted(tiff, TIFFTAG_SUBFILETYPE, &kind);
  TIFFGetField(tiff, TIFFTAG_IMAGEWIDTH, &width);
  TIFFGetField(tiff, TIFFTAG_IMAGELENGTH, &height);
  TIFFGetField(tiff, TIFFTAG_PHOTOMETRIC, &photometric);
  TIFFGetFieldDefaulted(tiff, TIFFTAG_SAMPLESPERPIXEL, &samples);
  return kind == 0 && int(width) == wantedWidth && int(height) == wantedHeight && photometric == kMosaicOfColours &&
         samples == 1;
}

/// Of the current directory, where its samples are of a form that is read here.
std::optional<Pieces> piecesOf(TIFF* tiff) {
  std::uint32_t width = 0, height = 0;
  std::uint16_t bits = 1, compression = 0, fill = FILLORDER_MSB2LSB;
  TIFFGetField(tiff, TIFFTAG_IMAGEWIDTH, &width);
  TIFFGetField(tiff, TIFFTAG_IMAGELENGTH, &height);
  TIFFGetFieldDefaulted(tiff, TIFFTAG_BITSPERSAMPLE, &bits);
  TIFFGetFieldDefaulted(tiff, TIFFTAG_FILLORDER, &fill);
  TIFFGetField(tiff, TIFFTAG_COMPRESSION, &compression);
  Pieces p;
  p.jpeg = compression == COMPRESSION_JPEG;
  p.tiled = TIFFIsTiled(tiff), p.swapped = TIFFIsByteSwapped(tiff);
  if (fill != FILLORDER_MSB2LSB || !(p.jpeg || (compression == COMPRESSION_NONE && bits == 16))) return {};
  std::uint32_t pieceWidth = width, pieceHeight = height;
  if (p.tiled) {
    TIFFGetField(tiff, TIFFTAG_TILEWIDTH, &pieceWidth);
    TIFFGetField(tiff, TIFFTAG_TILELENGTH, &pieceHeight);
  } else if (TIFFGetField(tiff, TIFFTAG_ROWSPERSTRIP, &pieceHeight)) {
    pieceHeight = std::min(pieceHeight, height);
  }
  constexpr std::uint32_t kLargest = 1 << 16;
  if (pieceWidth < 1 || pieceHeight < 1 || pieceWidth > kLargest || pieceHeight > kLargest) return {};
  p.pieceWidth = int(pieceWidth), p.pieceHeight = int(pieceHeight);
  p.across = int((width + pieceWidth - 1) / pieceWidth);
  const std::size_t count = std::size_t(p.across) * ((height + pieceHeight - 1) / pieceHeight);
  const std::uint64_t *offsets = nullptr, *bytes = nullptr;
  const std::uint32_t listed = p.tiled ? TIFFNumberOfTiles(tiff) : TIFFNumberOfStrips(tiff);
  if (listed != count || !TIFFGetField(tiff, p.tiled ? TIFFTAG_TILEOFFSETS : TIFFTAG_STRIPOFFSETS, &offsets) ||
      !TIFFGetField(tiff, p.tiled ? TIFFTAG_TILEBYTECOUNTS : TIFFTAG_STRIPBYTECOUNTS, &bytes) || !offsets || !bytes)
    return {};
  p.offsets.assign(offsets, offsets + count), p.bytes.assign(bytes, bytes + count);
  return p;
}

/// Opened at the one mosaic of that size; null where there is none, or more than one.
Tiff openMosaic(const std::filesystem::path& file, int width, int height) {
  Tiff tiff = openTiff(file, "r");
  if (!tiff) return tiff;
  std::vector<std::uint64_t> more;
  std::uint16_t count = 0;
  const std::uint64_t* listed = nullptr;
  if (TIFFGetField(tiff.get(), TIFFTAG_SUBIFD, &count, &listed) && listed) more.assign(listed, listed + count);
  bool found = isMosaic(tiff.get(), width, height), apart = false;
  std::uint64_t at = 0;
  for (const std::uint64_t offset : more) {
    if (more.size() > kMostPictures || !TIFFSetSubDirectory(tiff.get(), offset)) return {nullptr, TIFFClose};
    if (!isMosaic(tiff.get(), width, height)) continue;
    if (found) return {nullptr, TIFFClose};
    found = apart = true, at = offset;
  }
  const bool there = apart ? TIFFSetSubDirectory(tiff.get(), at) : more.empty() || TIFFSetDirectory(tiff.get(), 0);
  if (!found || !there) tiff.reset();
  return tiff;
}

class SampleFile {
public:
  explicit SampleFile(const std::filesystem::path& path) : at_(::open(path.c_str(), O_RDONLY | O_CLOEXEC)) {}
  ~SampleFile() {
    if (at_ >= 0) ::close(at_);
  }
  SampleFile(const SampleFile&) = delete;
  SampleFile& operator=(const SampleFile&) = delete;

  std::uint64_t size() const {
    const off_t end = ::lseek(at_, 0, SEEK_END);
    return end < 0 ? 0 : std::uint64_t(end);
  }
  /// From any thread.
  bool read(void* to, std::size_t bytes, std::uint64_t offset) const {
    auto* next = static_cast<std::uint8_t*>(to);
    while (bytes > 0) {
      const ssize_t got = ::pread(at_, next, bytes, off_t(offset));
      if (got <= 0) return false;
      next += got, offset += std::uint64_t(got), bytes -= std::size_t(got);
    }
    return true;
  }

private:
  int at_;
};

/// One thread's memory.
struct Buffers {
  std::vector<std::uint8_t> coded;
  LosslessJpeg jpeg;
};

/// Samples of a piece, `p.pieceWidth` a row, `rows` of them at least; null when the file does not hold them.
const std::uint16_t* samplesOf(const SampleFile& file, const Pieces& p, std::size_t piece, int rows, Buffers& buffers) {
  const std::size_t most = std::size_t(p.pieceWidth) * std::size_t(p.pieceHeight),
                    least = std::size_t(p.pieceWidth) * std::size_t(rows);
  if (p.jpeg) {
    buffers.coded.resize(p.bytes[piece]);
    if (!file.read(buffers.coded.data(), buffers.coded.size(), p.offsets[piece]) ||
        !readLosslessJpeg(buffers.coded, most, buffers.jpeg) || buffers.jpeg.samples.size() < least)
      return nullptr;
    return buffers.jpeg.samples.data();
  }
  buffers.jpeg.samples.resize(least);
  if (p.bytes[piece] < 2 * least || !file.read(buffers.jpeg.samples.data(), 2 * least, p.offsets[piece]))
    return nullptr;
  if (p.swapped)
    for (std::uint16_t& code : buffers.jpeg.samples) code = std::uint16_t(code << 8 | code >> 8);
  return buffers.jpeg.samples.data();
}

bool changesNothing(std::span<const std::uint16_t> linear) {
  for (std::size_t code = 0; code < linear.size(); ++code)
    if (linear[code] != code) return false;
  return true;
}

} // namespace

std::optional<Roi> readDngCrop(const std::filesystem::path& path, int width, int height) {
  const Tiff tiff = openMosaic(path, width, height);
  const float *origin = nullptr, *size = nullptr;
  if (!tiff || !TIFFGetField(tiff.get(), TIFFTAG_DEFAULTCROPORIGIN, &origin) ||
      !TIFFGetField(tiff.get(), TIFFTAG_DEFAULTCROPSIZE, &size))
    return {};
  for (const float value : {origin[0], origin[1], size[0], size[1]})
    if (!(value >= 0 && value < 1e6f)) return {};
  const auto whole = [](float value) { return int(std::lround(value)); };
  return Roi{whole(origin[0]), whole(origin[1]), whole(size[0]), whole(size[1])};
}

std::optional<Image<std::uint16_t>> readDngSamples(const std::filesystem::path& path, const DngSamples& wanted) {
  const Tiff tiff = openMosaic(path, wanted.width, wanted.height);
  const auto pieces = tiff ? piecesOf(tiff.get()) : std::nullopt;
  const SampleFile file(path);
  if (!pieces) return {};
  const Pieces& p = *pieces;
  const std::uint64_t size = file.size();
  for (std::size_t i = 0; i < p.offsets.size(); ++i)
    if (p.offsets[i] > size || p.bytes[i] > size - p.offsets[i]) return {};
  const bool plain = changesNothing(wanted.linear);
  Image<std::uint16_t> out(wanted.width, wanted.height, 1);
  std::atomic<bool> whole{true};
  const auto readPiece = [&](std::size_t piece, Buffers& buffers) {
    const int x0 = int(piece) % p.across * p.pieceWidth, y0 = int(piece) / p.across * p.pieceHeight;
    const int columns = std::min(p.pieceWidth, out.width() - x0), rows = std::min(p.pieceHeight, out.height() - y0);
    const std::uint16_t* samples = samplesOf(file, p, piece, rows, buffers);
    if (!samples) return false;
    for (int y = 0; y < rows; ++y, samples += p.pieceWidth) {
      std::uint16_t* row = out.row(y0 + y) + x0;
      if (plain)
        std::copy_n(samples, columns, row);
      else
        std::transform(samples, samples + columns, row, [&](std::uint16_t code) { return wanted.linear[code]; });
    }
    return true;
  };
  constexpr int kAtATime = 4;
  forEachBand(
      int(p.offsets.size()),
      [&](const Band& band) {
        Buffers buffers;
        for (int piece = band.begin; piece < band.end && whole; ++piece)
          if (!readPiece(std::size_t(piece), buffers)) whole = false;
      },
      kAtATime);
  if (!whole) return {};
  return out;
}

} // namespace ml
