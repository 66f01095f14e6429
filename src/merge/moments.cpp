// SPDX-License-Identifier: GPL-3.0-or-later
#include "merge/moments.h"

#include "base/parallel.h"

#include <algorithm>

namespace ml {
namespace {

constexpr double kUntold = 30; ///< What a share of a region costs that is left open.
/// Signal to noise ratio of a cell that one frame alone tells well, and roughly; of a pixel a quarter to an eighth of
/// it.
constexpr float kTellsAlone = 40, kTellsRoughly = 16;
constexpr double kDoubtful =
    0.25; ///< What noise leaves open, or two that contradict each other: both are near the truth.

/// Some channels of a rendered cell do not clip: they are mixed of all, and tell something of the one that does.
bool tellsInPart(const PlacedCells& cells, int x, int y) {
  const std::uint8_t clipped = *cells.clipped.at(x, y);
  return cells.mixed && clipped > 0 && clipped < kAllClipped && !cells.outside(x, y);
}

/// How much it is left open what stands at a cell in the moment of frame `moment`, 0 to 1. Nothing where it records the
/// cell itself, or most of the others that do, and show nothing that would contradict it, show the same.
double untold(const CellScene& scene, std::size_t moment, int x, int y, const Sensitivity& s) {
  const PlacedCells& frame = scene.cells[moment];
  const float signal = records(frame, x, y) ? *frame.radiance.at(x, y) / *frame.sigma.at(x, y) : 0;
  if (signal > (int(moment) == scene.reference ? kTellsRoughly : kTellsAlone)) return 0;
  std::size_t first = scene.cells.size();
  int more = 0; // who says the same as the first, less those who do not
  bool any = signal > kTellsRoughly || tellsInPart(frame, x, y);
  for (std::size_t i = 0; i < scene.cells.size(); ++i) {
    const bool whole = records(scene.cells[i], x, y);
    if (i == moment || (!whole && !tellsInPart(scene.cells[i], x, y))) continue;
    const Reading r = reading(scene.cells[i], x, y);
    if (!frame.outside(x, y) && !within(frame, x, y, r, s)) continue;
    any = true;
    if (!whole) continue;
    if (more == 0) first = i;
    more += agree(reading(scene.cells[first], x, y), r, s) ? 1 : -1;
  }
  return more > 0 ? 0 : any ? kDoubtful : 1;
}

constexpr double kHardlySeen = 0.02; ///< Share of a region that may be left open.
constexpr double kAnother = 0.3;     ///< What it costs that a moment is not the reference's.
constexpr double kTooMuch = 0.15;    ///< Share of a region that is not left open for the sake of the others.

/// The frame whose moment costs least, `untold` cells of `size` being left open in that of each.
int bestMoment(const CellScene& scene, const std::vector<double>& untold, std::size_t size) {
  const auto cost = [&](int i) {
    return kUntold * std::max(0.0, untold[std::size_t(i)] / double(size) - kHardlySeen) +
           kPerStop * scene.stopsAway(std::size_t(i), scene.reference) + (i == scene.reference ? 0 : kAnother);
  };
  const std::vector<int>& order = scene.order(scene.reference);
  return *std::min_element(order.begin(), order.end(), [&](int a, int b) { return cost(a) < cost(b); });
}

} // namespace

Moments momentsOf(const CellScene& scene, const std::vector<std::vector<int>>& regions, const Sensitivity& s) {
  const std::size_t count = scene.cells.size();
  std::vector<std::vector<double>> open(regions.size(), std::vector<double>(count));
  forEachBand(
      int(regions.size()),
      [&](const Band& band) {
        const auto k = std::size_t(band.begin);
        for (std::size_t i = 0; i < count; ++i)
          for (const int at : regions[k]) open[k][i] += untold(scene, i, at % scene.width(), at / scene.width(), s);
      },
      1);
  std::vector<double> all(count, 0);
  std::size_t size = 0;
  for (std::size_t k = 0; k < regions.size(); ++k) {
    for (std::size_t i = 0; i < count; ++i) all[i] += open[k][i];
    size += regions[k].size();
  }
  const int common = bestMoment(scene, all, size);
  Moments moments{{}, common};
  for (std::size_t k = 0; k < regions.size(); ++k) {
    const double left = open[k][std::size_t(common)];
    const int own =
        left > kTooMuch * double(regions[k].size()) ? bestMoment(scene, open[k], regions[k].size()) : common;
    moments.ofRegions.push_back(open[k][std::size_t(own)] < left / 2 ? own : common);
  }
  return moments;
}

} // namespace ml
