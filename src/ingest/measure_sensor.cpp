// SPDX-License-Identifier: GPL-3.0-or-later
#include "ingest/measure_sensor.h"

#include "base/phrase.h"
#include "codec/exif.h"
#include "codec/raw_file.h"

#include <algorithm>
#include <cmath>
#include <map>

namespace ml {
Result<SensorReport> measureSensorFiles(const std::vector<std::filesystem::path>& files) {
  SensorReport report;
  std::map<long, RawMosaic> waiting; // by time, until its second frame comes
  std::vector<TransferPoint> points;
  double saturation = 0;
  for (const auto& file : files) {
    auto mosaic = readMosaic(file);
    if (!mosaic) return passOn(mosaic.error());
    if (const auto exif = readExif(file)) {
      if (exif->time) mosaic->time = *exif->time;
      if (exif->iso) mosaic->iso = *exif->iso;
    }
    if (!(mosaic->time.value > 0))
      return fail(ErrorCode::MissingExposure,
                  phrase("`{}` does not say how long it was exposed; use the camera's original file.", file.string()));
    if (report.iso.value > 0 && std::abs(report.iso.value - mosaic->iso.value) > 1)
      return fail(ErrorCode::InvalidArgument,
                  phrase("`{}` has another ISO than the others; measure one ISO at a time.", file.string()));
    report.iso = mosaic->iso;
    saturation = mosaic->white - mosaic->black;
    const long key = std::lround(12 * std::log2(mosaic->time.value));
    const auto first = waiting.find(key);
    if (first == waiting.end()) {
      waiting.emplace(key, std::move(*mosaic));
      continue;
    }
    const RawMosaic& other = first->second;
    if (other.codes.width() != mosaic->codes.width() || other.codes.height() != mosaic->codes.height())
      return fail(
          ErrorCode::SizeMismatch,
          phrase("`{}` has another size than the frame it pairs with; use frames of one camera.", file.string()));
    points.push_back(transferPoint(other.codes.view(), mosaic->codes.view(), mosaic->black));
    waiting.erase(first);
    ++report.pairs;
  }
  if (points.empty())
    return fail(ErrorCode::TooFewFrames,
                phrase("There is no pair of frames of one exposure; shoot each exposure twice."));
  std::sort(points.begin(), points.end(), [](const auto& a, const auto& b) { return a.mean < b.mean; });
  const TransferPoint dark = points.front();
  if (dark.mean > 0.01 * saturation)
    return fail(ErrorCode::InvalidArgument,
                phrase("There is no pair of dark frames; shoot two with the cap on, at the shortest time."));
  auto measured = measureSensor(dark, {points.begin() + 1, points.end()}, saturation);
  if (!measured) return passOn(measured.error());
  report.measurement = std::move(*measured);
  return report;
}

} // namespace ml
