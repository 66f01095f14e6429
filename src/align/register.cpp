// SPDX-License-Identifier: GPL-3.0-or-later
#include "align/register.h"

#include "align/register_pair.h"
#include "base/parallel.h"
#include "base/phrase.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <optional>

namespace ml {
namespace {

constexpr double kLeastInformative = 0.002; // of the pixels
constexpr double kLeastCorrelation = 0.35;
constexpr double kTooUncertain = 0.4; ///< Pixels that most places of a frame still need where it was placed.
constexpr double kAtRest = 0.4;       ///< Pixels that blocks may need where a frame is said to lie still.
constexpr double kAlways =
    0.15; ///< Pixels left over with which a fit on the reference itself is taken without asking its neighbour.
constexpr double kAgrees = 0.3; ///< Correlation of blocks from which on they agree at all.

void describe(Registration& r, int width, int height) {
  const double cx = (width - 1) / 2.0, cy = (height - 1) / 2.0;
  double u, v, ux, vx;
  r.transform.map(cx, cy, u, v);
  r.transform.map(cx + 1, cy, ux, vx);
  r.shiftX = u - cx;
  r.shiftY = v - cy;
  r.scale = std::hypot(ux - u, vx - v);
  r.degrees = std::atan2(vx - v, ux - u) * 180 / std::numbers::pi;
}

int neighbourOf(int index, int reference) {
  return index < reference ? index + 1 : index - 1;
}

/// Frame indices from the reference's neighbours outwards, darker ones first.
std::vector<int> outwards(int frames, int reference) {
  std::vector<int> order;
  for (int i = reference - 1; i >= 0; --i) order.push_back(i);
  for (int i = reference + 1; i < frames; ++i) order.push_back(i);
  return order;
}

/// What those frames say that can be placed: most of them have moved, or most lie still; nothing where there are none.
enum class Held { Unknown, InHand, OnStand };
Held heldBy(const std::vector<PairFit>& fits, int reference, int width, int height) {
  int moved = 0, still = 0;
  for (std::size_t i = 0; i < fits.size(); ++i) {
    if (int(i) == reference) continue;
    if (fits[i].proof >= kProven && fits[i].transform.reach(width, height) > 0.5)
      ++moved;
    else if (fits[i].still > 0 && fits[i].still < kAtRest && fits[i].stillAgrees >= kAgrees)
      ++still; // seen to lie still
  }
  return moved > still ? Held::InHand : still > 0 ? Held::OnStand : Held::Unknown;
}

/// Places frame `index` by what its neighbour nearer to the reference says of it, or directly on the reference where
/// that says more.
Registration place(const std::vector<Registration>& placed, const PairFit& byNeighbour,
                   const std::optional<PairFit>& direct, int index, int reference, Held held, int width, int height) {
  const int neighbour = neighbourOf(index, reference);
  const Registration& by = placed[std::size_t(neighbour)];
  Registration r;
  const auto take = [&r](const PairFit& fit) {
    r.correlation = fit.correlation;
    r.residual = fit.residual;
    r.model = fit.model;
  };
  take(byNeighbour);
  r.informative = byNeighbour.informative;
  if (byNeighbour.informative < kLeastInformative) {
    r.transform = by.transform;
    r.assumed = true;
    r.note = phrase("Frame {} shares too few tones with its neighbour to measure its place; the neighbour's is used.",
                    index + 1);
    return r;
  }
  r.transform = byNeighbour.transform.after(by.transform);
  if (byNeighbour.correlation < kLeastCorrelation) {
    r.usable = false;
    r.note = phrase("Frame {} shares too little with the others; leave it out or shoot it again.", index + 1);
    return r;
  }
  const bool directSays =
      direct && direct->informative >= 4 * kLeastInformative && direct->correlation > 0.8 && direct->proof >= kProven &&
      (!by.usable ||
       byNeighbour.proof < kProven || // else the chain may know better, with what both its links leave over
       direct->residual <= std::max(kAlways, byNeighbour.residual + by.residual));
  if (!by.usable && !directSays) {
    r.usable = false;
    r.note = phrase("Frame {} could only be placed by frame {}, which cannot be placed itself; it is left out.",
                    index + 1, neighbour + 1);
    return r;
  }
  if (held == Held::Unknown && !directSays && byNeighbour.proof < kProven && byNeighbour.stillAgrees < kAgrees) {
    r.usable = false;
    r.note = phrase("Frame {} agrees with the others nowhere well enough to be placed; it is left out. If the "
                    "camera stood still, combine without aligning.",
                    index + 1);
    return r;
  }
  if (held == Held::InHand && !directSays && byNeighbour.proof < kProven) {
    r.usable = false;
    r.note = phrase("The others were held in the hand, and frame {} shows too little in common with them to be "
                    "placed; it is left out.",
                    index + 1);
    return r;
  }
  if (directSays || (direct && direct->informative >= 4 * kLeastInformative && direct->correlation > 0.8 &&
                     r.transform.reach(width, height) < 1)) {
    r.transform = direct->transform;
    take(*direct);
  }
  if (r.residual > kTooUncertain && !r.transform.isIdentity()) {
    r.usable = false;
    r.note = phrase("The places of frame {} do not agree on where it lies (by {:.1f} pixels); it is left out.",
                    index + 1, r.residual);
  }
  return r;
}

/// A frame that its neighbour does not place may be placed by another that is, nearest in exposure first: what walked
/// before the one need not have walked before the other. Nothing where none says so surely.
std::optional<Registration> placedByAnother(const std::vector<LightPyramid>& pyramids,
                                            const std::vector<Registration>& placed, const std::vector<int>& by,
                                            int index, int reference, AlignMode mode) {
  std::vector<int> nearest;
  for (const int k : by)
    if (placed[std::size_t(k)].usable && k != neighbourOf(index, reference)) nearest.push_back(k);
  std::stable_sort(nearest.begin(), nearest.end(),
                   [&](int a, int b) { return std::abs(a - index) < std::abs(b - index); });
  constexpr std::size_t kTried = 2;
  for (std::size_t i = 0; i < std::min(kTried, nearest.size()); ++i) {
    const std::size_t k = std::size_t(nearest[i]);
    const PairFit fit = registerPair(pyramids[k], pyramids[std::size_t(index)], {}, mode, true);
    if (fit.proof < kProven || fit.residual > kTooUncertain || fit.correlation < 0.5 ||
        fit.informative < 4 * kLeastInformative)
      continue;
    Registration r;
    r.transform = fit.transform.after(placed[k].transform);
    r.correlation = fit.correlation, r.residual = fit.residual, r.model = fit.model, r.informative = fit.informative;
    return r;
  }
  return {};
}

} // namespace

Result<std::vector<Registration>> registerFrames(const std::vector<Frame>& frames, int reference, AlignMode mode,
                                                 const Progress& progress) {
  assert(reference >= 0 && reference < int(frames.size()));
  std::vector<Registration> placed(frames.size());
  if (mode == AlignMode::Off || frames.size() < 2) return placed;
  std::vector<LightPyramid> pyramids;
  for (const auto& frame : frames) {
    if (progress.stopRequested()) return stopped();
    pyramids.push_back(buildPyramid(frame));
  }
  // Neighbours are fitted to each other independently, so several at a time; then frames farther away directly to the
  // reference, beginning where the chain of neighbours puts them.
  const auto order = outwards(int(frames.size()), reference);
  const auto forEachFrame = [&](const std::vector<int>& which, double from, double to,
                                const std::function<void(int)>& fit) {
    std::atomic<std::size_t> done{0};
    return forEachBand(
        int(which.size()), progress.stop,
        [&](const Band& band) {
          std::optional<OnThisThread> enoughPieces;
          if (int(which.size()) >= threadCount()) enoughPieces.emplace();
          fit(which[std::size_t(band.begin)]);
          progress.at(phrase("Align"), from + (to - from) * double(++done) / double(which.size()));
        },
        1);
  };
  const auto pyramid = [&](int i) -> const LightPyramid& { return pyramids[std::size_t(i)]; };
  std::vector<PairFit> fits(frames.size());
  if (!forEachFrame(order, 0, 0.7, [&](int i) {
        fits[std::size_t(i)] = registerPair(pyramid(neighbourOf(i, reference)), pyramid(i), {}, mode, true);
      }))
    return stopped();
  std::vector<Transform> chained(frames.size());
  std::vector<int> farther;
  for (const int i : order) {
    const PairFit& fit = fits[std::size_t(i)];
    const Transform& neighbour = chained[std::size_t(neighbourOf(i, reference))];
    chained[std::size_t(i)] = fit.informative < kLeastInformative ? neighbour : fit.transform.after(neighbour);
    if (neighbourOf(i, reference) != reference && fit.informative >= kLeastInformative &&
        fit.correlation >= kLeastCorrelation)
      farther.push_back(i);
  }
  std::vector<std::optional<PairFit>> direct(frames.size());
  const bool all = forEachFrame(farther, 0.7, 1, [&](int i) {
    direct[std::size_t(i)] = registerPair(pyramid(reference), pyramid(i), chained[std::size_t(i)], mode, false);
  });
  if (!all) return stopped();
  const Held held = heldBy(fits, reference, frames.front().width(), frames.front().height());
  // Twice: what could not be placed may be by one that was placed after it.
  std::vector<int> seen{reference};
  for (const bool again : {false, true})
    for (const int i : order) {
      Registration& r = placed[std::size_t(i)];
      if (again && r.usable) continue;
      if (progress.stopRequested()) return stopped();
      const Frame& frame = frames[std::size_t(i)];
      r = place(placed, fits[std::size_t(i)], direct[std::size_t(i)], i, reference, held, frame.width(),
                frame.height());
      if (!r.usable)
        if (auto other = placedByAnother(pyramids, placed, seen, i, reference, mode)) r = std::move(*other);
      if (!again) seen.push_back(i);
      if (r.transform.reach(frame.width(), frame.height()) < kStillPixels) r.transform = {}, r.model = AlignMode::Off;
      describe(r, frame.width(), frame.height());
    }
  return placed;
}

} // namespace ml
