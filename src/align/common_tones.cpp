// SPDX-License-Identifier: GPL-3.0-or-later
#include "align/common_tones.h"

#include "base/parallel.h"
#include "base/vector_clones.h"

#include <algorithm>
#include <cmath>

namespace ml {
namespace {

constexpr std::size_t kEnough = 40; ///< Places of a tone; fewer say nothing.
constexpr float kFlat = 0.06f;      ///< Relative difference of a place's neighbours: an edge that is not in place yet
                                    ///< would teach tones that make up for it.
constexpr float kPlausible = 1.6f;  ///< Times the root of light by which an unknown curve may lift a tone to clipping.

ML_VECTOR_CLONES void clampRow(const float* in, float low, float high, std::ptrdiff_t n, float* __restrict out) {
  for (std::ptrdiff_t i = 0; i < n; ++i) out[i] = std::min(std::max(in[i], low), high);
}

/// out = clamp(gain-and-curve of in): the curve is piecewise linear over kBins bins of 0..1.
ML_VECTOR_CLONES void mapRow(const float* in, const float* curve, float bins, float low, float high, std::ptrdiff_t n,
                             float* __restrict out) {
  for (std::ptrdiff_t i = 0; i < n; ++i) {
    const float position = std::min(std::max(in[i] * bins - 0.5f, 0.f), bins - 1.001f);
    const int k = int(position);
    const float value = in[i] * (curve[k] + (position - float(k)) * (curve[k + 1] - curve[k]));
    out[i] = std::min(std::max(value, low), high);
  }
}

} // namespace

ToneMatch::ToneMatch(double exposureRatio) : gain_(float(std::sqrt(exposureRatio))) {
  correction_.fill(1);
}

void ToneMatch::learn(const Image<float>& fixed, const Image<float>& moving, const Transform& transform,
                      const LightPyramid& pf, const LightPyramid& pm) {
  std::array<std::vector<float>, kBins> flat, any;
  const bool linear = pf.linear && pm.linear;
  const int stride = std::max(1, int(std::sqrt(double(fixed.size()) / 60000)));
  for (int y = 1; y < fixed.height() - 1; y += stride)
    for (int x = 1; x < fixed.width() - 1; x += stride) {
      double u, v;
      float m;
      transform.map(x, y, u, v);
      const float f = *fixed.at(x, y);
      if (!sampleLinear(moving, u, v, m) || m <= pm.floor || m >= pm.clip || f <= pf.floor) continue;
      // Were all places left out that clip in the fixed picture, what stood before them there would be all that is left
      // of the tones that clip.
      if (f >= 0.97f * pf.clip && (linear || kPlausible * gain_ * m < pf.clip)) continue;
      const std::size_t bin = std::size_t(std::clamp(int(m * kBins), 0, kBins - 1));
      const float ratio = f / (m * gain_), across = std::abs(*fixed.at(x + 1, y) - *fixed.at(x - 1, y)),
                  down = std::abs(*fixed.at(x, y + 1) - *fixed.at(x, y - 1));
      any[bin].push_back(ratio);
      if (std::max(across, down) < kFlat * f) flat[bin].push_back(ratio);
    }
  for (std::size_t i = 0; i < kBins; ++i)
    if (flat[i].size() < kEnough) flat[i] = std::move(any[i]);
  if (linear) {
    std::vector<float> all;
    for (const auto& ratios : flat) all.insert(all.end(), ratios.begin(), ratios.end());
    if (all.size() < kEnough) return;
    std::nth_element(all.begin(), all.begin() + std::ptrdiff_t(all.size() / 2), all.end());
    correction_.fill(all[all.size() / 2]);
    return;
  }
  fill(flat);
}

void ToneMatch::map(const Image<float>& in, float low, float high, Image<float>& out) const {
  float curve[kBins];
  for (int i = 0; i < kBins; ++i) curve[i] = gain_ * correction_[std::size_t(i)];
  forEachBand(in.height(), [&](const Band& band) {
    mapRow(in.row(band.begin), curve, kBins, low, high, std::ptrdiff_t(band.end - band.begin) * in.width(),
           out.row(band.begin));
  });
}

float ToneMatch::operator()(float tone) const {
  const float position = std::clamp(tone * kBins - 0.5f, 0.f, kBins - 1.001f);
  const int i = int(position);
  return tone * gain_ *
         (correction_[std::size_t(i)] +
          (position - float(i)) * (correction_[std::size_t(i) + 1] - correction_[std::size_t(i)]));
}

void ToneMatch::fill(std::array<std::vector<float>, kBins>& ratios) {
  float last = 0;
  std::array<float, kBins> medians{};
  for (int i = 0; i < kBins; ++i) {
    auto& r = ratios[std::size_t(i)];
    if (r.size() >= kEnough) {
      std::nth_element(r.begin(), r.begin() + std::ptrdiff_t(r.size() / 2), r.end());
      last = r[r.size() / 2];
    }
    medians[std::size_t(i)] = last; // a bin with too few follows the one below
  }
  for (int i = kBins - 1; i >= 0; --i) // and the darkest follow the first that has enough
    if (medians[std::size_t(i)] == 0)
      medians[std::size_t(i)] = i + 1 < kBins && medians[std::size_t(i) + 1] > 0 ? medians[std::size_t(i) + 1] : 1;
  for (int i = 0; i < kBins; ++i)
    correction_[std::size_t(i)] = (medians[std::size_t(std::max(0, i - 1))] + 2 * medians[std::size_t(i)] +
                                   medians[std::size_t(std::min(kBins - 1, i + 1))]) /
                                  4;
}

CommonTones commonTones(const Image<float>& fixed, const Image<float>& moving, const LightPyramid& pf,
                        const LightPyramid& pm, const ToneMatch& match) {
  CommonTones out{Image<float>(fixed.width(), fixed.height(), 1), Image<float>(moving.width(), moving.height(), 1),
                  std::max(pf.floor, match(pm.floor)), std::min(pf.clip, match(pm.clip)), pf.linear && pm.linear};
  if (out.high <= out.low) out.low = out.high = (out.low + out.high) / 2;
  forEachBand(fixed.height(), [&](const Band& band) {
    clampRow(fixed.row(band.begin), out.low, out.high, std::ptrdiff_t(band.end - band.begin) * fixed.width(),
             out.fixed.row(band.begin));
  });
  match.map(moving, out.low, out.high, out.moving);
  // Smoothing comes after clamping: what clipped in one frame then has the same edge in both.
  out.fixed = smoothed(out.fixed);
  out.moving = smoothed(out.moving);
  return out;
}

} // namespace ml
