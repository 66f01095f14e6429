// SPDX-License-Identifier: GPL-3.0-or-later
#include "mosaic/demosaic_tile.h"

#include "base/vector_clones.h"
#include "image/fast_math.h"

#include <algorithm>
#include <cmath>

namespace ml {
namespace {

constexpr float kEven = 1e-6f; ///< Keeps weights finite where nothing changes.
constexpr float kStill = 0.25f,
                kWild = 0.7f; ///< Stops from photosite to photosite in the calmest direction: up to there differences
                              ///< of colour are trusted, beyond they are not (chosen on eight scenes).
constexpr float kUneasy = 0.05f, kRestless = 0.2f; ///< The same where hues change besides: threads and leaves.
constexpr float kOneHue = 0.6f, kTwoHues = 1.2f;   ///< Stops between differences of colour on both sides of a place.
constexpr int kReach = 1;                          ///< Photosites: how far around full ones light is cut alike, as
                                                   ///< `spread` says.
constexpr float kAlmost = 0.1f; ///< Stops: what is found so near to where light was cut may lie anywhere beyond.

ML_VECTOR_CLONES void toLogarithms(float foot, int n, float* __restrict row) {
  const float least = foot * 0.1f;
  for (int i = 0; i < n; ++i) {
    const float light = row[i] + foot;
    row[i] = fastLog2(light > least ? light : least);
  }
}

/// Green less the other colour along a line: the one that is missing at a photosite is estimated from its neighbours
/// (Hamilton and Adams). `sign` +1 where green is missing.
ML_VECTOR_CLONES void differences(const float* far0, const float* near0, const float* here, const float* near1,
                                  const float* far1, const float* sign, int n, float* __restrict out) {
  for (int i = 0; i < n; ++i) out[i] = sign[i] * (0.5f * (near0[i] + near1[i] - here[i]) - 0.25f * (far0[i] + far1[i]));
}

ML_VECTOR_CLONES void changes(const float* before, const float* after, int n, float* __restrict out) {
  for (int i = 0; i < n; ++i) {
    const float d = before[i] - after[i];
    out[i] = d < 0 ? -d : d;
  }
}

ML_VECTOR_CLONES void subtract(const float* a, const float* b, int n, float* __restrict out) {
  for (int i = 0; i < n; ++i) out[i] = a[i] - b[i];
}

ML_VECTOR_CLONES void sumOfThree(const float* a, const float* b, const float* c, int n, float* __restrict out) {
  for (int i = 0; i < n; ++i) out[i] = a[i] + b[i] + c[i];
}

/// Rows of differences around a row, and changes of nine photosites on each side of it.
struct Around {
  const float *along, *up, *here, *down;
  const float *west, *east, *north, *south;
};
/// Differences of four directions, each the mean of two photosites, by how little changes there.
ML_VECTOR_CLONES void blendSides(const Around a, int n, float* __restrict out) {
  for (int i = 0; i < n; ++i) {
    const float w = 1 / (a.west[i] * a.west[i] + kEven), e = 1 / (a.east[i] * a.east[i] + kEven),
                o = 1 / (a.north[i] * a.north[i] + kEven), s = 1 / (a.south[i] * a.south[i] + kEven);
    const float along = (w + e) * a.along[i] + w * a.along[i - 1] + e * a.along[i + 1];
    const float across = (o + s) * a.here[i] + o * a.up[i] + s * a.down[i];
    out[i] = 0.5f * (along + across) / (w + e + o + s);
  }
}

/// How much differences of colour change in the calmest direction, stops from photosite to photosite.
ML_VECTOR_CLONES void unrests(const Around a, int n, float* __restrict out) {
  for (int i = 0; i < n; ++i) {
    const float x = a.west[i] < a.east[i] ? a.west[i] : a.east[i],
                y = a.north[i] < a.south[i] ? a.north[i] : a.south[i];
    out[i] = (x < y ? x : y) * (1 / 9.f);
  }
}

inline float ramp(float value, float from, float to) {
  const float t = (value - from) * (1 / (to - from));
  return t < 0 ? 0.f : t > 1 ? 1.f : t;
}

/// 0 where differences of colour hold still along some direction, 1 where they change everywhere: there colours say
/// nothing of each other.
ML_VECTOR_CLONES void doubts(const float* unrest, int n, float* __restrict out) {
  for (int i = 0; i < n; ++i) out[i] = ramp(unrest[i], kStill, kWild);
}

ML_VECTOR_CLONES void meanOfFive(const float* a, const float* b, const float* c, const float* d, const float* e, int n,
                                 float* __restrict out) {
  for (int i = 0; i < n; ++i) out[i] = 0.2f * (a[i] + b[i] + c[i] + d[i] + e[i]);
}

/// Differences of colour around a row, each the mean of five along its line.
struct Hues {
  const float *along, *above, *below;   ///< Of rows, two photosites away.
  const float *across, *before, *after; ///< Of columns, three photosites away.
};
/// Fine lines of one hue disturb differences of colour as threads of two hues do; over five photosites only these
/// change them. There doubt begins sooner.
ML_VECTOR_CLONES void doubtsOfHue(const float* unrest, const Hues h, int n, float* __restrict doubt) {
  for (int i = 0; i < n; ++i) {
    const auto size = [](float v) { return v < 0 ? -v : v; };
    const float x = size(h.along[i + 3] - h.along[i - 3]), y = size(h.above[i] - h.below[i]),
                u = size(h.across[i + 2] - h.across[i - 2]), v = size(h.before[i] - h.after[i]);
    const float rows = x > y ? x : y, columns = u > v ? u : v,
                hue = ramp(rows > columns ? rows : columns, kOneHue, kTwoHues),
                restless = ramp(unrest[i], kUneasy, kRestless), sooner = hue < restless ? hue : restless;
    doubt[i] = doubt[i] > sooner ? doubt[i] : sooner;
  }
}

/// Greens, towards the mean of the four around where differences are in doubt.
ML_VECTOR_CLONES void fillGreens(const float* here, const float* above, const float* below, const float* difference,
                                 const float* doubt, const float* sign, int n, float* __restrict green) {
  for (int i = 0; i < n; ++i) {
    const float plain = 0.25f * (here[i - 1] + here[i + 1] + above[i] + below[i]), found = here[i] + difference[i];
    green[i] = sign[i] > 0 ? found + doubt[i] * (plain - found) : here[i];
  }
}

/// The difference of the other colour, from the four diagonals: along the pair that changes less, by green and by
/// itself.
ML_VECTOR_CLONES void acrossDiagonals(const float* above, const float* below, const float* greenAbove,
                                      const float* green, const float* greenBelow, int n, float* __restrict out) {
  for (int i = 0; i < n; ++i) {
    const auto size = [](float v) { return v < 0 ? -v : v; };
    const float a = above[i - 1], b = below[i + 1], c = above[i + 1], d = below[i - 1];
    const float fall = size(a - b) + size(2 * green[i] - greenAbove[i - 1] - greenBelow[i + 1]) + 1e-3f,
                rise = size(c - d) + size(2 * green[i] - greenAbove[i + 1] - greenBelow[i - 1]) + 1e-3f;
    out[i] = 0.5f * (rise * (a + b) + fall * (c + d)) / (rise + fall);
  }
}

/// Of a row at its greens: both colours' differences from their four neighbours, by how much changes along and across.
ML_VECTOR_CLONES void atGreens(const float* own, const float* ownAbove, const float* ownBelow, const float* other,
                               const float* otherAbove, const float* otherBelow, const float* along,
                               const float* across, int n, float* __restrict first, float* __restrict second) {
  for (int i = 0; i < n; ++i) {
    const float h = 0.5f / (along[i] * along[i] + kEven), v = 0.5f / (across[i] * across[i] + kEven),
                sum = 0.5f / (h + v);
    first[i] = (h * (own[i - 1] + own[i + 1]) + v * (otherAbove[i] + otherBelow[i])) * sum;
    second[i] = (h * (other[i - 1] + other[i + 1]) + v * (ownAbove[i] + ownBelow[i])) * sum;
  }
}

/// Rows of photosites around one, and what was found of it.
struct Found {
  const float *here, *above, *below, *green, *other, *first, *second, *doubt, *sign;
};
/// The colour of the row, green, and the colour of the rows beside it.
ML_VECTOR_CLONES void assemble(const Found f, int n, float* __restrict row, float* __restrict middle,
                               float* __restrict column) {
  for (int i = 0; i < n; ++i) {
    const float missing = f.sign[i] > 0 ? 1.f : 0.f, known = 1 - missing; // products, so that the loop has no branches
    const float t = f.doubt[i], here = f.here[i], green = f.green[i];
    const float beside = 0.5f * (f.here[i - 1] + f.here[i + 1]), stacked = 0.5f * (f.above[i] + f.below[i]);
    const float corners = 0.25f * (f.above[i - 1] + f.above[i + 1] + f.below[i - 1] + f.below[i + 1]);
    const float across = green - f.other[i], along = here - f.first[i], up = here - f.second[i];
    const float found = missing * across + known * up, plain = missing * corners + known * stacked;
    middle[i] = green;
    row[i] = missing * here + known * (along + t * (beside - along));
    column[i] = found + t * (plain - found);
  }
}

ML_VECTOR_CLONES void toLight(const float* logs, float foot, int n, float* __restrict out) {
  for (int i = 0; i < n; ++i) out[i] = heldExp2(logs[i]) - foot;
}

ML_VECTOR_CLONES void toCodes(const float* red, const float* green, const float* blue, float zero, float range, int n,
                              std::uint16_t* __restrict out) {
  for (int i = 0; i < n; ++i) {
    const float r = heldExp2(red[i]) * range + zero, g = heldExp2(green[i]) * range + zero,
                b = heldExp2(blue[i]) * range + zero;
    out[3 * i] = std::uint16_t(r < 0 ? 0.f : r > 65535 ? 65535.f : r);
    out[3 * i + 1] = std::uint16_t(g < 0 ? 0.f : g > 65535 ? 65535.f : g);
    out[3 * i + 2] = std::uint16_t(b < 0 ? 0.f : b > 65535 ? 65535.f : b);
  }
}

ML_VECTOR_CLONES bool anyFrom(const float* values, float least, int n) {
  int any = 0;
  for (int i = 0; i < n; ++i) any |= values[i] >= least;
  return any;
}

/// 1 where a photosite is full; `even` and `odd` for those of their columns.
ML_VECTOR_CLONES void markFull(const float* values, float even, float odd, int n, std::uint8_t* __restrict out) {
  for (int i = 0; i < n; ++i) out[i] = values[i] >= (i & 1 ? odd : even);
}

/// Adds the marks of three neighbours.
ML_VECTOR_CLONES void addThree(const std::uint8_t* marks, int n, std::uint8_t* __restrict out) {
  for (int i = 0; i < n; ++i) out[i] = std::uint8_t(out[i] + marks[i - 1] + marks[i] + marks[i + 1]);
}

/// 1 where one of three neighbours is marked.
ML_VECTOR_CLONES void spread(const std::uint8_t* marks, int n, std::uint8_t* __restrict out) {
  for (int i = 0; i < n; ++i) out[i] = marks[i - 1] | marks[i] | marks[i + 1];
}

ML_VECTOR_CLONES void mergeMarks(const std::uint8_t* marks, int n, std::uint8_t* __restrict out) {
  for (int i = 0; i < n; ++i) out[i] |= marks[i];
}

ML_VECTOR_CLONES void cutWhere(const std::uint8_t* marks, float most, int n, float* __restrict values) {
  for (int i = 0; i < n; ++i) {
    const float cut = values[i] > most ? most : values[i];
    values[i] = marks[i] ? cut : values[i];
  }
}

/// What was cut, as it was: a photosite's own colour, which is the row's where green is missing.
ML_VECTOR_CLONES void giveBack(const float* whole, const float* sign, float cut, int n, float* __restrict row,
                               float* __restrict middle) {
  for (int i = 0; i < n; ++i) {
    row[i] = whole[i] > cut && sign[i] > 0 ? whole[i] : row[i];
    middle[i] = whole[i] > cut && sign[i] < 0 ? whole[i] : middle[i];
  }
}

/// The nearest photosites of the colour that is missing; of two, each stands for two.
struct Nearest {
  const float *a, *b, *c, *d;
  float full;
};
/// What was found from `least` on, at photosites of one sign: no less than its nearest and full where half of them are
/// full, else no less than their mean.
ML_VECTOR_CLONES void raiseRow(const Nearest by, const float* sign, float which, float least, int n,
                               float* __restrict values) {
  for (int i = 0; i < n; ++i) {
    const float a = by.a[i], b = by.b[i], c = by.c[i], d = by.d[i], value = values[i];
    const float full = (a >= by.full ? 1.f : 0.f) + (b >= by.full ? 1.f : 0.f) + (c >= by.full ? 1.f : 0.f) +
                       (d >= by.full ? 1.f : 0.f);
    const float ab = a > b ? a : b, cd = c > d ? c : d, most = ab > cd ? ab : cd, mean = 0.25f * ((a + b) + (c + d));
    const float light = most > by.full ? most : by.full, nearest = full >= 2 ? light : mean;
    const float raised = value > nearest ? value : nearest;
    values[i] = value >= least && sign[i] * which > 0 ? raised : value;
  }
}

/// No less than full where all nine around are.
ML_VECTOR_CLONES void raiseAmongFull(const std::uint8_t* count, float full, int n, float* __restrict values) {
  for (int i = 0; i < n; ++i) {
    const float raised = values[i] < full ? full : values[i];
    values[i] = count[i] == 9 ? raised : values[i];
  }
}

} // namespace

int mirrored(int i, int size) {
  if (i < 0) i = -i;
  if (i >= size) i = 2 * (size - 1) - i;
  return std::clamp(i, 0, size - 1);
}

DemosaicTile::DemosaicTile() {
  for (Plane* p : {&here_, &alongDiff_, &acrossDiff_, &along_, &across_, &scratch_, &doubt_, &own_, &other_, &green_,
                   &hueAlong_, &hueAcross_, &whole_})
    p->assign(std::size_t(kStride) * kRows, 0.f);
  for (auto& row : out_) row.assign(kStride, 0.f);
  for (auto& row : pair_) row.assign(kStride, 0.f);
  for (auto& row : signs_) row.assign(kStride, 0.f);
  fulls_.assign(std::size_t(kStride) * kRows, 0);
  spread_.assign(std::size_t(kStride) * kRows, 0);
  near_.assign(kStride, 0);
  measureIn({});
}

void DemosaicTile::measureIn(const MosaicScale& scale) {
  scale_ = scale;
  for (int k = 0; k < 2; ++k)
    for (int i = 0; i < kStride; ++i) signs_[std::size_t(k)][std::size_t(i)] = colourAt(i, k) == 1 ? -1.f : 1.f;
  for (std::size_t c = 0; c < 3; ++c) full_[c] = std::log2(scale.full[c] + scale.foot);
  cut_ = *std::min_element(full_.begin(), full_.end());
}

void DemosaicTile::prepare() {
  for (int y = 0; y < kRows; ++y) toLogarithms(scale_.foot, kStride, light(y));
  findFull();
  directions();
  greens();
  others();
}

void DemosaicTile::findFull() {
  anyFull_ = false;
  for (int y = 0; y < kRows; ++y) {
    rowFull_[std::size_t(y)] = anyFrom(at(here_, y), cut_, kStride);
    anyFull_ = anyFull_ || rowFull_[std::size_t(y)];
    if (rowFull_[std::size_t(y)])
      markFull(at(here_, y), full_[std::size_t(colourAt(0, y))], full_[std::size_t(colourAt(1, y))], kStride, full(y));
    else
      std::fill_n(full(y), kStride, std::uint8_t{0});
  }
  if (anyFull_) cutAroundFull();
}

/// Channels fill at different light. Around full photosites all are cut where the first of them is full: what lies
/// behind an edge is white then, and lends no colour to a thin bar or to the rim of a lamp. whole_ keeps the light.
void DemosaicTile::cutAroundFull() {
  whole_ = here_;
  constexpr int n = kStride - 2 * kReach;
  for (int y = 0; y < kRows; ++y)
    if (rowFull_[std::size_t(y)]) spread(full(y) + kReach, n, spread_.data() + std::ptrdiff_t(y) * kStride + kReach);
  for (int y = 0; y < kRows; ++y) {
    bool any = false;
    std::fill(near_.begin(), near_.end(), std::uint8_t{0});
    for (int v = std::max(0, y - kReach); v <= std::min(kRows - 1, y + kReach); ++v)
      if (rowFull_[std::size_t(v)]) {
        mergeMarks(spread_.data() + std::ptrdiff_t(v) * kStride, kStride, near_.data());
        any = true;
      }
    rowCut_[std::size_t(y)] = any;
    if (any) cutWhere(near_.data(), cut_, kStride, at(here_, y));
  }
}

void DemosaicTile::develop(int y, int width) {
  const int v = y + kMargin;
  colours(v);
  if (anyFull_) mendFull(v, width);
  redRow_ = colourAt(0, v) == 0 || colourAt(1, v) == 0;
}

void DemosaicTile::takeLight(int width, float* red, float* green, float* blue) const {
  toLight(out_[redRow_ ? 0 : 2].data() + kMargin, scale_.foot, width, red);
  toLight(out_[1].data() + kMargin, scale_.foot, width, green);
  toLight(out_[redRow_ ? 2 : 0].data() + kMargin, scale_.foot, width, blue);
}

void DemosaicTile::takeCodes(int width, float zero, float range, std::uint16_t* codes) const {
  toCodes(out_[redRow_ ? 0 : 2].data() + kMargin, out_[1].data() + kMargin, out_[redRow_ ? 2 : 0].data() + kMargin,
          zero + 0.5f - scale_.foot * range, range, width, codes);
}

void DemosaicTile::directions() {
  for (int y = 0; y < kRows; ++y) {
    const float *h = at(here_, y), *sign = signs_[y & 1].data();
    differences(h, h + 1, h + 2, h + 3, h + 4, sign + 2, kStride - 4, at(alongDiff_, y) + 2);
    if (y >= 2 && y < kRows - 2)
      differences(at(here_, y - 2), at(here_, y - 1), h, at(here_, y + 1), at(here_, y + 2), sign, kStride,
                  at(acrossDiff_, y));
  }
  // Changes over 3x3 photosites.
  for (int y = 0; y < kRows; ++y) changes(at(alongDiff_, y), at(alongDiff_, y) + 2, kStride - 2, at(scratch_, y) + 1);
  box(along_);
  for (int y = 1; y < kRows - 1; ++y) changes(at(acrossDiff_, y - 1), at(acrossDiff_, y + 1), kStride, at(scratch_, y));
  box(across_);
}

void DemosaicTile::box(Plane& out) {
  float* columns = out_[0].data();
  for (int y = 2; y < kRows - 2; ++y) {
    sumOfThree(at(scratch_, y - 1), at(scratch_, y), at(scratch_, y + 1), kStride, columns);
    sumOfThree(columns, columns + 1, columns + 2, kStride - 2, at(out, y) + 1);
  }
}

/// own_: green less the photosite's own colour, where green is missing. green_: green everywhere.
void DemosaicTile::greens() {
  constexpr int kFrom = 7, n = kStride - 2 * kFrom;
  bool uneasy = false;
  for (int y = kFrom; y < kRows - kFrom; ++y) {
    const auto across = [&](int v) { return at(acrossDiff_, v) + kFrom; };
    const Around around{at(alongDiff_, y) + kFrom,
                        across(y - 1),
                        across(y),
                        across(y + 1),
                        at(along_, y) + kFrom - 2,
                        at(along_, y) + kFrom + 2,
                        at(across_, y - 2) + kFrom,
                        at(across_, y + 2) + kFrom};
    blendSides(around, n, at(own_, y) + kFrom);
    unrests(around, n, at(scratch_, y) + kFrom);
    doubts(at(scratch_, y) + kFrom, n, at(doubt_, y) + kFrom);
    uneasy = uneasy || anyFrom(at(scratch_, y) + kFrom, kUneasy, n);
  }
  if (uneasy) doubtHues();
  for (int y = kFrom; y < kRows - kFrom; ++y) {
    const auto here = [&](int v) { return at(here_, v) + kFrom; };
    fillGreens(here(y), here(y - 1), here(y + 1), at(own_, y) + kFrom, at(doubt_, y) + kFrom,
               signs_[y & 1].data() + kFrom, n, at(green_, y) + kFrom);
    subtract(at(green_, y) + kFrom, here(y), n, at(own_, y) + kFrom); // 0 at greens, which nobody reads
  }
}

void DemosaicTile::doubtHues() {
  constexpr int kFrom = 7, n = kStride - 2 * kFrom;
  for (int y = 2; y < kRows - 2; ++y) {
    const float* row = at(alongDiff_, y);
    meanOfFive(row, row + 1, row + 2, row + 3, row + 4, kStride - 4, at(hueAlong_, y) + 2);
    if (y < 4 || y >= kRows - 4) continue;
    const auto line = [&](int v) { return at(acrossDiff_, y + v); };
    meanOfFive(line(-2), line(-1), line(0), line(1), line(2), kStride, at(hueAcross_, y));
  }
  for (int y = kFrom; y < kRows - kFrom; ++y) {
    const auto row = [&](Plane& p, int v) { return at(p, y + v) + kFrom; };
    doubtsOfHue(row(scratch_, 0),
                {row(hueAlong_, 0), row(hueAlong_, -2), row(hueAlong_, 2), row(hueAcross_, 0), row(hueAcross_, -3),
                 row(hueAcross_, 3)},
                n, row(doubt_, 0));
  }
}

/// other_: green less the other of red and blue, where green is missing.
void DemosaicTile::others() {
  constexpr int kFrom = 8;
  for (int y = kFrom; y < kRows - kFrom; ++y)
    acrossDiagonals(at(own_, y - 1) + kFrom, at(own_, y + 1) + kFrom, at(green_, y - 1) + kFrom, at(green_, y) + kFrom,
                    at(green_, y + 1) + kFrom, kStride - 2 * kFrom, at(other_, y) + kFrom);
}

/// All three of a row: out_[0] the colour of the row, out_[2] that of the rows beside it.
void DemosaicTile::colours(int y) {
  constexpr int n = kWidth;
  const auto in = [&](Plane& p, int v) { return at(p, v) + kMargin; };
  atGreens(in(own_, y), in(own_, y - 1), in(own_, y + 1), in(other_, y), in(other_, y - 1), in(other_, y + 1),
           in(along_, y), in(across_, y), n, pair_[0].data() + kMargin, pair_[1].data() + kMargin);
  const Found found{in(here_, y),
                    in(here_, y - 1),
                    in(here_, y + 1),
                    in(green_, y),
                    in(other_, y),
                    pair_[0].data() + kMargin,
                    pair_[1].data() + kMargin,
                    in(doubt_, y),
                    signs_[y & 1].data() + kMargin};
  assemble(found, n, out_[0].data() + kMargin, out_[1].data() + kMargin, out_[2].data() + kMargin);
}

/// What was cut gets its light back: photosites their own; the colours that are missing there no less than full among
/// full ones, and that of their nearest where they were found at the cut.
void DemosaicTile::mendFull(int y, int width) {
  if (!rowCut_[std::size_t(y)]) return;
  const int first = colourAt(0, y) == 1 ? colourAt(1, y) : colourAt(0, y), second = 2 - first;
  const float* sign = signs_[y & 1].data() + kMargin;
  const auto whole = [&](int x, int v) -> const float* { return at(whole_, y + v) + kMargin + x; };
  const auto out = [&](std::size_t k) { return out_[k].data() + kMargin; };
  const float ofFirst = full_[std::size_t(first)], ofSecond = full_[std::size_t(second)], least = cut_ - kAlmost;
  giveBack(whole(0, 0), sign, cut_, width, out(0), out(1));
  raiseRow({whole(-1, 0), whole(1, 0), whole(0, -1), whole(0, 1), full_[1]}, sign, 1, least, width, out(1));
  raiseRow({whole(-1, -1), whole(1, -1), whole(-1, 1), whole(1, 1), ofSecond}, sign, 1, least, width, out(2));
  raiseRow({whole(-1, 0), whole(1, 0), whole(-1, 0), whole(1, 0), ofFirst}, sign, -1, least, width, out(0));
  raiseRow({whole(0, -1), whole(0, 1), whole(0, -1), whole(0, 1), ofSecond}, sign, -1, least, width, out(2));
  if (!countNearFull(y)) return;
  const std::size_t colours[] = {std::size_t(first), 1, std::size_t(second)};
  for (std::size_t k = 0; k < 3; ++k)
    raiseAmongFull(near_.data() + kMargin, full_[colours[k]], width, out_[k].data() + kMargin);
}

/// near_: how many of the nine photosites around are full. False: nowhere one is.
bool DemosaicTile::countNearFull(int y) {
  std::fill(near_.begin(), near_.end(), std::uint8_t{0});
  bool any = false;
  for (int v = y - 1; v <= y + 1; ++v)
    if (rowFull_[std::size_t(v)]) {
      addThree(full(v) + 1, kStride - 2, near_.data() + 1);
      any = true;
    }
  return any;
}

} // namespace ml
