// SPDX-License-Identifier: GPL-3.0-or-later
#include "merge/tile.h"

#include "align/transform.h"
#include "base/vector_clones.h"
#include "capture/developed.h"
#include "image/interpolate.h"
#include "merge/rows.h"

#include <algorithm>
#include <cmath>
#include <limits>

namespace ml {
namespace {

constexpr int kTaps = kInterpolationTaps, kBefore = kTaps / 2 - 1; ///< Samples before the one at the whole position.
constexpr int kSpread = 2;                                         ///< What clipped spoils this many pixels around.

/// out[i] = least of the five in[i * 1 + k * step], k = -2..2.
ML_VECTOR_CLONES void leastOfFive(const float* in, std::ptrdiff_t step, int n, float* __restrict out) {
  for (int i = 0; i < n; ++i) {
    const float* p = in + i;
    out[i] = std::min(std::min(std::min(p[-2 * step], p[-step]), std::min(p[step], p[2 * step])), p[0]);
  }
}

ML_VECTOR_CLONES void leastOfTwo(const float* a, const float* b, int n, float* __restrict out) {
  for (int i = 0; i < n; ++i) out[i] = std::min(a[i], b[i]);
}

template <class T> struct CodeSpan { T least = std::numeric_limits<T>::max(), most = 0; };
ML_VECTOR_CLONES void widen(const std::uint8_t* code, std::ptrdiff_t n, CodeSpan<std::uint8_t>& span) {
  std::uint8_t least = span.least, most = span.most;
  for (std::ptrdiff_t i = 0; i < n; ++i) least = std::min(least, code[i]), most = std::max(most, code[i]);
  span = {least, most};
}
ML_VECTOR_CLONES void widen(const std::uint16_t* code, std::ptrdiff_t n, CodeSpan<std::uint16_t>& span) {
  std::uint16_t least = span.least, most = span.most;
  for (std::ptrdiff_t i = 0; i < n; ++i) least = std::min(least, code[i]), most = std::max(most, code[i]);
  span = {least, most};
}

template <class T>
void linearRow(const T* code, int from, int to, int width, const float* const table[3], float* const out[3]) {
  const auto put = [&](int x, const T* c) {
    for (int k = 0; k < 3; ++k) out[k][x - from] = table[k][c[k]];
  };
  // Beyond the picture's edge the outermost pixel is repeated.
  for (int x = from; x < std::min(0, to); ++x) put(x, code);
  for (int x = std::max(width, from); x < to; ++x) put(x, code + 3 * std::ptrdiff_t(width - 1));
  const int begin = std::max(0, from), n = std::min(width, to) - begin;
  const T* c = code + 3 * std::ptrdiff_t(begin);
  const float *red = table[0], *green = table[1], *blue = table[2];
  float *r = out[0] + (begin - from), *g = out[1] + (begin - from), *b = out[2] + (begin - from);
  for (int i = 0; i < n; ++i, c += 3) r[i] = red[c[0]], g[i] = green[c[1]], b[i] = blue[c[2]];
}

/// Least code that is read as more than `light` in any channel.
int firstAbove(const Frame& frame, const std::array<float, 3>& light) {
  int first = frame.table.size();
  for (int c = 0; c < 3; ++c) {
    const float* table = frame.table.channel(c);
    first = std::min(first, int(std::upper_bound(table, table + frame.table.size(), light[std::size_t(c)]) - table));
  }
  return first;
}
/// Least code that is read as `light` or more in every channel.
int allFrom(const Frame& frame, const std::array<float, 3>& light) {
  int from = 0;
  for (int c = 0; c < 3; ++c) {
    const float* table = frame.table.channel(c);
    from = std::max(from, int(std::lower_bound(table, table + frame.table.size(), light[std::size_t(c)]) - table));
  }
  return from;
}

} // namespace

TileReader::TileReader(const PlacedFrame& placed, TileScratch& scratch, const CodeTable* values)
    : placed_(placed), values_(values), scratch_(scratch), still_(Transform{placed.toFrame}.isIdentity()) {
  std::array<float, 3> clip;
  for (std::size_t c = 0; c < 3; ++c) {
    clip[c] = placed.frame->table.clipFrom * placed.frame->saturation[c];
    inverseClip_[c] = 1 / clip[c];
  }
  wellBelow_ = firstAbove(*placed.frame, {0.9f * clip[0], 0.9f * clip[1], 0.9f * clip[2]});
  clippedFrom_ = allFrom(*placed.frame, clip);
}

Roi TileReader::sourceOf(const Roi& where) const {
  if (still_) return {where.x - kSpread, where.y - kSpread, where.width + 2 * kSpread, where.height + 2 * kSpread};
  const Frame& frame = *placed_.frame;
  return boundsOn(placed_.toFrame, where, frame.width(), frame.height(), kSpread + kTaps / 2 + 1);
}

TileReader::Exposed TileReader::exposed(const Roi& source) const {
  if (values_) return Exposed::AllWell;
  return placed_.frame->codes.visit([&](auto codes) { // of mosaics too: codes mean the same
    const int left = std::clamp(source.x, 0, codes.width - 1),
              right = std::clamp(source.x + source.width, left + 1, codes.width);
    const int top = std::clamp(source.y, 0, codes.height - 1),
              bottom = std::clamp(source.y + source.height, top + 1, codes.height);
    CodeSpan<std::remove_const_t<std::remove_pointer_t<decltype(codes.row(0))>>> span;
    for (int y = top; y < bottom; ++y) {
      widen(codes.at(left, y), codes.channels * std::ptrdiff_t(right - left), span);
      if (span.most >= wellBelow_ && span.least < clippedFrom_) return Exposed::Mixed;
    }
    return span.most < wellBelow_ ? Exposed::AllWell : Exposed::AllClipped;
  });
}

void TileReader::develop(const Roi& source, std::array<Plane, 3>& light, int border) const {
  const Frame& frame = *placed_.frame;
  const int left = std::max(source.x, 0), top = std::max(source.y, 0);
  const Roi inside{left, top, std::min(source.x + source.width, frame.width()) - left,
                   std::min(source.y + source.height, frame.height()) - top};
  if (inside.width <= 0 || inside.height <= 0) { // none of it lies in the picture; nobody trusts it
    for (Plane& plane : light) plane.fill(0);
    return;
  }
  const auto rowOf = [&](std::size_t c, int y) { return light[c].row(y - source.y - border) - border - source.x; };
  if (!scratch_.developer) scratch_.developer.emplace();
  scratch_.developer->develop(photositesOf(frame), inside,
                              [&](int x, int y, int n, const float* red, const float* green, const float* blue) {
                                std::copy_n(red, n, rowOf(0, y) + x), std::copy_n(green, n, rowOf(1, y) + x),
                                    std::copy_n(blue, n, rowOf(2, y) + x);
                              });
  // Beyond the picture's edge the outermost pixel is repeated.
  const int right = inside.x + inside.width - 1, bottom = inside.y + inside.height - 1;
  for (std::size_t c = 0; c < 3; ++c) {
    for (int y = inside.y; y <= bottom; ++y) {
      float* row = rowOf(c, y);
      std::fill(row + source.x, row + std::max(source.x, inside.x), row[inside.x]);
      std::fill(row + std::min(right + 1, source.x + source.width), row + source.x + source.width, row[right]);
    }
    for (int y = source.y; y < source.y + source.height; ++y)
      if (y < inside.y || y > bottom)
        std::copy_n(rowOf(c, std::clamp(y, inside.y, bottom)) + source.x, source.width, rowOf(c, y) + source.x);
  }
}

void TileReader::linearise(const Roi& source, std::array<Plane, 3>& light, int border) const {
  const Frame& frame = *placed_.frame;
  if (frame.isMosaic()) return develop(source, light, border);
  const CodeTable& values = values_ ? *values_ : frame.table;
  const float* table[3] = {values.channel(0), values.channel(1), values.channel(2)};
  frame.codes.visit([&](auto codes) {
    for (int y = 0; y < source.height; ++y) {
      float* out[3] = {light[0].row(y - border) - border, light[1].row(y - border) - border,
                       light[2].row(y - border) - border};
      linearRow(codes.row(std::clamp(source.y + y, 0, codes.height - 1)), source.x, source.x + source.width,
                codes.width, table, out);
    }
  });
}

void TileReader::findTrust(const std::array<Plane, 3>& light, std::array<Plane, 3>& trust, int border) {
  const int w = light[0].width() + 2 * border, h = light[0].height() + 2 * border;
  Plane& across = scratch_.across;
  across.shape(w, h);
  for (std::size_t c = 0; c < 3; ++c) {
    trust[c].shape(light[c].width(), light[c].height(), border);
    const auto at = [&](int y) { return trust[c].row(y - border) - border; };
    for (int y = 0; y < h; ++y) {
      rows::trustOfRow(light[c].row(y - border) - border, w, inverseClip_[c], at(y));
      std::copy_n(at(y), w, across.row(y));
      if (w > 2 * kSpread) leastOfFive(at(y) + kSpread, 1, w - 2 * kSpread, across.row(y) + kSpread);
    }
    for (int y = kSpread; y < h - kSpread; ++y) leastOfFive(across.row(y), w, w, at(y));
  }
}

void TileReader::place(const Roi& where, const Roi& source, FrameTile& out) {
  const int n = source.width, tw = where.width;
  TileScratch& s = scratch_;
  s.column.resize(3 * std::size_t(n));
  s.columnTrust.resize(3 * std::size_t(n));
  s.places.begin(placed_.toFrame, where, source, kInterpolating);
  for (int y = 0; y < where.height; ++y) {
    s.places.row(y);
    const GridPlaces::Weights &down = s.places.down(), &along = s.places.along();
    down.forEachRun(n, [&](int begin, int end, int row) {
      for (std::size_t c = 0; c < 3; ++c) {
        float* column = s.column.data() + c * std::size_t(n) + begin;
        sumOfSix(s.light[c].row(row - kBefore) + begin, n, down.values.data() + begin, n, end - begin, column);
        if (!out.allTrusted)
          leastOfTwo(s.trust[c].row(row) + begin, s.trust[c].row(row + 1) + begin, end - begin,
                     s.columnTrust.data() + c * std::size_t(n) + begin);
      }
    });
    along.forEachRun(tw, [&](int begin, int end, int offset) {
      for (std::size_t c = 0; c < 3; ++c) {
        const float* from = s.column.data() + c * std::size_t(n) + begin + offset;
        sumOfSix(from - kBefore, 1, along.values.data() + begin, tw, end - begin, out.linear[c].row(y) + begin);
        if (out.allTrusted) continue;
        const float* trust = s.columnTrust.data() + c * std::size_t(n) + begin + offset;
        leastOfTwo(trust, trust + 1, end - begin, out.trust[c].row(y) + begin);
      }
    });
  }
}

void TileReader::markOutside(const Roi& where, FrameTile& out) const {
  const Transform transform{placed_.toFrame};
  const auto inside = [&](int x, int y) {
    double u, v;
    transform.map(x, y, u, v);
    return u >= 0 && v >= 0 && u <= placed_.frame->width() - 1 && v <= placed_.frame->height() - 1;
  };
  const int right = where.x + where.width - 1, bottom = where.y + where.height - 1;
  if (inside(where.x, where.y) && inside(right, where.y) && inside(where.x, bottom) && inside(right, bottom)) return;
  if (out.allTrusted)
    for (Plane& trust : out.trust) {
      trust.shape(where.width, where.height);
      trust.fill(1);
    }
  out.allTrusted = false;
  for (int y = 0; y < where.height; ++y)
    for (int x = 0; x < where.width; ++x)
      if (!inside(where.x + x, where.y + y))
        for (Plane& trust : out.trust) trust.row(y)[x] = -1;
}

void TileReader::read(const Roi& where, bool mayStayOut, FrameTile& out) {
  const Roi source = sourceOf(where);
  const Exposed how = exposed(source);
  out.allTrusted = how == Exposed::AllWell;
  out.noneTrusted = how == Exposed::AllClipped;
  out.placed = !(out.noneTrusted && mayStayOut);
  if (!out.placed) return;
  if (still_) {
    // Light and trust lie in the result at once, with what surrounds them as a border.
    for (Plane& plane : out.linear) plane.shape(where.width, where.height, kSpread);
    linearise(source, out.linear, kSpread);
    if (!out.allTrusted) findTrust(out.linear, out.trust, kSpread);
  } else {
    for (Plane& plane : scratch_.light) plane.shape(source.width, source.height);
    linearise(source, scratch_.light, 0);
    if (!out.allTrusted) findTrust(scratch_.light, scratch_.trust, 0);
    for (std::size_t c = 0; c < 3; ++c) {
      out.linear[c].shape(where.width, where.height);
      if (!out.allTrusted) out.trust[c].shape(where.width, where.height);
    }
    place(where, source, out);
    markOutside(where, out);
  }
  if (out.allTrusted) return;
  out.noneTrusted = true;
  for (const Plane& trust : out.trust)
    for (int y = 0; y < where.height && out.noneTrusted; ++y)
      out.noneTrusted = !rows::anyAboveZero(trust.row(y), where.width);
}

} // namespace ml
