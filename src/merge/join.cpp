// SPDX-License-Identifier: GPL-3.0-or-later
#include "merge/join.h"

#include "base/parallel.h"
#include "base/phrase.h"
#include "merge/cell_mask.h"
#include "merge/read_placed.h"
#include "merge/share.h"

#include <cmath>

namespace ml {
namespace {

/// Light of a frame on the reference's grid in the units of the merge, over the whole picture.
bool radianceOf(const PlacedFrame& placed, const Frame& reference, const StopFlag& stop, Image<float>& out) {
  const Frame& frame = *placed.frame;
  const double scale = 0.18 / reference.midTone * relativeExposure(reference.settings) * reference.midTone /
                       (relativeExposure(frame.settings) * frame.midTone);
  float m[9];
  for (std::size_t i = 0; i < 9; ++i) m[i] = float(reference.toRec709[i] * scale);
  return readPlaced(placed, nullptr, 4, out.width(), out.height(), stop, [&](const PlacedRow& row) {
    float* p = out.at(row.x, row.y);
    for (int i = 0; i < row.count; ++i, p += 3)
      for (int c = 0; c < 3; ++c)
        p[c] = row.use[i] <= 0
                   ? -1.f
                   : m[3 * c] * row.linear[0][i] + m[3 * c + 1] * row.linear[1][i] + m[3 * c + 2] * row.linear[2][i];
  });
}

float rise(float x, float from, float to) {
  const float t = std::clamp((x - from) / std::max(1e-3f, to - from), 0.f, 1.f);
  return t * t * (3 - 2 * t);
}

} // namespace

std::optional<std::string> ToneRange::invalidReason() const {
  if (!(untouchedBelow >= 0) || !(replacedAbove <= 255)) return phrase("the tones must lie between 0 and 255");
  if (!(untouchedBelow < replacedAbove))
    return phrase("the tone below which nothing is replaced must be darker than the one above which all is");
  return {};
}

Result<MergeResult> joinByTone(const std::vector<PlacedFrame>& frames, const MergeOptions& options,
                               const ToneRange& range, const Progress& progress) {
  if (frames.size() < 2)
    return fail(ErrorCode::TooFewFrames,
                phrase("Joining by tone needs two frames, one for the window and one for the room; add the other."));
  if (const auto reason = range.invalidReason())
    return fail(ErrorCode::InvalidArgument, phrase("The frames cannot be joined by tone: {}.", *reason));
  const std::vector<PlacedFrame> two{frames.front(), frames.back()};
  MergeOptions still = options;
  still.motion = MotionMode::Off;
  still.choices.clear();
  still.reference = options.reference == 0 ? 0 : 1;
  // The reference frame alone gives scale, clipping and colour; the join then replaces its pixels.
  auto result = mergeRadiance({two[std::size_t(still.reference)]}, {0, MotionMode::Off, false, {}, {}}, progress);
  if (!result) return result;
  const Frame &reference = *two[std::size_t(still.reference)].frame, &light = *two[1].frame;
  Image<float> dark(result->radiance.width(), result->radiance.height(), 3);
  if (!radianceOf(two[0], reference, progress.stop, dark)) return stopped();
  float inverse[3];
  for (std::size_t c = 0; c < 3; ++c) inverse[c] = 0.18f / light.midTone;
  const double scale = relativeExposure(reference.settings) * 0.18 / (relativeExposure(light.settings) * light.midTone);
  float m[9];
  for (std::size_t i = 0; i < 9; ++i) m[i] = float(reference.toRec709[i] * scale);
  const bool done =
      readPlaced(two[1], nullptr, 4, dark.width(), dark.height(), progress.stop, [&](const PlacedRow& row) {
        float* out = result->radiance.at(row.x, row.y);
        for (int i = 0; i < row.count; ++i, out += 3) {
          const float level =
              std::max({row.linear[0][i] * inverse[0], row.linear[1][i] * inverse[1], row.linear[2][i] * inverse[2]});
          const float code = float(srgbEncode(std::clamp(level, 0.f, 1.f))) * 255;
          const float* d = dark.at(row.x + i, row.y);
          const float w = row.use[i] <= 0 ? 1.f
                          : d[0] < 0      ? 0.f
                                          : rise(code, range.untouchedBelow, range.replacedAbove);
          for (int c = 0; c < 3; ++c) {
            const float l =
                m[3 * c] * row.linear[0][i] + m[3 * c + 1] * row.linear[1][i] + m[3 * c + 2] * row.linear[2][i];
            out[c] = l + w * (d[c] - l);
          }
        }
        progress.at(phrase("Join by tone"), double(row.y) / dark.height());
      });
  if (!done) return stopped();
  result->motion.excludedShare.assign(frames.size(), 0);
  result->clippedShare = clippedShare(*two[0].frame);
  return result;
}

Result<MergeResult> joinDarker(const std::vector<PlacedFrame>& frames, const MergeOptions& options,
                               const DarkerArea& area, const Progress& progress) {
  auto result = mergeRadiance(frames, options, progress);
  if (!result) return result;
  const Frame& reference = *frames[std::size_t(options.reference)].frame;
  const int width = reference.width(), height = reference.height(), cell = consistencyCell(width, height);
  for (const SourceChoice& stroke : area.strokes) {
    if (stroke.frame < 0 || stroke.frame >= int(frames.size()))
      return fail(ErrorCode::InvalidArgument,
                  phrase("The frame that may darken the painted area is not among the frames; choose another."));
    CellMask mask = emptyMask(width / cell, height / cell);
    for (const int at : strokeCells(stroke, mask.width(), mask.height())) mask.data()[at] = 1;
    const Image<float> outside = softShare(mask, 1);
    Image<float> dark(width, height, 3);
    if (!radianceOf(frames[std::size_t(stroke.frame)], reference, progress.stop, dark)) return stopped();
    forEachBand(height, [&](const Band& band) {
      std::vector<float> share(static_cast<std::size_t>(width));
      for (int y = band.begin; y < band.end; ++y) {
        if (shareRow(outside, cell, 0, y, width, share.data())) continue;
        for (int x = 0; x < width; ++x) {
          float* p = result->radiance.at(x, y);
          const float* d = dark.at(x, y);
          if (d[0] < 0 || luminance(d) >= luminance(p)) continue;
          for (int c = 0; c < 3; ++c) p[c] += (1 - share[std::size_t(x)]) * (d[c] - p[c]);
        }
      }
    });
  }
  return result;
}

} // namespace ml
