// SPDX-License-Identifier: GPL-3.0-or-later
#include "tone/noise.h"

#include "base/parallel.h"
#include "image/colour.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <numbers>

namespace ml {
namespace {

constexpr int kBlock = 8;
constexpr int kBlocksAcross = 96;
constexpr std::size_t kFewest = 12; ///< Blocks of a stop; fewer say nothing.
constexpr double kQuietest = 0.10;
constexpr double kExpected = 1.35; ///< The quietest tenth of many equal blocks of 36 second differences lies this much
                                   ///< below the mean (simulated).

struct BlockNoise {
  float light = 0, sigma = 0;
};

BlockNoise noiseOf(ImageView<const float> rows, int x0) {
  float light[kBlock][kBlock];
  double sum = 0, second = 0;
  for (int y = 0; y < kBlock; ++y)
    for (int x = 0; x < kBlock; ++x) sum += light[y][x] = luminance(rows.at(x0 + x, y));
  for (int y = 1; y < kBlock - 1; ++y)
    for (int x = 1; x < kBlock - 1; ++x)
      second += std::abs(light[y - 1][x - 1] - 2 * light[y - 1][x] + light[y - 1][x + 1] - 2 * light[y][x - 1] +
                         4 * light[y][x] - 2 * light[y][x + 1] + light[y + 1][x - 1] - 2 * light[y + 1][x] +
                         light[y + 1][x + 1]);
  constexpr int n = (kBlock - 2) * (kBlock - 2);
  return {float(sum / (kBlock * kBlock)), float(std::sqrt(std::numbers::pi / 2) * second / (6 * n))};
}

} // namespace

double NoiseByLight::at(double logLight) const {
  if (relative.empty()) return 0;
  const double position = std::clamp(logLight - darkest - 0.5, 0.0, double(relative.size() - 1));
  const std::size_t i = std::min(std::size_t(position), relative.size() - 1),
                    next = std::min(i + 1, relative.size() - 1);
  return relative[i] + (position - double(i)) * (relative[next] - relative[i]);
}

NoiseByLight measureNoise(const PictureRows& radiance) {
  const int step = std::max(kBlock, radiance.width / kBlocksAcross);
  std::map<int, std::vector<float>> byStop;
  Image<float> room;
  for (int y = 0; y + kBlock <= radiance.height; y += step) {
    const auto rows = radiance.rows(y, y + kBlock, room);
    for (int x = 0; x + kBlock <= radiance.width; x += step) {
      const BlockNoise b = noiseOf(rows, x);
      if (b.light > 1e-9f) byStop[int(std::floor(std::log2(b.light)))].push_back(b.sigma / b.light);
    }
  }
  NoiseByLight out;
  std::map<int, float> known;
  for (auto& [stop, values] : byStop) {
    if (values.size() < kFewest) continue;
    const auto at = values.begin() + std::ptrdiff_t(kQuietest * double(values.size()));
    std::nth_element(values.begin(), at, values.end());
    known[stop] = float(kExpected) * *at;
  }
  if (known.empty()) return out;
  // Brighter light is never noisier, relatively: what rises is texture.
  float least = known.begin()->second;
  out.darkest = known.begin()->first;
  for (int stop = out.darkest; stop <= known.rbegin()->first; ++stop) {
    if (const auto found = known.find(stop); found != known.end()) least = std::min(least, found->second);
    out.relative.push_back(least);
  }
  return out;
}

} // namespace ml
