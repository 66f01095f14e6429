// SPDX-License-Identifier: GPL-3.0-or-later
#include "merge/pixel_veto.h"

#include <algorithm>
#include <cmath>
#include <numeric>
#include <tuple>

namespace ml {
namespace {

constexpr float kSigmas = 4; ///< Of noise.
constexpr float kClipped = 0.97f, kAtLeast = 0.8f;
constexpr float kBesideClipping = 0.4f; ///< What is unsure there, relative: colours made from clipped neighbours.
constexpr float kSoft =
    0.9f; ///< Of clipping: what is lighter and beside it lacks what was cut off there, and is "at least" too.
constexpr float kLeastUse = 0.05f; ///< Of the decider where it is near clipping: it has the word when nobody else may.

struct Sample {
  float radiance[3], sigma[3];
  float unsure; ///< Of its light, relative: what curve and exposure leave open.
};

constexpr float kRowNoise = 3; ///< Variance that a whole row may share, over what is assumed of reading one pixel.
constexpr int kWide = 2;       ///< Pixels on either side that are looked at together where noise decides.
constexpr float kOfWide =
    2 / (2 * kWide + 1.f); ///< Variance of their mean over a pixel's: neighbours share demosaicing.

Sample sampleOf(const VetoFrame& f, int x, int n, bool wide = false) {
  Sample s{};
  s.unsure = f.unsure;
  for (std::size_t c = 0; c < 3; ++c) {
    float light = f.linear[c][x];
    float variance = f.variance.at(light);
    if (wide) {
      const int from = std::max(0, x - kWide), to = std::min(n - 1, x + kWide);
      light = std::accumulate(f.linear[c] + from, f.linear[c] + to + 1, 0.f) / float(to - from + 1);
      variance = f.variance.at(light) * kOfWide + kRowNoise * f.variance.floor;
    }
    if (f.misplaced > 0) {
      const float slope = (f.linear[c][std::min(n - 1, x + 1)] - f.linear[c][std::max(0, x - 1)]) / 2;
      variance += f.misplaced * slope * slope;
    }
    s.radiance[c] = light / f.exposure;
    s.sigma[c] = std::sqrt(variance) / f.exposure;
  }
  return s;
}

bool agree(const Sample& a, const Sample& b, std::size_t c) {
  return std::abs(a.radiance[c] - b.radiance[c]) <=
         kSigmas * std::hypot(a.sigma[c], b.sigma[c]) +
             std::max(a.unsure, b.unsure) * std::max(a.radiance[c], b.radiance[c]);
}

bool agree(const Sample& a, const Sample& b) {
  return agree(a, b, 0) && agree(a, b, 1) && agree(a, b, 2);
}

void silence(VetoFrame& f, int x) {
  f.use[x] = 0;
  f.vetoed[x] = 1;
  for (float* surplus : f.surplus)
    if (surplus) surplus[x] = 0;
}

/// The least light that a clipped channel of the decider leaves.
float leastOf(const Sample& decider, const VetoFrame& d, std::size_t c) {
  const float clip = d.clip[c] / d.exposure;
  return d.placed ? std::min(decider.radiance[c], clip) : clip;
}

/// Does what `s` shows contradict the decider?
bool contradicts(const Sample& s, const Sample& decider, const bool clipped[3], const VetoFrame& d) {
  for (std::size_t c = 0; c < 3; ++c) {
    if (clipped[c]) {
      if (s.radiance[c] < kAtLeast * leastOf(decider, d, c) - kSigmas * s.sigma[c]) return true;
    } else if (!agree(s, decider, c)) {
      return true;
    }
  }
  return false;
}

/// One that may have the word where the decider is clipped.
struct Candidate {
  std::size_t frame;
  Sample sample;
  bool trusted; ///< False: near clipping itself, it says "at least".
};

bool goTogether(const Candidate& a, const Candidate& b) {
  if (agree(a.sample, b.sample)) return true;
  if (a.trusted == b.trusted) return false;
  const Sample &least = a.trusted ? b.sample : a.sample, &other = a.trusted ? a.sample : b.sample;
  for (std::size_t c = 0; c < 3; ++c)
    if (other.radiance[c] < kAtLeast * least.radiance[c] - kSigmas * other.sigma[c]) return false;
  return true;
}

/// Of the frames that may speak where the decider is clipped: one that goes together with most others; of those one
/// that is as light as the decider says at least, that is not near clipping itself, the cells' choice, and of that the
/// lightest. The decider: nobody may.
std::size_t ownerOf(const std::vector<VetoFrame>& frames, std::size_t decider, const Sample& own, const bool clipped[3],
                    int x, int n) {
  constexpr std::size_t kMost = 16; // frames that are held in hand; more than any bracket has
  std::array<Candidate, kMost> candidates;
  std::size_t count = 0;
  for (std::size_t i = 0; i < frames.size() && count < kMost; ++i)
    if (i != decider && frames[i].placed && !frames[i].vetoed[x])
      candidates[count++] = {i, sampleOf(frames[i], x, n), frames[i].use[x] > 0};
  const auto lightEnough = [&](const Sample& s) {
    for (std::size_t c = 0; c < 3; ++c)
      if (clipped[c] && s.radiance[c] < leastOf(own, frames[decider], c)) return false;
    return true;
  };
  std::size_t owner = decider;
  std::tuple<int, bool, bool, bool, float> best{};
  for (std::size_t k = 0; k < count; ++k) {
    const Candidate& candidate = candidates[k];
    int company = 0;
    for (std::size_t l = 0; l < count; ++l) company += goTogether(candidate, candidates[l]);
    const VetoFrame& f = frames[candidate.frame];
    const std::tuple mine{company, lightEnough(candidate.sample), candidate.trusted, !f.share || f.share[x] >= 0.5f,
                          f.exposure};
    if (owner == decider || mine > best) owner = candidate.frame, best = mine;
  }
  return owner;
}

/// Is a pixel's noise what decides whether another agrees with it?
bool noisy(const Sample& s) {
  for (std::size_t c = 0; c < 3; ++c)
    if (kSigmas * s.sigma[c] > s.unsure * s.radiance[c]) return true;
  return false;
}

void decide(std::vector<VetoFrame>& frames, std::size_t decider, int x, int n) {
  VetoFrame& r = frames[decider];
  bool clipped[3] = {true, true, true}, any = !r.placed;
  Sample own{};
  if (r.placed) {
    own = sampleOf(r, x, n);
    const bool beside = !(r.use[x] > 0);
    if (beside) own.unsure = std::max(own.unsure, kBesideClipping);
    for (std::size_t c = 0; c < 3; ++c) any |= clipped[c] = r.linear[c][x] >= (beside ? kSoft : kClipped) * r.clip[c];
    if (!any) r.use[x] = std::max(r.use[x], kLeastUse);
  }
  const bool wide = !any && noisy(own);
  if (wide) own = sampleOf(r, x, n, true);
  for (std::size_t i = 0; i < frames.size(); ++i)
    if (i != decider && frames[i].placed && contradicts(sampleOf(frames[i], x, n, wide), own, clipped, r))
      silence(frames[i], x);
  if (!any) return;
  // The decider says only "at least": those that remain may show different things. The cells' choice, of that the
  // lightest, has the word.
  const std::size_t owner = ownerOf(frames, decider, own, clipped, x, n);
  if (owner == decider) return;
  frames[owner].use[x] = std::max(frames[owner].use[x], kLeastUse);
  const Sample chosen = sampleOf(frames[owner], x, n);
  for (std::size_t i = 0; i < frames.size(); ++i)
    if (i != decider && i != owner && frames[i].placed && !frames[i].vetoed[x] &&
        !agree(sampleOf(frames[i], x, n), chosen))
      silence(frames[i], x);
}

} // namespace

void vetoRow(std::vector<VetoFrame>& frames, const std::uint8_t* decides, int n) {
  for (VetoFrame& f : frames) std::fill_n(f.vetoed, n, std::uint8_t{0});
  for (int x = 0; x < n; ++x) {
    if (decides[x] > 0) {
      decide(frames, std::size_t(decides[x] - 1), x, n);
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
