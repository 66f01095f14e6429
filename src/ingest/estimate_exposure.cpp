// SPDX-License-Identifier: GPL-3.0-or-later
#include "ingest/estimate_exposure.h"

#include <algorithm>
#include <cmath>
#include <numeric>

namespace ml {
namespace {

constexpr int kQuantiles = 200;
constexpr float kLowest = 0.003f,
                kHighest = 0.85f; ///< Of saturation; beyond, noise and shoulders bend the distribution.

/// Green light at evenly spaced ranks.
std::vector<float> quantilesOf(const Frame& frame) {
  const int step = std::max(1, int(std::sqrt(double(frame.width()) * frame.height() / 60000)));
  std::vector<float> values;
  for (int y = step / 2; y < frame.height(); y += step)
    for (int x = step / 2; x < frame.width(); x += step) {
      float rgb[3];
      frame.linearAt(x, y, rgb);
      values.push_back(rgb[1] / frame.saturation[1]);
    }
  std::sort(values.begin(), values.end());
  std::vector<float> out;
  for (int i = 0; i < kQuantiles && !values.empty(); ++i)
    out.push_back(values[values.size() * std::size_t(2 * i + 1) / (2 * kQuantiles)]);
  return out;
}

double middleValue(std::vector<double>& values) {
  const auto middle = values.begin() + std::ptrdiff_t(values.size() / 2);
  std::nth_element(values.begin(), middle, values.end());
  return *middle;
}

double meanOf(const Frame& frame) {
  const auto q = quantilesOf(frame);
  return std::accumulate(q.begin(), q.end(), 0.0);
}

} // namespace

std::optional<SeenStep> estimateStops(const Frame& dark, const Frame& light) {
  constexpr int kElse = kQuantiles / 20;
  const auto a = quantilesOf(dark), b = quantilesOf(light);
  // What lies on the highest code that a frame has is white, whatever its curve makes of it.
  const auto recorded = [](const std::vector<float>& q, float v) {
    return v > kLowest && v < std::min(kHighest, 0.97f * q.back());
  };
  const auto at = [](const std::vector<float>& q, int i) {
    return q[std::size_t(std::clamp(i, 0, int(q.size()) - 1))];
  };
  constexpr double kUnknown = 100;
  std::vector<double> stops, least, most;
  for (int i = 0; i < int(std::min(a.size(), b.size())); ++i) {
    if (!recorded(a, at(a, i)) || !recorded(b, at(b, i))) continue;
    stops.push_back(std::log2(at(b, i) / at(a, i)));
    const float darker = at(a, i - kElse), lighter = at(a, i + kElse), low = at(b, i - kElse), high = at(b, i + kElse);
    least.push_back(low > kLowest && lighter < kHighest ? std::log2(low / lighter) : -kUnknown);
    most.push_back(darker > kLowest && high < kHighest ? std::log2(high / darker) : kUnknown);
  }
  if (stops.size() < 4) return {};
  return SeenStep{middleValue(stops), middleValue(least), middleValue(most)};
}

bool estimateExposures(std::vector<Frame>& frames) {
  std::vector<std::size_t> order(frames.size());
  std::iota(order.begin(), order.end(), 0);
  std::vector<double> means;
  for (const auto& frame : frames) means.push_back(meanOf(frame));
  std::stable_sort(order.begin(), order.end(), [&](auto a, auto b) { return means[a] < means[b]; });
  const auto known = std::find_if(order.begin(), order.end(), [&](auto i) { return frames[i].exposureKnown; });
  const std::size_t start = known != order.end() ? std::size_t(known - order.begin()) : order.size() / 2;
  if (known == order.end()) frames[order[start]].settings = {{1.0 / 64}, {8}, {100}};
  bool all = true;
  const auto derive = [&](std::size_t from, std::size_t to) {
    Frame &a = frames[order[from]], &b = frames[order[to]];
    if (b.exposureKnown) return;
    const auto stops = from < to ? estimateStops(a, b) : estimateStops(b, a);
    all = all && stops;
    b.settings = a.settings;
    b.settings.time.value *= std::exp2((from < to ? 1 : -1) * (stops ? stops->stops : 2.0));
  };
  for (std::size_t k = start; k + 1 < order.size(); ++k) derive(k, k + 1);
  for (std::size_t k = start; k > 0; --k) derive(k, k - 1);
  return all;
}

} // namespace ml
