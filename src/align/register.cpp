// SPDX-License-Identifier: GPL-3.0-or-later
#include "align/register.h"

#include "align/place.h"
#include "base/parallel.h"
#include "base/phrase.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <optional>

namespace ml {
namespace {

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

/// Frame indices from the reference's neighbours outwards, darker ones first.
std::vector<int> outwards(int frames, int reference) {
  std::vector<int> order;
  for (int i = reference - 1; i >= 0; --i) order.push_back(i);
  for (int i = reference + 1; i < frames; ++i) order.push_back(i);
  return order;
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
