// SPDX-License-Identifier: GPL-3.0-or-later
#include "judge/scene_reading.h"

#include "exposure/ev.h"
#include "judge/pair.h"

#include <algorithm>
#include <cmath>
#include <map>

namespace ml {
namespace {

/// Rec. 709 weights on white-balanced channels, in units in which green saturates at 1.
double luminanceOf(const Sketch& s, const float* rgb) {
  const auto& sat = s.saturation;
  return 0.2126 * rgb[0] * sat[0] / sat[1] + 0.7152 * rgb[1] + 0.0722 * rgb[2] * sat[2] / sat[1];
}

double evOf(const Sketch& s, double level) {
  return ev100(s.settings).value + std::log2(level / s.midTone);
}

/// Below this a block of the sketch says nothing: mean within two standard deviations of noise.
double floorOf(const Sketch& s) {
  return 2 * std::sqrt(s.noise.variance(0) / (s.scale * s.scale)) + 1e-6;
}

} // namespace

SceneDistribution distributionOf(const std::vector<std::shared_ptr<const Sketch>>& frames) {
  SceneDistribution d;
  if (frames.empty()) return d;
  std::vector<const Sketch*> order;
  for (const auto& f : frames) order.push_back(f.get());
  std::sort(order.begin(), order.end(), [](const Sketch* a, const Sketch* b) {
    return relativeExposure(a->settings) > relativeExposure(b->settings);
  });
  std::map<int, int> bins;
  int all = 0, clipped = 0, dark = 0;
  const int w = order.front()->light.width(), h = order.front()->light.height();
  for (int y = 0; y < h; ++y)
    for (int x = 0; x < w; ++x) {
      ++all;
      const Sketch* best = nullptr;
      for (const Sketch* s : order) {
        if (s->light.width() != w || s->light.height() != h || *s->clipped.at(x, y)) continue;
        best = s;
        break;
      }
      if (!best) {
        ++clipped;
        continue;
      }
      const double level = luminanceOf(*best, best->light.at(x, y));
      if (level <= floorOf(*best)) {
        ++dark;
        continue;
      }
      ++bins[int(std::floor(evOf(*best, level) / SceneDistribution::kStep))];
    }
  d.clipped = double(clipped) / all;
  d.dark = double(dark) / all;
  if (bins.empty()) return d;
  const int first = bins.begin()->first, last = bins.rbegin()->first;
  d.start = first * SceneDistribution::kStep;
  d.share.assign(std::size_t(last - first + 1), 0);
  for (const auto& [bin, count] : bins) d.share[std::size_t(bin - first)] = float(double(count) / all);
  return d;
}

std::optional<ProposedZones> proposeZones(const Sketch& s) {
  const int size = std::max(2, s.light.width() / 40);
  struct Area {
    double level;
    int x, y;
    bool clipped;
  };
  std::vector<Area> areas;
  for (int y = 0; y + size <= s.light.height(); y += size)
    for (int x = 0; x + size <= s.light.width(); x += size) {
      double sum = 0;
      int clipped = 0;
      for (int v = 0; v < size; ++v)
        for (int u = 0; u < size; ++u) {
          sum += luminanceOf(s, s.light.at(x + u, y + v));
          clipped += *s.clipped.at(x + u, y + v) > 0;
        }
      areas.push_back({sum / (size * size), x, y, clipped * 4 > size * size});
    }
  if (areas.size() < 20) return {};
  std::sort(areas.begin(), areas.end(), [](const Area& a, const Area& b) { return a.level < b.level; });
  const auto zone = [&](const Area& a) {
    ProposedZone z;
    z.x = (a.x + size / 2.0) / s.light.width();
    z.y = (a.y + size / 2.0) / s.light.height();
    const double floor = floorOf(s);
    z.atMost = a.level <= floor;
    z.atLeast = a.clipped;
    z.ev100 = {evOf(s, std::max(a.level, floor))};
    return z;
  };
  const std::size_t beyond = areas.size() / 100;
  return ProposedZones{zone(areas[beyond]), zone(areas[areas.size() - 1 - beyond])};
}

bool isSeparator(const Sketch& frame, const Sketch* before) {
  if (!before || frame.width != before->width || frame.height != before->height) return false;
  constexpr double kAlmostNone = 0.02; // of the blocks; ten times that is what any view shows
  if (frame.structured > kAlmostNone || before->structured < 5 * kAlmostNone) return false;
  const PairMeasure m = measurePair(*before, frame);
  return !m.place.placed || m.comparable < 0.05 || m.movedShare > 0.3 || std::abs(m.light) > 1;
}

double changedShare(ImageView<const std::uint8_t> before, ImageView<const std::uint8_t> after) {
  if (before.width != after.width || before.height != after.height || before.channels != after.channels) return 1;
  constexpr int kCell = 16;
  const int w = before.width / kCell, h = before.height / kCell;
  int changed = 0;
  for (int y = 0; y < h; ++y)
    for (int x = 0; x < w; ++x) {
      double difference = 0, noise = 0;
      for (int v = 0; v < kCell; ++v) {
        const std::uint8_t *a = before.at(x * kCell, y * kCell + v) + 1, *b = after.at(x * kCell, y * kCell + v) + 1;
        for (int u = 0; u < kCell; ++u) {
          const double d = double(b[u * before.channels]) - a[u * before.channels];
          difference += d;
          if (u > 0) { // the difference of neighbours' differences: what moves together drops out
            const double e = d - (double(b[(u - 1) * before.channels]) - a[(u - 1) * before.channels]);
            noise += e * e / 2;
          }
        }
      }
      // The mean of a cell must differ by more than five of its standard deviations and by two codes.
      const double mean = difference / (kCell * kCell), deviation = std::sqrt(noise / (kCell * (kCell - 1))) / kCell;
      changed += std::abs(mean) > std::max(2.0, 5 * deviation);
    }
  return double(changed) / std::max(1, w * h);
}

} // namespace ml
