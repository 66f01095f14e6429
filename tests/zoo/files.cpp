// SPDX-License-Identifier: GPL-3.0-or-later
#include "zoo/files.h"

#include "zoo/lossless_jpeg.h"

#include <cstdio> // before jpeglib.h, which needs FILE

#include <cstdlib>
#include <exiv2/exiv2.hpp>
#include <jpeglib.h>
#include <libheif/heif.h>
#include <string>
#include <tiffio.h>

namespace ml::zoo {
namespace {

[[noreturn]] void give(const std::string& what) {
  std::fprintf(stderr, "zoo: %s\n", what.c_str());
  std::abort();
}

Exiv2::ExifData exifOf(const Shot& shot, int width, int height) {
  Exiv2::ExifData exif;
  const Printed time = printedTime(shot.seconds);
  char clock[32];
  const int at = 36000 + shot.clock;
  std::snprintf(clock, sizeof clock, "2026:04:18 %02d:%02d:%02d", at / 3600 % 24, at / 60 % 60, at % 60);
  exif["Exif.Image.Make"] = "Zoo";
  exif["Exif.Image.Model"] = shot.model;
  exif["Exif.Image.Orientation"] = std::uint16_t(shot.orientation);
  exif["Exif.Photo.ExposureTime"] = Exiv2::Rational(time.over, time.under);
  exif["Exif.Photo.FNumber"] = Exiv2::Rational(int(shot.fNumber * 10 + 0.5), 10);
  exif["Exif.Photo.ISOSpeedRatings"] = std::uint16_t(shot.iso);
  exif["Exif.Photo.DateTimeOriginal"] = std::string(clock);
  exif["Exif.Photo.Flash"] = std::uint16_t(shot.flash ? 9 : 16); // told to fire, told not to (Exif 2.32, tag 9209.H)
  exif["Exif.Photo.FocalLength"] = Exiv2::Rational(24, 1);
  exif["Exif.Photo.PixelXDimension"] = std::uint32_t(width);
  exif["Exif.Photo.PixelYDimension"] = std::uint32_t(height);
  return exif;
}

void addExif(const std::filesystem::path& file, const Shot& shot, int width, int height) {
  try {
    auto image = Exiv2::ImageFactory::open(file.string());
    image->readMetadata();
    Exiv2::ExifData all = image->exifData(); // a DNG's own tags stay
    for (const auto& datum : exifOf(shot, width, height)) all[datum.key()] = datum.value();
    image->setExifData(all);
    image->writeMetadata();
  } catch (const std::exception& error) {
    give(file.string() + ": " + error.what());
  }
}

constexpr int kTile = 256;

bool writeRows(TIFF* t, const Image<std::uint16_t>& mosaic) {
  for (int y = 0; y < mosaic.height(); ++y)
    if (TIFFWriteScanline(t, const_cast<std::uint16_t*>(mosaic.row(y)), std::uint32_t(y), 0) < 0) return false;
  return true;
}

/// As cameras do: lossless JPEG, in tiles.
bool writeTiles(TIFF* t, const Camera& camera, const Image<std::uint16_t>& mosaic) {
  const int w = mosaic.width(), h = mosaic.height(), across = (w + kTile - 1) / kTile;
  std::vector<std::vector<std::uint8_t>> tiles(std::size_t(across) * std::size_t((h + kTile - 1) / kTile));
  for (std::size_t i = 0; i < tiles.size(); ++i) {
    const int x = int(i) % across * kTile, y = int(i) / across * kTile;
    tiles[i] = losslessJpeg({mosaic.row(y) + x, w, std::min(kTile, w - x), std::min(kTile, h - y)}, kTile, kTile,
                            {camera.components, camera.predictor});
    if (TIFFWriteRawTile(t, std::uint32_t(i), tiles[i].data(), tmsize_t(tiles[i].size())) < 0) return false;
  }
  return true;
}

} // namespace

Printed printedTime(double seconds) {
  static constexpr int kUnder[] = {16000, 12800, 10000, 8000, 6400, 5000, 4000, 3200, 2500, 2000, 1600, 1250, 1000,
                                   800,   640,   500,   400,  320,  250,  200,  160,  125,  100,  80,   60,   50,
                                   40,    30,    25,    20,   15,   13,   10,   8,    6,    5,    4};
  static constexpr int kTenths[] = {3,  4,  5,  6,   8,   10,  13,  16,  20,  25,  32,  40,
                                    50, 60, 80, 100, 130, 150, 200, 250, 300, 400, 500, 600};
  // 1/16000 stands for 2^-14; one step of the list is a third of a stop.
  const int third = int(std::lround(3 * (std::log2(seconds) + 14)));
  constexpr int n = int(std::size(kUnder));
  if (third < n) return {1, kUnder[std::max(0, third)]};
  return {kTenths[std::min(third - n, int(std::size(kTenths)) - 1)], 10};
}

void writeDng(const std::filesystem::path& file, const Camera& camera, const std::array<double, 3>& neutral,
              const Image<std::uint16_t>& mosaic, const Shot& shot) {
  TIFFSetWarningHandler(nullptr);
  TIFF* t = TIFFOpen(file.c_str(), camera.bigEndian ? "wb" : "wl");
  if (!t) give("cannot write " + file.string());
  static constexpr std::uint8_t kPatterns[4][4] = {{0, 1, 1, 2}, {1, 0, 2, 1}, {1, 2, 0, 1}, {2, 1, 1, 0}};
  // ColorMatrix1: XYZ of D65 to the sensor's own values (IEC 61966-2-1 for Rec. 709).
  static constexpr double kXyzToRec709[9] = {3.2404542, -1.5371385, -0.4985314, -0.9692660, 1.8760108,
                                             0.0415560, 0.0556434,  -0.2040259, 1.0572252};
  float matrix[9], white[3], blackLevels[4];
  for (int r = 0; r < 3; ++r)
    for (int c = 0; c < 3; ++c) {
      double sum = 0;
      for (int k = 0; k < 3; ++k) sum += camera.fromRec709[std::size_t(3 * r + k)] * kXyzToRec709[3 * k + c];
      matrix[3 * r + c] = float(sum * camera.neutral[std::size_t(r)]);
    }
  for (int c = 0; c < 3; ++c) white[c] = float(neutral[std::size_t(c)]);
  for (int k = 0; k < 4; ++k) blackLevels[k] = float(camera.black[std::size_t(k)]);
  const std::uint16_t two[] = {2, 2};
  const std::uint8_t version[] = {1, 4, 0, 0}, backward[] = {1, 1, 0, 0};
  const std::uint32_t level[] = {std::uint32_t(camera.white)};
  TIFFSetField(t, TIFFTAG_SUBFILETYPE, 0);
  TIFFSetField(t, TIFFTAG_IMAGEWIDTH, mosaic.width());
  TIFFSetField(t, TIFFTAG_IMAGELENGTH, mosaic.height());
  TIFFSetField(t, TIFFTAG_BITSPERSAMPLE, 16);
  TIFFSetField(t, TIFFTAG_SAMPLESPERPIXEL, 1);
  TIFFSetField(t, TIFFTAG_COMPRESSION, camera.compressed ? COMPRESSION_JPEG : COMPRESSION_NONE);
  TIFFSetField(t, TIFFTAG_PHOTOMETRIC, 32803); // CFA
  TIFFSetField(t, TIFFTAG_PLANARCONFIG, PLANARCONFIG_CONTIG);
  TIFFSetField(t, TIFFTAG_ORIENTATION, ORIENTATION_TOPLEFT);
  if (camera.compressed)
    TIFFSetField(t, TIFFTAG_TILEWIDTH, kTile), TIFFSetField(t, TIFFTAG_TILELENGTH, kTile);
  else
    TIFFSetField(t, TIFFTAG_ROWSPERSTRIP, 64);
  TIFFSetField(t, TIFFTAG_MAKE, "Zoo");
  TIFFSetField(t, TIFFTAG_MODEL, shot.model.c_str());
  TIFFSetField(t, TIFFTAG_CFAREPEATPATTERNDIM, two);
  TIFFSetField(t, TIFFTAG_CFAPATTERN, 4, kPatterns[camera.pattern]);
  TIFFSetField(t, TIFFTAG_DNGVERSION, version);
  TIFFSetField(t, TIFFTAG_DNGBACKWARDVERSION, backward);
  TIFFSetField(t, TIFFTAG_UNIQUECAMERAMODEL, shot.model.c_str());
  TIFFSetField(t, TIFFTAG_BLACKLEVELREPEATDIM, two);
  TIFFSetField(t, TIFFTAG_BLACKLEVEL, 4, blackLevels);
  TIFFSetField(t, TIFFTAG_WHITELEVEL, 1, level);
  TIFFSetField(t, TIFFTAG_COLORMATRIX1, 9, matrix);
  TIFFSetField(t, TIFFTAG_ASSHOTNEUTRAL, 3, white);
  TIFFSetField(t, TIFFTAG_CALIBRATIONILLUMINANT1, 21);
  const bool written = camera.compressed ? writeTiles(t, camera, mosaic) : writeRows(t, mosaic);
  if (!written) give("cannot write " + file.string());
  TIFFClose(t);
  addExif(file, shot, mosaic.width(), mosaic.height());
}

void writeJpeg(const std::filesystem::path& file, const Camera& camera, const Image<std::uint8_t>& rgb,
               const Shot& shot) {
  std::FILE* out = std::fopen(file.c_str(), "wb");
  if (!out) give("cannot write " + file.string());
  jpeg_compress_struct jpeg;
  jpeg_error_mgr errors;
  jpeg.err = jpeg_std_error(&errors);
  jpeg_create_compress(&jpeg);
  jpeg_stdio_dest(&jpeg, out);
  jpeg.image_width = JDIMENSION(rgb.width());
  jpeg.image_height = JDIMENSION(rgb.height());
  jpeg.input_components = 3;
  jpeg.in_color_space = JCS_RGB;
  jpeg_set_defaults(&jpeg);
  jpeg_set_quality(&jpeg, camera.quality, TRUE);
  jpeg.comp_info[0].h_samp_factor = jpeg.comp_info[0].v_samp_factor = camera.halfColour ? 2 : 1;
  jpeg_start_compress(&jpeg, TRUE);
  for (int y = 0; y < rgb.height(); ++y) {
    JSAMPROW row = const_cast<JSAMPROW>(rgb.row(y));
    jpeg_write_scanlines(&jpeg, &row, 1);
  }
  jpeg_finish_compress(&jpeg);
  jpeg_destroy_compress(&jpeg);
  std::fclose(out);
  addExif(file, shot, rgb.width(), rgb.height());
}

void writeHeif(const std::filesystem::path& file, const Camera& camera, const Image<std::uint8_t>& rgb,
               const Shot& shot) {
  heif_context* context = heif_context_alloc();
  heif_encoder* encoder = nullptr;
  if (heif_context_get_encoder_for_format(context, heif_compression_HEVC, &encoder).code != heif_error_Ok)
    give("no HEVC encoder");
  heif_encoder_set_lossy_quality(encoder, std::max(70, camera.quality - 8)); // its scale is not JPEG's
  heif_encoder_set_parameter_string(encoder, "preset", "ultrafast");
  heif_image* image = nullptr;
  heif_image_create(rgb.width(), rgb.height(), heif_colorspace_RGB, heif_chroma_interleaved_RGB, &image);
  heif_image_add_plane(image, heif_channel_interleaved, rgb.width(), rgb.height(), 8);
  int stride = 0;
  std::uint8_t* plane = heif_image_get_plane(image, heif_channel_interleaved, &stride);
  for (int y = 0; y < rgb.height(); ++y) std::copy_n(rgb.row(y), 3 * rgb.width(), plane + std::ptrdiff_t(y) * stride);
  heif_image_handle* handle = nullptr;
  heif_encoding_options* options = heif_encoding_options_alloc();
  options->image_orientation = heif_orientation(shot.orientation);
  heif_color_profile_nclx* numbers = heif_nclx_color_profile_alloc();
  if (camera.displayP3) {
    heif_nclx_color_profile_set_color_primaries(numbers, 12);
    heif_nclx_color_profile_set_transfer_characteristics(numbers, 13);
    heif_image_set_nclx_color_profile(image, numbers);
    options->macOS_compatibility_workaround_no_nclx_profile = 0;
  }
  if (const auto error = heif_context_encode_image(context, image, encoder, options, &handle);
      error.code != heif_error_Ok)
    give(error.message);
  Exiv2::ExifData exif = exifOf(shot, rgb.width(), rgb.height());
  Exiv2::Blob blob;
  Exiv2::ExifParser::encode(blob, Exiv2::littleEndian, exif);
  heif_context_add_exif_metadata(context, handle, blob.data(), int(blob.size()));
  if (heif_context_write_to_file(context, file.c_str()).code != heif_error_Ok) give("cannot write " + file.string());
  heif_encoding_options_free(options);
  heif_nclx_color_profile_free(numbers);
  heif_image_handle_release(handle);
  heif_image_release(image);
  heif_encoder_release(encoder);
  heif_context_free(context);
}

} // namespace ml::zoo
