// SPDX-License-Identifier: GPL-3.0-or-later
#include "merge/tile_merger.h"

#include "merge/rows.h"
#include "merge/share.h"

#include <algorithm>
#include <cmath>
#include <numeric>

namespace ml {

using namespace rows;

namespace {

constexpr float kLinearUnsure = 0.06f; ///< Of light whose curve is known: exposure, demosaicing.

constexpr float kNearlyFull = 0.97f; ///< Of clipping.

/// No use of a frame where it is brighter than another that is not full; softly, from noise on.
void keepDarker(const float* light, float scale, const float* other, float otherScale, float full, int n, float* use) {
  constexpr float kNone = 1.3f, kWhole = 1.15f;
  for (int x = 0; x < n; ++x) {
    if (other[x] >= full) continue;
    const float ratio = light[x] * scale / std::max(other[x] * otherScale, 1e-9f);
    use[x] *= std::clamp((kNone - ratio) / (kNone - kWhole), 0.f, 1.f);
  }
}

} // namespace

TileMerger::TileMerger(const std::vector<Source>& sources, const CellMask* decides, const float* matrix,
                       MergeResult& result)
    : sources_(sources), decides_(decides), matrix_(matrix), result_(result), tiles_(sources.size()),
      deciding_(sources.size()), filling_(sources.size()) {
  for (const Source& source : sources) readers_.emplace_back(source.placed, scratch_);
  byExposure_.resize(sources.size());
  std::iota(byExposure_.begin(), byExposure_.end(), 0);
  std::stable_sort(byExposure_.begin(), byExposure_.end(),
                   [&](auto a, auto b) { return sources[a].exposure < sources[b].exposure; });
  use_.assign(sources.size(), std::vector<float>(kWidth));
  shares_.assign(sources.size(), std::vector<float>(kWidth));
  vetoed_.assign(sources.size(), std::vector<std::uint8_t>(kWidth));
  surplus_.resize(sources.size());
  beyond_.resize(sources.size());
  shared_.resize(sources.size());
  for (auto& channels : surplus_)
    for (auto& row : channels) row.resize(kWidth);
}

int TileMerger::merge(const Roi& where) {
  tileX_ = where.x, tileY_ = where.y;
  findDeciders(where);
  readFrames(where);
  int clipped = 0;
  for (int y = 0; y < where.height; ++y) clipped += mergeRow(where, y);
  return clipped;
}

void TileMerger::readFrames(const Roi& where) {
  float enough = 0;
  for (std::size_t k = sources_.size(); k-- > 0;) {
    const std::size_t i = byExposure_[k];
    FrameTile& tile = tiles_[i];
    const bool addsTooLittle = sources_[i].exposure < enough * kAddsTooLittle && !deciding_[i];
    filling_[i] = sources_[i].filling && shares(i, where, 0);
    if (addsTooLittle || (filling_[i] ? enough > 0 : sources_[i].lent && shares(i, where, 0))) {
      tile.allTrusted = tile.placed = false;
      tile.noneTrusted = true;
      continue;
    }
    readers_[i].read(where, k > 0, tile);
    if (tile.allTrusted && shares(i, where, 1)) enough = std::max(enough, sources_[i].exposure);
  }
}

bool TileMerger::shares(std::size_t i, const Roi& where, float value) const {
  const Source& s = sources_[i];
  if (!s.share) return value == 1;
  for (int y = where.y / s.shareCell - 1; y <= (where.y + where.height) / s.shareCell + 1; ++y)
    for (int x = where.x / s.shareCell - 1; x <= (where.x + where.width) / s.shareCell + 1; ++x)
      if (*s.share->at(std::clamp(x, 0, s.share->width() - 1), std::clamp(y, 0, s.share->height() - 1)) != value)
        return false;
  return true;
}

void TileMerger::findDeciders(const Roi& where) {
  std::fill(deciding_.begin(), deciding_.end(), 0);
  if (!decides_) return;
  const int cell = sources_.front().shareCell;
  const auto last = [cell](int pixel, int cells) { return std::min(pixel / cell, cells - 1); };
  for (int y = last(where.y, decides_->height()); y <= last(where.y + where.height - 1, decides_->height()); ++y)
    for (int x = last(where.x, decides_->width()); x <= last(where.x + where.width - 1, decides_->width()); ++x)
      if (const int who = *decides_->at(x, y); who > 0) deciding_[std::size_t(who - 1)] = 1;
}

bool TileMerger::markMoved(const Roi& where, int y) {
  if (!decides_) return false;
  const int cell = sources_.front().shareCell;
  const std::uint8_t* cells = decides_->row(std::min((where.y + y) / cell, decides_->height() - 1));
  int any = 0;
  for (int x = 0; x < where.width; ++x)
    any |= decidesRow_[x] = cells[std::min((where.x + x) / cell, decides_->width() - 1)];
  return any;
}

void TileMerger::veto(int y, int n) {
  std::vector<VetoFrame> frames(sources_.size());
  for (std::size_t i = 0; i < sources_.size(); ++i) {
    const Source& s = sources_[i];
    const Frame& frame = *s.placed.frame;
    VetoFrame& f = frames[i];
    f.placed = tiles_[i].placed;
    for (std::size_t c = 0; c < 3; ++c) {
      f.linear[c] = f.placed ? tiles_[i].linear[c].row(y) : nullptr;
      f.clip[c] = frame.table.clipFrom * frame.saturation[c];
      f.surplus[c] = beyond_[i] ? surplus_[i][c].data() : nullptr;
    }
    f.exposure = s.exposure, f.variance = s.variance, f.misplaced = s.misplaced;
    if (frame.codeError == 0) f.unsure = kLinearUnsure;
    f.share = shared_[i] ? shares_[i].data() : nullptr;
    f.use = use_[i].data();
    f.vetoed = vetoed_[i].data();
  }
  vetoRow(frames, decidesRow_, n);
}

int TileMerger::mergeRow(const Roi& where, int y) {
  const int n = where.width;
  vetoing_ = markMoved(where, y);
  for (std::size_t i = 0; i < sources_.size(); ++i) prepareUse(i, where, y);
  for (std::size_t i = 0; i < sources_.size(); ++i) doubtNearClipping(i, y, n);
  if (vetoing_) veto(y, n);
  fillFull(y, n);
  for (int c = 0; c < 3; ++c) mergeChannel(c, y, n);
  mergeSurplus(y, n);
  const int clipped = mendClipped(y, n);
  toRec709(merged_[0], merged_[1], merged_[2], matrix_, n, result_.radiance.at(where.x, where.y + y));
  if ((where.y + y) % kMapCell == kMapCell / 2) fillMaps(where, y);
  return clipped;
}

void TileMerger::prepareUse(std::size_t i, const Roi& where, int y) {
  const FrameTile& tile = tiles_[i];
  const Source& s = sources_[i];
  const int n = where.width;
  float* use = use_[i].data();
  beyond_[i] = shared_[i] = false;
  if (filling_[i] || (tile.noneTrusted && !(vetoing_ && deciding_[i] && tile.placed))) {
    std::fill_n(use, n, 0.f);
    return;
  }
  shared_[i] = s.share && !shareRow(*s.share, s.shareCell, where.x, where.y + y, n, shares_[i].data());
  const bool now = shared_[i] && !vetoing_; // else the veto brings them in
  if (tile.allTrusted) {
    if (now)
      std::copy_n(shares_[i].data(), n, use);
    else
      std::fill_n(use, n, 1.f);
    return;
  }
  auto& beyond = surplus_[i];
  beyond_[i] =
      useOfRow(tile.trust[0].row(y), tile.trust[1].row(y), tile.trust[2].row(y), now ? shares_[i].data() : nullptr, n,
               use, beyond[0].data(), beyond[1].data(), beyond[2].data());
}

/// What every frame of the set's own clips is shown by those that stand by for it: the darker of the two. Where the
/// set's darkest frame is not full, though near it or beside what is, a brighter one shows what the flash lit.
void TileMerger::fillFull(int y, int n) {
  const auto darkest = std::find_if(byExposure_.begin(), byExposure_.end(), [&](auto i) { return !sources_[i].lent; });
  for (std::size_t f = 0; f < sources_.size(); ++f) {
    const FrameTile& tile = tiles_[f];
    if (!filling_[f] || tile.noneTrusted) continue;
    float* use = use_[f].data();
    std::fill_n(use, n, 1.f);
    if (!tile.allTrusted) {
      auto& beyond = surplus_[f];
      useOfRow(tile.trust[0].row(y), tile.trust[1].row(y), tile.trust[2].row(y), nullptr, n, use, beyond[0].data(),
               beyond[1].data(), beyond[2].data());
    }
    for (std::size_t i = 0; i < sources_.size(); ++i)
      if (!sources_[i].lent)
        for (int x = 0; x < n; ++x) use[x] *= std::max(0.f, 1 - use_[i][std::size_t(x)]);
    const Source& own = sources_[*darkest];
    const FrameTile& dark = tiles_[*darkest];
    if (!dark.placed) continue;
    const Frame& frame = *own.placed.frame;
    keepDarker(tile.linear[1].row(y), 1 / sources_[f].exposure, dark.linear[1].row(y), 1 / own.exposure,
               kNearlyFull * frame.table.clipFrom * frame.saturation[1], n, use);
  }
}

void TileMerger::doubtNearClipping(std::size_t i, int y, int n) {
  const FrameTile& tile = tiles_[i];
  if (tile.noneTrusted || !tile.placed) return;
  for (std::size_t c = 0; c < 3; ++c) keepAtLeastOf(i, c, y, n, use_[i].data());
  if (tile.allTrusted) return;
  for (std::size_t k = byExposure_.size(); k-- > 0;) {
    const std::size_t j = byExposure_[k];
    if (sources_[j].exposure >= sources_[i].exposure || !tiles_[j].placed || tiles_[j].noneTrusted) continue;
    doubt(tile.linear[1].row(y), 1 / sources_[i].exposure, tiles_[j].linear[1].row(y), 1 / sources_[j].exposure,
          use_[j].data(), n, use_[i].data());
  }
}

const float* TileMerger::gradientOf(const Source& s, const Plane& light, int y, int n, float* row) {
  if (s.misplaced <= 0) return nullptr;
  squaredGradient(light.row(std::max(0, y - 1)), light.row(y), light.row(std::min(light.height() - 1, y + 1)), n, row);
  return row;
}

bool TileMerger::silent(std::size_t i) const {
  return tiles_[i].noneTrusted && !(vetoing_ && deciding_[i] && tiles_[i].placed);
}

void TileMerger::mergeChannel(int c, int y, int n) {
  float sum[kWidth] = {}, level[kWidth], gradient[kWidth] = {};
  float* exposures = weight_[c];
  std::fill_n(exposures, n, 0.f);
  for (std::size_t i = 0; i < sources_.size(); ++i)
    if (!silent(i))
      gather(tiles_[i].linear[std::size_t(c)].row(y), use_[i].data(), sources_[i].exposure, n, sum, exposures);
  estimate(sum, exposures, n, level);
  std::copy_n(exposures, n, gathered_[c]);
  std::fill_n(sum, n, 0.f);
  std::fill_n(weight_[c], n, 0.f);
  for (std::size_t i = 0; i < sources_.size(); ++i) {
    if (silent(i)) continue;
    const Source& s = sources_[i];
    const Plane& light = tiles_[i].linear[std::size_t(c)];
    weigh(light.row(y), use_[i].data(), level, gradientOf(s, light, y, n, gradient), s.variance, s.exposure,
          s.misplaced, n, sum, weight_[c]);
  }
  divide(sum, weight_[c], n, merged_[c]);
}

void TileMerger::mergeSurplus(int y, int n) {
  float brightest[kWidth], gradient[kWidth] = {};
  for (const std::size_t i : byExposure_) {
    if (!beyond_[i]) continue;
    const Source& s = sources_[i];
    largestOfThree(merged_[0], merged_[1], merged_[2], n, brightest);
    for (std::size_t c = 0; c < 3; ++c) {
      const auto [first, last] = stretchOf(surplus_[i][c].data(), n);
      if (first == last) continue;
      keepAtLeastOf(i, c, y, n, surplus_[i][c].data());
      const Plane& light = tiles_[i].linear[c];
      const float* slopes = gradientOf(s, light, y, n, gradient);
      weighSurplus(light.row(y) + first, surplus_[i][c].data() + first, slopes ? slopes + first : nullptr,
                   brightest + first, s.variance, s.exposure, s.misplaced, last - first, merged_[c] + first,
                   weight_[c] + first, gathered_[c] + first);
    }
  }
}

/// Where a darker frame's channel is near clipping, a brighter frame that shows clearly less shows something else.
/// Not in moved places: the veto has looked at them.
void TileMerger::keepAtLeastOf(std::size_t i, std::size_t c, int y, int n, float* use) {
  const FrameTile& tile = tiles_[i];
  float trust[kWidth];
  for (const std::size_t j : byExposure_) {
    const FrameTile& darker = tiles_[j];
    if (sources_[j].exposure >= sources_[i].exposure || !darker.placed || darker.allTrusted) continue;
    for (int x = 0; x < n; ++x) trust[x] = vetoing_ && decidesRow_[x] > 0 ? 1 : darker.trust[c].row(y)[x];
    keepAtLeast(tile.linear[c].row(y), 1 / sources_[i].exposure, darker.linear[c].row(y), 1 / sources_[j].exposure,
                trust, n, use);
  }
}

int TileMerger::mendClipped(int y, int n) {
  const float least = 1e-6f * sources_.front().exposure;
  int clipped = 0;
  if (!anyAtMost(gathered_[0], gathered_[1], gathered_[2], least, n)) return clipped;
  for (int x = 0; x < n; ++x)
    if (std::min({gathered_[0][x], gathered_[1][x], gathered_[2][x]}) <= least) clipped += takeDarkest(x, y) ? 0 : 1;
  return clipped;
}

bool TileMerger::takeDarkest(int x, int y) {
  int darkest = -1, brightest = -1;
  float most = -1;
  bool spoken = false;
  const bool still = !vetoing_ || decidesRow_[x] == 0;
  for (std::size_t i = 0; i < sources_.size(); ++i) {
    const FrameTile& tile = tiles_[i];
    if (!tile.placed || (!tile.allTrusted && tile.trust[0].row(y)[x] < 0)) continue; // outside
    const bool speaking = vetoing_ ? !vetoed_[i][std::size_t(x)] : !sources_[i].share || speaks(i, x, y);
    const bool clips = takeAsItIs(i, x, y);
    if (still && darkest >= 0 && showsLess(i, std::size_t(darkest), x, y)) continue;
    if (speaking && !clips) return true;
    if (darkest < 0) darkest = int(i);
    if (!speaking) continue;
    spoken = true;
    const float light = merged_[0][x] + merged_[1][x] + merged_[2][x];
    if (light > most) most = light, brightest = int(i);
  }
  const int taken = spoken ? brightest : darkest;
  if (taken >= 0) return !takeAsItIs(std::size_t(taken), x, y);
  for (int c = 0; c < 3; ++c) merged_[c][x] = 0;
  return false;
}

bool TileMerger::showsLess(std::size_t i, std::size_t darker, int x, int y) const {
  for (std::size_t c = 0; c < 3; ++c)
    if (tiles_[i].linear[c].row(y)[x] / sources_[i].exposure <
        kLess * tiles_[darker].linear[c].row(y)[x] / sources_[darker].exposure)
      return true;
  return false;
}

bool TileMerger::takeAsItIs(std::size_t i, int x, int y) {
  const Frame& frame = *sources_[i].placed.frame;
  float linear[3], out[3];
  bool clips = false;
  for (int c = 0; c < 3; ++c) {
    linear[c] = tiles_[i].linear[std::size_t(c)].row(y)[x];
    clips = clips || linear[c] >= 0.97f * frame.table.clipFrom * frame.saturation[c];
  }
  clippedColour(linear, frame.saturation, sources_[i].exposure, out);
  for (int c = 0; c < 3; ++c) merged_[c][x] = out[c];
  return clips;
}

bool TileMerger::speaks(std::size_t i, int x, int y) const {
  float share;
  return shareRow(*sources_[i].share, sources_[i].shareCell, tileX_ + x, tileY_ + y, 1, &share) || share >= 0.5f;
}

void TileMerger::fillMaps(const Roi& where, int y) {
  const int cellY = (where.y + y) / kMapCell;
  if (cellY >= result_.source.height()) return;
  for (int x = kMapCell / 2 - where.x % kMapCell; x < where.width; x += kMapCell) {
    const int cellX = (where.x + x) / kMapCell;
    if (x < 0 || cellX >= result_.source.width()) continue;
    const float level = merged_[1][x];
    float most = 0, information = 0;
    std::uint8_t source = kNoSource;
    for (std::size_t i = 0; i < sources_.size(); ++i) {
      if (tiles_[i].noneTrusted) continue;
      const Source& s = sources_[i];
      const float w = use_[i][std::size_t(x)] * s.exposure * s.exposure / s.variance.at(level * s.exposure);
      information += w;
      if (w > most) most = w, source = std::uint8_t(i);
    }
    *result_.source.at(cellX, cellY) = source;
    *result_.light.at(cellX, cellY) = result_.radiance.at(where.x + x, where.y + y)[1];
    *result_.snr.at(cellX, cellY) = std::max(0.f, level) * std::sqrt(information);
  }
}

} // namespace ml
