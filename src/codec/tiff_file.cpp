// SPDX-License-Identifier: GPL-3.0-or-later
#include "codec/tiff_file.h"
#include "base/phrase.h"
#include "codec/tiff_open.h"

#include <limits>

namespace ml {
namespace {

struct Layout {
  std::uint32_t width = 0, height = 0;
  std::uint16_t bits = 1, samples = 1, format = SAMPLEFORMAT_UINT, planar = PLANARCONFIG_CONTIG,
                photometric = PHOTOMETRIC_RGB;
};

Layout layoutOf(TIFF* tiff) {
  Layout l;
  TIFFGetField(tiff, TIFFTAG_IMAGEWIDTH, &l.width);
  TIFFGetField(tiff, TIFFTAG_IMAGELENGTH, &l.height);
  TIFFGetFieldDefaulted(tiff, TIFFTAG_BITSPERSAMPLE, &l.bits);
  TIFFGetFieldDefaulted(tiff, TIFFTAG_SAMPLESPERPIXEL, &l.samples);
  TIFFGetFieldDefaulted(tiff, TIFFTAG_SAMPLEFORMAT, &l.format);
  TIFFGetFieldDefaulted(tiff, TIFFTAG_PLANARCONFIG, &l.planar);
  TIFFGetField(tiff, TIFFTAG_PHOTOMETRIC, &l.photometric);
  return l;
}

tl::unexpected<Error> endsEarly(const std::filesystem::path& path) {
  return unreadable(path, phrase("the TIFF data end early ({})", tiffMessage()));
}

/// The first three channels of a row of whole pixels; a single one is repeated.
template <class T, class Out> void keepThree(const T* row, std::size_t pixels, std::size_t samples, Out* out) {
  for (std::size_t x = 0; x < pixels; ++x)
    for (std::size_t c = 0; c < 3; ++c) *out++ = Out(row[x * samples + (samples >= 3 ? c : 0)]);
}

/// Strips of whole pixels, row by row.
template <class T, class Out>
Result<void> readRows(TIFF* tiff, const Layout& l, const std::filesystem::path& path, Out* out, const StopFlag& stop) {
  if (std::size_t(TIFFScanlineSize(tiff)) != std::size_t(l.width) * l.samples * sizeof(T))
    return unreadable(path, phrase("its header contradicts itself"));
  std::vector<T> line(std::size_t(l.width) * l.samples);
  for (std::uint32_t y = 0; y < l.height; ++y, out += 3 * std::size_t(l.width)) {
    if (stop.requested()) return stopped();
    if (TIFFReadScanline(tiff, line.data(), y) < 0) return endsEarly(path);
    keepThree(line.data(), l.width, l.samples, out);
  }
  return {};
}

/// A tile or strip: where it lies, how large it is, and of which channel.
struct Block {
  std::uint32_t x, y, width, height;
  std::uint16_t plane;
};

/// What of a block lies in the picture goes there.
template <class T, class Out> void placeBlock(const std::vector<T>& pixels, const Block& b, const Layout& l, Out* out) {
  const bool apart = l.planar == PLANARCONFIG_SEPARATE;
  const std::uint32_t columns = std::min(b.width, l.width - b.x), rows = std::min(b.height, l.height - b.y);
  const int copies = l.samples >= 3 ? 1 : 3;
  for (std::uint32_t y = 0; y < rows; ++y) {
    const T* row = pixels.data() + std::size_t(y) * b.width * (apart ? 1 : l.samples);
    Out* to = out + 3 * ((std::size_t(b.y) + y) * l.width + b.x);
    if (!apart) keepThree(row, columns, l.samples, to);
    for (std::uint32_t x = 0; apart && x < columns; ++x) std::fill_n(to + 3 * x + b.plane, copies, Out(row[x]));
  }
}

/// Tiles, and channels that lie apart from each other: block by block.
template <class T, class Out>
Result<void> readBlocks(TIFF* tiff, const Layout& l, const std::filesystem::path& path, Out* out,
                        const StopFlag& stop) {
  constexpr tmsize_t kMostBytes = 1 << 28;
  const bool tiled = TIFFIsTiled(tiff), apart = l.planar == PLANARCONFIG_SEPARATE;
  Block b{0, 0, l.width, l.height, 0};
  if (tiled)
    TIFFGetField(tiff, TIFFTAG_TILEWIDTH, &b.width), TIFFGetField(tiff, TIFFTAG_TILELENGTH, &b.height);
  else if (TIFFGetField(tiff, TIFFTAG_ROWSPERSTRIP, &b.height))
    b.height = std::min(b.height, l.height);
  const std::size_t together = apart ? 1 : l.samples;
  const tmsize_t bytes = tiled ? TIFFTileSize(tiff) : TIFFStripSize(tiff);
  if (bytes <= 0 || bytes > kMostBytes || std::size_t(bytes) != std::size_t(b.width) * b.height * together * sizeof(T))
    return unreadable(path, phrase("its header contradicts itself"));
  std::vector<T> pixels(std::size_t(bytes) / sizeof(T));
  const int planes = apart && l.samples >= 3 ? 3 : 1;
  for (b.y = 0; b.y < l.height; b.y += b.height)
    for (b.x = 0; b.x < l.width; b.x += b.width)
      for (b.plane = 0; b.plane < planes; ++b.plane) {
        if (stop.requested()) return stopped();
        const std::uint32_t columns = std::min(b.width, l.width - b.x), rows = std::min(b.height, l.height - b.y);
        const tmsize_t needed = tmsize_t((std::size_t(rows) - 1) * b.width + columns) * tmsize_t(together * sizeof(T));
        const tmsize_t got =
            tiled ? TIFFReadEncodedTile(tiff, TIFFComputeTile(tiff, b.x, b.y, 0, b.plane), pixels.data(), bytes)
                  : TIFFReadEncodedStrip(tiff, TIFFComputeStrip(tiff, b.y, b.plane), pixels.data(), bytes);
        if (got < needed) return endsEarly(path);
        placeBlock(pixels, b, l, out);
      }
  return {};
}

/// As T, of the first three channels (a single one is repeated).
template <class T, class Out>
Result<void> readSamples(TIFF* tiff, const Layout& l, const std::filesystem::path& path, Out* out,
                         const StopFlag& stop) {
  return TIFFIsTiled(tiff) || l.planar == PLANARCONFIG_SEPARATE ? readBlocks<T>(tiff, l, path, out, stop)
                                                                : readRows<T>(tiff, l, path, out, stop);
}

template <class T>
Result<CodeImage> readCodes(TIFF* tiff, const Layout& l, const std::filesystem::path& path, const StopFlag& stop) {
  Image<T> pixels(int(l.width), int(l.height), 3);
  if (auto read = readSamples<T>(tiff, l, path, pixels.data(), stop); !read) return passOn(read.error());
  std::uint32_t size = 0;
  const unsigned char* profile = nullptr;
  std::vector<unsigned char> icc;
  if (TIFFGetField(tiff, TIFFTAG_ICCPROFILE, &size, &profile) && profile) icc.assign(profile, profile + size);
  return CodeImage{std::move(pixels), int(std::numeric_limits<T>::max()), std::move(icc)};
}

Tiff create(const std::filesystem::path& path, int width, int height, int bits, int samples) {
  // Offsets of classic TIFF end at 4 GB; what may not fit is written as BigTIFF.
  constexpr double kClassic = 3.5e9;
  Tiff tiff = openTiff(path, double(width) * height * samples * (bits / 8) > kClassic ? "w8" : "w");
  if (!tiff) return tiff;
  TIFFSetField(tiff.get(), TIFFTAG_IMAGEWIDTH, std::uint32_t(width));
  TIFFSetField(tiff.get(), TIFFTAG_IMAGELENGTH, std::uint32_t(height));
  TIFFSetField(tiff.get(), TIFFTAG_BITSPERSAMPLE, bits);
  TIFFSetField(tiff.get(), TIFFTAG_SAMPLESPERPIXEL, samples);
  TIFFSetField(tiff.get(), TIFFTAG_PLANARCONFIG, PLANARCONFIG_CONTIG);
  TIFFSetField(tiff.get(), TIFFTAG_ORIENTATION, ORIENTATION_TOPLEFT);
  return tiff;
}

template <class T>
Result<void> writeSome(TIFF* tiff, ImageView<const T> view, int from, const std::filesystem::path& path,
                       const StopFlag& stop = {}) {
  std::vector<T> line(std::size_t(view.width) * view.channels); // the encoder works in place
  for (int y = 0; y < view.height; ++y) {
    if (stop.requested()) return stopped();
    std::copy_n(view.row(y), line.size(), line.data());
    if (TIFFWriteScanline(tiff, line.data(), std::uint32_t(from + y)) < 0) return unwritable(path, tiffMessage());
  }
  return {};
}

template <class T>
Result<void> writeRows(TIFF* tiff, ImageView<const T> view, const std::filesystem::path& path,
                       const StopFlag& stop = {}) {
  if (auto written = writeSome(tiff, view, 0, path, stop); !written) return written;
  if (!TIFFFlush(tiff)) return unwritable(path, tiffMessage());
  return {};
}

/// A file to write RGB rows to; null when it cannot be made.
Tiff createRgb(const std::filesystem::path& path, int width, int height, int bits, int format, int predictor,
               const std::vector<unsigned char>& icc, int ppi = 0) {
  Tiff tiff = create(path, width, height, bits, 3);
  if (!tiff) return tiff;
  TIFFSetField(tiff.get(), TIFFTAG_PHOTOMETRIC, PHOTOMETRIC_RGB);
  TIFFSetField(tiff.get(), TIFFTAG_SAMPLEFORMAT, format);
  TIFFSetField(tiff.get(), TIFFTAG_COMPRESSION, COMPRESSION_ADOBE_DEFLATE);
  TIFFSetField(tiff.get(), TIFFTAG_ZIPQUALITY, 4);
  TIFFSetField(tiff.get(), TIFFTAG_PREDICTOR, predictor);
  TIFFSetField(tiff.get(), TIFFTAG_ROWSPERSTRIP, 64);
  if (ppi > 0) {
    TIFFSetField(tiff.get(), TIFFTAG_XRESOLUTION, double(ppi));
    TIFFSetField(tiff.get(), TIFFTAG_YRESOLUTION, double(ppi));
    TIFFSetField(tiff.get(), TIFFTAG_RESOLUTIONUNIT, RESUNIT_INCH);
  }
  if (!icc.empty()) TIFFSetField(tiff.get(), TIFFTAG_ICCPROFILE, std::uint32_t(icc.size()), icc.data());
  return tiff;
}

Result<void> writeRgb(const std::filesystem::path& path, const auto& view, int bits, int format, int predictor,
                      const std::vector<unsigned char>& icc, int ppi = 0, const StopFlag& stop = {}) {
  Tiff tiff = createRgb(path, view.width, view.height, bits, format, predictor, icc, ppi);
  return tiff ? writeRows(tiff.get(), view, path, stop) : unwritable(path, tiffMessage());
}

} // namespace

bool isFloatTiff(const std::filesystem::path& path) {
  Tiff tiff = openTiff(path, "r");
  if (!tiff) return false;
  const Layout l = layoutOf(tiff.get());
  return l.bits == 32 && l.format == SAMPLEFORMAT_IEEEFP;
}

Result<CodeImage> readTiff(const std::filesystem::path& path, const StopFlag& stop) {
  Tiff tiff = openTiff(path, "r");
  if (!tiff) return unreadable(path, phrase("the TIFF header is damaged ({})", tiffMessage()));
  const Layout l = layoutOf(tiff.get());
  if (auto size = checkSize(path, l.width, l.height); !size) return passOn(size.error());
  const bool plain = l.format == SAMPLEFORMAT_UINT && l.samples >= 1 && l.samples <= 8 &&
                     (l.photometric == PHOTOMETRIC_RGB || l.photometric == PHOTOMETRIC_MINISBLACK);
  if (!plain || (l.bits != 8 && l.bits != 16))
    return unreadable(path, phrase("only 8- and 16-bit, or 32-bit float, grey or RGB TIFF files are read as frames"));
  if (l.bits == 8) return readCodes<std::uint8_t>(tiff.get(), l, path, stop);
  return readCodes<std::uint16_t>(tiff.get(), l, path, stop);
}

Result<Image<float>> readFloatTiff(const std::filesystem::path& path) {
  Tiff tiff = openTiff(path, "r");
  if (!tiff) return unreadable(path, phrase("the TIFF header is damaged ({})", tiffMessage()));
  const Layout l = layoutOf(tiff.get());
  if (auto size = checkSize(path, l.width, l.height); !size) return passOn(size.error());
  if (l.bits != 32 || l.format != SAMPLEFORMAT_IEEEFP || l.samples < 1 || l.samples > 8)
    return unreadable(path, phrase("it is not a 32-bit float TIFF file"));
  Image<float> image(int(l.width), int(l.height), 3);
  if (auto read = readSamples<float>(tiff.get(), l, path, image.data(), {}); !read) return passOn(read.error());
  return image;
}

Result<void> writeTiff16(const std::filesystem::path& path, ImageView<const std::uint16_t> rgb,
                         const std::vector<unsigned char>& icc, int ppi, const StopFlag& stop) {
  return writeRgb(path, rgb, 16, SAMPLEFORMAT_UINT, PREDICTOR_HORIZONTAL, icc, ppi, stop);
}

Result<void> writeTiffFloat(const std::filesystem::path& path, ImageView<const float> rgb,
                            const std::vector<unsigned char>& icc) {
  return writeRgb(path, rgb, 32, SAMPLEFORMAT_IEEEFP, PREDICTOR_FLOATINGPOINT, icc);
}

Result<void> writeTiffFloatRows(
    const std::filesystem::path& path, int width, int height, const std::vector<unsigned char>& icc,
    const std::function<Result<void>(const std::function<Result<void>(ImageView<const float>)>& write)>& fill) {
  Tiff tiff = createRgb(path, width, height, 32, SAMPLEFORMAT_IEEEFP, PREDICTOR_FLOATINGPOINT, icc);
  if (!tiff) return unwritable(path, tiffMessage());
  int y = 0;
  auto written = fill([&](ImageView<const float> rows) -> Result<void> {
    auto some = writeSome(tiff.get(), rows, y, path);
    y += rows.height;
    return some;
  });
  if (written && !TIFFFlush(tiff.get())) return unwritable(path, tiffMessage());
  return written;
}

Result<void> writeDng(const std::filesystem::path& path, ImageView<const std::uint16_t> mosaic,
                      const MosaicDescription& d) {
  Tiff tiff = create(path, mosaic.width, mosaic.height, 16, 1);
  if (!tiff) return unwritable(path, tiffMessage());
  const std::uint16_t repeat[] = {2, 2};
  const std::uint8_t version[] = {1, 4, 0, 0}, backward[] = {1, 1, 0, 0}, pattern[] = {0, 1, 1, 2};
  const float black[] = {float(d.blackLevel)};
  const std::uint32_t white[] = {std::uint32_t(d.whiteLevel)};
  float matrix[9], neutral[3];
  std::copy(d.xyzToCamera.begin(), d.xyzToCamera.end(), matrix);
  std::copy(d.neutral.begin(), d.neutral.end(), neutral);
  TIFF* t = tiff.get();
  TIFFSetField(t, TIFFTAG_SUBFILETYPE, 0);
  TIFFSetField(t, TIFFTAG_PHOTOMETRIC, PHOTOMETRIC_CFA);
  TIFFSetField(t, TIFFTAG_COMPRESSION, COMPRESSION_NONE);
  TIFFSetField(t, TIFFTAG_ROWSPERSTRIP, mosaic.height);
  TIFFSetField(t, TIFFTAG_MAKE, "Simulated");
  TIFFSetField(t, TIFFTAG_MODEL, d.camera.c_str());
  TIFFSetField(t, TIFFTAG_UNIQUECAMERAMODEL, d.camera.c_str());
  TIFFSetField(t, TIFFTAG_CFAREPEATPATTERNDIM, repeat);
  TIFFSetField(t, TIFFTAG_CFAPATTERN, 4, pattern);
  TIFFSetField(t, TIFFTAG_DNGVERSION, version);
  TIFFSetField(t, TIFFTAG_DNGBACKWARDVERSION, backward);
  TIFFSetField(t, TIFFTAG_COLORMATRIX1, 9, matrix);
  TIFFSetField(t, TIFFTAG_ASSHOTNEUTRAL, 3, neutral);
  TIFFSetField(t, TIFFTAG_CALIBRATIONILLUMINANT1, 21); // D65
  TIFFSetField(t, TIFFTAG_BLACKLEVEL, 1, black);
  TIFFSetField(t, TIFFTAG_WHITELEVEL, 1, white);
  return writeRows(t, mosaic, path);
}

} // namespace ml
