#include "align/pyramid.h"

#include "base/parallel.h"
#include "base/vector_clones.h"
#include "image/resample.h"

#include <cmath>

namespace ml {
namespace {

constexpr double kFinestPixels = 1.7e6; // beyond, a picture so much smaller still gives a tenth of a pixel
constexpr int kCoarsestSide = 56;

/// Mean linear light of the three channels over scale x scale blocks, each relative to its own saturation.
Image<float> light(const Frame& frame, int scale) {
  const int width = frame.width() / scale, height = frame.height() / scale;
  Image<float> out(width, height, 1);
  const float* table[3] = {frame.table.channel(0), frame.table.channel(1), frame.table.channel(2)};
  const float gains[3] = {1 / (3 * frame.saturation[0]), 1 / (3 * frame.saturation[1]), 1 / (3 * frame.saturation[2])};
  const float share = 1 / float(scale * scale);
  frame.codes.visit([&](auto codes) {
    forEachBand(height, [&](const Band& band) {
      for (int y = band.begin; y < band.end; ++y)
        for (int x = 0; x < width; ++x) {
          float sum[3] = {};
          for (int v = 0; v < scale; ++v) {
            const auto* code = codes.at(x * scale, y * scale + v);
            for (int u = 0; u < scale; ++u, code += 3)
              for (int c = 0; c < 3; ++c) sum[c] += table[c][code[c]];
          }
          *out.at(x, y) = share * (gains[0] * sum[0] + gains[1] * sum[1] + gains[2] * sum[2]);
        }
    });
  });
  return out;
}

ML_VECTOR_CLONES void rootsOf(const float* in, std::ptrdiff_t n, float* __restrict out) {
  for (std::ptrdiff_t i = 0; i < n; ++i) out[i] = std::sqrt(in[i] > 0 ? in[i] : 0.f);
}

/// 1 2 1 along a row that is the sum of three.
ML_VECTOR_CLONES void binomialRow(const float* a, const float* b, const float* c, int w, float* __restrict columns, float* __restrict out) {
  for (int x = 0; x < w; ++x) columns[x] = a[x] + 2 * b[x] + c[x];
  for (int x = 1; x < w - 1; ++x) out[x] = (columns[x - 1] + 2 * columns[x] + columns[x + 1]) * (1 / 16.f);
  out[0] = (3 * columns[0] + columns[std::min(1, w - 1)]) * (1 / 16.f);
  out[w - 1] = (3 * columns[w - 1] + columns[std::max(0, w - 2)]) * (1 / 16.f);
}

Image<float> rootOf(const Image<float>& in) {
  Image<float> root(in.width(), in.height(), 1);
  forEachBand(in.height(), [&](const Band& band) { rootsOf(in.row(band.begin), std::ptrdiff_t(band.end - band.begin) * in.width(), root.row(band.begin)); });
  return root;
}

} // namespace

Image<float> smoothed(const Image<float>& in) {
  const int w = in.width(), h = in.height();
  Image<float> out(w, h, 1);
  forEachBand(h, [&](const Band& band) {
    std::vector<float> columns(static_cast<std::size_t>(w));
    for (int y = band.begin; y < band.end; ++y)
      binomialRow(in.row(std::max(0, y - 1)), in.row(y), in.row(std::min(h - 1, y + 1)), w, columns.data(), out.row(y));
  });
  return out;
}

LightPyramid buildPyramid(const Frame& frame) {
  LightPyramid pyramid;
  pyramid.scale = std::max(1, int(std::ceil(std::sqrt(double(frame.width()) * frame.height() / kFinestPixels))));
  Image<float> level = light(frame, pyramid.scale);
  while (true) {
    pyramid.levels.push_back(rootOf(level));
    if (std::min(level.width(), level.height()) < 2 * kCoarsestSide) break;
    const auto even = level.view().crop({0, 0, level.width() / 2 * 2, level.height() / 2 * 2});
    level = shrink(even, 2);
  }
  pyramid.exposure = relativeExposure(frame.settings) * frame.midTone;
  pyramid.floor = float(std::sqrt(3 * std::sqrt(frame.noise.variance(0))));
  pyramid.clip = std::sqrt(frame.table.clipFrom) * 0.985f;
  return pyramid;
}

} // namespace ml
