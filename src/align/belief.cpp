// SPDX-License-Identifier: GPL-3.0-or-later
#include "align/belief.h"

#include "align/common_tones.h"

#include <algorithm>

namespace ml {
namespace {

constexpr double kEdge = 0.3, kEdgeOfLight = 0.1;

} // namespace

Belief beliefOf(const std::vector<Sample>& samples, const CommonTones& tones, const Transform& transform) {
  constexpr std::size_t kLookedAt = 4000;
  constexpr double kBelow = 0.4, kLeast = 0.05;
  const std::size_t stride = std::max<std::size_t>(1, samples.size() / kLookedAt);
  std::vector<double> gradients, needs, sizes;
  for (std::size_t i = 0; i < samples.size(); i += stride) {
    const Sample& s = samples[i];
    double u, v;
    transform.map(s.x, s.y, u, v);
    float value;
    if (!sampleLinear(tones.moving, u, v, value)) continue;
    gradients.push_back(std::hypot(s.gx, s.gy));
    sizes.push_back(std::abs(value - s.value));
  }
  if (gradients.empty()) return {};
  std::vector<double> sorted = gradients;
  std::nth_element(sorted.begin(), sorted.begin() + std::ptrdiff_t(sorted.size() / 2), sorted.end());
  Belief belief;
  belief.edge = tones.linear ? kEdgeOfLight : kEdge;
  belief.even = sorted[sorted.size() / 2];
  for (std::size_t i = 0; i < sizes.size(); ++i) needs.push_back(sizes[i] / (gradients[i] + belief.even));
  const auto at = needs.begin() + std::ptrdiff_t(kBelow * double(needs.size()));
  std::nth_element(needs.begin(), at, needs.end());
  belief.reach = std::max(kLeast, 2 * *at);
  return belief;
}

} // namespace ml
