// SPDX-License-Identifier: GPL-3.0-or-later
#include "align/place.h"

#include "base/phrase.h"

#include <algorithm>

namespace ml {
namespace {

constexpr double kAtRest = 0.4; ///< Pixels that blocks may need where a frame is said to lie still.
constexpr double kAlways =
    0.15; ///< Pixels left over with which a fit on the reference itself is taken without asking its neighbour.
constexpr double kAgrees = 0.3; ///< Correlation of blocks from which on they agree at all.

} // namespace

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

} // namespace ml
