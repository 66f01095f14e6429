// SPDX-License-Identifier: GPL-3.0-or-later
#include "judge/detail.h"

#include "base/parallel.h"
#include "capture/developed.h"
#include "image/interpolate.h"

#include <algorithm>
#include <cmath>
#include <vector>

namespace ml {
namespace {

constexpr float kFullFrom = 0.97f;

/// Mean green of a block of pixels, saturation = 1; kNoLight where a channel is full. Of a mosaic its green photosites.
float greenOf(const Frame& frame, int left, int top, int side) {
  const float* table[3] = {frame.table.channel(0), frame.table.channel(1), frame.table.channel(2)};
  float sum = 0;
  int count = 0;
  for (int y = top; y < top + side; ++y)
    for (int x = left; x < left + side; ++x)
      for (int c = 0; c < 3; ++c) {
        if (frame.isMosaic() && frame.colourAt(x, y) != c) continue;
        const float light = table[c][frame.isMosaic() ? *frame.codes.photosites().at(x, y) : frame.codes.at(x, y, c)];
        if (light > kFullFrom * frame.table.clipFrom * frame.saturation[std::size_t(c)]) return kNoLight;
        if (c == 1) sum += light, ++count;
      }
  return sum / (float(count) * frame.saturation[1]);
}

} // namespace

Detail detailOf(const Frame& frame) {
  Detail out;
  while (double(frame.width() / out.scale) * (frame.height() / out.scale) > Detail::kMostPixels) ++out.scale;
  out.roots = Image<std::uint16_t>(frame.width() / out.scale, frame.height() / out.scale, 1);
  if (frame.isMosaic() && out.scale == 1) return detailOf(developed(frame));
  forEachBand(out.roots.height(), [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y)
      for (int x = 0; x < out.roots.width(); ++x) {
        const float light = greenOf(frame, x * out.scale, y * out.scale, out.scale);
        const float root = std::sqrt(std::clamp(light, 0.f, 1.f));
        *out.roots.at(x, y) = light == kNoLight ? Detail::kCut : std::uint16_t(std::lround(root * (Detail::kCut - 1)));
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
