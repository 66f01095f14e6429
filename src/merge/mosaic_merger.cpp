// SPDX-License-Identifier: GPL-3.0-or-later
#include "merge/mosaic_merger.h"

#include "align/transform.h"
#include "base/vector_clones.h"
#include "merge/rows.h"
#include "merge/share.h"
#include "merge/tile.h"
#include "mosaic/bayer.h"

#include <algorithm>
#include <cmath>
#include <numeric>

namespace ml {

using namespace rows;

namespace {

ML_VECTOR_CLONES bool allOne(const float* row, int n) {
  int differ = 0;
  for (int i = 0; i < n; ++i) differ |= row[i] != 1;
  return differ == 0;
}

/// Columns of two colours in turn, each by its own factor.
ML_VECTOR_CLONES void scaleInTurn(float even, float odd, int n, float* __restrict row) {
  for (int i = 0; i < n; ++i) row[i] *= i & 1 ? odd : even;
}

/// Where nobody is trusted: what the darkest frame says.
ML_VECTOR_CLONES void fillFrom(const float* light, float inverse, const float* exposures, float least, int n,
                               float* __restrict out) {
  for (int i = 0; i < n; ++i) out[i] = exposures[i] <= least ? light[i] * inverse : out[i];
}

/// Scale of merged light: 1 is the saturation of the darkest frame. Noise shrinks with the longest exposure.
MosaicScale scaleOf(const std::vector<Source>& sources) {
  float least = sources.front().exposure, most = least;
  for (const Source& s : sources) least = std::min(least, s.exposure), most = std::max(most, s.exposure);
  const Frame& frame = *sources.front().placed.frame;
  MosaicScale scale{frame.pattern, {}};
  for (std::size_t c = 0; c < 3; ++c) scale.full[c] = frame.table.clipFrom * frame.saturation[c];
  scale.foot *= least / most;
  return scale;
}

} // namespace

bool MosaicMerger::serves(const std::vector<Source>& sources) {
  const Frame& first = *sources.front().placed.frame;
  return std::all_of(sources.begin(), sources.end(), [&](const Source& s) {
    const Frame& f = *s.placed.frame;
    return f.isMosaic() && f.pattern == first.pattern && f.saturation == first.saturation &&
           Transform{s.placed.toFrame}.isIdentity();
  });
}

MosaicMerger::MosaicMerger(const std::vector<Source>& sources, const CellMask* moved, const float* matrix,
                           MergeResult& result)
    : sources_(sources), moved_(moved), matrix_(matrix), result_(result), byExposure_(sources.size()),
      saturation_(sources.front().placed.frame->saturation), clip_(sources.front().placed.frame->table.clipFrom),
      rows_(sources.size()) {
  tile_.measureIn(scaleOf(sources));
  std::iota(byExposure_.begin(), byExposure_.end(), 0);
  std::stable_sort(byExposure_.begin(), byExposure_.end(),
                   [&](auto a, auto b) { return sources[a].exposure < sources[b].exposure; });
}

bool MosaicMerger::mayMerge(const Roi& where) const {
  return allSpeak(sources_, moved_, where, DemosaicTile::kMargin);
}

int MosaicMerger::merge(const Roi& where) {
  for (int y = 0; y < DemosaicTile::kRows; ++y) {
    const int row = where.y + y - DemosaicTile::kMargin;
    readRows(where.x - DemosaicTile::kMargin, mirrored(row, result_.radiance.height()));
    mergeRow(y, tile_.light(y));
    const int inside = y - DemosaicTile::kMargin;
    if (inside >= 0 && inside < where.height && row % kMapCell == kMapCell / 2) fillMaps(where, inside);
  }
  tile_.prepare();
  int clipped = 0;
  for (int y = 0; y < where.height; ++y) {
    tile_.develop(y, where.width);
    clipped += finishRow(where, y);
  }
  return clipped;
}

/// From the lightest frame down. Where one is trusted in the whole row, frames that add too little are not read.
void MosaicMerger::readRows(int x, int y) {
  float enough = 0;
  parity_ = y & 1;
  for (std::size_t k = sources_.size(); k-- > 0;) {
    const std::size_t i = byExposure_[k];
    rows_[i].read = sources_[i].exposure >= enough * kAddsTooLittle;
    if (!rows_[i].read) continue;
    readRow(i, x, y);
    if (allOne(rows_[i].use.data(), kStride)) enough = std::max(enough, sources_[i].exposure);
  }
  doubtNearClipping();
}

void MosaicMerger::readRow(std::size_t i, int x, int y) {
  const Frame& frame = *sources_[i].placed.frame;
  const int width = frame.width();
  const std::uint16_t* row = frame.codes.photosites().row(y);
  float* light = rows_[i].light.data();
  const int inside = std::max(0, -x), end = std::min(kStride, width - x);
  lightOfCodes(row + x + inside, end - inside, light + inside);
  for (int k = 0; k < inside; ++k) lightOfCodes(row + mirrored(x + k, width), 1, light + k);
  for (int k = end; k < kStride; ++k) lightOfCodes(row + mirrored(x + k, width), 1, light + k);
  scaleInTurn(1 / saturation_[std::size_t(tile_.colourAt(0, y))], 1 / saturation_[std::size_t(tile_.colourAt(1, y))],
              kStride, light);
  trustOfRow(rows_[i].light.data(), kStride, 1 / clip_, rows_[i].use.data());
}

/// What a frame shows just below clipping must be what the next darker one shows that records it well.
void MosaicMerger::doubtNearClipping() {
  for (std::size_t k = sources_.size(); k-- > 1;) {
    FrameRow& row = rows_[byExposure_[k]];
    if (!row.read || allOne(row.use.data(), kStride)) continue;
    for (std::size_t l = k; l-- > 0;) {
      const FrameRow& darker = rows_[byExposure_[l]];
      if (darker.read)
        doubt(row.light.data(), 1 / sources_[byExposure_[k]].exposure, darker.light.data(),
              1 / sources_[byExposure_[l]].exposure, darker.use.data(), kStride, row.use.data());
    }
  }
}

/// Merged light of the row, balanced, 1 the darkest frame's saturation.
void MosaicMerger::mergeRow(int y, float* light) {
  float sum[kStride] = {}, exposures[kStride] = {}, level[kStride], weights[kStride] = {};
  for (std::size_t i = 0; i < sources_.size(); ++i)
    if (rows_[i].read)
      gather(rows_[i].light.data(), rows_[i].use.data(), sources_[i].exposure, kStride, sum, exposures);
  estimate(sum, exposures, kStride, level);
  std::fill_n(sum, kStride, 0.f);
  for (std::size_t i = 0; i < sources_.size(); ++i)
    if (rows_[i].read)
      weigh(rows_[i].light.data(), rows_[i].use.data(), level, nullptr, sources_[i].variance, sources_[i].exposure, 0,
            kStride, sum, weights);
  divide(sum, weights, kStride, light);
  const std::size_t darkest = byExposure_.front();
  const float unit = sources_[darkest].exposure;
  if (rows_[darkest].read) fillFrom(rows_[darkest].light.data(), 1 / unit, exposures, 1e-6f * unit, kStride, light);
  scaleInTurn(unit * saturation_[std::size_t(tile_.colourAt(0, y))],
              unit * saturation_[std::size_t(tile_.colourAt(1, y))], kStride, light);
}

int MosaicMerger::finishRow(const Roi& where, int y) {
  float colour[3][kWidth];
  tile_.takeLight(where.width, colour[0], colour[1], colour[2]);
  const float unit = sources_[byExposure_.front()].exposure, inverse = 1 / unit;
  int clipped = 0;
  for (int x = 0; x < where.width; ++x) {
    float light[3], out[3];
    bool clips = false;
    for (std::size_t c = 0; c < 3; ++c) {
      light[c] = colour[c][x];
      clips = clips || light[c] >= 0.97f * clip_ * saturation_[c];
      out[c] = light[c] * inverse;
    }
    if (clips) clippedColour(light, saturation_, unit, out);
    for (int c = 0; c < 3; ++c) colour[c][x] = out[c];
    clipped += clips;
  }
  toRec709(colour[0], colour[1], colour[2], matrix_, where.width, result_.radiance.at(where.x, where.y + y));
  const int cellY = (where.y + y) / kMapCell;
  if ((where.y + y) % kMapCell == kMapCell / 2 && cellY < result_.light.height())
    for (int cellX = where.x / kMapCell; cellX < result_.light.width(); ++cellX) {
      const int x = cellX * kMapCell + kMapCell / 2;
      if (x >= where.x + where.width) break;
      *result_.light.at(cellX, cellY) = result_.radiance.at(x, where.y + y)[1];
    }
  return clipped;
}

/// From the greens beside the middles of cells.
void MosaicMerger::fillMaps(const Roi& where, int y) {
  const int cellY = (where.y + y) / kMapCell;
  if (cellY >= result_.source.height()) return;
  const int green = tile_.colourAt(0, parity_) == 1 ? 0 : 1;
  for (int cellX = where.x / kMapCell; cellX < result_.source.width(); ++cellX) {
    const int x = cellX * kMapCell + kMapCell / 2 - where.x;
    if (x >= where.width) break;
    const std::size_t at = std::size_t(x + DemosaicTile::kMargin + green);
    float gathered = 0, exposures = 0, most = 0, information = 0;
    for (std::size_t i = 0; i < sources_.size(); ++i)
      if (rows_[i].read)
        gathered += rows_[i].use[at] * rows_[i].light[at], exposures += rows_[i].use[at] * sources_[i].exposure;
    const float level = std::max(0.f, gathered / std::max(exposures, 1e-12f));
    std::uint8_t source = kNoSource;
    for (std::size_t i = 0; i < sources_.size(); ++i) {
      const Source& s = sources_[i];
      if (!rows_[i].read) continue;
      const float w = rows_[i].use[at] * s.exposure * s.exposure / s.variance.at(level * s.exposure);
      information += w;
      if (w > most) most = w, source = std::uint8_t(s.index);
    }
    *result_.source.at(cellX, cellY) = source;
    *result_.snr.at(cellX, cellY) = level * std::sqrt(information);
  }
}

} // namespace ml
