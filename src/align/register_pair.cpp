// SPDX-License-Identifier: GPL-3.0-or-later
#include "align/register_pair.h"

#include "align/fit_level.h"
#include "align/patch_votes.h"
#include "align/search_shift.h"

#include <algorithm>
#include <cmath>

namespace ml {
namespace {

constexpr double kOfTheMove = 0.6;

/// Of the places that show structure, pixels of the level.
double meanMove(const Structure& found, const Transform& transform) {
  double sum = 0;
  for (const Sample& s : found.samples) {
    double u, v;
    transform.map(s.x, s.y, u, v);
    sum += std::hypot(u - s.x, v - s.y);
  }
  return found.samples.empty() ? 0 : sum / double(found.samples.size());
}

/// Share of pixels that are neither in the noise nor clipped, on every fourth pixel.
double recordedShare(const LightPyramid& pyramid) {
  const Image<float>& finest = pyramid.levels.front();
  std::size_t recorded = 0, all = 0;
  for (std::size_t i = 0; i < finest.size(); i += 4, ++all)
    recorded += finest.data()[i] > pyramid.floor && finest.data()[i] < pyramid.clip;
  return all ? double(recorded) / double(all) : 0;
}

constexpr double kWorthMore = 0.12;  ///< Pixels of the frame left over, from which a richer model is tried.
constexpr double kClearlyLess = 0.6; ///< It is taken when it leaves less than this share.

/// The simplest model that the residuals justify: shift and rotation, then size, then the full perspective.
void chooseModel(const CommonTones& tones, const Structure& found, int scale, LevelFit& fit, PairFit& out) {
  for (const AlignMode richer : {AlignMode::Similarity, AlignMode::Perspective}) {
    if (out.residual < kWorthMore || found.samples.size() < 2000) return;
    const LevelFit tried = fitLevel(tones, found, fit.transform, richer, 8);
    const double residual = scale * blockResidual(found, tones.moving, tried.transform, tried.belief,
                                                  tones.fixed.width(), tones.fixed.height())
                                        .median;
    if (residual > 0 && residual < kClearlyLess * out.residual && tried.correlation >= fit.correlation) {
      fit = tried;
      out.model = richer;
      out.residual = residual;
    }
  }
}

/// Two pictures on their way from coarse to fine.
class Descent {
public:
  Descent(const LightPyramid& fixed, const LightPyramid& moving, AlignMode simplest)
      : fixed_(fixed), moving_(moving), simplest_(simplest),
        coarsest_(int(std::min(fixed.levels.size(), moving.levels.size())) - 1) {}

  struct State {
    ToneMatch match;
    Transform transform; ///< Of the level that comes next.
    LevelFit fit;        ///< Of the last one.
  };
  [[nodiscard]] int coarsest() const { return coarsest_; }
  [[nodiscard]] CommonTones tones(const State& state, int level) const {
    return commonTones(fixed(level), moving(level), fixed_, moving_, state.match);
  }

  /// One level; returns what was compared.
  std::pair<CommonTones, Structure> step(State& state, int level) const {
    state.match.learn(fixed(level), moving(level), state.transform, fixed_, moving_);
    CommonTones common = tones(state, level);
    // Perspective and size are fitted only where there are pixels enough to hold them.
    const bool rich = simplest_ == AlignMode::Perspective || simplest_ == AlignMode::Similarity;
    const AlignMode mode = level == coarsest_ && simplest_ != AlignMode::Shift ? AlignMode::Shift
                           : rich && level > 3                                 ? AlignMode::Rigid
                                                                               : simplest_;
    Structure found = structure(common.fixed, common.low, common.high);
    state.fit = fitLevel(common, found, state.transform, mode, level == 0 ? 6 : 12);
    if (level > 0) state.transform = state.fit.transform.scaled(2);
    return {std::move(common), std::move(found)};
  }
  /// From the coarsest level to `last`, beginning where the frames lie as they are or where a search over shifts puts
  /// them, and where these do not agree well, where most patches of the picture are: all are followed to `kDecided`,
  /// because a pattern that repeats, or somebody who walked, looks alike in many places; there most blocks of the
  /// picture decide.
  void search(State& state, int last) const {
    const int decided = std::max(last, std::min(coarsest_, kDecided));
    State best = state;
    double agrees = follow(best, coarsest_, decided) + kClearlyBetter;
    const auto tryFrom = [&](const Transform& from, int level) {
      State tried = state;
      tried.transform = from;
      const double there = follow(tried, level, decided);
      if (there > agrees) agrees = there, best = std::move(tried);
    };
    for (const Transform& found : searchShifts(tones(state, coarsest_), kPeaks))
      if (std::hypot(found.h[2], found.h[5]) >= kElsewhere) tryFrom(found, coarsest_);
    if (agrees < kSure) {
      const int level = patchLevel(decided);
      if (const auto found = agreedByPatches(tones(state, level))) tryFrom(*found, level);
    }
    state = std::move(best);
    for (int level = decided - 1; level >= last; --level) (void)step(state, level);
  }

private:
  /// Where patches are looked for: the finest level that is small enough.
  [[nodiscard]] int patchLevel(int finest) const {
    int level = finest;
    while (level < coarsest_ && fixed(level).width() > kPatchesUpTo) ++level;
    return level;
  }
  /// Down to `last`; returns how well it agrees there.
  double follow(State& state, int first, int last) const {
    double agrees = -1;
    for (int level = first; level >= last; --level) {
      const auto [common, found] = step(state, level);
      if (level == last)
        agrees = agreement(found, common.moving, state.fit.transform, common.fixed.width(), common.fixed.height());
    }
    return agrees;
  }
  static constexpr int kDecided = 2;
  static constexpr std::size_t kPeaks = 4;
  static constexpr double kElsewhere = 1.5;      ///< Pixels of the coarsest level.
  static constexpr double kClearlyBetter = 0.01; ///< In correlation.
  static constexpr double kSure = 0.97;          ///< Agreement from which on nothing else is looked for.
  static constexpr int kPatchesUpTo = 280;       ///< Pixels across.
  [[nodiscard]] const Image<float>& fixed(int level) const { return fixed_.levels[std::size_t(level)]; }
  [[nodiscard]] const Image<float>& moving(int level) const { return moving_.levels[std::size_t(level)]; }
  const LightPyramid &fixed_, &moving_;
  AlignMode simplest_;
  int coarsest_;
};

} // namespace

PairFit registerPair(const LightPyramid& fixed, const LightPyramid& moving, const Transform& initial, AlignMode mode,
                     bool fullSearch) {
  PairFit out;
  out.model = mode == AlignMode::Auto ? AlignMode::Rigid : mode;
  const Descent descent(fixed, moving, out.model);
  Descent::State state{ToneMatch(fixed.exposure / moving.exposure), {}, {}};
  if (fullSearch && descent.coarsest() > 0) {
    descent.search(state, 1);
  } else if (fullSearch) {
    state.transform = searchShifts(descent.tones(state, 0), 1).front();
  } else {
    const int first = std::min(descent.coarsest(), 1);
    state.transform = initial.scaled(1.0 / (fixed.scale << first));
    for (int level = first; level > 0; --level) (void)descent.step(state, level);
  }
  const auto [tones, found] = descent.step(state, 0);
  LevelFit fit = state.fit;
  const BlockResidual left =
      blockResidual(found, tones.moving, fit.transform, fit.belief, tones.fixed.width(), tones.fixed.height());
  out.residual = fixed.scale * left.median;
  if (mode == AlignMode::Auto && left.allOver && fit.correlation > 0.5)
    chooseModel(tones, found, fixed.scale, fit, out);
  out.proof = proofOfMovement(found, tones.moving, fit.transform, tones.fixed.width(), tones.fixed.height());
  // Places that disagree by as much as they are said to have moved say nothing.
  if (left.median > kOfTheMove * meanMove(found, fit.transform)) out.proof = 0;
  if (out.proof >= kProven)
    out.transform = fit.transform.scaled(fixed.scale);
  else {
    const int width = tones.fixed.width(), height = tones.fixed.height();
    out.model = AlignMode::Off;
    out.still = fixed.scale * blockResidual(found, tones.moving, {}, {}, width, height).median;
    out.stillAgrees = agreement(found, tones.moving, {}, width, height);
  }
  out.correlation = fit.correlation;
  out.informative = std::min(fit.informative, recordedShare(moving));
  return out;
}

} // namespace ml
