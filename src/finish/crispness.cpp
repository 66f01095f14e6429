// SPDX-License-Identifier: GPL-3.0-or-later
#include "finish/crispness.h"

#include "base/parallel.h"
#include "finish/areas.h"
#include "tone/base_layer.h"

#include <algorithm>
#include <cmath>

namespace ml {
namespace {

constexpr int kBlocksAcross = 40;
constexpr double kLeastTexture = 0.02, kEdge = 0.7; ///< Stops: less spread is no texture; farther from the mean around
                                                    ///< is an edge, and the block is passed over.
constexpr double kDarkest = 25,
                 kLightest =
                     85; ///< L* of the middle tones: the eye forgives what is soft in the dark and beside white.
constexpr std::size_t kFewBlocks = 6;

/// What is larger than two pixels and smaller than a block.
Image<float> texture(const Image<float>& in, int block) {
  Image<float> fine = boxMean(in, 1);
  const Image<float> coarse = boxMean(in, std::max(4, block / 2));
  for (std::size_t i = 0; i < fine.size(); ++i) fine.data()[i] -= coarse.data()[i];
  return fine;
}

struct Block {
  double ratio;
  Spot2 at;
};

double medianOf(std::vector<Block>& blocks) {
  if (blocks.size() < kFewBlocks) return -1;
  std::sort(blocks.begin(), blocks.end(), [](const Block& a, const Block& b) { return a.ratio < b.ratio; });
  return blocks[blocks.size() / 2].ratio;
}

std::vector<Spot2> worstOf(const std::vector<Block>& sorted) {
  std::vector<Spot2> out;
  for (std::size_t i = 0; i < std::min<std::size_t>(6, sorted.size()); ++i) out.push_back(sorted[i].at);
  return out;
}

} // namespace

Crispness crispnessOf(const Image<float>& scene, const Image<float>& picture, const ToneAnalysis& a) {
  const int w = scene.width(), h = scene.height(), size = std::max(8, std::max(w, h) / kBlocksAcross);
  const Rendering rendering(a.rendering);
  const double middle = rendering.lightAt(paperOf(kMeteredLightness));
  const double best = rendering.slope(middle) *
                      (lightnessOf(rendering.paper(middle) + 0.05) - lightnessOf(rendering.paper(middle) - 0.05)) /
                      0.1; // L* a stop
  Image<float> lightness(w, h, 1);
  forEachBand(h, [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y)
      for (int x = 0; x < w; ++x) lightness.row(y)[x] = float(lightnessOf(picture.row(y)[x]));
  });
  const Image<float> sceneTexture = texture(scene, size), ours = texture(lightness, size), windows = windowCells(a);
  std::vector<Block> inside, outside;
  for (int y = 0; y + size <= h; y += size)
    for (int x = 0; x + size <= w; x += size) {
      double light = 0, of = 0, is = 0, shown = 0;
      float most = 0;
      int open = 0;
      for (int v = y; v < y + size; ++v)
        for (int u = x; u < x + size; ++u) {
          light += scene.row(v)[u], shown += lightness.row(v)[u];
          of += sceneTexture.row(v)[u] * sceneTexture.row(v)[u], is += ours.row(v)[u] * ours.row(v)[u];
          most = std::max(most, std::abs(sceneTexture.row(v)[u]));
          open += windows.row(v * windows.height() / h)[u * windows.width() / w] > 0.5f;
        }
      const double n = double(size) * size, spread = std::sqrt(of / n), noise = a.noise.at(light / n) / std::log(2.0);
      if (spread < kLeastTexture || most > kEdge || spread < 2 * noise || shown / n < kDarkest) continue;
      const Block block{std::sqrt(is / n) / (best * spread), {(x + size / 2.0) / w, (y + size / 2.0) / h}};
      if (open > 0.9 * n)
        inside.push_back(block);
      else if (open == 0 && shown / n < kLightest)
        outside.push_back(block);
    }
  Crispness out;
  out.elsewhere = medianOf(outside), out.window = medianOf(inside);
  out.flattest = worstOf(outside), out.milkiest = worstOf(inside);
  return out;
}

} // namespace ml
