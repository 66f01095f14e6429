// SPDX-License-Identifier: GPL-3.0-or-later
#include "align/pyramid.h"

#include "base/parallel.h"
#include "base/vector_clones.h"
#include "capture/developed.h"
#include "image/resample.h"

#include <array>
#include <cmath>
#include <vector>

namespace ml {
namespace {

constexpr double kFinestPixels = 1.7e6; // beyond, a picture so much smaller still gives a tenth of a pixel
constexpr int kCoarsestSide = 56;

/// Sum of the brightest channels of a row of codes through a channel's table each; kScale 0: as many as `scale` says.
template <int kScale, class T> float sumRow(const T* code, const float* const table[3], int scale) {
  float sum = 0;
  const int n = kScale > 0 ? kScale : scale;
  for (int u = 0; u < n; ++u, code += 3)
    sum += std::max(std::max(table[0][code[0]], table[1][code[1]]), table[2][code[2]]);
  return sum;
}

template <int kScale, class View>
void sumBlocks(const View& codes, const float* const table[3], int scale, const Band& rows, Image<float>& out) {
  for (int y = rows.begin; y < rows.end; ++y)
    for (int x = 0; x < out.width(); ++x) {
      float sum = 0;
      for (int v = 0; v < (kScale > 0 ? kScale : scale); ++v)
        sum += sumRow<kScale>(codes.at(x * scale, y * scale + v), table, scale);
      *out.at(x, y) = sum;
    }
}

/// The same of a mosaic, block of four photosites by block.
void sumQuads(const Frame& frame, const float* const table[3], int scale, const Band& rows, Image<float>& out) {
  const auto sites = frame.codes.photosites();
  const auto& p = frame.pattern;
  const std::size_t red = p[0] == 0   ? 0
                          : p[1] == 0 ? 1
                          : p[2] == 0 ? 2
                                      : 3,
                    blue = 3 - red, green = red ^ 1, other = 3 - green;
  const float* const of[4] = {table[p[0]], table[p[1]], table[p[2]], table[p[3]]};
  for (int y = rows.begin; y < rows.end; ++y)
    for (int x = 0; x < out.width(); ++x) {
      float sum = 0;
      for (int v = y * scale; v < (y + 1) * scale; v += 2) {
        const std::uint16_t *above = sites.at(x * scale, v), *below = sites.at(x * scale, v + 1);
        for (int u = 0; u < scale; u += 2) {
          const float light[4] = {of[0][above[u]], of[1][above[u + 1]], of[2][below[u]], of[3][below[u + 1]]};
          sum += std::max(std::max(light[red], light[blue]), 0.5f * (light[green] + light[other]));
        }
      }
      *out.at(x, y) = 4 * sum;
    }
}

/// Mean linear light of the brightest channel, relative to its own saturation, over scale x scale blocks. The brightest
/// channel clips first, so that what clips in one frame is what stands above one tone in another, whatever its colour.
Image<float> light(const Frame& frame, int scale) {
  Image<float> out(frame.width() / scale, frame.height() / scale, 1);
  std::array<std::vector<float>, 3> scaled;
  const float* table[3];
  for (std::size_t c = 0; c < 3; ++c) {
    const float* from = frame.table.channel(int(c));
    scaled[c].assign(from, from + frame.table.size());
    for (float& value : scaled[c]) value /= frame.saturation[c] * float(scale * scale);
    table[c] = scaled[c].data();
  }
  if (frame.isMosaic()) {
    forEachBand(out.height(), [&](const Band& band) { sumQuads(frame, table, scale, band, out); });
    return out;
  }
  frame.codes.visit([&](auto codes) {
    forEachBand(out.height(), [&](const Band& band) {
      switch (scale) { // the sizes of usual cameras as constants
      case 3: return sumBlocks<3>(codes, table, scale, band, out);
      case 4: return sumBlocks<4>(codes, table, scale, band, out);
      case 5: return sumBlocks<5>(codes, table, scale, band, out);
      default: return sumBlocks<0>(codes, table, scale, band, out);
      }
    });
  });
  return out;
}

ML_VECTOR_CLONES void rootsOf(const float* in, std::ptrdiff_t n, float* __restrict out) {
  for (std::ptrdiff_t i = 0; i < n; ++i) out[i] = std::sqrt(in[i] > 0 ? in[i] : 0.f);
}

/// 1 2 1 along a row that is the sum of three.
ML_VECTOR_CLONES void binomialRow(const float* a, const float* b, const float* c, int w, float* __restrict columns,
                                  float* __restrict out) {
  for (int x = 0; x < w; ++x) columns[x] = a[x] + 2 * b[x] + c[x];
  for (int x = 1; x < w - 1; ++x) out[x] = (columns[x - 1] + 2 * columns[x] + columns[x + 1]) * (1 / 16.f);
  out[0] = (3 * columns[0] + columns[std::min(1, w - 1)]) * (1 / 16.f);
  out[w - 1] = (3 * columns[w - 1] + columns[std::max(0, w - 2)]) * (1 / 16.f);
}

Image<float> rootOf(const Image<float>& in) {
  Image<float> root(in.width(), in.height(), 1);
  forEachBand(in.height(), [&](const Band& band) {
    rootsOf(in.row(band.begin), std::ptrdiff_t(band.end - band.begin) * in.width(), root.row(band.begin));
  });
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
  if (frame.isMosaic() && pyramid.scale > 1) pyramid.scale += pyramid.scale & 1; // whole blocks of four
  Image<float> level =
      frame.isMosaic() && pyramid.scale == 1 ? light(developed(frame), 1) : light(frame, pyramid.scale);
  while (true) {
    pyramid.levels.push_back(rootOf(level));
    if (std::min(level.width(), level.height()) < 2 * kCoarsestSide) break;
    const auto even = level.view().crop({0, 0, level.width() / 2 * 2, level.height() / 2 * 2});
    level = shrink(even, 2);
  }
  pyramid.exposure = relativeExposure(frame.settings) * frame.midTone;
  pyramid.linear = !frame.curveAssumed;
  pyramid.floor = float(std::sqrt(3 * std::sqrt(frame.noise.variance(0))));
  pyramid.clip = std::sqrt(frame.table.clipFrom) * 0.985f;
  return pyramid;
}

} // namespace ml
