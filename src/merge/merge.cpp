// SPDX-License-Identifier: GPL-3.0-or-later
#include "merge/merge.h"

#include "align/transform.h"
#include "base/parallel.h"
#include "base/phrase.h"
#include "exposure/ev.h"
#include "merge/consistency.h"
#include "merge/mosaic_merger.h"
#include "merge/tile_merger.h"

#include <cmath>

namespace ml {
namespace {

constexpr double kMidTone = 0.18;
constexpr std::size_t kMostFrames = 64;

std::vector<Source> sourcesOf(const std::vector<PlacedFrame>& frames, const Frame& reference,
                              const Consistency& consistency) {
  std::vector<Source> sources;
  const double unit = relativeExposure(reference.settings) * reference.midTone;
  for (std::size_t i = 0; i < frames.size(); ++i) {
    const Frame& f = *frames[i].frame;
    const double light = relativeExposure(f.settings) * f.midTone;
    const bool moved = !Transform{frames[i].toFrame}.isIdentity();
    sources.push_back({frames[i], float(light / unit), varianceCurve(f),
                       moved ? float(frames[i].misplacement * frames[i].misplacement) : 0.f,
                       consistency.share.empty() ? nullptr : &consistency.share[i], consistency.cell});
  }
  return sources;
}

MergeResult emptyResult(int width, int height) {
  MergeResult result;
  result.radiance = Image<float>(width, height, 3);
  result.source = Image<std::uint8_t>(std::max(1, width / kMapCell), std::max(1, height / kMapCell), 1);
  result.snr = Image<float>(result.source.width(), result.source.height(), 1);
  result.light = Image<float>(result.source.width(), result.source.height(), 1);
  result.source.fill(kNoSource);
  result.snr.fill(0);
  result.light.fill(0);
  return result;
}

/// What merging works with, and on.
struct Merging {
  const std::vector<Source>& sources;
  std::size_t reference;
  const CellMask* moved;
  const float* matrix;
  MergeResult& result;
};

/// Merges rows of pixels; returns how many pixels are clipped in every frame.
int mergePixels(const Merging& m, const Band& band) {
  TileMerger merger(m.sources, m.reference, m.moved, m.matrix, m.result);
  const int width = m.result.radiance.width();
  int clipped = 0;
  for (int x = 0; x < width; x += TileMerger::kWidth)
    clipped += merger.merge({x, band.begin, std::min(TileMerger::kWidth, width - x), band.end - band.begin});
  return clipped;
}

/// The same for mosaics; where things moved, and so not every frame speaks for itself, pixels are merged.
int mergeMosaics(const Merging& m, const Band& band) {
  MosaicMerger merger(m.sources, m.moved, m.matrix, m.result);
  std::optional<TileMerger> byPixels;
  const int width = m.result.radiance.width();
  int clipped = 0;
  for (int x = 0; x < width; x += MosaicMerger::kWidth) {
    const Roi tile{x, band.begin, std::min(MosaicMerger::kWidth, width - x), band.end - band.begin};
    if (merger.mayMerge(tile)) {
      clipped += merger.merge(tile);
      continue;
    }
    if (!byPixels) byPixels.emplace(m.sources, m.reference, m.moved, m.matrix, m.result);
    for (int y = 0; y < tile.height; y += TileMerger::kHeight)
      clipped += byPixels->merge({x, tile.y + y, tile.width, std::min(TileMerger::kHeight, tile.height - y)});
  }
  return clipped;
}

} // namespace

std::optional<std::string> MergeOptions::invalidReason(std::size_t frames) const {
  if (frames < 1 || frames > kMostFrames) return phrase("1 to 64 frames can be merged");
  if (reference < 0 || reference >= int(frames)) return phrase("the reference frame is not among the frames");
  return {};
}

Result<void> checkFrames(const std::vector<PlacedFrame>& frames, const MergeOptions& options) {
  if (const auto reason = options.invalidReason(frames.size()))
    return fail(ErrorCode::InvalidArgument, phrase("The frames cannot be merged: {}.", *reason));
  const Frame& reference = *frames[std::size_t(options.reference)].frame;
  for (const auto& placed : frames)
    if (placed.frame->width() != reference.width() || placed.frame->height() != reference.height())
      return fail(ErrorCode::SizeMismatch,
                  phrase("`{}` is {} x {} pixels and `{}` is {} x {}; combine only frames of one size.",
                         placed.frame->path, placed.frame->width(), placed.frame->height(), reference.path,
                         reference.width(), reference.height()));
  return {};
}

Result<MergeResult> mergeRadiance(const std::vector<PlacedFrame>& frames, const MergeOptions& options,
                                  const Progress& progress) {
  if (auto sound = checkFrames(frames, options); !sound) return passOn(sound.error());
  const Frame& reference = *frames[std::size_t(options.reference)].frame;
  progress.at(phrase("Look for movement"), 0);
  Consistency consistency = findConsistency(frames, options, progress);
  if (progress.stopRequested()) return stopped();

  const std::vector<Source> sources = sourcesOf(frames, reference, consistency);
  const int width = reference.width(), height = reference.height();
  MergeResult result = emptyResult(width, height);
  float matrix[9];
  for (std::size_t i = 0; i < 9; ++i) matrix[i] = float(reference.toRec709[i] * kMidTone / reference.midTone);
  const Merging merging{sources, std::size_t(options.reference),
                        consistency.moved.empty() ? nullptr : &consistency.moved, matrix, result};
  const bool mosaics = MosaicMerger::serves(sources);
  const int rows = mosaics ? MosaicMerger::kHeight : TileMerger::kHeight;
  std::vector<int> clipped(std::size_t(bandCount(height, rows)));
  std::atomic<int> rowsDone{0};
  const bool finished = forEachBand(
      height, progress.stop,
      [&](const Band& band) {
        clipped[std::size_t(band.index)] = mosaics ? mergeMosaics(merging, band) : mergePixels(merging, band);
        progress.at(phrase("Merge"), double(rowsDone += band.end - band.begin) / height);
      },
      rows);
  if (!finished) return stopped();
  for (const int count : clipped) result.clippedShare += count;
  result.clippedShare /= double(width) * height;
  result.motion = std::move(consistency.report);
  result.ev100OfUnit = ev100(reference.settings).value - std::log2(kMidTone);
  return result;
}

} // namespace ml
