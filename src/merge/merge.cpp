// SPDX-License-Identifier: GPL-3.0-or-later
#include "merge/merge.h"

#include "align/transform.h"
#include "base/parallel.h"
#include "base/phrase.h"
#include "exposure/ev.h"
#include "merge/consistency.h"
#include "merge/lent.h"
#include "merge/mosaic_merger.h"
#include "merge/photosite_fit.h"
#include "merge/rows.h"
#include "merge/tile_merger.h"

#include <algorithm>
#include <cmath>
#include <iterator>

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
                       consistency.share.empty() ? nullptr : &consistency.share[i], consistency.cell, int(i), false});
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
  const std::vector<Source>& own;  ///< Without those that are lent.
  const CellMask *decides, *apart; ///< `apart`: above 0 where things moved, or a place was lent.
  const float* matrix;
  MergeResult& result;
};

/// Tiles for which a frame that lies askew by a degree or less is developed in one piece.
constexpr int kDevelopedWidth = DemosaicTile::kWidth - 16, kDevelopedHeight = DemosaicTile::kHeight - 16;

bool developing(const std::vector<Source>& sources) {
  return std::any_of(sources.begin(), sources.end(), [](const Source& s) { return s.placed.frame->isMosaic(); });
}

/// Merges rows of pixels; returns how many pixels are clipped in every frame.
int mergePixels(const Merging& m, const Band& band) {
  TileMerger merger(m.sources, m.decides, m.matrix, m.result);
  const int width = m.result.radiance.width(), step = developing(m.sources) ? kDevelopedWidth : TileMerger::kWidth;
  int clipped = 0;
  for (int x = 0; x < width; x += step)
    clipped += merger.merge({x, band.begin, std::min(step, width - x), band.end - band.begin});
  return clipped;
}

/// The same for mosaics; where things moved, and so not every frame speaks for itself, pixels are merged.
int mergeMosaics(const Merging& m, const Band& band) {
  MosaicMerger merger(m.own, m.apart, m.matrix, m.result);
  std::optional<TileMerger> byPixels;
  const int width = m.result.radiance.width();
  int clipped = 0;
  for (int x = 0; x < width; x += MosaicMerger::kWidth) {
    const Roi tile{x, band.begin, std::min(MosaicMerger::kWidth, width - x), band.end - band.begin};
    if (merger.mayMerge(tile)) {
      clipped += merger.merge(tile);
      continue;
    }
    if (!byPixels) byPixels.emplace(m.sources, m.decides, m.matrix, m.result);
    for (int y = 0; y < tile.height; y += TileMerger::kHeight)
      clipped += byPixels->merge({x, tile.y + y, tile.width, std::min(TileMerger::kHeight, tile.height - y)});
  }
  return clipped;
}

constexpr float kAsItIs[9] = {1, 0, 0, 0, 1, 0, 0, 0, 1};

/// Rows on either side of where a band begins, kept while the bands are written over.
std::vector<Image<float>> seamsOf(const Image<float>& light, int rows) {
  std::vector<Image<float>> seams;
  constexpr int kReach = PhotositeFit::kReach;
  for (int y = rows; y < light.height(); y += rows) {
    Image<float> seam(light.width(), 2 * kReach, 3);
    for (int k = 0; k < 2 * kReach; ++k)
      std::copy_n(light.row(std::min(y - kReach + k, light.height() - 1)), 3 * std::size_t(light.width()), seam.row(k));
    seams.push_back(std::move(seam));
  }
  return seams;
}

/// A band with what surrounds it, as it was merged.
Image<float> withSurroundings(const Image<float>& light, const std::vector<Image<float>>& seams, const Band& band) {
  constexpr int kReach = PhotositeFit::kReach;
  const int top = std::max(0, band.begin - kReach), bottom = std::min(light.height(), band.end + kReach);
  Image<float> out(light.width(), bottom - top, 3);
  for (int y = top; y < bottom; ++y) {
    const float* from = y < band.begin  ? seams[std::size_t(band.index) - 1].row(y - band.begin + kReach)
                        : y >= band.end ? seams[std::size_t(band.index)].row(y - band.end + kReach)
                                        : light.row(y);
    std::copy_n(from, 3 * std::size_t(light.width()), out.row(y - top));
  }
  return out;
}

/// Gives merged light of the camera's colours what the photosites of moved frames say beyond it, and makes it Rec. 709.
/// False: stopped.
bool fitPhotosites(const Merging& m, const Progress& progress) {
  constexpr int kRows = 2 * PhotositeFit::kHeight;
  Image<float>& light = m.result.radiance;
  const std::vector<Image<float>> seams = seamsOf(light, kRows);
  std::atomic<int> rowsDone{0};
  return forEachBand(
      light.height(), progress.stop,
      [&](const Band& band) {
        const Image<float> merged = withSurroundings(light, seams, band);
        const PhotositeFit::Merged around{merged.data(), 3 * std::ptrdiff_t(light.width()),
                                          std::max(0, band.begin - PhotositeFit::kReach), merged.height()};
        PhotositeFit fit(m.own, m.apart, light.width(), light.height());
        for (int y = band.begin; y < band.end; y += PhotositeFit::kHeight)
          for (int x = 0; x < light.width(); x += PhotositeFit::kWidth)
            fit.fit({x, y, std::min(PhotositeFit::kWidth, light.width() - x),
                     std::min(PhotositeFit::kHeight, band.end - y)},
                    around, light.at(x, y), 3 * std::ptrdiff_t(light.width()));
        for (int y = band.begin; y < band.end; ++y) {
          rows::toRec709(light.row(y), m.matrix, light.width());
          if (y % kMapCell != kMapCell / 2 || y / kMapCell >= m.result.light.height()) continue;
          for (int x = 0; x < m.result.light.width(); ++x)
            *m.result.light.at(x, y / kMapCell) =
                light.at(std::min(x * kMapCell + kMapCell / 2, light.width() - 1), y)[1];
        }
        progress.at(phrase("Merge"), double(rowsDone += band.end - band.begin) / light.height());
      },
      kRows);
}

Result<MergeResult> mergeConsistent(const std::vector<PlacedFrame>& frames, const MergeOptions& options,
                                    Consistency consistency, const Progress& progress) {
  const Frame& reference = *frames[std::size_t(options.reference)].frame;
  if (progress.stopRequested()) return stopped();
  std::vector<Source> sources = sourcesOf(frames, reference, consistency);
  const int width = reference.width(), height = reference.height();
  MergeResult result = emptyResult(width, height);
  float matrix[9];
  for (std::size_t i = 0; i < 9; ++i) matrix[i] = float(reference.toRec709[i] * kMidTone / reference.midTone);
  for (const int frame : options.lent) sources[std::size_t(frame)].lent = true;
  for (const int frame : options.filling) sources[std::size_t(frame)].filling = true;
  std::vector<Source> own;
  std::copy_if(sources.begin(), sources.end(), std::back_inserter(own), [](const Source& s) { return !s.lent; });
  CellMask apart = lentCells(consistency, options.lent);
  if (!consistency.decides.empty() && !apart.empty()) unite(apart, consistency.decides);
  const bool mosaics = MosaicMerger::serves(own), samples = !mosaics && PhotositeFit::serves(own);
  if (mosaics && !options.filling.empty()) { // what a developed frame fills is merged from pixels
    const auto darker = [](const Source& a, const Source& b) { return a.exposure < b.exposure; };
    markFull(*std::min_element(own.begin(), own.end(), darker)->placed.frame, consistency.cell, apart);
  }
  const CellMask* decides = consistency.decides.empty() ? nullptr : &consistency.decides;
  const Merging merging{sources, own, decides, apart.empty() ? decides : &apart, samples ? kAsItIs : matrix, result};
  const int rows = mosaics ? MosaicMerger::kHeight : developing(sources) ? kDevelopedHeight : TileMerger::kHeight;
  std::vector<int> clipped(std::size_t(bandCount(height, rows)));
  std::atomic<int> rowsDone{0};
  const bool finished = forEachBand(
      height, progress.stop,
      [&](const Band& band) {
        clipped[std::size_t(band.index)] = mosaics ? mergeMosaics(merging, band) : mergePixels(merging, band);
        progress.at(phrase("Merge"), (samples ? 0.6 : 1) * double(rowsDone += band.end - band.begin) / height);
      },
      rows);
  if (!finished) return stopped();
  Merging fitting = merging;
  fitting.matrix = matrix;
  if (samples && !fitPhotosites(fitting, progress.part(0.6, 1))) return stopped();
  for (const int count : clipped) result.clippedShare += count;
  result.clippedShare /= double(width) * height;
  result.motion = std::move(consistency.report);
  result.reference = options.reference;
  result.ev100OfUnit = ev100(reference.settings).value - std::log2(kMidTone);
  return result;
}

} // namespace

std::optional<std::string> MergeOptions::invalidReason(std::size_t frames) const {
  if (frames < 1 || frames > kMostFrames) return phrase("1 to 64 frames can be merged");
  if (reference < 0 || reference >= int(frames)) return phrase("the reference frame is not among the frames");
  for (const int frame : lent)
    if (frame < 0 || frame >= int(frames) || frame == reference)
      return phrase("a frame that is lent is not among the frames, or is the reference");
  for (const int frame : filling)
    if (std::find(lent.begin(), lent.end(), frame) == lent.end())
      return phrase("a frame that fills is not among those that are lent");
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

std::vector<PlacedFrame> seenFrom(std::vector<PlacedFrame> frames, int reference, int former) {
  const Matrix3 back = inverse(frames[std::size_t(reference)].toFrame);
  for (PlacedFrame& frame : frames) {
    frame.toFrame = multiply(frame.toFrame, back);
    for (double& h : frame.toFrame) h /= frame.toFrame[8];
  }
  frames[std::size_t(reference)].toFrame = kIdentity3;
  std::swap(frames[std::size_t(reference)].misplacement, frames[std::size_t(former)].misplacement);
  return frames;
}

Result<MergeResult> mergeRadiance(const std::vector<PlacedFrame>& frames, const MergeOptions& options,
                                  const Progress& progress) {
  if (auto sound = checkFrames(frames, options); !sound) return passOn(sound.error());
  progress.at(phrase("Look for movement"), 0);
  Consistency consistency = findConsistency(frames, options, progress);
  if (consistency.moment < 0 || consistency.moment == options.reference)
    return mergeConsistent(frames, options, std::move(consistency), progress);
  MergeOptions other = options;
  other.reference = consistency.moment;
  const std::vector<PlacedFrame> seen = seenFrom(frames, other.reference, options.reference);
  return mergeConsistent(seen, other, findConsistency(seen, other, progress), progress);
}

} // namespace ml
