// SPDX-License-Identifier: GPL-3.0-or-later
#include "merge/merge.h"

#include "align/transform.h"
#include "base/parallel.h"
#include "base/vector_clones.h"
#include "exposure/ev.h"
#include "merge/consistency.h"
#include "merge/pixel_veto.h"
#include "merge/share.h"
#include "merge/tile.h"
#include "merge/variance_curve.h"

#include <cmath>
#include <fmt/format.h>
#include <numeric>

namespace ml {
namespace {

constexpr double kMidTone = 0.18;
constexpr int kTileWidth = 256, kTileRows = 32; // all frames of a tile stay in the second-level cache
constexpr std::size_t kMostFrames = 64;
constexpr float kLinearUnsure = 0.06f; ///< Of light whose curve is known: exposure, demosaicing.
constexpr float kAddsTooLittle =
    1 /
    25.f; ///< Exposure ratio; information goes with exposure where photons decide, so at most 2 % of signal to noise.

struct Source {
  PlacedFrame placed;
  float exposure = 1; ///< Relative to the reference frame.
  VarianceCurve variance;
  float misplaced = 0; ///< Variance of the place, square pixels.
  const Image<float>* share = nullptr;
  int shareCell = 4;
};

/// What all channels of a sample allow, and what one allows beyond that, others being clipped. Returns whether any is
/// allowed beyond.
ML_VECTOR_CLONES bool useOfRow(const float* red, const float* green, const float* blue, const float* share, int n,
                               float* __restrict use, float* __restrict beyondRed, float* __restrict beyondGreen,
                               float* __restrict beyondBlue) {
  int any = 0;
  for (int i = 0; i < n; ++i) {
    const float s = share ? share[i] : 1.f;
    const float r = std::max(0.f, red[i]) * s, g = std::max(0.f, green[i]) * s, b = std::max(0.f, blue[i]) * s,
                all = std::min(std::min(r, g), b);
    use[i] = all;
    beyondRed[i] = r - all, beyondGreen[i] = g - all, beyondBlue[i] = b - all;
    any |= (beyondRed[i] + beyondGreen[i] + beyondBlue[i]) > 0;
  }
  return any;
}

/// Light gathered by all frames over their exposures: the estimate that the variances are taken at.
ML_VECTOR_CLONES void gather(const float* light, const float* use, float exposure, int n, float* __restrict sum,
                             float* __restrict exposures) {
  for (int i = 0; i < n; ++i) {
    sum[i] += use[i] * light[i];
    exposures[i] += use[i] * exposure;
  }
}

ML_VECTOR_CLONES void estimate(const float* sum, const float* exposures, int n, float* __restrict out) {
  for (int i = 0; i < n; ++i) out[i] = sum[i] / std::max(exposures[i], 1e-12f);
}

ML_VECTOR_CLONES void squaredGradient(const float* above, const float* row, const float* below, int n,
                                      float* __restrict out) {
  for (int i = 1; i < n - 1; ++i) {
    const float gx = 0.5f * (row[i + 1] - row[i - 1]), gy = 0.5f * (below[i] - above[i]);
    out[i] = gx * gx + gy * gy;
  }
  out[0] = n > 1 ? out[1] : 0.f;
  out[n - 1] = n > 2 ? out[n - 2] : 0.f;
}

/// Adds a frame's light by its inverse variance at the estimate; `gradient` may be null.
ML_VECTOR_CLONES void weigh(const float* light, const float* use, const float* level, const float* gradient,
                            VarianceCurve curve, float exposure, float misplaced, int n, float* __restrict sum,
                            float* __restrict weights) {
  for (int i = 0; i < n; ++i) {
    // The weight of `light / exposure` is exposure^2 / variance; one factor is kept for the sum.
    const float w = use[i] * exposure / (curve.at(level[i] * exposure) + (gradient ? misplaced * gradient[i] : 0.f));
    sum[i] += w * light[i];
    weights[i] += w * exposure;
  }
}

constexpr float kCoding = 0.03f;

/// Adds a channel whose neighbours clip, where it agrees within the noise of both, and a few hundredths of the
/// brightest channel (what coding does to a channel far below the others), with what was gathered so far: else what
/// moved, or was demosaiced otherwise, would come out coloured. `light` is merged and weighted already, and is so
/// again.
ML_VECTOR_CLONES void weighSurplus(const float* sample, const float* surplus, const float* gradient,
                                   const float* brightest, VarianceCurve curve, float exposure, float misplaced, int n,
                                   float* __restrict light, float* __restrict weights, float* __restrict exposures) {
  const float squared = exposure * exposure, inverse = 1 / exposure;
  for (int i = 0; i < n; ++i) {
    const bool known = weights[i] > 0;
    const float weight = known ? weights[i] : 1e-12f, expected = known ? light[i] * exposure : sample[i];
    const float variance = curve.at(expected) + (gradient ? misplaced * gradient[i] : 0.f);
    const float off = sample[i] - expected, coding = kCoding * brightest[i] * exposure;
    // off^2 <= 9 (variance + exposure^2 / weight) + coding^2, without the division.
    const float used = (off * off - 9 * variance - coding * coding) * weight <= 9 * squared ? surplus[i] : 0.f;
    const float information = used * squared, all = weights[i] * variance + information;
    const float both = 1 / (variance * all + 1e-37f);
    light[i] += information * variance * both * (sample[i] * inverse - light[i]);
    weights[i] += information * all * both;
    exposures[i] += used * exposure;
  }
}

/// Where in a row anything is above zero, in whole blocks: [first, last).
struct Stretch {
  int first = 0, last = 0;
};
ML_VECTOR_CLONES bool anyAboveZero(const float* in, int n) {
  int any = 0;
  for (int i = 0; i < n; ++i) any |= in[i] > 0;
  return any;
}
Stretch stretchOf(const float* in, int n) {
  constexpr int kBlock = 32;
  Stretch out{n, n};
  for (int i = 0; i < n; i += kBlock) {
    if (!anyAboveZero(in + i, std::min(kBlock, n - i))) continue;
    out.first = std::min(out.first, i);
    out.last = std::min(n, i + kBlock);
  }
  if (out.first == n) out.last = n;
  return out;
}

ML_VECTOR_CLONES bool anyAtMost(const float* a, const float* b, const float* c, float limit, int n) {
  int any = 0;
  for (int i = 0; i < n; ++i) any |= std::min(std::min(a[i], b[i]), c[i]) <= limit;
  return any;
}

ML_VECTOR_CLONES void largestOfThree(const float* a, const float* b, const float* c, int n, float* __restrict out) {
  for (int i = 0; i < n; ++i) out[i] = std::max(std::max(a[i], b[i]), c[i]);
}

ML_VECTOR_CLONES void divide(const float* sum, const float* weights, int n, float* __restrict out) {
  for (int i = 0; i < n; ++i) out[i] = sum[i] / std::max(weights[i], 1e-30f);
}

ML_VECTOR_CLONES void toRec709(const float* r, const float* g, const float* b, const float* m, int n,
                               float* __restrict out) {
  for (int i = 0; i < n; ++i) {
    out[3 * i] = m[0] * r[i] + m[1] * g[i] + m[2] * b[i];
    out[3 * i + 1] = m[3] * r[i] + m[4] * g[i] + m[5] * b[i];
    out[3 * i + 2] = m[6] * r[i] + m[7] * g[i] + m[8] * b[i];
  }
}

/// Of a frame just below clipping (`use` between 0 and 1): nothing, where a darker one that records well (`sure` 1)
/// shows more than half as much again.
ML_VECTOR_CLONES void doubt(const float* light, float scale, const float* darker, float darkerScale, const float* sure,
                            int n, float* __restrict use) {
  constexpr float kMore = 1.5f;
  for (int i = 0; i < n; ++i) {
    const bool doubtful = use[i] < 1 && sure[i] >= 1 && darker[i] * darkerScale > kMore * light[i] * scale;
    use[i] = doubtful ? 0.f : use[i];
  }
}

/// Clipped everywhere: the darkest frame's value. A channel at its limit is at least the mean of the other two, so that
/// a lamp stays warm and a cloud grey; where all come near their limits the colour becomes neutral, never that of the
/// limits.
void clippedColour(const float* linear, const std::array<float, 3>& saturation, float exposure, float* out) {
  float held[3], brightest = 0, nearest = 1;
  for (std::size_t c = 0; c < 3; ++c) {
    held[c] = std::min(linear[c], saturation[c]);
    brightest = std::max(brightest, held[c]);
    nearest = std::min(nearest, held[c] / saturation[c]);
  }
  const float t = std::clamp((nearest - 0.6f) / 0.35f, 0.f, 1.f), neutral = t * t * (3 - 2 * t);
  for (std::size_t c = 0; c < 3; ++c) {
    const float likely = std::max(held[c], 0.5f * (held[(c + 1) % 3] + held[(c + 2) % 3]));
    out[c] = (linear[c] >= 0.97f * saturation[c] ? likely + neutral * (brightest - likely) : linear[c]) / exposure;
  }
}

class TileMerger {
public:
  /// `moved`: cells in which each pixel decides for itself who speaks; null: none.
  TileMerger(const std::vector<Source>& sources, std::size_t reference, const CellMask* moved, const float* matrix,
             MergeResult& result)
      : sources_(sources), reference_(reference), moved_(moved), matrix_(matrix), result_(result),
        tiles_(sources.size()) {
    for (const Source& source : sources) readers_.emplace_back(source.placed, scratch_);
    byExposure_.resize(sources.size());
    std::iota(byExposure_.begin(), byExposure_.end(), 0);
    std::stable_sort(byExposure_.begin(), byExposure_.end(),
                     [&](auto a, auto b) { return sources[a].exposure < sources[b].exposure; });
    use_.assign(sources.size(), std::vector<float>(kTileWidth));
    shares_.assign(sources.size(), std::vector<float>(kTileWidth));
    vetoed_.assign(sources.size(), std::vector<std::uint8_t>(kTileWidth));
    surplus_.resize(sources.size());
    beyond_.resize(sources.size());
    shared_.resize(sources.size());
    for (auto& channels : surplus_)
      for (auto& row : channels) row.resize(kTileWidth);
  }

  /// Merges a tile into the result; returns how many of its pixels are clipped in every frame.
  int merge(const Roi& where) {
    readFrames(where);
    int clipped = 0;
    for (int y = 0; y < where.height; ++y) clipped += mergeRow(where, y);
    return clipped;
  }

private:
  /// From the lightest frame down. Where one is trusted everywhere, frames that would add less than kAddsTooLittle of
  /// its information are not read.
  void readFrames(const Roi& where) {
    float enough = 0;
    for (std::size_t k = sources_.size(); k-- > 0;) {
      const std::size_t i = byExposure_[k];
      FrameTile& tile = tiles_[i];
      if (sources_[i].exposure < enough * kAddsTooLittle) {
        tile.allTrusted = tile.placed = false;
        tile.noneTrusted = true;
        continue;
      }
      readers_[i].read(where, k > 0, tile);
      if (tile.allTrusted && sharesAll(i, where)) enough = std::max(enough, sources_[i].exposure);
    }
  }

  [[nodiscard]] bool sharesAll(std::size_t i, const Roi& where) const {
    const Source& s = sources_[i];
    if (!s.share) return true;
    for (int y = where.y / s.shareCell - 1; y <= (where.y + where.height) / s.shareCell + 1; ++y)
      for (int x = where.x / s.shareCell - 1; x <= (where.x + where.width) / s.shareCell + 1; ++x)
        if (*s.share->at(std::clamp(x, 0, s.share->width() - 1), std::clamp(y, 0, s.share->height() - 1)) != 1)
          return false;
    return true;
  }

  /// Marks the pixels of a row that lie where things moved; false: none does.
  bool markMoved(const Roi& where, int y) {
    if (!moved_) return false;
    const int cell = sources_.front().shareCell;
    const std::uint8_t* cells = moved_->row(std::min((where.y + y) / cell, moved_->height() - 1));
    int any = 0;
    for (int x = 0; x < where.width; ++x)
      any |= movedRow_[x] = cells[std::min((where.x + x) / cell, moved_->width() - 1)];
    return any;
  }

  void veto(int y, int n) {
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
    vetoRow(frames, reference_, movedRow_, n);
  }

  int mergeRow(const Roi& where, int y) {
    const int n = where.width;
    vetoing_ = markMoved(where, y);
    for (std::size_t i = 0; i < sources_.size(); ++i) prepareUse(i, where, y);
    for (std::size_t i = 0; i < sources_.size(); ++i) doubtNearClipping(i, y, n);
    if (vetoing_) veto(y, n);
    for (int c = 0; c < 3; ++c) mergeChannel(c, y, n);
    mergeSurplus(y, n);
    const int clipped = mendClipped(y, n);
    toRec709(merged_[0], merged_[1], merged_[2], matrix_, n, result_.radiance.at(where.x, where.y + y));
    if ((where.y + y) % kMapCell == kMapCell / 2) fillMaps(where, y);
    return clipped;
  }

  void prepareUse(std::size_t i, const Roi& where, int y) {
    const FrameTile& tile = tiles_[i];
    const Source& s = sources_[i];
    const int n = where.width;
    float* use = use_[i].data();
    beyond_[i] = shared_[i] = false;
    if (tile.noneTrusted && !(vetoing_ && i == reference_ && tile.placed)) {
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

  /// What a frame shows just below clipping must be what the next darker one shows that records it well. Things that
  /// passed in a long exposure, most of them clipped, are not seen by the cells.
  void doubtNearClipping(std::size_t i, int y, int n) {
    const FrameTile& tile = tiles_[i];
    if (tile.allTrusted || tile.noneTrusted || !tile.placed) return;
    for (std::size_t k = byExposure_.size(); k-- > 0;) {
      const std::size_t j = byExposure_[k];
      if (sources_[j].exposure >= sources_[i].exposure || !tiles_[j].placed || tiles_[j].noneTrusted) continue;
      doubt(tile.linear[1].row(y), 1 / sources_[i].exposure, tiles_[j].linear[1].row(y), 1 / sources_[j].exposure,
            use_[j].data(), n, use_[i].data());
    }
  }

  /// Null where misplacement does not matter.
  static const float* gradientOf(const Source& s, const Plane& light, int y, int n, float* row) {
    if (s.misplaced <= 0) return nullptr;
    squaredGradient(light.row(std::max(0, y - 1)), light.row(y), light.row(std::min(light.height() - 1, y + 1)), n,
                    row);
    return row;
  }

  /// Has it nothing to say in the row?
  [[nodiscard]] bool silent(std::size_t i) const {
    return tiles_[i].noneTrusted && !(vetoing_ && i == reference_ && tiles_[i].placed);
  }

  void mergeChannel(int c, int y, int n) {
    float sum[kTileWidth] = {}, level[kTileWidth], gradient[kTileWidth] = {};
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

  /// What single channels allow beyond all three, darkest frame first.
  void mergeSurplus(int y, int n) {
    float brightest[kTileWidth], gradient[kTileWidth] = {};
    for (const std::size_t i : byExposure_) {
      if (!beyond_[i]) continue;
      const Source& s = sources_[i];
      largestOfThree(merged_[0], merged_[1], merged_[2], n, brightest);
      for (std::size_t c = 0; c < 3; ++c) {
        const auto [first, last] = stretchOf(surplus_[i][c].data(), n);
        if (first == last) continue;
        const Plane& light = tiles_[i].linear[c];
        const float* slopes = gradientOf(s, light, y, n, gradient);
        weighSurplus(light.row(y) + first, surplus_[i][c].data() + first, slopes ? slopes + first : nullptr,
                     brightest + first, s.variance, s.exposure, s.misplaced, last - first, merged_[c] + first,
                     weight_[c] + first, gathered_[c] + first);
      }
    }
  }

  /// Pixels in which a channel is trusted in no frame take the darkest that may speak, as it is. Returns how many are
  /// clipped even there.
  int mendClipped(int y, int n) {
    const float least = 1e-6f * sources_.front().exposure;
    int clipped = 0;
    if (!anyAtMost(gathered_[0], gathered_[1], gathered_[2], least, n)) return clipped;
    for (int x = 0; x < n; ++x)
      if (std::min({gathered_[0][x], gathered_[1][x], gathered_[2][x]}) <= least) clipped += takeDarkest(x, y) ? 0 : 1;
    return clipped;
  }

  /// The darkest frame that may speak and does not clip; else, one that may saying "at least this bright", the
  /// brightest that any says; else the darkest. False: it is clipped.
  bool takeDarkest(int x, int y) {
    int darkest = -1, brightest = -1;
    float most = -1;
    bool spoken = false;
    for (std::size_t i = 0; i < sources_.size(); ++i) {
      const FrameTile& tile = tiles_[i];
      if (!tile.placed || (!tile.allTrusted && tile.trust[0].row(y)[x] < 0)) continue; // outside
      const bool speaking = vetoing_ ? !vetoed_[i][std::size_t(x)] : !sources_[i].share || speaks(i, x, y);
      const bool clips = takeAsItIs(i, x, y);
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

  /// True: it is clipped there.
  bool takeAsItIs(std::size_t i, int x, int y) {
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

  /// Has a frame a say at a pixel, apart from its exposure?
  bool speaks(std::size_t i, int x, int y) const {
    float share;
    return shareRow(*sources_[i].share, sources_[i].shareCell, tileX_ + x, tileY_ + y, 1, &share) || share >= 0.5f;
  }

  void fillMaps(const Roi& where, int y) {
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

public:
  void at(int x, int y) { tileX_ = x, tileY_ = y; }

private:
  const std::vector<Source>& sources_;
  std::size_t reference_;
  const CellMask* moved_;
  const float* matrix_;
  MergeResult& result_;
  TileScratch scratch_;
  std::vector<TileReader> readers_;
  std::vector<std::size_t> byExposure_; ///< Darkest first.
  std::vector<FrameTile> tiles_;
  std::vector<std::vector<float>> use_;
  std::vector<std::array<std::vector<float>, 3>> surplus_;
  std::vector<char> beyond_; ///< Whether a frame has any surplus in the row.
  std::vector<char> shared_; ///< Whether a frame's share in the row is not all 1.
  std::vector<std::vector<float>> shares_;
  std::vector<std::vector<std::uint8_t>> vetoed_;
  std::uint8_t movedRow_[kTileWidth];
  bool vetoing_ = false; ///< In this row pixels decide.
  int tileX_ = 0, tileY_ = 0;
  float merged_[3][kTileWidth], weight_[3][kTileWidth], gathered_[3][kTileWidth];
};

} // namespace

std::optional<std::string> MergeOptions::invalidReason(std::size_t frames) const {
  if (frames < 1 || frames > kMostFrames) return "1 to 64 frames can be merged";
  if (reference < 0 || reference >= int(frames)) return "the reference frame is not among the frames";
  return {};
}

Result<void> checkFrames(const std::vector<PlacedFrame>& frames, const MergeOptions& options) {
  if (const auto reason = options.invalidReason(frames.size()))
    return fail(ErrorCode::InvalidArgument, "The frames cannot be merged: " + *reason + ".");
  const Frame& reference = *frames[std::size_t(options.reference)].frame;
  for (const auto& placed : frames)
    if (placed.frame->width() != reference.width() || placed.frame->height() != reference.height())
      return fail(ErrorCode::SizeMismatch,
                  fmt::format("`{}` is {} x {} pixels and `{}` is {} x {}; combine only frames of one size.",
                              placed.frame->path, placed.frame->width(), placed.frame->height(), reference.path,
                              reference.width(), reference.height()));
  return {};
}

Result<MergeResult> mergeRadiance(const std::vector<PlacedFrame>& frames, const MergeOptions& options,
                                  const Progress& progress) {
  if (auto sound = checkFrames(frames, options); !sound) return passOn(sound.error());
  const Frame& reference = *frames[std::size_t(options.reference)].frame;
  progress.at("Look for movement", 0);
  Consistency consistency = findConsistency(frames, options, progress);
  if (progress.stopRequested()) return stopped();

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
  MergeResult result;
  const int width = reference.width(), height = reference.height();
  result.radiance = Image<float>(width, height, 3);
  result.source = Image<std::uint8_t>(std::max(1, width / kMapCell), std::max(1, height / kMapCell), 1);
  result.snr = Image<float>(result.source.width(), result.source.height(), 1);
  result.source.fill(kNoSource);
  result.light = Image<float>(result.source.width(), result.source.height(), 1);
  result.snr.fill(0);
  result.light.fill(0);
  std::vector<int> clipped(std::size_t(bandCount(height, kTileRows)));
  std::atomic<int> rowsDone{0};
  const Matrix3& m = reference.toRec709;
  float matrix[9];
  for (int i = 0; i < 9; ++i) matrix[i] = float(m[std::size_t(i)] * kMidTone / reference.midTone);
  const bool finished = forEachBand(
      height, progress.stop,
      [&](const Band& band) {
        TileMerger merger(sources, std::size_t(options.reference),
                          consistency.moved.empty() ? nullptr : &consistency.moved, matrix, result);
        for (int x = 0; x < width; x += kTileWidth) {
          merger.at(x, band.begin);
          clipped[std::size_t(band.index)] +=
              merger.merge({x, band.begin, std::min(kTileWidth, width - x), band.end - band.begin});
        }
        progress.at("Merge", double(rowsDone += band.end - band.begin) / height);
      },
      kTileRows);
  if (!finished) return stopped();
  for (const int count : clipped) result.clippedShare += count;
  result.clippedShare /= double(width) * height;
  result.motion = std::move(consistency.report);
  result.ev100OfUnit = ev100(reference.settings).value - std::log2(kMidTone);
  return result;
}

} // namespace ml
