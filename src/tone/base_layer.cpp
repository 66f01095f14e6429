// SPDX-License-Identifier: GPL-3.0-or-later
#include "tone/base_layer.h"

#include "base/parallel.h"

#include <algorithm>
#include <cmath>
#include <vector>

namespace ml {
namespace {

Image<float> variance(const Image<float>& in, int radius) {
  const Image<float> mean = boxMean(in, radius);
  Image<float> out = boxMean(product(in, in), radius);
  for (std::size_t i = 0; i < in.size(); ++i)
    out.data()[i] = std::max(0.f, out.data()[i] - mean.data()[i] * mean.data()[i]);
  return out;
}

/// Edge weight of each cell: its 3x3 variance against the harmonic mean of all (eq. 5 of Li et al.).
Image<float> edgeWeights(const Image<float>& in) {
  constexpr float kSmall = 1e-3f;
  Image<float> local = variance(in, 1);
  double inverse = 0;
  for (std::size_t i = 0; i < local.size(); ++i) inverse += 1 / double(local.data()[i] + kSmall);
  inverse /= double(local.size());
  for (std::size_t i = 0; i < local.size(); ++i) local.data()[i] = float((local.data()[i] + kSmall) * inverse);
  return boxMean(local, 1);
}

} // namespace

Image<float> product(const Image<float>& a, const Image<float>& b) {
  Image<float> out(a.width(), a.height(), 1);
  for (std::size_t i = 0; i < a.size(); ++i) out.data()[i] = a.data()[i] * b.data()[i];
  return out;
}

Image<float> boxMean(const Image<float>& in, int radius) {
  const int w = in.width(), h = in.height();
  Image<float> across(w, h, 1), out(w, h, 1);
  forEachBand(h, [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y) {
      double sum = 0;
      for (int x = 0; x < std::min(w, radius); ++x) sum += in.row(y)[x];
      for (int x = 0; x < w; ++x) {
        if (x + radius < w) sum += in.row(y)[x + radius];
        if (x - radius - 1 >= 0) sum -= in.row(y)[x - radius - 1];
        across.row(y)[x] = float(sum / (std::min(w - 1, x + radius) - std::max(0, x - radius) + 1));
      }
    }
  });
  forEachBand(
      w,
      [&](const Band& band) {
        std::vector<double> sums(band.end - band.begin, 0.0);
        for (int y = 0; y < std::min(h, radius); ++y)
          for (int x = band.begin; x < band.end; ++x) sums[x - band.begin] += across.row(y)[x];
        for (int y = 0; y < h; ++y) {
          const int count = std::min(h - 1, y + radius) - std::max(0, y - radius) + 1;
          for (int x = band.begin; x < band.end; ++x) {
            double& sum = sums[x - band.begin];
            if (y + radius < h) sum += across.row(y + radius)[x];
            if (y - radius - 1 >= 0) sum -= across.row(y - radius - 1)[x];
            out.row(y)[x] = float(sum / count);
          }
        }
      },
      64);
  return out;
}

Image<float> leastAround(const Image<float>& in, int reach) {
  const int w = in.width(), h = in.height();
  Image<float> across(w, h, 1), out(w, h, 1);
  for (int y = 0; y < h; ++y)
    for (int x = 0; x < w; ++x)
      across.row(y)[x] = *std::min_element(in.row(y) + std::max(0, x - reach), in.row(y) + std::min(w, x + reach + 1));
  for (int y = 0; y < h; ++y)
    for (int x = 0; x < w; ++x) {
      float least = across.row(y)[x];
      for (int v = std::max(0, y - reach); v <= std::min(h - 1, y + reach); ++v)
        least = std::min(least, across.row(v)[x]);
      out.row(y)[x] = least;
    }
  return out;
}

LocalMap baseLayerOf(const Image<float>& logLight, const BaseOptions& options) {
  const int w = logLight.width(), h = logLight.height();
  const Image<float> mean = boxMean(logLight, options.radius), spread = variance(logLight, options.radius);
  const Image<float> edge = edgeWeights(logLight);
  const float eps = float(options.contrast * options.contrast);
  Image<float> a(w, h, 1), b(w, h, 1);
  for (std::size_t i = 0; i < a.size(); ++i) {
    const float v = spread.data()[i], noise = options.noise ? 3 * options.noise->data()[i] : 0.f;
    const float limit = (eps / std::max(edge.data()[i], 0.05f) + noise * noise) / std::max(v, 1e-6f);
    a.data()[i] = 1 / (1 + limit * limit * limit);
    b.data()[i] = (1 - a.data()[i]) * mean.data()[i];
  }
  return {boxMean(a, options.radius), boxMean(b, options.radius)};
}

} // namespace ml
