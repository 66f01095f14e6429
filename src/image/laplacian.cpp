// SPDX-License-Identifier: GPL-3.0-or-later
#include "image/laplacian.h"

#include "base/vector_clones.h"

#include <algorithm>

namespace ml {
namespace {

int mirrored(int i, int n) {
  if (n == 1) return 0;
  if (i < 0) i = -i;
  if (i >= n) i = 2 * n - 2 - i;
  return std::clamp(i, 0, n - 1);
}

ML_VECTOR_CLONES void fiveRows(const float* a, const float* b, const float* c, const float* d, const float* e, int n,
                               float* __restrict out) {
  for (int i = 0; i < n; ++i) out[i] = (a[i] + e[i] + 4 * (b[i] + d[i]) + 6 * c[i]) * (1 / 16.f);
}

/// out[x] for x in [begin, end) from in[2 x - 2 .. 2 x + 2].
ML_VECTOR_CLONES void halveInside(const float* in, int begin, int end, float* __restrict out) {
  for (int x = begin; x < end; ++x) {
    const float* p = in + 2 * x;
    out[x] = (p[-2] + p[2] + 4 * (p[-1] + p[1]) + 6 * p[0]) * (1 / 16.f);
  }
}

/// Between the rows: zeros between samples, 1 4 6 4 1, times 2.
ML_VECTOR_CLONES void oddRow(const float* a, const float* b, int n, float* __restrict out) {
  for (int i = 0; i < n; ++i) out[i] = 0.5f * (a[i] + b[i]);
}
ML_VECTOR_CLONES void evenRow(const float* a, const float* b, const float* c, int n, float* __restrict out) {
  for (int i = 0; i < n; ++i) out[i] = (a[i] + 6 * b[i] + c[i]) * 0.125f;
}
/// And along them, for x in [begin, end).
ML_VECTOR_CLONES void doubleInside(const float* in, int begin, int end, float* __restrict out) {
  for (int x = begin; x < end; ++x) {
    out[2 * x] = (in[x - 1] + 6 * in[x] + in[x + 1]) * 0.125f;
    out[2 * x + 1] = 0.5f * (in[x] + in[x + 1]);
  }
}

ML_VECTOR_CLONES void addDifference(const float* fine, const float* smooth, const float* weight, int n,
                                    float* __restrict into) {
  for (int i = 0; i < n; ++i) into[i] += weight[i] * (fine[i] - smooth[i]);
}
ML_VECTOR_CLONES void addProduct(const float* fine, const float* weight, int n, float* __restrict into) {
  for (int i = 0; i < n; ++i) into[i] += weight[i] * fine[i];
}

} // namespace

void halveRow(const ImageView<const float>& fine, int y, std::vector<float>& scratch, float* out) {
  const int w = fine.width, half = halvedSize(w);
  scratch.resize(std::size_t(w));
  const auto row = [&](int k) { return fine.row(mirrored(2 * y + k, fine.height)); };
  fiveRows(row(-2), row(-1), row(0), row(1), row(2), w, scratch.data());
  const float* in = scratch.data();
  const auto careful = [&](int x) {
    const auto at = [&](int u) { return in[mirrored(2 * x + u, w)]; };
    out[x] = (at(-2) + at(2) + 4 * (at(-1) + at(1)) + 6 * at(0)) * (1 / 16.f);
  };
  const int last = std::max(1, std::min(half, (w - 1) / 2));
  careful(0);
  halveInside(in, 1, last, out);
  for (int x = last; x < half; ++x) careful(x);
}

void doubleRow(const ImageView<const float>& coarse, int y, int width, std::vector<float>& scratch, float* out) {
  const int n = coarse.width, h = coarse.height, v = y / 2;
  const auto row = [&](int i) { return coarse.row(std::clamp(i < 0 ? -i : i, 0, h - 1)); };
  scratch.resize(std::size_t(n));
  if (y % 2)
    oddRow(row(v), row(v + 1), n, scratch.data());
  else
    evenRow(row(v - 1), row(v), row(v + 1), n, scratch.data());
  const float* in = scratch.data();
  const auto careful = [&](int x) {
    const float left = in[std::clamp(x > 0 ? x - 1 : 1, 0, n - 1)], right = in[std::min(x + 1, n - 1)];
    out[2 * x] = (left + 6 * in[x] + right) * 0.125f;
    if (2 * x + 1 < width) out[2 * x + 1] = 0.5f * (in[x] + right);
  };
  careful(0);
  doubleInside(in, 1, n - 1, out);
  if (n > 1) careful(n - 1);
}

void addDetail(const float* fine, const float* smooth, const float* weight, int n, float* into) {
  if (smooth)
    addDifference(fine, smooth, weight, n, into);
  else
    addProduct(fine, weight, n, into);
}

} // namespace ml
