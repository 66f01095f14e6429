// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "capture/frame.h"

#include <algorithm>
#include <cmath>
#include <random>
#include <vector>

/// Frames made in memory from light, by photons and reading noise alone; no simulated camera.
namespace ml::test {

/// Grain of the finest sort with some edges, the same from run to run: what a blur takes away first.
inline Image<float> grain(int w, int h) {
  std::mt19937 random(7);
  std::normal_distribution<float> normal(0, 0.12f);
  Image<float> out(w, h, 1);
  for (int y = 0; y < h; ++y)
    for (int x = 0; x < w; ++x) *out.at(x, y) = ((x / 40 + y / 56) % 2 ? 0.5f : 0.2f) * std::exp(normal(random));
  return out;
}

/// A linear frame of 16 bits with noise of photons and of reading, each frame its own.
inline Frame shot(const Image<float>& light, double exposure, unsigned seed) {
  constexpr double kFullWell = 4000, kRead = 6;
  std::mt19937 random(seed);
  std::normal_distribution<double> normal;
  Frame f;
  std::vector<float> table;
  for (int i = 0; i < 65536; ++i) table.push_back(float(i) / 65535);
  f.table = CodeTable(std::move(table));
  f.settings = {{exposure}, {8}, {100}};
  Image<std::uint16_t> codes(light.width(), light.height(), 3);
  for (int y = 0; y < light.height(); ++y)
    for (int x = 0; x < light.width(); ++x)
      for (int c = 0; c < 3; ++c) {
        const double electrons = *light.at(x, y) * exposure * kFullWell,
                     read = electrons + std::sqrt(electrons + kRead * kRead) * normal(random);
        codes.at(x, y)[c] = std::uint16_t(std::clamp(65535 * read / kFullWell, 0.0, 65535.0));
      }
  f.codes = std::move(codes);
  return f;
}

} // namespace ml::test
