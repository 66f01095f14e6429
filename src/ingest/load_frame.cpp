#include "ingest/load_frame.h"

#include "codec/exif.h"
#include "codec/jpeg.h"
#include "codec/png_file.h"
#include "codec/raw_file.h"
#include "codec/tiff_file.h"
#include "exposure/marks.h"

#include <cmath>

namespace ml {
namespace fs = std::filesystem;
namespace {

/// Where pixel (x, y) of the picture as seen lies in the stored one. Exif 2.32, tag 0x0112.
template <class T> Codes oriented(ImageView<const T> stored, int orientation) {
  const bool turned = orientation >= 5;
  const int w = stored.width, h = stored.height;
  Image<T> out(turned ? h : w, turned ? w : h, 3);
  for (int y = 0; y < out.height(); ++y)
    for (int x = 0; x < out.width(); ++x) {
      int u = turned ? y : x, v = turned ? x : y;
      if (orientation == 2 || orientation == 3 || orientation == 7 || orientation == 8) u = w - 1 - u;
      if (orientation == 3 || orientation == 4 || orientation == 6 || orientation == 7) v = h - 1 - v;
      std::copy_n(stored.at(u, v), 3, out.at(x, y));
    }
  return out;
}

Result<ExposureSettings> settingsOf(const fs::path& file, const ShotMetadata& m) {
  if (!m.time)
    return fail(ErrorCode::MissingExposure, "`" + file.string() + "` does not say how long it was exposed (no exposure time in its Exif); "
                                            "use the camera's original file or leave it out.");
  ExposureSettings s{exact(*m.time), {8}, {100}};
  if (m.aperture) s.aperture = exact(*m.aperture);
  if (m.iso) s.iso = exact(*m.iso);
  return s;
}

Result<Frame> fromCodes(CodeImage image, bool compressed, const ShotMetadata& metadata) {
  Frame frame;
  const int orientation = metadata.orientation;
  frame.codes = orientation <= 1 || orientation > 8 ? std::move(image.pixels)
                                                    : image.pixels.visit([&](auto stored) { return oriented(stored, orientation); });
  frame.table = srgbTable(image.maxCode);
  frame.codeError = compressed ? kCompressedCodeError : kRoundedCodeError;
  frame.curveAssumed = true;
  return frame;
}

Result<Frame> fromRaw(const fs::path& file) {
  auto raw = readRaw(file);
  if (!raw) return passOn(raw.error());
  Frame frame;
  frame.codes = std::move(raw->pixels);
  frame.table = linearTable(65535, 0, 65535);
  frame.saturation = raw->saturation;
  frame.midTone = raw->saturation[1] * 10 / 78;
  frame.toRec709 = raw->toRec709;
  frame.metadata = raw->metadata;
  return frame;
}

Result<Frame> readPixels(const fs::path& file, FileKind kind, const ShotMetadata& metadata) {
  if (kind == FileKind::Raw) return fromRaw(file);
  auto image = kind == FileKind::Jpeg ? readJpeg(file) : kind == FileKind::Png ? readPng(file) : readTiff(file);
  if (!image) return passOn(image.error());
  return fromCodes(std::move(*image), kind == FileKind::Jpeg, metadata);
}

Result<FileKind> frameKind(const fs::path& file) {
  auto kind = sniff(file);
  if (!kind) return kind;
  if (*kind == FileKind::Unknown || *kind == FileKind::OpenExr || *kind == FileKind::RadianceHdr)
    return fail(ErrorCode::UnsupportedFormat,
                "`" + file.string() + "` is not a frame (raw, JPEG, TIFF or PNG picture of one exposure); leave it out.");
  return kind;
}

} // namespace

Result<FileFacts> inspectFile(const fs::path& file) {
  auto kind = frameKind(file);
  if (!kind) return passOn(kind.error());
  auto metadata = readExif(file);
  if (!metadata) return passOn(metadata.error());
  auto settings = settingsOf(file, *metadata);
  if (!settings) return passOn(settings.error());
  return FileFacts{file, *metadata, *settings};
}

Result<Frame> loadFrame(const fs::path& file, Unsaid unsaid) {
  auto kind = frameKind(file);
  if (!kind) return passOn(kind.error());
  auto metadata = readExif(file);
  if (!metadata && *kind != FileKind::Raw) return passOn(metadata.error());
  ShotMetadata found = metadata ? *metadata : ShotMetadata{};
  auto frame = readPixels(file, *kind, found);
  if (!frame) return frame;
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

} // namespace ml
