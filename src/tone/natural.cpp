// SPDX-License-Identifier: GPL-3.0-or-later
#include "tone/natural.h"

#include "base/parallel.h"
#include "base/phrase.h"
#include "base/vector_clones.h"
#include "image/colour.h"
#include "image/fast_math.h"
#include "image/metrics.h"
#include "tone/base_layer.h"

#include <algorithm>
#include <atomic>
#include <memory>

namespace ml {
namespace {

constexpr float kLeastLight = 1e-9f;
constexpr float kCurveStart = -40, kCurvePerStop = 16;
constexpr int kCurveSize = 80 * 16;
constexpr double kHardlyHeld = 0.3; ///< Texture is held back by 4 % there.
constexpr double kVisibleNoise =
    0.12; ///< Stops; texture of this size is held back by a third at quiet = 1 (chosen on lifted shadows).

[[gnu::always_inline]] inline float largest(float a, float b, float c) {
  const float ab = a > b ? a : b;
  return ab > c ? ab : c;
}

ML_VECTOR_CLONES void separate(const float* rgb, const float* gains, int n, float* __restrict r, float* __restrict g,
                               float* __restrict b, float* __restrict log) {
  for (int i = 0; i < n; ++i) {
    r[i] = rgb[3 * i] * gains[0];
    g[i] = rgb[3 * i + 1] * gains[1];
    b[i] = rgb[3 * i + 2] * gains[2];
  }
  for (int i = 0; i < n; ++i) {
    const float light = 0.2126f * r[i] + 0.7152f * g[i] + 0.0722f * b[i];
    log[i] = fastLog2(light > kLeastLight ? light : kLeastLight);
  }
}

ML_VECTOR_CLONES void warm(const float* warmth, int n, float* __restrict r, float* __restrict b) {
  for (int i = 0; i < n; ++i) {
    const float gain = heldExp2(0.5f * warmth[i]);
    r[i] *= gain;
    b[i] /= gain;
  }
}

ML_VECTOR_CLONES void tinge(const float* tint, int n, float* __restrict r, float* __restrict g, float* __restrict b) {
  for (int i = 0; i < n; ++i) {
    const float gain = heldExp2(0.25f * tint[i]);
    r[i] *= gain;
    g[i] /= gain * gain;
    b[i] *= gain;
  }
}

ML_VECTOR_CLONES void relog(const float* r, const float* g, const float* b, int n, float* __restrict log) {
  for (int i = 0; i < n; ++i) {
    const float light = 0.2126f * r[i] + 0.7152f * g[i] + 0.0722f * b[i];
    log[i] = fastLog2(light > kLeastLight ? light : kLeastLight);
  }
}

/// Light is reduced by the veil's share, all channels by the same amount, then raised so that what is brighter than all
/// haze stays.
ML_VECTOR_CLONES void subtractVeil(const float* veilLog, float strength, float airlight, int n, float* __restrict r,
                                   float* __restrict g, float* __restrict b) {
  for (int i = 0; i < n; ++i) {
    const float least = -largest(-r[i], -g[i], -b[i]);
    float veil = strength * heldExp2(veilLog[i]);
    veil = veil < 0.85f * least ? veil : 0.85f * least;
    veil = veil > 0 ? veil : 0;
    const float share = veil / airlight, gain = 1 / (1 - (share < 0.8f ? share : 0.8f));
    r[i] = (r[i] - veil) * gain;
    g[i] = (g[i] - veil) * gain;
    b[i] = (b[i] - veil) * gain;
  }
}

/// Where bases lie in the curve's table.
ML_VECTOR_CLONES void locate(const float* base, int n, int* __restrict cell, float* __restrict fraction) {
  for (int i = 0; i < n; ++i) {
    float position = (base[i] - kCurveStart) * kCurvePerStop;
    position = position > 0 ? position : 0;
    position = position < float(kCurveSize) - 1.01f ? position : float(kCurveSize) - 1.01f;
    cell[i] = int(position);
    fraction[i] = position - float(cell[i]);
  }
}

ML_VECTOR_CLONES void lookUp(const float* table, const int* cell, const float* fraction, int n, float* __restrict out) {
  for (int i = 0; i < n; ++i) out[i] = table[cell[i]] + fraction[i] * (table[cell[i] + 1] - table[cell[i]]);
}

/// Form and texture beyond what placing keeps of them.
ML_VECTOR_CLONES void addDetail(const float* log, const float* base, const float* form, const float* kept,
                                float formGain, float textureGain, int n, float* __restrict paper) {
  for (int i = 0; i < n; ++i)
    paper[i] += (formGain - 1) * (form[i] - base[i]) + (textureGain * kept[i] - 1) * (log[i] - form[i]);
}

/// The same for a curve that knows only the base.
ML_VECTOR_CLONES void addAllDetail(const float* log, const float* base, const float* form, const float* kept,
                                   float formGain, float textureGain, int n, float* __restrict paper) {
  for (int i = 0; i < n; ++i) paper[i] += formGain * (form[i] - base[i]) + textureGain * kept[i] * (log[i] - form[i]);
}

ML_VECTOR_CLONES void addContrast(const float* log, const float* base, const float* form, const float* kept,
                                  const float* contrast, float formGain, float textureGain, int n,
                                  float* __restrict paper) {
  for (int i = 0; i < n; ++i)
    paper[i] += contrast[i] * (formGain * (form[i] - base[i]) + textureGain * kept[i] * (log[i] - form[i]));
}

/// From light as it is (balance 0) to light as it was placed (1).
ML_VECTOR_CLONES void balanced(const float* log, float balance, int n, float* __restrict placed) {
  for (int i = 0; i < n; ++i) placed[i] = log[i] + balance * (placed[i] - log[i]);
}

ML_VECTOR_CLONES void raise(float by, int n, float* __restrict paper) {
  for (int i = 0; i < n; ++i) paper[i] += by;
}

/// How much texture is kept where noise is (1 + more) times what `kept` reckons with.
ML_VECTOR_CLONES void holdBack(const float* more, int n, float* __restrict kept) {
  for (int i = 0; i < n; ++i) {
    const float times = 1 + (more[i] > 0 ? more[i] : 0), k = kept[i], noise = (1 / (k * k) - 1) * times * times;
    kept[i] = 1 / __builtin_sqrtf(1 + noise);
  }
}

ML_VECTOR_CLONES void addTo(const float* more, int n, float* __restrict paper) {
  for (int i = 0; i < n; ++i) paper[i] += more[i];
}

ML_VECTOR_CLONES void toPlainLight(const float* paper, int n, float* __restrict light) {
  for (int i = 0; i < n; ++i) light[i] = heldExp2(paper[i] < 0 ? paper[i] : 0.f);
}

/// The shoulder.
ML_VECTOR_CLONES void toLight(const float* paper, int n, float* __restrict light) {
  constexpr float kFrom = float(kShoulderFrom), kRoom = 1 - kFrom;
  for (int i = 0; i < n; ++i) {
    const float y = heldExp2(paper[i] < 4 ? paper[i] : 4.f);
    const float rolled = 1 - kRoom * fastExp2((kFrom - y) * (1.44269504f / kRoom));
    light[i] = y <= kFrom ? y : rolled;
  }
}

/// Tones from a fifth of white up rise into the headroom, the more the lighter; nothing below changes.
ML_VECTOR_CLONES void toHighLight(const float* paper, float headroom, float peak, int n, float* __restrict light) {
  for (int i = 0; i < n; ++i) {
    float t = (paper[i] + 2.3f) * (1 / 2.3f);
    t = t < 0 ? 0 : t > 1 ? 1 : t;
    const float y = heldExp2((paper[i] < -0.15f ? paper[i] : -0.15f) + headroom * t * t * (3 - 2 * t));
    light[i] = y < peak ? y : peak;
  }
}

/// Saturation of pale colours; vivid ones are left alone.
ML_VECTOR_CLONES void addVivid(const float* r, const float* g, const float* b, float vivid, int n,
                               float* __restrict saturation) {
  for (int i = 0; i < n; ++i) {
    const float most = largest(r[i], g[i], b[i]), least = -largest(-r[i], -g[i], -b[i]);
    const float chroma = (most - (least > 0 ? least : 0)) / (most > 1e-9f ? most : 1e-9f);
    saturation[i] *= 1 + vivid * (1 - chroma) * (1 - chroma);
  }
}

constexpr float kColourRoom =
    0.92f; ///< Of the way to white that a colour may go: no channel is cut, and bright colours pale as film's do.

/// Colour ratios of a row at saturation gains; colours beyond the display's peak move towards their own luminance.
ML_VECTOR_CLONES void colourTones(const float* light, const float* log, const float* saturation, float peak, int n,
                                  float* __restrict r, float* __restrict g, float* __restrict b) {
  for (int i = 0; i < n; ++i) {
    const float y = light[i], s = saturation[i], grey = y * (1 - s), scale = s * y * fastExp2(-log[i]);
    float red = grey + scale * r[i], green = grey + scale * g[i], blue = grey + scale * b[i];
    red = red > 0 ? red : 0, green = green > 0 ? green : 0, blue = blue > 0 ? blue : 0;
    const float over = largest(red, green, blue) - y, room = kColourRoom * (peak - y);
    const float keep = over > room ? room / over : 1.f; // over > room >= 0
    r[i] = y + keep * (red - y);
    g[i] = y + keep * (green - y);
    b[i] = y + keep * (blue - y);
  }
}

ML_VECTOR_CLONES void saturations(const float* local, float all, int n, float* __restrict out) {
  for (int i = 0; i < n; ++i) out[i] = all * (1 + local[i]);
}

/// Base of Durand and Dorsey: bilateral, in log10 with their spreads (2 % of the picture, 0.4).
LocalMap durandBase(const Image<float>& logLight) {
  const double spread = 0.02 * std::max(logLight.width(), logLight.height());
  return followEdges(bilateral(logLight, spread, 0.4 / std::log10(2.0)), logLight, 1, 0.02);
}

struct Range {
  double low, high;
};
Range rangeOf(const LocalMap& base, const Image<float>& logLight) {
  Image<float> values(logLight.width(), logLight.height(), 1);
  for (std::size_t i = 0; i < values.size(); ++i)
    values.data()[i] = base.slope.data()[i] * logLight.data()[i] + base.offset.data()[i];
  return {quantile(values.data(), values.size(), 0.001), quantile(values.data(), values.size(), 0.999)};
}

/// A paper tone before the shoulder.
double straightened(double paper) {
  return std::log2(beforeShoulder(std::exp2(std::min(0.0, paper))));
}

/// Placed light beyond what the exposure holds, brought nearer to it: 1 as it is, 1.5 half as far. Its order stays.
double closer(double placed, const HeldRange& held, double balance) {
  if (held.from >= held.to) return placed;
  const double share = 2 - balance, end = std::clamp(placed, held.from, held.to);
  return end + share * (placed - end);
}

std::vector<float> curveTable(const ToneAnalysis& analysis, const ToneSettings& s, const LocalMap& durand) {
  std::vector<float> table(3 * kCurveSize);
  const bool natural = s.op == ToneOperator::Natural;
  const Rendering rendering(analysis.rendering);
  ToneSettings unpulled = s;
  unpulled.pulls.clear();
  const ToneCurve with(placedTies(analysis, s)), without(placedTies(analysis, unpulled)), even(analysis.even);
  const LightStatistics& light = analysis.statistics;
  const Range base = durand.empty() ? Range{0, 1} : rangeOf(durand, analysis.logLight);
  const double compression = durandCompression(base.low * std::log10(2.0), base.high * std::log10(2.0));
  for (int i = 0; i < kCurveSize; ++i) {
    const double scene = double(kCurveStart) + i / double(kCurvePerStop), linear = std::exp2(scene);
    double paper = 0;
    switch (s.op) {
    case ToneOperator::Natural: paper = std::min(8.0, rendering.straight(scene)); break;
    case ToneOperator::Reinhard: paper = std::log2(std::max(1e-6, toneReinhard(linear, light))); break;
    case ToneOperator::Drago: paper = std::log2(std::max(1e-6, toneDrago(linear, light))); break;
    case ToneOperator::Durand: paper = compression * (scene - base.high); break;
    }
    const double noise = natural ? analysis.noise.at(scene) / std::log(2.0) * s.quiet / kVisibleNoise : 0;
    table[std::size_t(i)] = float(paper);
    // Texture comes out of placing with the rendering's contrast: that much is held back of it.
    const double held = 1 - 1 / std::sqrt(1 + noise * noise),
                 contrast = natural ? std::max(1.0, rendering.slope(even(scene))) : 1;
    table[std::size_t(kCurveSize + i)] = float(std::max(0.05, 1 - contrast * held));
    table[std::size_t(2 * kCurveSize + i)] =
        natural && !s.pulls.empty() ? float(straightened(with(scene)) - straightened(without(scene))) : 0;
    if (natural && s.balance > 1)
      table[std::size_t(2 * kCurveSize + i)] +=
          float(rendering.straight(closer(even(scene), analysis.held, s.balance)) - rendering.straight(even(scene)));
  }
  return table;
}

} // namespace

std::vector<Tie> placedTies(const ToneAnalysis& analysis, const ToneSettings& settings) {
  const Rendering rendering(analysis.rendering);
  std::vector<Tie> ties;
  for (const Tie& tie : analysis.even) { // balance 0 is one exposure for all
    const double placed = settings.balance > 1 ? closer(tie.paper, analysis.held, settings.balance)
                                               : tie.scene + settings.balance * (tie.paper - tie.scene);
    const double paper = rendering.paper(placed);
    ties.push_back({tie.scene, ties.empty() ? paper : std::max(paper, ties.back().paper + 1e-3)});
  }
  return pulled(std::move(ties), settings.pulls);
}

LightPlacer::LightPlacer(const ToneAnalysis& analysis, const ToneSettings& settings, int width, int height,
                         double headroom)
    : analysis_(analysis), settings_(settings), columns_(analysis.logLight.width(), width), height_(height),
      headroom_(float(headroom)),
      durand_(settings.op == ToneOperator::Durand ? durandBase(analysis.logLight) : LocalMap{}),
      curve_(curveTable(analysis, settings, durand_)) {
  // Form and texture are told apart only where that changes something.
  double held = 0;
  for (double light = analysis.histogram.below(0.02); light < analysis.brightest; ++light)
    held = std::max(held, analysis.noise.at(light) / std::log(2.0) * settings.quiet / kVisibleNoise);
  pulled_ = settings.op == ToneOperator::Natural && (!settings.pulls.empty() || settings.balance > 1);
  split_ = settings.op == ToneOperator::Natural && (settings.form != 1 || settings.detail != 1 || held > kHardlyHeld ||
                                                    (!analysis.noisier.empty() && settings.quiet > 0));
  const double w = settings.warmth / 2, t = settings.tint / 2;
  gains_[0] = float(std::exp2(w + t / 2));
  gains_[1] = float(std::exp2(-t));
  gains_[2] = float(std::exp2(-w + t / 2));
}

void LightPlacer::readOrZero(const LocalMap& map, int y, int x0, int n, Scratch& s, float* out) const {
  if (!map.readRow(columns_, y, height_, x0, n, s.log, out, s.grid)) std::fill_n(out, n, 0.f);
}

void LightPlacer::readBase(int y, int x0, int n, Scratch& s) const {
  if (settings_.op == ToneOperator::Reinhard || settings_.op == ToneOperator::Drago)
    std::copy_n(s.log, n, s.base); // one curve for all
  else
    readOrZero(durand_.empty() ? analysis_.base : durand_, y, x0, n, s, s.base);
  if (split_)
    readOrZero(analysis_.form, y, x0, n, s, s.form);
  else
    std::copy_n(s.base, n, s.form);
}

void LightPlacer::takeVeil(int y, int x0, int n, Scratch& s, float* r, float* g, float* b) const {
  readOrZero(analysis_.veil, y, x0, n, s, s.form);
  subtractVeil(s.form, float(settings_.veil), float(std::exp2(analysis_.brightest)), n, r, g, b);
  relog(r, g, b, n, s.log);
}

void LightPlacer::read(const float* rgb, int n, Scratch& s, float* r, float* g, float* b) const {
  separate(rgb, gains_, n, r, g, b, s.log);
}

void LightPlacer::place(int y, int x0, int n, const RowMoves& moves, Scratch& s, float* r, float* g, float* b) const {
  if (settings_.veil > 0) takeVeil(y, x0, n, s, r, g, b);
  if (moves.warmth || moves.tint) {
    if (moves.warmth) warm(moves.warmth, n, r, b);
    if (moves.tint) tinge(moves.tint, n, r, g, b);
    relog(r, g, b, n, s.log);
  }
  const float formGain = float(settings_.form), textureGain = float(settings_.detail);
  const bool natural = settings_.op == ToneOperator::Natural;
  if (!natural || split_ || pulled_ || moves.contrast) readBase(y, x0, n, s);
  if (natural) {
    readOrZero(analysis_.placed, y, x0, n, s, s.paper);
    if (settings_.balance < 1) balanced(s.log, float(settings_.balance), n, s.paper);
    locate(s.paper, n, s.cell, s.a);
  } else {
    locate(s.base, n, s.cell, s.a);
  }
  lookUp(curve_.data(), s.cell, s.a, n, s.paper);
  if (natural && (split_ || pulled_)) locate(s.base, n, s.cell, s.a);
  if (split_)
    lookUp(curve_.data() + kCurveSize, s.cell, s.a, n, s.b);
  else
    std::fill_n(s.b, n, 1.f);
  if (pulled_) {
    lookUp(curve_.data() + 2 * kCurveSize, s.cell, s.a, n, s.light);
    addTo(s.light, n, s.paper);
  }
  if (split_ && analysis_.noisier.readRow(columns_, y, height_, x0, n, s.log, s.a, s.grid)) holdBack(s.a, n, s.b);
  if (!natural)
    addAllDetail(s.log, s.base, s.form, s.b, formGain, textureGain, n, s.paper);
  else if (split_)
    addDetail(s.log, s.base, s.form, s.b, formGain, textureGain, n, s.paper);
  if (settings_.exposure != 0) raise(float(settings_.exposure), n, s.paper);
  if (moves.contrast) addContrast(s.log, s.base, s.form, s.b, moves.contrast, formGain, textureGain, n, s.paper);
  if (moves.exposure) addTo(moves.exposure, n, s.paper);
  const float peak = fastExp2(headroom_);
  if (headroom_ > 0)
    toHighLight(s.paper, headroom_, peak, n, s.light);
  else
    settings_.op == ToneOperator::Natural ? toLight(s.paper, n, s.light) : toPlainLight(s.paper, n, s.light);
  if (moves.saturation)
    saturations(moves.saturation, float(settings_.saturation * (natural ? analysis_.colour : 1)), n, s.a);
  else
    std::fill_n(s.a, n, float(settings_.saturation * (natural ? analysis_.colour : 1)));
  if (settings_.vivid != 0) addVivid(r, g, b, float(settings_.vivid), n, s.a);
  colourTones(s.light, s.log, s.a, peak, n, r, g, b);
}

Result<Image<float>> toneNatural(ImageView<const float> radiance, const ToneAnalysis& analysis,
                                 const ToneSettings& settings, const Progress& progress) {
  const LightPlacer placer(analysis, settings, radiance.width, radiance.height);
  Image<float> out(radiance.width, radiance.height, 3);
  std::atomic<int> rowsDone{0};
  const bool finished = forEachBand(radiance.height, progress.stop, [&](const Band& band) {
    const auto scratch = std::make_unique<LightPlacer::Scratch>();
    float r[kPlacedAtOnce], g[kPlacedAtOnce], b[kPlacedAtOnce];
    for (int y = band.begin; y < band.end; ++y)
      for (int x = 0; x < radiance.width; x += kPlacedAtOnce) {
        const int n = std::min(kPlacedAtOnce, radiance.width - x);
        placer.read(radiance.at(x, y), n, *scratch, r, g, b);
        placer.place(y, x, n, {}, *scratch, r, g, b);
        float* to = out.at(x, y);
        for (int i = 0; i < n; ++i) to[3 * i] = r[i], to[3 * i + 1] = g[i], to[3 * i + 2] = b[i];
      }
    progress.at(phrase("Place the light"), double(rowsDone += band.end - band.begin) / radiance.height);
  });
  if (!finished) return stopped();
  return out;
}

} // namespace ml
