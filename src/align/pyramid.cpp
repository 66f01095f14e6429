#include "align/pyramid.h"

#include "base/parallel.h"
#include "image/resample.h"

#include <cmath>

namespace ml {
namespace {

constexpr std::int64_t kFinestPixels = 4'500'000; // beyond, half size still gives a tenth of a pixel
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

Image<float> rootOf(const Image<float>& in) {
  Image<float> root(in.width(), in.height(), 1);
  for (std::size_t i = 0; i < in.size(); ++i) root.data()[i] = std::sqrt(std::max(0.f, in.data()[i]));
  return root;
}

} // namespace

Image<float> smoothed(const Image<float>& in) {
  const int w = in.width(), h = in.height();
  Image<float> out(w, h, 1);
  forEachBand(h, [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y) {
      const float *a = in.row(std::max(0, y - 1)), *b = in.row(y), *c = in.row(std::min(h - 1, y + 1));
      const auto column = [&](int x) { return a[x] + 2 * b[x] + c[x]; };
      for (int x = 0; x < w; ++x)
        out.row(y)[x] = (column(std::max(0, x - 1)) + 2 * column(x) + column(std::min(w - 1, x + 1))) / 16;
    }
  });
  return out;
}

LightPyramid buildPyramid(const Frame& frame) {
  LightPyramid pyramid;
  pyramid.scale = std::int64_t(frame.width()) * frame.height() > kFinestPixels ? 2 : 1;
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
