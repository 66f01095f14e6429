// SPDX-License-Identifier: GPL-3.0-or-later
#include "deliver/deliver.h"

#include "base/atomic_file.h"
#include "base/parallel.h"
#include "base/phrase.h"
#include "base/version.h"
#include "codec/exif.h"
#include "codec/exr.h"
#include "codec/icc.h"
#include "codec/jpeg.h"
#include "codec/png_file.h"
#include "codec/radiance_hdr.h"
#include "codec/tiff_file.h"
#include "image/bytes.h"
#include "image/colour.h"
#include "image/mend_light.h"
#include "image/resample.h"

#include <cmath>

namespace ml {
namespace fs = std::filesystem;
namespace {

std::string ending(const fs::path& file) {
  std::string e = file.extension().string();
  std::transform(e.begin(), e.end(), e.begin(), [](unsigned char c) { return char(std::tolower(c)); });
  return e == ".jpeg" ? ".jpg" : e == ".tiff" ? ".tif" : e;
}

/// Reduction in linear light: averaging encoded codes would darken fine bright detail.
Image<std::uint16_t> reduced(ImageView<const std::uint16_t> picture, int longEdge) {
  const Roi size = fitted(picture.width, picture.height, longEdge);
  Image<float> linear(picture.width, picture.height, 3);
  for (int y = 0; y < picture.height; ++y)
    for (int i = 0; i < picture.width * 3; ++i) linear.row(y)[i] = float(srgbDecode(picture.row(y)[i] / 65535.0));
  const Image<float> small = shrinkTo(linear.view(), size.width, size.height);
  Image<std::uint16_t> out(size.width, size.height, 3);
  for (std::size_t i = 0; i < out.size(); ++i)
    out.data()[i] = std::uint16_t(std::lround(srgbEncode(std::clamp(small.data()[i], 0.f, 1.f)) * 65535));
  return out;
}

Result<void> encode(ImageView<const std::uint16_t> picture, const fs::path& file, const std::string& format,
                    const DeliverOptions& options) {
  if (format == ".jpg")
    return writeJpeg(file, bytesOf(picture).view(), {options.jpegQuality, true, srgbProfile(), false});
  if (format == ".tif") return writeTiff16(file, picture, srgbProfile());
  return writePng(file, picture, 65535, srgbProfile());
}

} // namespace

Result<void> deliverPicture(ImageView<const std::uint16_t> picture, const fs::path& file,
                            const DeliverOptions& options) {
  const std::string format = ending(file);
  if (format != ".jpg" && format != ".tif" && format != ".png")
    return fail(ErrorCode::UnsupportedFormat,
                phrase("`{}`: finished pictures are written as .jpg, .tif or .png.", file.string()));
  Image<std::uint16_t> small;
  if (options.longEdge > 0 && options.longEdge < std::max(picture.width, picture.height)) {
    small = reduced(picture, options.longEdge);
    picture = small.view();
  }
  return writeAtomically(file, [&](const fs::path& temporary) -> Result<void> {
    auto written = encode(picture, temporary, format, options);
    if (written && options.metadataFrom) written = carryMetadata(*options.metadataFrom, temporary, software());
    if (written && options.sphere && format != ".png") written = markSphere(temporary, picture.width, picture.height);
    return written;
  });
}

Result<void> deliverRadiance(ImageView<const float> radiance, const fs::path& file, const RadianceOptions& options) {
  const std::string format = ending(file);
  if (format != ".exr" && format != ".hdr" && format != ".tif")
    return fail(ErrorCode::UnsupportedFormat,
                phrase("`{}`: radiance is written as .exr, .hdr or .tif.", file.string()));
  return writeAtomically(file, [&](const fs::path& temporary) -> Result<void> {
    if (format == ".hdr") return writeHdr(temporary, radiance);
    if (format == ".exr") {
      ExrOptions exr;
      exr.half = options.half;
      exr.text = options.notes;
      exr.text["software"] = software();
      exr.stop = options.stop;
      return writeExr(temporary, radiance, exr);
    }
    auto written = writeTiffFloat(temporary, radiance, linearRec709Profile());
    if (written && options.metadataFrom) written = carryMetadata(*options.metadataFrom, temporary, software());
    return written;
  });
}

namespace {

Result<Image<float>> radianceAsItLies(const fs::path& file, const StopFlag& stop) {
  const auto kind = sniff(file);
  if (!kind) return passOn(kind.error());
  if (*kind == FileKind::RadianceHdr) return readHdr(file);
  if (*kind == FileKind::Tiff) return readFloatTiff(file);
  if (*kind != FileKind::OpenExr)
    return fail(
        ErrorCode::UnsupportedFormat,
        phrase("`{}` is not a radiance picture (.exr, .hdr or float .tif); combine the frames first.", file.string()));
  auto placed = readExr(file, stop);
  if (!placed) return passOn(placed.error());
  if (placed->pixels.channels() == 3) return std::move(placed->pixels);
  Image<float> rgb(placed->pixels.width(), placed->pixels.height(), 3);
  for (int y = 0; y < rgb.height(); ++y)
    for (int x = 0; x < rgb.width(); ++x)
      for (int c = 0; c < 3; ++c) rgb.at(x, y)[c] = placed->pixels.at(x, y)[placed->pixels.channels() == 1 ? 0 : c];
  return rgb;
}

} // namespace

Result<Image<float>> readRadiance(const fs::path& file, const StopFlag& stop) {
  auto read = radianceAsItLies(file, stop);
  if (read) mendLight(*read);
  return read;
}

bool holdsRadiance(const fs::path& file) {
  const auto kind = sniff(file);
  return kind && (*kind == FileKind::OpenExr || *kind == FileKind::RadianceHdr ||
                  (*kind == FileKind::Tiff && isFloatTiff(file)));
}

std::map<std::string, std::string> radianceNotes(const fs::path& file) {
  const auto kind = sniff(file);
  return kind && *kind == FileKind::OpenExr ? exrText(file) : std::map<std::string, std::string>{};
}

} // namespace ml
