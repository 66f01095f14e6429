#include "merge/laplacian.h"

#include "base/parallel.h"
#include "base/vector_clones.h"

#include <algorithm>
#include <cmath>

namespace ml {
namespace {

int mirrored(int i, int n) {
  if (n == 1) return 0;
  if (i < 0) i = -i;
  if (i >= n) i = 2 * n - 2 - i;
  return std::clamp(i, 0, n - 1);
}

ML_VECTOR_CLONES void fiveRows(const float* a, const float* b, const float* c, const float* d, const float* e, int n, float* __restrict out) {
  for (int i = 0; i < n; ++i) out[i] = (a[i] + e[i] + 4 * (b[i] + d[i]) + 6 * c[i]) * (1 / 16.f);
}

template <int kChannels> void halveRow(const float* in, int width, int halfWidth, float* out) {
  const auto at = [&](int x, int c) { return in[std::ptrdiff_t(mirrored(x, width)) * kChannels + c]; };
  const auto careful = [&](int x) {
    for (int c = 0; c < kChannels; ++c)
      out[x * kChannels + c] = (at(2 * x - 2, c) + at(2 * x + 2, c) + 4 * (at(2 * x - 1, c) + at(2 * x + 1, c)) + 6 * at(2 * x, c)) * (1 / 16.f);
  };
  careful(0);
  const int last = std::min(halfWidth, (width - 2) / 2);
  for (int x = 1; x < last; ++x) {
    const float* p = in + std::ptrdiff_t(2 * x - 2) * kChannels;
    for (int c = 0; c < kChannels; ++c)
      out[x * kChannels + c] = (p[c] + p[4 * kChannels + c] + 4 * (p[kChannels + c] + p[3 * kChannels + c]) + 6 * p[2 * kChannels + c]) * (1 / 16.f);
  }
  for (int x = std::max(1, last); x < halfWidth; ++x) careful(x);
}

/// Row y of the doubled picture: zeros between samples, 1 4 6 4 1, times 4. First between the rows, then along them.
ML_VECTOR_CLONES void oddRow(const float* a, const float* b, int n, float* __restrict out) {
  for (int i = 0; i < n; ++i) out[i] = 0.5f * (a[i] + b[i]);
}
ML_VECTOR_CLONES void evenRow(const float* a, const float* b, const float* c, int n, float* __restrict out) {
  for (int i = 0; i < n; ++i) out[i] = (a[i] + 6 * b[i] + c[i]) * 0.125f;
}

template <int kChannels> void doubleRow(const float* in, int halfWidth, int width, float* out) {
  const auto at = [&](int x, int c) { return in[std::ptrdiff_t(std::clamp(x < 0 ? -x : x, 0, halfWidth - 1)) * kChannels + c]; };
  const auto pair = [&](int x, auto&& read) {
    for (int c = 0; c < kChannels; ++c) {
      const float left = read(x - 1, c), middle = read(x, c), right = read(x + 1, c);
      out[2 * x * kChannels + c] = (left + 6 * middle + right) * 0.125f;
      if (2 * x + 1 < width) out[(2 * x + 1) * kChannels + c] = 0.5f * (middle + right);
    }
  };
  pair(0, at);
  for (int x = 1; x < halfWidth - 1; ++x) pair(x, [&](int u, int c) { return in[std::ptrdiff_t(u) * kChannels + c]; });
  if (halfWidth > 1) pair(halfWidth - 1, at);
}

void doubledRow(const Image<float>& coarse, int y, int width, std::vector<float>& scratch, float* out) {
  const int n = coarse.width() * coarse.channels(), h = coarse.height(), v = y / 2;
  const auto row = [&](int i) { return coarse.row(std::clamp(i < 0 ? -i : i, 0, h - 1)); };
  scratch.resize(std::size_t(n));
  if (y % 2) oddRow(row(v), row(v + 1), n, scratch.data());
  else evenRow(row(v - 1), row(v), row(v + 1), n, scratch.data());
  if (coarse.channels() == 1) doubleRow<1>(scratch.data(), coarse.width(), width, out);
  else doubleRow<3>(scratch.data(), coarse.width(), width, out);
}

ML_VECTOR_CLONES void addWeighted(const float* fine, const float* smooth, const float* weight, int n, float* __restrict into) {
  for (int i = 0; i < n; ++i)
    for (int c = 0; c < 3; ++c) into[3 * i + c] += weight[i] * (fine[3 * i + c] - smooth[3 * i + c]);
}
ML_VECTOR_CLONES void add(const float* from, int n, float* __restrict into) {
  for (int i = 0; i < n; ++i) into[i] += from[i];
}

} // namespace

Image<float> halved(const Image<float>& in) {
  const int w = in.width(), h = in.height(), channels = in.channels();
  Image<float> out((w + 1) / 2, (h + 1) / 2, channels);
  forEachBand(out.height(), [&](const Band& band) {
    std::vector<float> line(std::size_t(w) * channels);
    for (int y = band.begin; y < band.end; ++y) {
      const auto row = [&](int k) { return in.row(mirrored(2 * y + k, h)); };
      fiveRows(row(-2), row(-1), row(0), row(1), row(2), w * channels, line.data());
      if (channels == 1) halveRow<1>(line.data(), w, out.width(), out.row(y));
      else halveRow<3>(line.data(), w, out.width(), out.row(y));
    }
  });
  return out;
}

void addDetail(const Image<float>& fine, const Image<float>& coarse, const Image<float>& weight, Image<float>& into) {
  forEachBand(fine.height(), [&](const Band& band) {
    std::vector<float> scratch, smooth(std::size_t(fine.width()) * 3 + 3, 0.f);
    for (int y = band.begin; y < band.end; ++y) {
      if (!coarse.empty()) doubledRow(coarse, y, fine.width(), scratch, smooth.data());
      addWeighted(fine.row(y), smooth.data(), weight.row(y), fine.width(), into.row(y));
    }
  });
}

void addDoubled(const Image<float>& coarse, Image<float>& fine) {
  forEachBand(fine.height(), [&](const Band& band) {
    std::vector<float> scratch, smooth(std::size_t(fine.width()) * fine.channels() + 3);
    for (int y = band.begin; y < band.end; ++y) {
      doubledRow(coarse, y, fine.width(), scratch, smooth.data());
      add(smooth.data(), fine.width() * fine.channels(), fine.row(y));
    }
  });
}

} // namespace ml
