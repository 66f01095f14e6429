#include "align/register.h"

#include "align/register_pair.h"

#include <cmath>
#include <fmt/format.h>
#include <numbers>

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
  r.degrees = std::atan2(vx - v, ux - u) * 180 / std::numbers::pi;
}

/// Places frame `index` by its neighbour nearer to the reference, then directly on the reference.
Registration place(const std::vector<LightPyramid>& pyramids, const std::vector<Registration>& placed, int index, int reference,
                   AlignMode mode) {
  const int neighbour = index < reference ? index + 1 : index - 1;
  Registration r;
  PairFit fit = registerPair(pyramids[neighbour], pyramids[index], {}, mode, true);
  r.correlation = fit.correlation;
  r.informative = fit.informative;
  if (fit.informative < kLeastInformative) {
    r.transform = placed[neighbour].transform;
    r.assumed = true;
    r.note = fmt::format("Frame {} shares too few tones with its neighbour to measure its place; the neighbour's is used.", index + 1);
    return r;
  }
  r.transform = fit.transform.after(placed[neighbour].transform);
  if (fit.correlation < kLeastCorrelation) {
    r.usable = false;
    r.note = fmt::format("Frame {} shares too little with the others; leave it out or shoot it again.", index + 1);
    return r;
  }
  if (neighbour != reference) {
    fit = registerPair(pyramids[reference], pyramids[index], r.transform, mode, false);
    if (fit.informative >= 4 * kLeastInformative && fit.correlation > 0.8) {
      r.transform = fit.transform;
      r.correlation = fit.correlation;
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
  std::vector<int> order;
  for (int i = reference - 1; i >= 0; --i) order.push_back(i);
  for (int i = reference + 1; i < int(frames.size()); ++i) order.push_back(i);
  for (std::size_t k = 0; k < order.size(); ++k) {
    if (progress.stopRequested()) return stopped();
    progress.at("Align", double(k) / double(order.size()));
    Registration& r = placed[order[k]] = place(pyramids, placed, order[k], reference, mode);
    const Frame& frame = frames[order[k]];
    if (r.transform.reach(frame.width(), frame.height()) < kStillPixels) r.transform = {};
    describe(r, frame.width(), frame.height());
  }
  return placed;
}

} // namespace ml
