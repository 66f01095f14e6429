#include "merge/tile.h"

#include "align/transform.h"
#include "base/vector_clones.h"
#include "image/interpolate.h"

#include <cmath>
#include <cstring>

namespace ml {
namespace {

constexpr int kTaps = kInterpolationTaps, kBefore = kTaps / 2 - 1; ///< Samples before the one at the whole position.
constexpr int kSpread = 2;                                        ///< What clipped spoils this many pixels around.

ML_VECTOR_CLONES void trustOfRow(const float* light, int n, float inverseClip, float* __restrict trust) {
  for (int i = 0; i < n; ++i) trust[i] = trustOf(light[i] * inverseClip);
}

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

ML_VECTOR_CLONES bool anyAbove(const float* in, std::size_t n, float limit) {
  int any = 0;
  for (std::size_t i = 0; i < n; ++i) any |= in[i] > limit;
  return any;
}

/// Fractions of `position` (not negative) to six rows of weights, each n long.
ML_VECTOR_CLONES void weightRows(const float* position, int n, float* __restrict a, float* __restrict b, float* __restrict c, float* __restrict d,
                                 float* __restrict e, float* __restrict f) {
  for (int i = 0; i < n; ++i) {
    float w[kTaps];
    interpolationWeights(position[i] - float(int(position[i])), w);
    a[i] = w[0], b[i] = w[1], c[i] = w[2], d[i] = w[3], e[i] = w[4], f[i] = w[5];
  }
}
void weightRows(const float* position, int n, float* out) {
  weightRows(position, n, out, out + n, out + 2 * n, out + 3 * n, out + 4 * n, out + 5 * n);
}

/// Weighted sum of six rows that lie `step` apart from `p` on; `w` holds six rows of weights, `pitch` apart. Held between the middle four.
ML_VECTOR_CLONES void sumOfSix(const float* p, std::ptrdiff_t step, const float* w, int pitch, int n, float* __restrict out) {
  for (int i = 0; i < n; ++i) {
    const float a = p[i], b = p[i + step], c = p[i + 2 * step], d = p[i + 3 * step], e = p[i + 4 * step], f = p[i + 5 * step];
    const float sum = w[i] * a + w[pitch + i] * b + w[2 * pitch + i] * c + w[3 * pitch + i] * d + w[4 * pitch + i] * e + w[5 * pitch + i] * f;
    out[i] = std::min(std::max(sum, std::min(std::min(b, c), std::min(d, e))), std::max(std::max(b, c), std::max(d, e)));
  }
}

/// Positions that a smooth function takes at 0..n-1, from its values at 0, (n-1)/2 and n-1 (a homography bends little within a tile).
ML_VECTOR_CLONES void quadratic(double atStart, double atMiddle, double atEnd, int n, float* __restrict out) {
  const double last = std::max(1, n - 1);
  const float base = float(atStart), slope = float((4 * atMiddle - 3 * atStart - atEnd) / last), bend = float((2 * atEnd + 2 * atStart - 4 * atMiddle) / (last * last));
  for (int i = 0; i < n; ++i) out[i] = base + float(i) * (slope + bend * float(i));
}

/// Calls work(begin, end, whole) for stretches of i in which the whole part of position[i] - (moving ? i : 0) stays the same.
template <class Work> void forEachRun(const float* position, int n, bool moving, const Work& work) {
  const auto whole = [&](int i) { return int(position[i]) - (moving ? i : 0); };
  for (int begin = 0; begin < n;) {
    const int offset = whole(begin);
    int end = begin + 1;
    while (end < n && whole(end) == offset) ++end;
    work(begin, end, offset);
    begin = end;
  }
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

} // namespace

TileReader::TileReader(const PlacedFrame& placed, const CodeTable* values) : placed_(placed), values_(values), still_(Transform{placed.toFrame}.isIdentity()) {
  for (int c = 0; c < 3; ++c) inverseClip_[c] = 1 / (placed.frame->table.clipFrom * placed.frame->saturation[c]);
}

Roi TileReader::sourceOf(const Roi& where) const {
  if (still_) return {where.x - kSpread, where.y - kSpread, where.width + 2 * kSpread, where.height + 2 * kSpread};
  const Transform transform{placed_.toFrame};
  double left = 1e30, top = 1e30, right = -1e30, bottom = -1e30;
  for (const int x : {where.x, where.x + where.width - 1})
    for (const int y : {where.y, where.y + where.height - 1}) {
      double u, v;
      transform.map(x, y, u, v);
      left = std::min(left, u), right = std::max(right, u), top = std::min(top, v), bottom = std::max(bottom, v);
    }
  const Frame& frame = *placed_.frame;
  const int margin = kSpread + kTaps / 2 + 1;
  const auto held = [](double value, int size) { return int(std::floor(std::clamp(value, -100.0, size + 100.0))); };
  const int x0 = held(left, frame.width()) - margin, y0 = held(top, frame.height()) - margin;
  return {x0, y0, held(right, frame.width()) + margin + 2 - x0, held(bottom, frame.height()) + margin + 2 - y0};
}

void TileReader::linearise(const Roi& source) {
  const Frame& frame = *placed_.frame;
  for (Plane& plane : light_) plane.shape(source.width, source.height);
  const CodeTable& values = values_ ? *values_ : frame.table;
  const float* table[3] = {values.channel(0), values.channel(1), values.channel(2)};
  frame.codes.visit([&](auto codes) {
    for (int y = 0; y < source.height; ++y) {
      float* out[3] = {light_[0].row(y), light_[1].row(y), light_[2].row(y)};
      linearRow(codes.row(std::clamp(source.y + y, 0, codes.height - 1)), source.x, source.x + source.width, codes.width, table, out);
    }
  });
}

void TileReader::findTrust(FrameTile& out) {
  const int w = light_[0].width, h = light_[0].height;
  out.allTrusted = true;
  out.noneTrusted = false;
  if (values_) return;
  for (int c = 0; c < 3; ++c) out.allTrusted = out.allTrusted && !anyAbove(light_[c].values.data(), light_[c].values.size(), 0.9f / inverseClip_[c]);
  if (out.allTrusted) return;
  for (int c = 0; c < 3; ++c) {
    Plane& trust = trust_[c];
    trust.shape(w, h);
    across_.shape(w, h);
    for (int y = 0; y < h; ++y) {
      trustOfRow(light_[c].row(y), w, inverseClip_[c], trust.row(y));
      std::copy_n(trust.row(y), w, across_.row(y));
      if (w > 2 * kSpread) leastOfFive(trust.row(y) + kSpread, 1, w - 2 * kSpread, across_.row(y) + kSpread);
    }
    for (int y = kSpread; y < h - kSpread; ++y) leastOfFive(across_.row(y), w, w, trust.row(y));
  }
}

void TileReader::place(const Roi& where, const Roi& source, FrameTile& out) {
  const Matrix3& h = placed_.toFrame;
  const int n = source.width, tw = where.width;
  const Frame& frame = *placed_.frame;
  const Transform transform{h};
  position_.resize(std::size_t(std::max(n, tw)));
  weights_.resize(position_.size() * kTaps);
  column_.resize(3 * std::size_t(n));
  columnTrust_.resize(3 * std::size_t(n));
  std::vector<float> along(std::size_t(tw), 0.f), alongWeights(std::size_t(tw) * kTaps);
  for (int y = 0; y < where.height; ++y) {
    const double Y = where.y + y;
    // Down the columns: the place (u, v) in the frame where column u meets the reference's row Y.
    const auto down = [&](double u) {
      const double x = (h[1] * Y + h[2] - u * (h[7] * Y + h[8])) / (u * h[6] - h[0]);
      double px, py;
      transform.map(x, Y, px, py);
      return py - source.y;
    };
    quadratic(down(source.x), down(source.x + (n - 1) / 2.0), down(source.x + n - 1), n, position_.data());
    for (int i = 0; i < n; ++i) position_[i] = std::clamp(position_[i], float(kBefore), float(source.height - kTaps / 2 - 1));
    weightRows(position_.data(), n, weights_.data());
    forEachRun(position_.data(), n, false, [&](int begin, int end, int row) {
      for (int c = 0; c < 3; ++c) {
        sumOfSix(light_[c].row(row - kBefore) + begin, n, weights_.data() + begin, n, end - begin, column_.data() + c * n + begin);
        if (!out.allTrusted) leastOfTwo(trust_[c].row(row) + begin, trust_[c].row(row + 1) + begin, end - begin, columnTrust_.data() + c * n + begin);
      }
    });
    // Then along the row.
    const auto across = [&](double x) {
      double px, py;
      transform.map(x, Y, px, py);
      return px - source.x;
    };
    quadratic(across(where.x), across(where.x + (tw - 1) / 2.0), across(where.x + tw - 1), tw, along.data());
    for (int i = 0; i < tw; ++i) along[i] = std::clamp(along[i], float(kBefore), float(n - kTaps / 2 - 1));
    weightRows(along.data(), tw, alongWeights.data());
    forEachRun(along.data(), tw, true, [&](int begin, int end, int offset) {
      for (int c = 0; c < 3; ++c) {
        const float* from = column_.data() + c * n + begin + offset;
        sumOfSix(from - kBefore, 1, alongWeights.data() + begin, tw, end - begin, out.linear[c].row(y) + begin);
        if (out.allTrusted) continue;
        const float* trust = columnTrust_.data() + c * n + begin + offset;
        leastOfTwo(trust, trust + 1, end - begin, out.trust[c].row(y) + begin);
      }
    });
  }
  // What lies outside the frame.
  const auto inside = [&](int x, int y) {
    double u, v;
    transform.map(x, y, u, v);
    return u >= 0 && v >= 0 && u <= frame.width() - 1 && v <= frame.height() - 1;
  };
  const int right = where.x + tw - 1, bottom = where.y + where.height - 1;
  if (inside(where.x, where.y) && inside(right, where.y) && inside(where.x, bottom) && inside(right, bottom)) return;
  if (out.allTrusted)
    for (Plane& trust : out.trust) {
      trust.shape(tw, where.height);
      std::fill(trust.values.begin(), trust.values.end(), 1.f);
    }
  out.allTrusted = false;
  for (int y = 0; y < where.height; ++y)
    for (int x = 0; x < tw; ++x)
      if (!inside(where.x + x, where.y + y))
        for (int c = 0; c < 3; ++c) out.trust[c].row(y)[x] = -1;
}

void TileReader::read(const Roi& where, bool mayStayOut, FrameTile& out) {
  const Roi source = sourceOf(where);
  linearise(source);
  findTrust(out);
  out.placed = true;
  if (!out.allTrusted && mayStayOut) {
    bool any = false;
    for (int c = 0; c < 3; ++c) any = any || anyAbove(trust_[c].values.data(), trust_[c].values.size(), 0);
    if (!any) {
      out.noneTrusted = true;
      out.placed = false;
      return;
    }
  }
  for (int c = 0; c < 3; ++c) {
    out.linear[c].shape(where.width, where.height);
    if (!out.allTrusted) out.trust[c].shape(where.width, where.height);
  }
  if (!still_) {
    place(where, source, out);
  } else {
    for (int c = 0; c < 3; ++c)
      for (int y = 0; y < where.height; ++y) {
        std::memcpy(out.linear[c].row(y), light_[c].row(y + kSpread) + kSpread, std::size_t(where.width) * sizeof(float));
        if (!out.allTrusted) std::memcpy(out.trust[c].row(y), trust_[c].row(y + kSpread) + kSpread, std::size_t(where.width) * sizeof(float));
      }
  }
  if (!out.allTrusted) {
    out.noneTrusted = true;
    for (int c = 0; c < 3; ++c) out.noneTrusted = out.noneTrusted && !anyAbove(out.trust[c].values.data(), out.trust[c].values.size(), 0);
  }
}

} // namespace ml
