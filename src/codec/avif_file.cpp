// SPDX-License-Identifier: GPL-3.0-or-later
#include "codec/avif_file.h"
#include "base/phrase.h"

#include <avif/avif.h>
#include <fstream>
#include <memory>

namespace ml {
namespace {

constexpr int kBits = 10;
constexpr int kSpeed =
    8; ///< 0 slow .. 10; at 8 a 24-megapixel picture takes seconds, and the file is a tenth larger than at 6.

Result<void> save(const std::filesystem::path& file, const std::uint8_t* data, std::size_t size) {
  std::ofstream out(file, std::ios::binary);
  out.write(reinterpret_cast<const char*>(data), std::streamsize(size));
  out.close();
  if (!out) return unwritable(file, phrase("the disk is full"));
  return {};
}

} // namespace

Result<void> writeAvifPq(const std::filesystem::path& file, ImageView<const std::uint16_t> signal, int quality,
                         const std::vector<unsigned char>& exif) {
  const std::unique_ptr<avifImage, void (*)(avifImage*)> image(
      avifImageCreate(signal.width, signal.height, kBits, AVIF_PIXEL_FORMAT_YUV444), avifImageDestroy);
  image->colorPrimaries = AVIF_COLOR_PRIMARIES_BT2020;
  image->transferCharacteristics = AVIF_TRANSFER_CHARACTERISTICS_SMPTE2084;
  image->matrixCoefficients = AVIF_MATRIX_COEFFICIENTS_BT2020_NCL;
  image->yuvRange = AVIF_RANGE_FULL;
  if (!exif.empty()) avifImageSetMetadataExif(image.get(), exif.data(), exif.size());
  avifRGBImage rgb;
  avifRGBImageSetDefaults(&rgb, image.get());
  rgb.format = AVIF_RGB_FORMAT_RGB;
  rgb.depth = 16;
  rgb.rowBytes = std::uint32_t(signal.stride * 2);
  rgb.pixels = reinterpret_cast<std::uint8_t*>(const_cast<std::uint16_t*>(signal.data)); // only read
  if (const avifResult r = avifImageRGBToYUV(image.get(), &rgb); r != AVIF_RESULT_OK)
    return unwritable(file, avifResultToString(r));
  const std::unique_ptr<avifEncoder, void (*)(avifEncoder*)> encoder(avifEncoderCreate(), avifEncoderDestroy);
  encoder->codecChoice = AVIF_CODEC_CHOICE_AOM; // the others give 4:2:0 only or are slow
  encoder->maxThreads = 2;
  encoder->speed = kSpeed;
  const int worst = std::clamp(63 - quality * 63 / 100, 0, 63);
  encoder->minQuantizer = std::max(0, worst - 4);
  encoder->maxQuantizer = worst;
  avifRWData data = AVIF_DATA_EMPTY;
  const avifResult r = avifEncoderWrite(encoder.get(), image.get(), &data);
  if (r != AVIF_RESULT_OK) {
    avifRWDataFree(&data);
    return unwritable(file, avifResultToString(r));
  }
  auto done = save(file, data.data, data.size);
  avifRWDataFree(&data);
  return done;
}

Result<HdrReading> readAvif(const std::filesystem::path& file) {
  const std::unique_ptr<avifDecoder, void (*)(avifDecoder*)> decoder(avifDecoderCreate(), avifDecoderDestroy);
  const auto failed = [&](avifResult r) {
    return unreadable(file, phrase("the AVIF data are damaged ({})", avifResultToString(r)));
  };
  if (const avifResult r = avifDecoderSetIOFile(decoder.get(), file.c_str()); r != AVIF_RESULT_OK) return failed(r);
  if (const avifResult r = avifDecoderParse(decoder.get()); r != AVIF_RESULT_OK) return failed(r);
  const avifImage* image = decoder->image;
  if (auto size = checkSize(file, image->width, image->height); !size) return passOn(size.error());
  if (const avifResult r = avifDecoderNextImage(decoder.get()); r != AVIF_RESULT_OK) return failed(r);
  HdrReading out{Image<std::uint16_t>(int(image->width), int(image->height), 3), int(image->colorPrimaries),
                 int(image->transferCharacteristics)};
  avifRGBImage rgb;
  avifRGBImageSetDefaults(&rgb, image);
  rgb.format = AVIF_RGB_FORMAT_RGB;
  rgb.depth = 16;
  rgb.rowBytes = std::uint32_t(out.signal.width()) * 6;
  rgb.pixels = reinterpret_cast<std::uint8_t*>(out.signal.data());
  if (const avifResult r = avifImageYUVToRGB(image, &rgb); r != AVIF_RESULT_OK) return failed(r);
  return out;
}

} // namespace ml
