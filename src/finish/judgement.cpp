// SPDX-License-Identifier: GPL-3.0-or-later
#include "finish/judgement.h"

#include "base/parallel.h"
#include "finish/crispness.h"
#include "finish/lines.h"
#include "image/colour.h"

#include "tone/base_layer.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace ml {
namespace {

constexpr float kDark = 1e-6f;

Image<float> logOf(ImageView<const float> in) {
  Image<float> out(in.width, in.height, 1);
  forEachBand(in.height, [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y)
      for (int x = 0; x < in.width; ++x) out.row(y)[x] = std::log2(std::max(kDark, luminance(in.at(x, y))));
  });
  return out;
}

struct Worst {
  double figure;
  Spot2 place;
};

/// Beside strong edges the scene is flat and the picture is not: how much brighter the bright side becomes towards the
/// edge, and how much darker the dark side, than farther away. Both logarithmic; `near` and `far` in pixels.
struct HaloProbe {
  const Image<float>&scene, &picture;
  int near, far;

  /// Mean of three pixels across, so that texture counts less.
  static double mean(const Image<float>& in, double x, double y, double nx, double ny) {
    double sum = 0;
    for (const int k : {-1, 0, 1}) {
      const int i = std::clamp(int(std::lround(x - ny * k)), 0, in.width() - 1),
                j = std::clamp(int(std::lround(y + nx * k)), 0, in.height() - 1);
      sum += in.row(j)[i];
    }
    return sum / 3;
  }
  /// Stops of rim on one side of an edge; -1 where the scene itself is not flat there. `side` +1: the bright side.
  [[nodiscard]] double rim(double x, double y, double nx, double ny, int side) const {
    const double ax = x + side * nx * near, ay = y + side * ny * near, bx = x + side * nx * far,
                 by = y + side * ny * far;
    if (bx < 2 || by < 2 || bx >= scene.width() - 2 || by >= scene.height() - 2) return -1;
    double low = 1e9, high = -1e9;
    for (int k = near; k <= far; k += std::max(1, (far - near) / 6)) {
      const double v = mean(scene, x + side * nx * k, y + side * ny * k, nx, ny);
      low = std::min(low, v), high = std::max(high, v);
    }
    if (high - low > 0.35) return -1;
    const double sceneStep = mean(scene, ax, ay, nx, ny) - mean(scene, bx, by, nx, ny),
                 pictureStep = mean(picture, ax, ay, nx, ny) - mean(picture, bx, by, nx, ny);
    return std::max(0.0, side * (pictureStep - sceneStep));
  }
};

Finding halo(const Image<float>& scene, const Image<float>& picture) {
  Finding f{FindingKind::Halo, 0, 0.22, "stop", false, {}};
  const int longEdge = std::max(scene.width(), scene.height());
  const HaloProbe probe{scene, picture, std::max(3, longEdge / 250), std::max(12, longEdge / 40)};
  std::vector<Worst> rims;
  for (int y = 4; y < scene.height() - 4; y += 3)
    for (int x = 4; x < scene.width() - 4; x += 3) {
      const double gx = scene.row(y)[x + 2] - scene.row(y)[x - 2], gy = scene.row(y + 2)[x] - scene.row(y - 2)[x],
                   size = std::hypot(gx, gy);
      if (size < 1.5) continue;
      const double nx = gx / size, ny = gy / size;
      const double rim = std::max(probe.rim(x, y, nx, ny, 1), probe.rim(x, y, nx, ny, -1));
      if (rim < 0) continue;
      rims.push_back({rim, {(x + 0.5) / scene.width(), (y + 0.5) / scene.height()}});
    }
  if (rims.size() < 20) return f;
  std::sort(rims.begin(), rims.end(), [](const Worst& a, const Worst& b) { return a.figure > b.figure; });
  f.figure = rims[rims.size() / 10].figure; // a tenth of all strong edges has this and more
  for (const Worst& w : rims) {
    if (w.figure < f.threshold || f.places.size() >= 12) break;
    if (std::none_of(f.places.begin(), f.places.end(),
                     [&](const Spot2& p) { return std::hypot(p.x - w.place.x, p.y - w.place.y) < 0.06; }))
      f.places.push_back(w.place);
  }
  return f;
}

Finding colours(ImageView<const float> scene, const Image<float>& light) {
  Finding f{FindingKind::UnnaturalColour, 0, 1.5, "% of the picture", false, {}};
  long count = 0;
  std::vector<Worst> worst;
  const auto chroma = [](const float* p) {
    const float most = std::max({p[0], p[1], p[2]}), least = std::max(0.f, std::min({p[0], p[1], p[2]}));
    return most > 1e-6f ? (most - least) / most : 0.f;
  };
  for (int y = 0; y < light.height(); ++y)
    for (int x = 0; x < light.width(); ++x) {
      const float* p = light.at(x, y);
      if (luminance(p) < 0.01f) continue;
      const float now = chroma(p), was = chroma(scene.at(x, y));
      if (now < 0.6f || now < 1.25f * was + 0.02f) continue;
      ++count;
      if (count % 97 == 1)
        worst.push_back({double(now - was), {(x + 0.5) / light.width(), (y + 0.5) / light.height()}});
    }
  f.figure = 100.0 * double(count) / (double(light.width()) * light.height());
  std::sort(worst.begin(), worst.end(), [](const Worst& a, const Worst& b) { return a.figure > b.figure; });
  for (std::size_t i = 0; i < std::min<std::size_t>(6, worst.size()); ++i) f.places.push_back(worst[i].place);
  return f;
}

/// What the measured noise becomes on paper: its size in stops times what the curve and the texture gain make of it.
Finding shadowNoise(const ToneAnalysis& a, const Recipe& recipe) {
  Finding f{FindingKind::ShadowNoise, 0, 2.0, "L*", false, {}};
  const ToneCurve curve(placedTies(a, recipe.tone));
  double worst = 0, below = 0;
  for (std::size_t i = 0; i < a.histogram.share.size() && below < 0.3; ++i) {
    below += a.histogram.share[i];
    if (below < 0.02) continue;
    const double scene = a.histogram.start + double(i) * LightHistogram::kStep,
                 sigma = a.noise.at(scene) / std::log(2.0) * (1 - 0.7 * recipe.denoise);
    const double kept = 1 / std::sqrt(1 + std::pow(sigma * recipe.tone.quiet / 0.12, 2)),
                 paper = curve(scene) + recipe.tone.exposure;
    const double step = recipe.tone.detail * kept * sigma;
    worst = std::max(worst, (lightnessOf(std::min(0.0, paper + step)) - lightnessOf(std::min(0.0, paper - step))) / 2);
  }
  f.figure = worst;
  return f;
}

Finding clipped(FindingKind kind, double share, double threshold, const Image<float>& light) {
  Finding f{kind, 100 * share, threshold, "% of the picture", false, {}};
  constexpr int kAcross = 24;
  std::vector<Worst> cells;
  const int size = std::max(1, light.width() / kAcross);
  for (int y = 0; y + size <= light.height(); y += size)
    for (int x = 0; x + size <= light.width(); x += size) {
      int count = 0;
      for (int v = y; v < y + size; v += 2)
        for (int u = x; u < x + size; u += 2) {
          const float* p = light.at(u, v);
          count += kind == FindingKind::WhiteClipped ? std::max({p[0], p[1], p[2]}) > 0.995f
                                                     : std::max({p[0], p[1], p[2]}) < 0.0003f;
        }
      if (count * 8 > size * size / 4)
        cells.push_back({double(count), {(x + size / 2.0) / light.width(), (y + size / 2.0) / light.height()}});
    }
  std::sort(cells.begin(), cells.end(), [](const Worst& a, const Worst& b) { return a.figure > b.figure; });
  for (std::size_t i = 0; i < std::min<std::size_t>(6, cells.size()); ++i) f.places.push_back(cells[i].place);
  return f;
}

Finding ghostsLeft(const JudgedShape& shape, const Recipe& recipe, int width, int height) {
  Finding f{FindingKind::GhostsLeft, -1, 0.02, "% of the picture", false, {}};
  if (!shape.ghosts) return f;
  f.figure = 100 * shape.ghosts->share;
  const ShapeMap map = shapeOf(recipe, width, height, shape.lens);
  for (const Spot2& at : shape.ghosts->places) {
    const Spot2 seen = map.toFinished(at);
    if (seen.x >= 0 && seen.y >= 0 && seen.x <= 1 && seen.y <= 1) f.places.push_back(seen);
  }
  return f;
}

Finding verticals(const ToneAnalysis& a, double focal) {
  Finding f{FindingKind::TiltedVerticals, 0, 0.6, "degrees", false, {}};
  if (a.plumb) return f;
  const Verticals v = findVerticals(a.logLight, focal);
  if (v.found()) f.figure = v.lean;
  return f;
}

Finding flat(const Crispness& crisp) {
  return {FindingKind::Flat, crisp.elsewhere, 0.7, "of the contrast", false, crisp.flattest};
}

/// Of rooms: the brightest part of a landscape is its sky, which may be soft.
Finding milky(const Crispness& crisp, SceneKind kind) {
  return {FindingKind::MilkyWindow,
          kind == SceneKind::Interior ? crisp.window : -1,
          0.5,
          "of the contrast",
          false,
          crisp.milkiest};
}

/// Stops by which the picture is darker than the metered exposure, where that shows its middle tones.
Finding greyer(const Image<float>& scene, const Image<float>& picture, const ToneAnalysis& a) {
  Finding f{FindingKind::Greyer, 0, 0.5, "stop", false, {}};
  const Rendering rendering(a.rendering);
  double sum = 0;
  long count = 0;
  for (std::size_t i = 0; i < scene.size(); i += 5) {
    const double metered = rendering.paper(scene.data()[i]), lightness = lightnessOf(metered);
    if (lightness < 25 || lightness > 85) continue;
    sum += metered - double(picture.data()[i]), ++count;
  }
  if (count > 0) f.figure = std::max(0.0, sum / double(count));
  return f;
}

/// Dark places in one pure colour amid others that are not: no frame has them, only what was blended or pulled too far.
Finding blotches(const Image<float>& light) {
  Finding f{FindingKind::Blotches, 0, 0.2, "% of the picture", false, {}};
  const int reach = std::max(8, std::max(light.width(), light.height()) / 40), w = light.width(), h = light.height();
  std::array<Image<float>, 3> here, around; // a pixel of noise is no blotch
  for (std::size_t c = 0; c < 3; ++c) {
    Image<float> plane(w, h, 1);
    for (std::size_t i = 0; i < plane.size(); ++i) plane.data()[i] = light.data()[3 * i + c];
    here[c] = boxMean(plane, 2);
    around[c] = boxMean(plane, reach);
  }
  const auto purity = [](const float* p) {
    const float most = std::max({p[0], p[1], p[2]});
    return most > 0 ? (most - std::max(0.f, std::min({p[0], p[1], p[2]}))) / most : 0.f;
  };
  long count = 0;
  for (std::size_t i = 0; i < here[0].size(); ++i) {
    const float p[3] = {here[0].data()[i], here[1].data()[i], here[2].data()[i]},
                q[3] = {around[0].data()[i], around[1].data()[i], around[2].data()[i]};
    if (luminance(p) > 0.03f || std::max({p[0], p[1], p[2]}) < 0.0012f || purity(p) < 0.95f || purity(q) > 0.7f)
      continue;
    if (count++ % 97 == 0 && f.places.size() < 6)
      f.places.push_back({(double(i % std::size_t(w)) + 0.5) / w, (double(i / std::size_t(w)) + 0.5) / h});
  }
  f.figure = 100.0 * double(count) / (double(w) * h);
  return f;
}

} // namespace

bool wantsMore(FindingKind kind) {
  return kind == FindingKind::Flat || kind == FindingKind::MilkyWindow;
}

FinishReport reportOf(const Image<float>& light) {
  double white = 0, black = 0;
  for (std::size_t i = 0; i < light.size(); i += 3) {
    const float* p = light.data() + i;
    white += std::max({p[0], p[1], p[2]}) >= 0.9955f;
    black += std::max({p[0], p[1], p[2]}) < 0.00024f;
  }
  const double pixels = double(light.size()) / 3;
  return {white / pixels, black / pixels};
}

const Finding* Judgement::worst() const {
  const auto excess = [](const Finding& f) {
    return wantsMore(f.kind) ? f.threshold / std::max(1e-3, f.figure) : f.figure / f.threshold;
  };
  const Finding* found = nullptr;
  for (const Finding& f : findings)
    if (f.tooMuch && (!found || excess(f) > excess(*found))) found = &f;
  return found;
}

Judgement judgeFinish(ImageView<const float> prepared, const Image<float>& light, const ToneAnalysis& analysis,
                      const Recipe& recipe, const FinishReport& report, const JudgedShape& shape) {
  const double focal = shape.lens ? shape.lens->focal : kAssumedFocal;
  const Image<float> scene = logOf(prepared), picture = logOf(light.view());
  const Crispness crisp = crispnessOf(scene, picture, analysis);
  Judgement out;
  out.scene = {analysis.kind, analysis.byFrame};
  out.findings = {clipped(FindingKind::WhiteClipped, report.whiteShare, 2, light),
                  clipped(FindingKind::BlackClipped, report.blackShare, 1, light),
                  halo(scene, picture),
                  flat(crisp),
                  colours(prepared, light),
                  shadowNoise(analysis, recipe),
                  verticals(analysis, focal),
                  ghostsLeft(shape, recipe, prepared.width, prepared.height),
                  greyer(scene, picture, analysis),
                  milky(crisp, analysis.kind),
                  blotches(light)};
  for (Finding& f : out.findings) {
    f.tooMuch = f.figure >= 0 && (wantsMore(f.kind) ? f.figure < f.threshold : f.figure > f.threshold);
    if (!f.tooMuch) f.places.clear();
  }
  return out;
}

} // namespace ml
