// SPDX-License-Identifier: GPL-3.0-or-later
#include "merge/pixel_veto.h"

#include <algorithm>
#include <cmath>

namespace ml {
namespace {

constexpr float kSigmas = 4, kRelative = 0.15f; ///< Noise, and what curves and exposures leave open.
constexpr float kClipped = 0.97f, kAtLeast = 0.8f;
constexpr float kLeastUse = 0.05f; ///< Of the reference where it is near clipping: it decides when nobody else may.

struct Sample {
  float radiance[3], sigma[3];
};

Sample sampleOf(const VetoFrame& f, int x, int n) {
  Sample s{};
  for (std::size_t c = 0; c < 3; ++c) {
    const float light = f.linear[c][x];
    float variance = f.variance.at(light);
    if (f.misplaced > 0) {
      const float slope = (f.linear[c][std::min(n - 1, x + 1)] - f.linear[c][std::max(0, x - 1)]) / 2;
      variance += f.misplaced * slope * slope;
    }
    s.radiance[c] = light / f.exposure;
    s.sigma[c] = std::sqrt(variance) / f.exposure;
  }
  return s;
}

bool agree(float a, float sigmaA, float b, float sigmaB) {
  return std::abs(a - b) <= kSigmas * std::hypot(sigmaA, sigmaB) + kRelative * std::max(a, b);
}

bool agree(const Sample& a, const Sample& b) {
  for (int c = 0; c < 3; ++c)
    if (!agree(a.radiance[c], a.sigma[c], b.radiance[c], b.sigma[c])) return false;
  return true;
}

void silence(VetoFrame& f, int x) {
  f.use[x] = 0;
  f.vetoed[x] = 1;
  for (float* surplus : f.surplus)
    if (surplus) surplus[x] = 0;
}

/// Does what `s` shows contradict the reference?
bool contradicts(const Sample& s, const Sample& reference, const bool clipped[3], const std::array<float, 3>& clip) {
  for (std::size_t c = 0; c < 3; ++c) {
    if (clipped[c]) {
      if (s.radiance[c] < kAtLeast * clip[c] - kSigmas * s.sigma[c]) return true;
    } else if (!agree(s.radiance[c], s.sigma[c], reference.radiance[c], reference.sigma[c])) {
      return true;
    }
  }
  return false;
}

void decide(std::vector<VetoFrame>& frames, std::size_t reference, int x, int n) {
  VetoFrame& r = frames[reference];
  bool clipped[3] = {true, true, true}, any = !r.placed;
  Sample own{};
  if (r.placed) {
    own = sampleOf(r, x, n);
    for (std::size_t c = 0; c < 3; ++c) any |= clipped[c] = r.linear[c][x] >= kClipped * r.clip[c];
    if (!any) r.use[x] = std::max(r.use[x], kLeastUse);
  }
  for (std::size_t i = 0; i < frames.size(); ++i)
    if (i != reference && frames[i].placed && contradicts(sampleOf(frames[i], x, n), own, clipped, r.clip))
      silence(frames[i], x);
  if (!any) return;
  // The reference says only "at least": those that remain may show different things. The cells' choice, of that the
  // lightest, has the word.
  std::size_t owner = reference;
  const auto shareOf = [&](std::size_t i) { return frames[i].share ? frames[i].share[x] : 1.f; };
  for (std::size_t i = 0; i < frames.size(); ++i) {
    if (i == reference || frames[i].vetoed[x] || !(frames[i].use[x] > 0)) continue;
    if (owner == reference || (shareOf(i) >= 0.5f) > (shareOf(owner) >= 0.5f) ||
        ((shareOf(i) >= 0.5f) == (shareOf(owner) >= 0.5f) && frames[i].exposure > frames[owner].exposure))
      owner = i;
  }
  if (owner == reference) return;
  const Sample chosen = sampleOf(frames[owner], x, n);
  for (std::size_t i = 0; i < frames.size(); ++i)
    if (i != reference && i != owner && frames[i].placed && !frames[i].vetoed[x] &&
        !agree(sampleOf(frames[i], x, n), chosen))
      silence(frames[i], x);
}

} // namespace

void vetoRow(std::vector<VetoFrame>& frames, std::size_t reference, const std::uint8_t* moved, int n) {
  for (VetoFrame& f : frames) std::fill_n(f.vetoed, n, std::uint8_t{0});
  for (int x = 0; x < n; ++x) {
    if (moved[x]) {
      decide(frames, reference, x, n);
      continue;
    }
    for (VetoFrame& f : frames) {
      if (!f.share) continue;
      f.use[x] *= f.share[x];
      f.vetoed[x] = f.share[x] < 0.5f;
      for (float* surplus : f.surplus)
        if (surplus) surplus[x] *= f.share[x];
    }
  }
}

} // namespace ml
