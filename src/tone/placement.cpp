// SPDX-License-Identifier: GPL-3.0-or-later
#include "tone/placement.h"
#include "base/phrase.h"

#include <algorithm>
#include <cmath>

namespace ml {
namespace {

constexpr double kLeastSlope = 0.06;
constexpr double kLeastRise = 0.02; ///< Of the curve after pulls, paper stops per scene stop.
constexpr double kReach = 3.0;      ///< Stops over which a pull fades.

/// Slope of each bin: kLeastSlope + k (share / largest)^0.5, at most 1, with k such that the slopes fill `room` stops.
std::vector<double> slopesFor(const std::vector<float>& share, double room) {
  float largest = 1e-9f;
  for (const float h : share) largest = std::max(largest, h);
  std::vector<double> slopes(share.size());
  double low = 0, high = 256;
  for (int round = 0; round < 60; ++round) {
    const double k = (low + high) / 2;
    double sum = 0;
    for (std::size_t i = 0; i < share.size(); ++i) {
      slopes[i] = std::min(1.0, kLeastSlope + k * std::sqrt(double(share[i] / largest)));
      sum += slopes[i] * LightHistogram::kStep;
    }
    (sum < room ? low : high) = k;
  }
  return slopes;
}

/// Ties beyond one end of what is held, outwards; `sign` +1: upwards.
std::vector<Tie> beyond(const LightHistogram& histogram, double end, double last, double room, int sign) {
  std::vector<float> share;
  const auto at = [&](double light) {
    const double bin = (light - histogram.start) / LightHistogram::kStep - 0.5;
    const int i = std::clamp(int(std::floor(bin)), 0, int(histogram.share.size()) - 1);
    return histogram.share[std::size_t(i)];
  };
  const int bins = std::max(1, int(std::ceil(sign * (last - end) / LightHistogram::kStep)));
  for (int i = 0; i < bins; ++i) share.push_back(at(end + sign * (i + 0.5) * LightHistogram::kStep));
  const auto slopes = slopesFor(share, std::min(room, bins * LightHistogram::kStep));
  std::vector<Tie> out;
  double placed = end;
  for (int i = 0; i < bins; ++i) {
    placed += sign * slopes[std::size_t(i)] * LightHistogram::kStep;
    out.push_back({end + sign * (i + 1) * LightHistogram::kStep, placed});
  }
  return out;
}

double valueAt(const std::vector<Tie>& ties, double scene) {
  return ToneCurve(ties)(scene);
}

} // namespace

const char* nameOf(SceneKind kind) {
  switch (kind) {
  case SceneKind::Interior: return wording("interior");
  case SceneKind::Landscape: return wording("landscape");
  case SceneKind::Twilight: return wording("twilight");
  default: return wording("night lights");
  }
}

double LightHistogram::below(double fraction) const {
  double sum = 0;
  for (std::size_t i = 0; i < share.size(); ++i) {
    if (sum + share[i] >= fraction)
      return start + (double(i) + (fraction - sum) / std::max(1e-9, double(share[i]))) * kStep;
    sum += share[i];
  }
  return start + double(share.size()) * kStep;
}

SceneKind kindOf(const LightHistogram& h, double middleEv100, double brightAbove) {
  const double median = h.below(0.5);
  double bright = 0; // far brighter than the middle: a window, or lamps
  for (std::size_t i = 0; i < h.share.size(); ++i)
    if (h.start + double(i) * LightHistogram::kStep > median + 2.5) bright += h.share[i];
  const double span = h.below(0.995) - h.below(0.02);
  const bool dim = middleEv100 < 3.5; // false when unknown
  if (bright < 0.05 && span > 7 && brightAbove < 0.35 && (dim || std::isnan(middleEv100)))
    return SceneKind::NightLights;
  if (dim && bright < 0.35) return SceneKind::Twilight;
  return bright >= 0.04 && span > 6 && brightAbove < 0.35 ? SceneKind::Interior : SceneKind::Landscape;
}

std::vector<Tie> evenTies(const LightHistogram& histogram, const HeldRange& held, double darkest, double brightest) {
  std::vector<Tie> ties;
  if (darkest < held.from) {
    ties = beyond(histogram, held.from, darkest, std::max(0.05, held.from - held.lowest), -1);
    std::reverse(ties.begin(), ties.end());
  }
  constexpr double kStep = 0.5;
  const int steps = std::max(1, int(std::ceil((held.to - held.from) / kStep)));
  for (int i = 0; i <= steps; ++i) {
    const double light = held.from + (held.to - held.from) * i / steps;
    ties.push_back({light, light});
  }
  if (brightest > held.to) {
    const auto above = beyond(histogram, held.to, brightest, std::max(0.05, held.highest - held.to), 1);
    ties.insert(ties.end(), above.begin(), above.end());
  }
  return ties;
}

std::vector<Tie> pulled(std::vector<Tie> ties, std::vector<Tie> pulls) {
  if (pulls.empty()) return ties;
  std::sort(pulls.begin(), pulls.end(), [](const Tie& a, const Tie& b) { return a.scene < b.scene; });
  std::vector<double> moves; // how far each pull moves what lies there
  for (const Tie& p : pulls) moves.push_back(p.paper - valueAt(ties, p.scene));
  const auto moveAt = [&](double scene) {
    const auto fade = [](double distance) { return std::exp(-distance * distance / (2 * kReach * kReach)); };
    if (scene <= pulls.front().scene) return moves.front() * fade(pulls.front().scene - scene);
    if (scene >= pulls.back().scene) return moves.back() * fade(scene - pulls.back().scene);
    std::size_t i = 1;
    while (pulls[i].scene < scene) ++i;
    const double width = pulls[i].scene - pulls[i - 1].scene, t = width > 0 ? (scene - pulls[i - 1].scene) / width : 0;
    return moves[i - 1] + (moves[i] - moves[i - 1]) * t * t * (3 - 2 * t);
  };
  std::vector<Tie> out;
  for (const Tie& tie : ties) out.push_back({tie.scene, tie.paper + moveAt(tie.scene)});
  for (const Tie& p : pulls) {
    const auto at = std::lower_bound(out.begin(), out.end(), p.scene,
                                     [](const Tie& tie, double scene) { return tie.scene < scene; });
    if (at != out.end() && at->scene - p.scene < 0.1)
      at->paper = p.paper, at->scene = p.scene;
    else if (at != out.begin() && p.scene - std::prev(at)->scene < 0.1)
      *std::prev(at) = p;
    else
      out.insert(at, p);
  }
  // What lies beside a pull gives way to it.
  for (const Tie& p : pulls)
    for (Tie& tie : out) {
      const double least = kLeastRise * (tie.scene - p.scene);
      if (tie.scene < p.scene - 1e-9)
        tie.paper = std::min(tie.paper, p.paper + least);
      else if (tie.scene > p.scene + 1e-9)
        tie.paper = std::max(tie.paper, p.paper + least);
    }
  // Rising from the middle outwards, so that a pull wins over what lies beyond it.
  const std::size_t middle = out.size() / 2;
  for (std::size_t i = middle + 1; i < out.size(); ++i)
    out[i].paper = std::max(out[i].paper, out[i - 1].paper + kLeastRise * (out[i].scene - out[i - 1].scene));
  for (std::size_t i = middle; i-- > 0;)
    out[i].paper = std::min(out[i].paper, out[i + 1].paper - kLeastRise * (out[i + 1].scene - out[i].scene));
  return out;
}

} // namespace ml
