#include "align/register.h"

#include "align/register_pair.h"
#include "base/parallel.h"

#include <cmath>
#include <fmt/format.h>
#include <numbers>
#include <optional>

namespace ml {
namespace {

constexpr double kLeastInformative = 0.002; // of the pixels
constexpr double kLeastCorrelation = 0.35;

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

/// Places frame `index` by what its neighbour nearer to the reference says of it, then directly on the reference.
Registration place(const std::vector<LightPyramid>& pyramids, const std::vector<Registration>& placed, const PairFit& byNeighbour, int index, int reference,
                   AlignMode mode) {
  const int neighbour = index < reference ? index + 1 : index - 1;
  Registration r;
  const auto take = [&r](const PairFit& fit) {
    r.correlation = fit.correlation;
    r.residual = fit.residual;
    r.model = fit.model;
  };
  take(byNeighbour);
  r.informative = byNeighbour.informative;
  if (byNeighbour.informative < kLeastInformative) {
    r.transform = placed[std::size_t(neighbour)].transform;
    r.assumed = true;
    r.note = fmt::format("Frame {} shares too few tones with its neighbour to measure its place; the neighbour's is used.", index + 1);
    return r;
  }
  r.transform = byNeighbour.transform.after(placed[std::size_t(neighbour)].transform);
  if (byNeighbour.correlation < kLeastCorrelation) {
    r.usable = false;
    r.note = fmt::format("Frame {} shares too little with the others; leave it out or shoot it again.", index + 1);
    return r;
  }
  if (neighbour != reference) {
    const PairFit fit = registerPair(pyramids[std::size_t(reference)], pyramids[std::size_t(index)], r.transform, mode, false);
    if (fit.informative >= 4 * kLeastInformative && fit.correlation > 0.8) {
      r.transform = fit.transform;
      take(fit);
    }
  }
  return r;
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
  // Neighbours are fitted to each other independently, so several at a time.
  std::vector<PairFit> fits(frames.size());
  std::atomic<int> done{0};
  const bool finished = forEachBand(int(frames.size()), progress.stop, [&](const Band& band) {
    const int i = band.begin;
    if (i == reference) return;
    std::optional<OnThisThread> enoughPieces;
    if (int(frames.size()) > threadCount()) enoughPieces.emplace();
    fits[std::size_t(i)] = registerPair(pyramids[std::size_t(i < reference ? i + 1 : i - 1)], pyramids[std::size_t(i)], {}, mode, true);
    progress.at("Align", 0.8 * ++done / double(frames.size()));
  }, 1);
  if (!finished) return stopped();
  // Darker and brighter frames are two chains that begin at the reference and know nothing of each other.
  std::atomic<int> settled{0};
  const bool all = forEachBand(2, progress.stop, [&](const Band& band) {
    const int step = band.begin == 0 ? -1 : 1;
    std::optional<OnThisThread> enoughPieces;
    if (reference > 0 && reference + 1 < int(frames.size()) && threadCount() <= 2) enoughPieces.emplace();
    for (int i = reference + step; i >= 0 && i < int(frames.size()) && !progress.stopRequested(); i += step) {
      Registration& r = placed[std::size_t(i)] = place(pyramids, placed, fits[std::size_t(i)], i, reference, mode);
      const Frame& frame = frames[std::size_t(i)];
      if (r.transform.reach(frame.width(), frame.height()) < kStillPixels) r.transform = {}, r.model = AlignMode::Off;
      describe(r, frame.width(), frame.height());
      progress.at("Align", 0.8 + 0.2 * ++settled / double(frames.size()));
    }
  }, 1);
  if (!all) return stopped();
  return placed;
}

} // namespace ml
