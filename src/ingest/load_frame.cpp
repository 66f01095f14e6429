// SPDX-License-Identifier: GPL-3.0-or-later
#include "ingest/load_frame.h"

#include "base/parallel.h"
#include "base/phrase.h"
#include "capture/developed.h"
#include "codec/exif.h"
#include "codec/heif_file.h"
#include "codec/icc.h"
#include "codec/jpeg.h"
#include "codec/png_file.h"
#include "codec/raw_file.h"
#include "codec/tiff_file.h"
#include "exposure/marks.h"
#include "image/orientation.h"

#include <cmath>

namespace ml {
namespace fs = std::filesystem;
namespace {

Result<ExposureSettings> settingsOf(const fs::path& file, const ShotMetadata& m) {
  if (!m.time)
    return fail(ErrorCode::MissingExposure, phrase("`{}` does not say how long it was exposed (no exposure time in its "
                                                   "Exif); use the camera's original file or leave it out.",
                                                   file.string()));
  ExposureSettings s{exact(*m.time), {8}, {100}};
  if (m.aperture) s.aperture = exact(*m.aperture);
  if (m.iso) s.iso = exact(*m.iso);
  return s;
}

Result<Frame> fromCodes(CodeImage image, bool compressed, const ShotMetadata& metadata) {
  Frame frame;
  const int orientation = metadata.orientation;
  frame.codes = orientation <= 1 || orientation > 8
                    ? std::move(image.pixels)
                    : image.pixels.visit([&](auto stored) { return Codes(oriented(stored, orientation)); });
  frame.table = srgbTable(image.maxCode);
  frame.codeError = compressed ? kCompressedCodeError : kRoundedCodeError;
  frame.curveAssumed = true;
  if (const auto profile = readProfile(image.icc)) {
    frame.toRec709 = profile->toRec709;
    if (profile->linear) {
      frame.table = linearTable(image.maxCode, 0, image.maxCode);
      frame.curveAssumed = false;
      frame.codeError = kRoundedCodeError;
    }
  }
  return frame;
}

/// Linear light as it lies in the file; the largest value becomes the largest code.
Result<Frame> fromFloat(const fs::path& file, const ShotMetadata& metadata) {
  auto light = readFloatTiff(file);
  if (!light) return passOn(light.error());
  float most = 1;
  for (std::size_t i = 0; i < light->size(); ++i)
    if (std::isfinite(light->data()[i])) most = std::max(most, light->data()[i]);
  Image<std::uint16_t> codes(light->width(), light->height(), 3);
  for (std::size_t i = 0; i < codes.size(); ++i) {
    const float v = light->data()[i] / most;
    codes.data()[i] = std::uint16_t(std::lround(65535 * (v > 0 ? std::min(v, 1.f) : 0.f)));
  }
  Frame frame;
  const int orientation = metadata.orientation;
  frame.codes = orientation <= 1 || orientation > 8
                    ? Codes(std::move(codes))
                    : Codes(oriented(ImageView<const std::uint16_t>(codes.view()), orientation));
  frame.table = linearTable(65535, 0, 65535.0 / most);
  frame.saturation = {most, most, most};
  return frame;
}

Result<Frame> fromRaw(const fs::path& file, int edge) {
  auto raw = readRaw(file, edge);
  if (!raw) return passOn(raw.error());
  Frame frame;
  frame.codes = std::move(raw->pixels);
  frame.table = linearTable(65535, raw->black, 65535);
  frame.saturation = raw->saturation;
  frame.midTone = raw->saturation[1] * 10 / 78;
  frame.toRec709 = raw->toRec709;
  frame.metadata = raw->metadata;
  frame.pattern = raw->pattern;
  return frame;
}

/// `edge` 0: as it is.
Result<Frame> readPixels(const fs::path& file, FileKind kind, const ShotMetadata& metadata, int edge) {
  if (kind == FileKind::Raw) return fromRaw(file, edge);
  if (kind == FileKind::Tiff && isFloatTiff(file)) return fromFloat(file, metadata);
  auto image = kind == FileKind::Jpeg   ? (edge > 0 ? readSmallJpeg(file, edge) : readJpeg(file))
               : kind == FileKind::Png  ? readPng(file)
               : kind == FileKind::Heif ? readHeif(file)
                                        : readTiff(file);
  if (!image) return passOn(image.error());
  return fromCodes(std::move(*image), kind == FileKind::Jpeg || kind == FileKind::Heif, metadata);
}

/// Means of factor x factor codes; the remainder at the right and below is dropped.
template <class T> Image<T> reducedBy(ImageView<const T> in, int factor) {
  Image<T> out(in.width / factor, in.height / factor, 3);
  const int half = factor * factor / 2;
  forEachBand(out.height(), [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y)
      for (int x = 0; x < out.width(); ++x) {
        int sum[3] = {half, half, half};
        for (int j = 0; j < factor; ++j) {
          const T* code = in.at(x * factor, y * factor + j);
          for (int i = 0; i < factor; ++i, code += 3)
            for (int c = 0; c < 3; ++c) sum[c] += code[c];
        }
        for (int c = 0; c < 3; ++c) out.at(x, y)[c] = T(sum[c] / (factor * factor));
      }
  });
  return out;
}

Result<FileKind> frameKind(const fs::path& file) {
  auto kind = sniff(file);
  if (!kind) return kind;
  if (*kind == FileKind::Unknown || *kind == FileKind::OpenExr || *kind == FileKind::RadianceHdr)
    return fail(
        ErrorCode::UnsupportedFormat,
        phrase("`{}` is not a frame (raw, JPEG, TIFF or PNG picture of one exposure); leave it out.", file.string()));
  return kind;
}

} // namespace

Result<FileFacts> inspectFile(const fs::path& file) {
  auto kind = frameKind(file);
  if (!kind) return passOn(kind.error());
  auto metadata = readExif(file);
  if (!metadata) return passOn(metadata.error());
  FileFacts facts{file, *metadata, {}, metadata->time.has_value(), metadata->width, metadata->height};
  if (facts.width == 0 && *kind == FileKind::Jpeg)
    if (const auto size = jpegSize(file)) facts.width = size->width, facts.height = size->height;
  ShotMetadata said = *metadata;
  if (!said.time) said.time = Seconds{1.0 / 64};
  facts.settings = *settingsOf(file, said);
  return facts;
}

namespace {

Result<Frame> load(const fs::path& file, Unsaid unsaid, int edge) {
  auto kind = frameKind(file);
  if (!kind) return passOn(kind.error());
  auto metadata = readExif(file);
  if (!metadata && *kind != FileKind::Raw) return passOn(metadata.error());
  ShotMetadata found = metadata ? *metadata : ShotMetadata{};
  if (*kind == FileKind::Heif) found.orientation = 1; // its own turn is done, Exif's is for information (ISO 23008-12)
  auto frame = readPixels(file, *kind, found, edge);
  if (!frame) return frame;
  if (*kind == FileKind::Raw) found.orientation = frame->metadata.orientation;
  if (!found.time) found.time = frame->metadata.time;
  if (!found.aperture) found.aperture = frame->metadata.aperture;
  if (!found.iso) found.iso = frame->metadata.iso;
  frame->exposureKnown = found.time.has_value();
  if (!frame->exposureKnown && unsaid == Unsaid::Allowed) found.time = Seconds{1.0 / 64};
  auto settings = settingsOf(file, found);
  if (!settings) return passOn(settings.error());
  frame->metadata = found;
  frame->settings = *settings;
  const double fullWell = kAssumedFullWell * 100 / settings->iso.value;
  frame->noise = noiseOf(frame->table, fullWell, kAssumedReadNoise);
  frame->sensor = {1 / fullWell, kAssumedReadNoise * kAssumedReadNoise / (fullWell * fullWell)};
  frame->path = file.string();
  return frame;
}

} // namespace

Result<Frame> loadFrame(const fs::path& file, Unsaid unsaid) {
  return load(file, unsaid, 0);
}

Result<Frame> loadSmallFrame(const fs::path& file, int edge, Unsaid unsaid) {
  auto frame = load(file, unsaid, edge);
  if (!frame) return frame;
  if (frame->isMosaic()) frame = developed(*frame);
  const int factor = std::min(16, std::max(frame->width(), frame->height()) / edge); // 16-bit sums stay within an int
  if (factor > 1)
    frame->codes =
        frame->codes.visit([&]<class T>(ImageView<const T> codes) { return Codes(reducedBy<T>(codes, factor)); });
  return frame;
}

} // namespace ml
