// SPDX-License-Identifier: GPL-3.0-or-later
#include "base/parallel.h"
#include "image/colour.h"
#include "image/metrics.h"
#include "image/resample.h"
#include "tone/base_layer.h"
#include "tone/local_laplacian.h"
#include "tone/natural.h"

#include <algorithm>
#include <cmath>

namespace ml {
namespace {

constexpr int kAnalysisEdge = 768;
constexpr float kDark = 1e-9f;
constexpr double kMargin =
    0.75; ///< Stops beyond the darkest and brightest, so that a large even place is not at the end of the scale.
constexpr double kDuskStops = 0.25; ///< By which twilight and night stay darker than they were metered.
constexpr double kSeenNoise = 0.1;  ///< Stops of a pixel's noise that would be seen if it were made crisper.
constexpr double kLeastCrisp = 1, kMostCrisp = 3.5;
constexpr double kBlackTo = 5, kDarkTo = 18; ///< L*: what is darker is not made crisper; from here on it is.
constexpr int kVeilReach = 10;               ///< Cells: a place that is dark within this has no haze before it.

Image<float> logLight(ImageView<const float> radiance) {
  Image<float> out(radiance.width, radiance.height, 1);
  forEachBand(radiance.height, [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y)
      for (int x = 0; x < radiance.width; ++x) out.row(y)[x] = std::log2(std::max(kDark, luminance(radiance.at(x, y))));
  });
  return out;
}

/// Share of the picture per bin, smoothed over about a stop so that the curve has no kinks.
std::vector<float> smoothHistogram(const Image<float>& tones, double start, int bins) {
  std::vector<float> counts(std::size_t(bins), 0.f), out(std::size_t(bins), 0.f);
  for (std::size_t i = 0; i < tones.size(); ++i) {
    const int bin = int((tones.data()[i] - start) / LightHistogram::kStep);
    if (bin >= 0 && bin < bins) counts[std::size_t(bin)] += 1.f / float(tones.size());
  }
  for (int i = 0; i < bins; ++i) {
    float sum = 0, weight = 0;
    for (int k = -6; k <= 6; ++k) {
      const float w = std::exp(-0.5f * float(k * k) / 7.f);
      weight += w;
      if (i + k >= 0 && i + k < bins) sum += w * counts[std::size_t(i + k)];
    }
    out[std::size_t(i)] = sum / weight;
  }
  return out;
}

/// The dark channel (He, Sun, Tang, CVPR 2009) of what the picture's brightest light could add; made to follow edges,
/// so that nothing changes abruptly beside one. Haze is bright: an evenly lit dark wall has a dark channel too, and
/// counts little.
LocalMap veilOf(const Image<float>& small, const Image<float>& log, double darkest, double brightest) {
  Image<float> least(small.width(), small.height(), 1);
  for (std::size_t i = 0; i < least.size(); ++i) {
    const float* p = small.data() + 3 * i;
    least.data()[i] = std::max(float(darkest) - 2, std::log2(std::max(kDark, std::min({p[0], p[1], p[2]}))));
  }
  Image<float> veil = leastAround(least, kVeilReach);
  for (std::size_t i = 0; i < veil.size(); ++i)
    veil.data()[i] += 0.7f * std::min(0.f, veil.data()[i] - float(brightest));
  return followEdges(veil, log, 2 * kVeilReach, 0.4);
}

/// In stops; a cell averages the pixels under it.
Image<float> noiseOnGrid(const Image<float>& log, const NoiseByLight& noise, double scale) {
  Image<float> out(log.width(), log.height(), 1);
  for (std::size_t i = 0; i < out.size(); ++i) out.data()[i] = float(noise.at(log.data()[i]) * scale / std::log(2.0));
  return out;
}

double brightAbove(const Image<float>& log, double limit) {
  const int rows = std::max(1, log.height() / 25);
  return double(std::count_if(log.data(), log.row(rows), [&](float v) { return v > limit; })) /
         (double(rows) * log.width());
}

constexpr double kHeldFrom = 20, kHeldTo = 73;      ///< L* between which the metered exposure is left as it is.
constexpr double kDarkestOn = 5, kBrightestOn = 95; ///< L* on which the ends of the scene land.

constexpr double kBeyond = 0.5; ///< Of what contrast lifts beyond the brightest light, this share is taken back.

/// A move of placed light: all of what the exposure holds, less and less of what lies beyond.
double moved(double placed, double by, const HeldRange& held) {
  const double below = (placed - held.lowest) / std::max(0.1, held.from - held.lowest),
               above = (held.highest - placed) / std::max(0.1, held.highest - held.to);
  return placed + by * std::clamp(std::min(below, above), 0.0, 1.0);
}

/// By how much placed light is moved so that the middle tones of the metered exposure are as light as it shows them, on
/// the mean.
double asLight(const Image<float>& placed, const Image<float>& log, const Rendering& rendering, const HeldRange& held) {
  constexpr double kFrom = 25, kTo = 85, kStop = 18; // L*; and L* a stop there, roughly
  constexpr int kTimes = 4;
  constexpr std::size_t kEvery = 7;
  const double most = std::clamp(0.2 * std::min(held.highest - held.to, held.from - held.lowest), 0.0, 0.5);
  double by = 0;
  for (int k = 0; k < kTimes; ++k) {
    double off = 0, n = 0;
    for (std::size_t i = 0; i < placed.size(); i += kEvery) {
      const double metered = lightnessOf(rendering.paper(log.data()[i]));
      if (metered < kFrom || metered > kTo) continue;
      off += metered - lightnessOf(rendering.paper(moved(placed.data()[i], by, held))), ++n;
    }
    if (n > 0) by = std::clamp(by + off / n / kStop, -most, most);
  }
  return by;
}

/// Without a margin, one channel.
Image<float> within(const Image<float>& in, int margin) {
  Image<float> out = in.clone();
  if (margin > 0) out.crop({margin, margin, in.width() - 2 * margin, in.height() - 2 * margin});
  return out;
}

/// What the metered exposure does not hold is brought towards it: nothing in its middle, the more the farther beyond.
void placeLight(ToneAnalysis& a, const SceneFacts& facts, const Image<float>& seen, int margin) {
  const bool dusk = a.kind == SceneKind::Twilight || a.kind == SceneKind::NightLights;
  if (facts.asItIs && facts.metered.size() >= 3) {
    a.rendering = facts.metered;
    a.even = {{a.darkest - 8, a.darkest - 8}, {a.brightest + 8, a.brightest + 8}};
    for (double light = a.darkest; light < a.brightest; light += LightHistogram::kStep)
      a.even.insert(a.even.end() - 1, {light, light});
    a.placed = {Image<float>(a.logLight.width(), a.logLight.height(), 1),
                Image<float>(a.logLight.width(), a.logLight.height(), 1)};
    a.placed.slope.fill(1), a.placed.offset.fill(0);
    return;
  }
  a.rendering = facts.metered.size() >= 3 ? exposedForTheMiddle(facts.metered, seen, dusk) : meteredRendering(seen);
  a.byFrame = facts.metered.size() >= 3;
  const double dimmer = dusk ? kDuskStops : 0;
  for (Tie& tie : a.rendering) tie.scene += dimmer;
  const Rendering rendering(a.rendering);
  const HeldRange& held = a.held = {rendering.lightAt(paperOf(kDarkestOn)), rendering.lightAt(paperOf(kHeldFrom)),
                                    rendering.lightAt(paperOf(kHeldTo)), rendering.lightAt(paperOf(kBrightestOn))};
  a.even = evenTies(a.histogram, held, a.darkest, a.brightest);
  const ToneCurve even(a.even);
  // Lightness rises with the cube root of light: the contrast of a place is brought to what it has in the middle of an
  // exposure that is made for it.
  const double middle = rendering.lightAt(paperOf(kMeteredLightness)),
               wanted = rendering.slope(middle) * std::cbrt(std::exp2(rendering.paper(middle)));
  const auto crisp = [&](double placed) {
    return std::clamp(wanted / std::max(1e-3, rendering.slope(placed) * std::cbrt(std::exp2(rendering.paper(placed)))),
                      kLeastCrisp, kMostCrisp);
  };
  LocalTones tones;
  tones.curve = [&](double light) { return even(light); };
  tones.contrast = [&](double light) {
    constexpr double kStep = 0.25;
    const double at = even(light), least = (even(light + kStep) - even(light - kStep)) / (2 * kStep),
                 lit = std::clamp((lightnessOf(rendering.paper(at)) - kBlackTo) / (kDarkTo - kBlackTo), 0.0, 1.0),
                 noise = a.noise.at(light) / (std::log(2.0) * kSeenNoise);
    return least + (crisp(at) - least) * lit / (1 + noise * noise);
  };
  tones.from = a.darkest, tones.to = a.brightest;
  Image<float> placed = localLaplacian(a.logLight, tones);
  const double by = asLight(within(placed, margin), seen, rendering, held);
  for (std::size_t i = 0; i < placed.size(); ++i) {
    const double to = moved(placed.data()[i], by, held);
    placed.data()[i] = float(to - kBeyond * std::max(0.0, to - held.highest));
  }
  for (Tie& tie : a.even) tie.paper = moved(tie.paper, by, held);
  a.placed = followEdges(placed, a.logLight, 2, 0.05);
  a.colour = std::clamp(1 + 0.5 * (rendering.slope(middle) - 1), 1.0, 1.3);
}

} // namespace

ToneAnalysis analyseTone(const PictureRows& radiance, const SceneFacts& facts, int margin) {
  const Roi size = fitted(radiance.width, radiance.height, kAnalysisEdge);
  Image<float> small = shrinkTo(radiance, size.width, size.height);
  ToneAnalysis a;
  a.plumb = facts.plumb;
  a.logLight = logLight(small.view());
  const Image<float>& tones = a.logLight;
  const int marginOnGrid = int(std::lround(double(margin) * size.width / radiance.width));
  const Image<float> seen = within(tones, marginOnGrid);
  a.darkest = quantile(seen.data(), seen.size(), 0.002);
  a.brightest = std::max<double>(quantile(seen.data(), seen.size(), 0.998), a.darkest + 1);
  a.noise = measureNoise(radiance);
  const Image<float> noise = noiseOnGrid(tones, a.noise, double(size.width) / radiance.width);
  BaseOptions coarse, fine;
  coarse.noise = fine.noise = &noise;
  a.base = baseLayerOf(tones, coarse);
  fine.radius = 3;
  fine.contrast = 0.45;
  a.form = baseLayerOf(tones, fine);
  a.veil = veilOf(small, tones, a.darkest, a.brightest);
  a.histogram.start = a.darkest - kMargin;
  a.histogram.share =
      smoothHistogram(seen, a.histogram.start,
                      std::max(4, int(std::ceil((a.brightest + kMargin - a.histogram.start) / LightHistogram::kStep))));
  const double median = a.histogram.below(0.5);
  a.kind = kindOf(a.histogram, facts.ev100OfUnit + median, brightAbove(seen, median + 1));
  placeLight(a, facts, seen, marginOnGrid);
  double sum = 0;
  for (std::size_t i = 0; i < seen.size(); ++i) sum += seen.data()[i];
  a.cells = std::move(small);
  a.statistics = {std::exp2(sum / double(seen.size())), std::exp2(a.brightest)};
  return a;
}

} // namespace ml
