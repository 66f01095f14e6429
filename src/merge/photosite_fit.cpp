// SPDX-License-Identifier: GPL-3.0-or-later
#include "merge/photosite_fit.h"

#include "align/transform.h"
#include "base/vector_clones.h"
#include "image/interpolate.h"
#include "merge/share.h"
#include "mosaic/bayer.h"

#include <algorithm>
#include <cmath>
#include <numeric>

namespace ml {
namespace {

constexpr int kAround = 8;             ///< Pixels around a tile whose photosites are listened to: one cell.
constexpr int kBorder = 6;             ///< Pixels of the picture's border that stay as they are.
constexpr float kUnsure = 0.015f;      ///< Of the light's range around a photosite: what looking it up may be off by.
constexpr float kMoreThanNoise = 1.3f; ///< Times its noise that differences must be to count.
constexpr float kApart = 8;   ///< Photosites of two frames that lie near each other are still apart, and what they say
                              ///< alike is less than what each says.
constexpr float kSure = 3.5f; ///< Standard errors by which what frames say alike must stand out; their product at a
                              ///< pixel varies by half the noise, and two or three pixels share theirs.
constexpr float kFewest = 8;  ///< Photosites of a cell that say anything.
constexpr float kNearFull = 0.9f; ///< Of saturation; beyond it a photosite says nothing.

/// Most less least of a row, the pixels beside and the rows of the same colours above and below.
ML_VECTOR_CLONES void rangeAround(const float* above, const float* row, const float* below, int n,
                                  float* __restrict out) {
  for (int i = 1; i < n - 1; ++i) {
    const float least = std::min(std::min(std::min(row[i - 1], row[i + 1]), std::min(above[i], below[i])), row[i]),
                most = std::max(std::max(std::max(row[i - 1], row[i + 1]), std::max(above[i], below[i])), row[i]);
    out[i] = most - least;
  }
  out[0] = n > 1 ? out[1] : 0.f;
  out[n - 1] = n > 1 ? out[n - 2] : 0.f;
}

struct Comparison {
  VarianceCurve curve;
  float exposure, unsure, foot; ///< `unsure`: variance of what is looked up, of the squared range around.
  float limit[2];               ///< Light from which a photosite of an even and an odd column says nothing.
};

/// `light` and `weight`: photosites' light and 1 where it can be had; they become ratio and weight.
ML_VECTOR_CLONES void compareRow(const float* seenEven, const float* seenOdd, const float* rangeEven,
                                 const float* rangeOdd, const Comparison& by, int n, float* __restrict light,
                                 float* __restrict weight) {
  const float inverse = 1 / by.exposure, inverse2 = inverse * inverse;
  for (int i = 0; i < n; ++i) {
    const bool odd = i & 1;
    const float seen = odd ? seenOdd[i] : seenEven[i], range = odd ? rangeOdd[i] : rangeEven[i];
    const float said = light[i], scale = 1 / (std::max(seen, 0.f) + by.foot);
    const float variance = (by.curve.at(seen * by.exposure) * inverse2 + by.unsure * range * range) * scale * scale;
    const bool good = said < (odd ? by.limit[1] : by.limit[0]);
    weight[i] = good ? weight[i] / variance : 0.f;
    light[i] = (said * inverse - seen) * scale;
  }
}

ML_VECTOR_CLONES bool anyFrom(const float* in, float least, int n) {
  int any = 0;
  for (int i = 0; i < n; ++i) any |= in[i] >= least;
  return any;
}

ML_VECTOR_CLONES void silenceRow(const float* mark, int n, float* __restrict weight) {
  for (int i = 0; i < n; ++i) weight[i] = mark[i] > 0 ? 0.f : weight[i];
}

ML_VECTOR_CLONES void sumPair(const float* ratio, const float* weight, const float* ratio2, const float* weight2, int n,
                              float* __restrict energy, float* __restrict count, float* __restrict weights) {
  for (int i = 0; i < n; ++i) {
    energy[i] = weight[i] * ratio[i] * ratio[i] + weight2[i] * ratio2[i] * ratio2[i];
    count[i] = (weight[i] > 0 ? 1.f : 0.f) + (weight2[i] > 0 ? 1.f : 0.f);
    weights[i] = weight[i] + weight2[i];
  }
}

ML_VECTOR_CLONES float mostOf(const float* in, int n) {
  float most = 0;
  for (int i = 0; i < n; ++i) most = in[i] > most ? in[i] : most;
  return most;
}

ML_VECTOR_CLONES void addRow(const float* in, int n, float* __restrict out, float* __restrict squares) {
  for (int i = 0; i < n; ++i) out[i] += in[i], squares[i] += in[i] * in[i];
}

} // namespace

bool PhotositeFit::serves(const std::vector<Source>& sources) {
  if (sources.size() < 2) return false;
  const auto identity = [](const Source& s) { return Transform{s.placed.toFrame}.isIdentity(); };
  return std::all_of(sources.begin(), sources.end(), [](const Source& s) { return s.placed.frame->isMosaic(); }) &&
         !std::all_of(sources.begin(), sources.end(), identity);
}

PhotositeFit::PhotositeFit(const std::vector<Source>& sources, const CellMask* moved, int width, int height)
    : sources_(sources), moved_(moved), width_(width), height_(height), said_(sources.size()) {
  float least = sources.front().exposure, most = least;
  for (const Source& s : sources) least = std::min(least, s.exposure), most = std::max(most, s.exposure);
  const Frame& frame = *sources.front().placed.frame;
  for (std::size_t c = 0; c < 3; ++c) full_[c] = kNearFull * frame.table.clipFrom * frame.saturation[c] / least;
  foot_ = 0.005f / most;
  fromLightest_.resize(sources.size());
  std::iota(fromLightest_.begin(), fromLightest_.end(), 0);
  std::stable_sort(fromLightest_.begin(), fromLightest_.end(),
                   [&](auto a, auto b) { return sources[a].exposure > sources[b].exposure; });
}

void PhotositeFit::fit(const Roi& tile, const Merged& merged, float* out, std::ptrdiff_t outPitch) {
  for (int y = 0; y < tile.height; ++y)
    std::copy_n(merged.row(tile.y + y) + 3 * tile.x, 3 * tile.width, out + y * outPitch);
  if (!allSpeak(sources_, moved_, tile, kAround)) return;
  cellsAcross_ = (tile.width + kCell - 1) / kCell + 2, cellsDown_ = (tile.height + kCell - 1) / kCell + 2;
  takeLight(tile, merged);
  cells_.assign(std::size_t(cellsAcross_ * cellsDown_), {});
  const Roi around{tile.x - kAround, tile.y - kAround, tile.width + 2 * kAround, tile.height + 2 * kAround};
  float enough = 0; // exposure
  for (const std::size_t i : fromLightest_) {
    said_[i].any = false;
    if (sources_[i].exposure < enough * kAddsTooLittle) continue;
    if (recordsAll(sources_[i])) enough = std::max(enough, sources_[i].exposure);
    listen(i, around);
    if (said_[i].any) countInto(sources_[i], said_[i], around);
  }
  if (!anyBeyondNoise()) return;
  for (std::size_t c = 0; c < 3; ++c)
    for (Plane* plane : {&sum_[c], &share_[c], &squares_[c], &shareSquares_[c]})
      plane->shape(around.width, around.height), plane->fill(0);
  for (std::size_t i = 0; i < sources_.size(); ++i)
    if (said_[i].any) gather(i, around);
  if (believe()) apply(tile, merged, out, outPitch);
}

void PhotositeFit::listen(std::size_t i, const Roi& around) {
  const Source& s = sources_[i];
  const Frame& frame = *s.placed.frame;
  Said& said = said_[i];
  said.roi = boundsOn(s.placed.toFrame, around, frame.width(), frame.height(), 3);
  said.roi.x &= ~1, said.roi.y &= ~1; // begins with the pattern's first colour
  const Roi& roi = said.roi;
  if (roi.x >= frame.width() || roi.y >= frame.height() || roi.x + roi.width <= 0 || roi.y + roi.height <= 0) return;
  said.ratio.shape(roi.width, roi.height);
  said.weight.shape(roi.width, roi.height);
  bool any = false;
  float limit = 2;
  for (const float full : frame.saturation) limit = std::min(limit, full);
  limit *= kNearFull * frame.table.clipFrom;
  const auto sites = frame.codes.photosites();
  for (int y = 0; y < roi.height; ++y) {
    float *light = said.ratio.row(y), *weight = said.weight.row(y);
    const int v = roi.y + y;
    std::fill_n(weight, roi.width, 0.f);
    std::fill_n(light, roi.width, 0.f);
    if (v < 0 || v >= sites.height) continue;
    const std::uint16_t* row = sites.row(v);
    const int begin = std::max(0, -roi.x), end = std::min(roi.width, sites.width - roi.x);
    lightOfCodes(row + roi.x + begin, end - begin, light + begin);
    std::fill(weight + begin, weight + end, 1.f);
    for (int x = begin; x < end && !any; ++x) any = light[x] < limit;
  }
  if (!any) return;
  said.any = true;
  lookUp(s, roi);
  compare(s, said);
}

void PhotositeFit::takeLight(const Roi& tile, const Merged& merged) {
  around_ = {tile.x - kReach, tile.y - kReach, tile.width + 2 * kReach, tile.height + 2 * kReach};
  for (Plane& plane : light_) plane.shape(around_.width, around_.height);
  for (int y = 0; y < around_.height; ++y) {
    const float* row = merged.row(std::clamp(around_.y + y, merged.top, merged.top + merged.rows - 1));
    float *r = light_[0].row(y), *g = light_[1].row(y), *b = light_[2].row(y);
    for (int x = 0; x < around_.width; ++x) {
      const float* p = row + 3 * std::clamp(around_.x + x, 0, width_ - 1);
      r[x] = p[0], g[x] = p[1], b[x] = p[2];
    }
  }
  for (std::size_t c = 0; c < 3; ++c) {
    most_[c] = 0;
    for (int y = 0; y < around_.height; ++y) most_[c] = std::max(most_[c], mostOf(light_[c].row(y), around_.width));
  }
  anyFull_ = markFull();
}

/// Whether all light of the tile is less than the frame is full at.
bool PhotositeFit::recordsAll(const Source& s) const {
  const Frame& frame = *s.placed.frame;
  for (std::size_t c = 0; c < 3; ++c)
    if (most_[c] * s.exposure >= kNearFull * frame.table.clipFrom * frame.saturation[c]) return false;
  return true;
}

/// The merged light where the frame's photosites lie, of the colours that its rows have; further off than is listened
/// to it is anything.
void PhotositeFit::lookUp(const Source& s, const Roi& roi) {
  for (Plane& plane : seen_) plane.shape(roi.width, roi.height);
  const int n = around_.width;
  column_.resize(4 * std::size_t(n));
  places_.begin(inverse(s.placed.toFrame), roi, around_, kInterpolating);
  for (int y = 0; y < roi.height; ++y) {
    places_.row(y);
    const auto& pattern = s.placed.frame->pattern;
    const std::size_t even = std::size_t(pattern[std::size_t(2 * (y & 1))]),
                      odd = std::size_t(pattern[std::size_t(2 * (y & 1) + 1)]), planes[3] = {even, odd, 3};
    const std::size_t count = anyFull_ ? 3 : 2;
    const auto &down = places_.down(), &along = places_.along();
    down.forEachRun(n, [&](int begin, int end, int row) {
      for (std::size_t k = 0; k < count; ++k)
        sumOfSix(light_[planes[k]].row(row - kInterpolating.before()) + begin, n, down.values.data() + begin, n,
                 end - begin, column_.data() + k * std::size_t(n) + begin);
    });
    along.forEachRun(roi.width, [&](int begin, int end, int offset) {
      for (std::size_t k = 0; k < count; ++k)
        sumOfSix(column_.data() + k * std::size_t(n) + begin + offset - kInterpolating.before(), 1,
                 along.values.data() + begin, roi.width, end - begin, seen_[planes[k]].row(y) + begin);
    });
  }
}

/// Of `light_`: its fourth plane becomes 1 within a kernel's reach of light that is full in every frame, whose value
/// nobody knows. False: there is none.
bool PhotositeFit::markFull() {
  constexpr int kNear = kInterpolationTaps / 2;
  const int w = light_[0].width(), h = light_[0].height();
  Plane& mark = light_[3];
  bool any = false;
  for (int y = 0; y < h; ++y)
    for (std::size_t c = 0; c < 3; ++c) any = any || anyFrom(light_[c].row(y), full_[c], w);
  if (!any) return false;
  mark.fill(0);
  for (int y = 0; y < h; ++y)
    for (int x = 0; x < w; ++x) {
      if (light_[0].row(y)[x] < full_[0] && light_[1].row(y)[x] < full_[1] && light_[2].row(y)[x] < full_[2]) continue;
      for (int v = std::max(0, y - kNear); v <= std::min(h - 1, y + kNear); ++v)
        std::fill(mark.row(v) + std::max(0, x - kNear), mark.row(v) + std::min(w, x + kNear + 1), 1.f);
    }
  return true;
}

void PhotositeFit::compare(const Source& s, Said& said) {
  const Frame& frame = *s.placed.frame;
  const int n = said.roi.width, height = said.roi.height;
  range_.resize(2 * std::size_t(n));
  for (int y = 0; y < height; ++y) {
    const Plane* seen[2];
    // A range lies across two pixels.
    Comparison by{s.variance, s.exposure, kUnsure * kUnsure + s.misplaced / 4, foot_, {}};
    for (std::size_t side = 0; side < 2; ++side) {
      const std::size_t c = std::size_t(frame.pattern[std::size_t(2 * (y & 1)) + side]);
      seen[side] = &seen_[c];
      by.limit[side] = kNearFull * frame.table.clipFrom * frame.saturation[c];
      rangeAround(seen_[c].row(y >= 2 ? y - 2 : y), seen_[c].row(y), seen_[c].row(y + 2 < height ? y + 2 : y), n,
                  range_.data() + side * std::size_t(n));
    }
    if (anyFull_) silenceRow(seen_[3].row(y), n, said.weight.row(y));
    compareRow(seen[0]->row(y), seen[1]->row(y), range_.data(), range_.data() + n, by, n, said.ratio.row(y),
               said.weight.row(y));
  }
}

/// Blocks of a frame's grid count for the cell that their middle lies in. Two rows have the same colours.
void PhotositeFit::countInto(const Source& s, const Said& said, const Roi& around) {
  constexpr int kBlock = 4;
  const Transform back{inverse(s.placed.toFrame)};
  const auto& pattern = s.placed.frame->pattern;
  const int n = said.roi.width;
  for (int y = 0; y + kBlock <= said.roi.height; y += kBlock) {
    for (int v = 0; v < 2; ++v) {
      RowPair& pair = pairs_[std::size_t(v)];
      for (auto* sums : {&pair.energy, &pair.count, &pair.weight}) sums->resize(std::size_t(n));
      sumPair(said.ratio.row(y + v), said.weight.row(y + v), said.ratio.row(y + v + 2), said.weight.row(y + v + 2), n,
              pair.energy.data(), pair.count.data(), pair.weight.data());
    }
    for (int x = 0; x + kBlock <= n; x += kBlock) {
      double px, py;
      back.map(said.roi.x + x + (kBlock - 1) / 2.0, said.roi.y + y + (kBlock - 1) / 2.0, px, py);
      const int cx = int(std::floor((px - around.x) / kCell)), cy = int(std::floor((py - around.y) / kCell));
      if (cx < 0 || cy < 0 || cx >= cellsAcross_ || cy >= cellsDown_) continue;
      Cell& cell = cells_[std::size_t(cy * cellsAcross_ + cx)];
      for (std::size_t v = 0; v < 2; ++v)
        for (std::size_t u = 0; u < 2; ++u) {
          const std::size_t c = std::size_t(pattern[2 * v + u]), at = std::size_t(x) + u;
          cell.energy[c] += pairs_[v].energy[at] + pairs_[v].energy[at + 2];
          cell.count[c] += pairs_[v].count[at] + pairs_[v].count[at + 2];
          cell.weight[c] += pairs_[v].weight[at] + pairs_[v].weight[at + 2];
        }
    }
  }
}

/// Whether photosites differ from the merged light by more than the least noise they can have.
bool PhotositeFit::anyBeyondNoise() const {
  return std::any_of(cells_.begin(), cells_.end(), [](const Cell& cell) {
    for (int c = 0; c < 3; ++c)
      if (cell.count[c] >= kFewest && cell.energy[c] > kMoreThanNoise * cell.count[c]) return true;
    return false;
  });
}

/// Believed is what different frames say alike: neither noise, however much more of it there is than the model says,
/// nor something that only one of them saw is shared by two.
bool PhotositeFit::believe() {
  belief_.assign(6 * cells_.size(), 0);
  bool any = false;
  for (int v = 0; v < cellsDown_; ++v)
    for (int u = 0; u < cellsAcross_; ++u)
      for (std::size_t c = 0; c < 3; ++c) {
        const std::size_t at = std::size_t(v * cellsAcross_ + u);
        const Cell& cell = cells_[at];
        float* belief = belief_.data() + 6 * at + 2 * c;
        belief[1] = 1;
        if (cell.count[c] < kFewest || cell.energy[c] <= kMoreThanNoise * cell.count[c]) continue;
        float shared = 0, pairs = 0;
        const int bottom = std::min((v + 1) * kCell, sum_[c].height()),
                  right = std::min((u + 1) * kCell, sum_[c].width());
        for (int y = v * kCell; y < bottom; ++y)
          for (int x = u * kCell; x < right; ++x) {
            const float said = sum_[c].row(y)[x], share = share_[c].row(y)[x];
            shared += said * said - squares_[c].row(y)[x], pairs += share * share - shareSquares_[c].row(y)[x];
          }
        if (shared <= 0 || pairs <= 0) continue;
        const float alike = kApart * shared / pairs, beyond = (cell.energy[c] - cell.count[c]) / cell.weight[c];
        const float noise = std::max(1.f, (cell.energy[c] - alike * cell.weight[c]) / cell.count[c]);
        if (shared < kSure * noise * std::sqrt(pairs)) continue;
        belief[0] = std::min(alike, beyond), belief[1] = noise;
        any = true;
      }
  return any;
}

void PhotositeFit::gather(std::size_t i, const Roi& around) {
  const Source& s = sources_[i];
  const Said& said = said_[i];
  const int n = said.roi.width;
  for (std::size_t c = 0; c < 3; ++c)
    for (Plane* plane : {&ratios_[c], &weights_[c]}) plane->shape(n, said.roi.height), plane->fill(0);
  for (int y = 0; y < said.roi.height; ++y)
    for (int side = 0; side < 2; ++side) {
      const std::size_t c = std::size_t(s.placed.frame->pattern[std::size_t(2 * (y & 1) + side)]);
      const float *ratio = said.ratio.row(y), *weight = said.weight.row(y);
      float *toRatio = ratios_[c].row(y), *toWeight = weights_[c].row(y);
      for (int x = side; x < n; x += 2) toRatio[x] = ratio[x] * weight[x], toWeight[x] = weight[x];
    }
  column_.resize(6 * std::size_t(n));
  other_.resize(std::size_t(around.width));
  places_.begin(s.placed.toFrame, around, said.roi, kGathering);
  for (int y = 0; y < around.height; ++y) {
    places_.row(y);
    const auto &down = places_.down(), &along = places_.along();
    down.forEachRun(n, [&](int begin, int end, int row) {
      for (std::size_t k = 0; k < 6; ++k)
        sumOfFour((k < 3 ? ratios_[k] : weights_[k - 3]).row(row - kGathering.before()) + begin, n,
                  down.values.data() + begin, n, end - begin, column_.data() + k * std::size_t(n) + begin);
    });
    along.forEachRun(around.width, [&](int begin, int end, int offset) {
      for (std::size_t k = 0; k < 6; ++k) {
        sumOfFour(column_.data() + k * std::size_t(n) + begin + offset - kGathering.before(), 1,
                  along.values.data() + begin, around.width, end - begin, other_.data());
        addRow(other_.data(), end - begin, (k < 3 ? sum_[k] : share_[k - 3]).row(y) + begin,
               (k < 3 ? squares_[k] : shareSquares_[k - 3]).row(y) + begin);
      }
    });
  }
}

void PhotositeFit::apply(const Roi& tile, const Merged& merged, float* out, std::ptrdiff_t outPitch) const {
  const int left = std::max(0, kBorder - tile.x), right = std::min(tile.width, width_ - kBorder - tile.x);
  for (int y = 0; y < tile.height; ++y) {
    if (tile.y + y < kBorder || tile.y + y >= height_ - kBorder) continue;
    const float* from = merged.row(tile.y + y) + 3 * tile.x;
    float* to = out + y * outPitch;
    const float cy = (float(y) + 0.5f) / kCell + 0.5f; // cells begin one before the tile; their middles count
    const int row = int(cy);
    const float fy = cy - float(row);
    for (int x = left; x < right; ++x) {
      const float cx = (float(x) + 0.5f) / kCell + 0.5f;
      const int column = int(cx);
      const float fx = cx - float(column);
      const float* b = belief_.data() + 6 * (std::size_t(row) * std::size_t(cellsAcross_) + std::size_t(column));
      const float* below = b + 6 * cellsAcross_;
      const auto between = [&](std::size_t k) {
        return (1 - fy) * ((1 - fx) * b[k] + fx * b[k + 6]) + fy * ((1 - fx) * below[k] + fx * below[k + 6]);
      };
      for (std::size_t c = 0; c < 3; ++c) {
        const float belief = between(2 * c);
        if (belief <= 0) continue;
        const float light = from[3 * x + int(c)], said = sum_[c].row(y + kAround)[x + kAround],
                    share = share_[c].row(y + kAround)[x + kAround];
        to[3 * x + int(c)] =
            light + (std::max(light, 0.f) + foot_) * belief * said / (belief * share + between(2 * c + 1));
      }
    }
  }
}

} // namespace ml
