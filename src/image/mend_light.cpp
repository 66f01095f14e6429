// SPDX-License-Identifier: GPL-3.0-or-later
#include "image/mend_light.h"

#include <algorithm>
#include <cmath>
#include <vector>

namespace ml {
namespace {

float meanAround(const Image<float>& image, int x, int y, int channel) {
  double sum = 0;
  int count = 0;
  for (int v = std::max(0, y - 1); v <= std::min(image.height() - 1, y + 1); ++v)
    for (int u = std::max(0, x - 1); u <= std::min(image.width() - 1, x + 1); ++u)
      if (const float value = image.at(u, v)[channel]; std::isfinite(value)) sum += value, ++count;
  return count ? float(sum / count) : 0.f;
}

} // namespace

std::size_t mendLight(Image<float>& radiance) {
  const int channels = radiance.channels();
  std::vector<float> brightest(std::size_t(channels), 0.f);
  bool sound = true;
  for (int y = 0; y < radiance.height(); ++y)
    for (int x = 0; x < radiance.width(); ++x) {
      const float* pixel = radiance.at(x, y);
      float sum = 0;
      for (int c = 0; c < channels; ++c) {
        sum += pixel[c];
        if (std::isfinite(pixel[c])) brightest[std::size_t(c)] = std::max(brightest[std::size_t(c)], pixel[c]);
      }
      sound = sound && std::isfinite(sum) && sum >= 0;
    }
  if (sound) return 0;
  std::size_t mended = 0;
  std::vector<std::pair<float*, float>> undefined; // written last, so that none is the mean of another's
  for (int y = 0; y < radiance.height(); ++y)
    for (int x = 0; x < radiance.width(); ++x) {
      float *pixel = radiance.at(x, y), sum = 0;
      for (int c = 0; c < channels; ++c) {
        if (std::isnan(pixel[c]))
          undefined.emplace_back(pixel + c, meanAround(radiance, x, y, c));
        else if (std::isinf(pixel[c]))
          pixel[c] = pixel[c] > 0 ? brightest[std::size_t(c)] : 0.f, ++mended;
        if (std::isfinite(pixel[c])) sum += pixel[c];
      }
      if (sum < 0) {
        std::fill_n(pixel, channels, 0.f);
        mended += std::size_t(channels);
      }
    }
  for (const auto& [sample, value] : undefined) *sample = value;
  return mended + undefined.size();
}

} // namespace ml
