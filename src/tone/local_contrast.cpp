// SPDX-License-Identifier: GPL-3.0-or-later
#include "tone/local_contrast.h"

#include "base/parallel.h"
#include "tone/base_layer.h"
#include "tone/local_map.h"

#include <algorithm>
#include <cmath>

namespace ml {
namespace {

constexpr int kFine = 1, kCoarse = 8, kPlace = 10; ///< Radii, pixels: what is finer and coarser is not meant; a place.
constexpr int kTimes = 2;                          ///< The curve is not straight: what is left after once is less.
constexpr double kLeastGain = 0.8, kMostGain = 1.8;
constexpr float kEdge = 0.5f;        ///< Stops: what differs by more from its surroundings counts less and less.
constexpr double kNoEdge = 0.45;     ///< Standard deviation in stops of what is no edge.
constexpr double kBesideEdges = 0.8; ///< Stops; where a place varies by more there is an edge, which would glow.

/// How much between fine and coarse there is around each pixel: mean of squares.
Image<float> textureOf(const Image<float>& in) {
  Image<float> out = boxMean(in, kFine);
  const Image<float> coarse = boxMean(in, kCoarse);
  for (std::size_t i = 0; i < out.size(); ++i) {
    const float d = out.data()[i] - coarse.data()[i];
    out.data()[i] = d * d;
  }
  return boxMean(out, kPlace);
}

} // namespace

void bringContrast(Image<float>& placed, const Image<float>& log, const Rendering& rendering,
                   const NoiseByLight& noise) {
  constexpr double kStep = 0.05;
  const double middle = rendering.lightAt(paperOf(kMeteredLightness)), paper = rendering.paper(middle),
               wanted = rendering.slope(middle) * (lightnessOf(paper + kStep) - lightnessOf(paper - kStep)) /
                        (2 * kStep); // L* a stop
  const Image<float> scene = textureOf(log);
  Image<float> lightness(placed.width(), placed.height(), 1), gain(placed.width(), placed.height(), 1);
  const auto forAll = [&placed](const auto& work) {
    forEachBand(placed.height(), [&](const Band& band) {
      for (std::size_t i = std::size_t(band.begin) * placed.width(); i < std::size_t(band.end) * placed.width(); ++i)
        work(i);
    });
  };
  for (int k = 0; k < kTimes; ++k) {
    forAll([&](std::size_t i) { lightness.data()[i] = float(lightnessOf(rendering.paper(placed.data()[i]))); });
    const Image<float> shown = textureOf(lightness);
    const LocalMap edges = followEdges(placed, log, kCoarse, kNoEdge);
    Image<float> coarse(placed.width(), placed.height(), 1);
    forAll([&](std::size_t i) { coarse.data()[i] = edges.slope.data()[i] * log.data()[i] + edges.offset.data()[i]; });
    forAll([&](std::size_t i) {
      const double texture = std::sqrt(std::max(1e-9f, scene.data()[i])),
                   ratio = std::sqrt(shown.data()[i]) / (wanted * texture),
                   noisy = noise.at(log.data()[i]) / std::log(2.0) / texture;
      const double full = std::clamp(1 / std::max(0.1, ratio), kLeastGain, kMostGain);
      gain.data()[i] = float((full - 1) / (1 + noisy * noisy) / (1 + std::pow(texture / kBesideEdges, 4)));
    });
    const Image<float> even = boxMean(gain, kPlace);
    forAll([&](std::size_t i) {
      const float d = placed.data()[i] - coarse.data()[i], edge = d / kEdge;
      placed.data()[i] += even.data()[i] * d / (1 + edge * edge);
    });
  }
}

} // namespace ml
