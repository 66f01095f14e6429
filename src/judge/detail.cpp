// SPDX-License-Identifier: GPL-3.0-or-later
#include "judge/detail.h"

#include "base/parallel.h"
#include "image/interpolate.h"

#include <algorithm>
#include <cmath>
#include <vector>

namespace ml {
namespace {

constexpr float kFullFrom = 0.97f;

} // namespace

Detail detailOf(const Frame& frame) {
  Detail out;
  while (double(frame.width() / out.scale) * (frame.height() / out.scale) > Detail::kMostPixels) ++out.scale;
  out.roots = Image<std::uint16_t>(frame.width() / out.scale, frame.height() / out.scale, 1);
  const float* table[3] = {frame.table.channel(0), frame.table.channel(1), frame.table.channel(2)};
  const float share = 1.f / float(out.scale * out.scale) / frame.saturation[1];
  const auto clips = [&](int x, int y) {
    for (int c = 0; c < 3; ++c)
      if (table[c][frame.codes.at(x, y, c)] > kFullFrom * frame.table.clipFrom * frame.saturation[std::size_t(c)])
        return true;
    return false;
  };
  forEachBand(out.roots.height(), [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y)
      for (int x = 0; x < out.roots.width(); ++x) {
        float sum = 0;
        bool cut = false;
        for (int v = y * out.scale; v < (y + 1) * out.scale; ++v)
          for (int u = x * out.scale; u < (x + 1) * out.scale; ++u) {
            sum += table[1][frame.codes.at(u, v, 1)];
            cut = cut || clips(u, v);
          }
        const float root = std::sqrt(std::clamp(sum * share, 0.f, 1.f));
        *out.roots.at(x, y) = cut ? Detail::kCut : std::uint16_t(std::lround(root * (Detail::kCut - 1)));
      }
  });
  return out;
}

Image<float> lightOf(const Detail& detail, const std::function<double(double)>& reading) {
  std::vector<float> table(std::size_t(Detail::kCut) + 1, kNoLight);
  for (std::size_t i = 0; i < Detail::kCut; ++i) {
    const double root = double(i) / (Detail::kCut - 1);
    table[i] = float(reading ? reading(root * root) : root * root);
  }
  Image<float> out(detail.roots.width(), detail.roots.height(), 1);
  for (std::size_t i = 0; i < out.size(); ++i) out.data()[i] = table[detail.roots.data()[i]];
  return out;
}

Image<float> lightAt(const Image<float>& light, const Transform& onto) {
  Image<float> out(light.width(), light.height(), 1);
  forEachBand(out.height(), [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y)
      for (int x = 0; x < out.width(); ++x) {
        double u, v;
        onto.map(x, y, u, v);
        const int ix = int(std::floor(u)) - 2, iy = int(std::floor(v)) - 2;
        *out.at(x, y) = kNoLight;
        if (ix < 0 || iy < 0 || ix + kInterpolationTaps > light.width() || iy + kInterpolationTaps > light.height())
          continue;
        float wx[kInterpolationTaps], wy[kInterpolationTaps], sum = 0;
        interpolationWeights(float(u - std::floor(u)), wx);
        interpolationWeights(float(v - std::floor(v)), wy);
        bool known = true;
        for (int j = 0; j < kInterpolationTaps; ++j)
          for (int i = 0; i < kInterpolationTaps; ++i) {
            const float value = *light.at(ix + i, iy + j);
            known = known && value != kNoLight;
            sum += wx[i] * wy[j] * value;
          }
        if (known) *out.at(x, y) = std::max(0.f, sum);
      }
  });
  return out;
}

Image<float> halvedLight(const Image<float>& light) {
  Image<float> out(light.width() / 2, light.height() / 2, 1);
  for (int y = 0; y < out.height(); ++y)
    for (int x = 0; x < out.width(); ++x) {
      const float *a = light.at(2 * x, 2 * y), *b = light.at(2 * x, 2 * y + 1);
      const bool cut = std::min({a[0], a[1], b[0], b[1]}) == kNoLight;
      *out.at(x, y) = cut ? kNoLight : (a[0] + a[1] + b[0] + b[1]) / 4;
    }
  return out;
}

} // namespace ml
