#include "tone/placement.h"

#include <algorithm>
#include <cmath>

namespace ml {
namespace {

constexpr double kPaperBlack = -7.6, kPaperWhite = -0.22; ///< Where the darkest and brightest base tones land, stops below white.
constexpr double kLeastSlope = 0.20;
constexpr double kLeastRise = 0.02; ///< Of the curve after pulls, paper stops per scene stop.
constexpr double kReach = 3.0;      ///< Stops over which a pull fades.

/// Where the middle of a scene lands, stops below paper white; mid-grey is -2.47. Night stays night (common practice, no source).
double middleOf(SceneKind kind) {
  switch (kind) {
  case SceneKind::Twilight: return -2.9;
  case SceneKind::NightLights: return -3.4;
  default: return -2.6;
  }
}

/// Slope of each bin: kLeastSlope + k (share / largest)^0.4, at most 1, with k such that the slopes fill `paper` stops.
std::vector<double> slopesFor(const std::vector<float>& share, double paper) {
  float largest = 1e-9f;
  for (const float h : share) largest = std::max(largest, h);
  std::vector<double> slopes(share.size());
  double low = 0, high = 64;
  for (int round = 0; round < 60; ++round) {
    const double k = (low + high) / 2;
    double sum = 0;
    for (std::size_t i = 0; i < share.size(); ++i) {
      slopes[i] = std::min(1.0, kLeastSlope + k * std::pow(double(share[i] / largest), 0.4));
      sum += slopes[i] * LightHistogram::kStep;
    }
    (sum < paper ? low : high) = k;
  }
  return slopes;
}

double valueAt(const std::vector<Tie>& ties, double scene) { return ToneCurve(ties)(scene); }

} // namespace

const char* nameOf(SceneKind kind) {
  switch (kind) {
  case SceneKind::Interior: return "interior";
  case SceneKind::Landscape: return "landscape";
  case SceneKind::Twilight: return "twilight";
  default: return "night lights";
  }
}

double LightHistogram::below(double fraction) const {
  double sum = 0;
  for (std::size_t i = 0; i < share.size(); ++i) {
    if (sum + share[i] >= fraction) return start + (double(i) + (fraction - sum) / std::max(1e-9, double(share[i]))) * kStep;
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
  if (bright < 0.05 && span > 7 && brightAbove < 0.35 && (dim || std::isnan(middleEv100))) return SceneKind::NightLights;
  if (dim && bright < 0.35) return SceneKind::Twilight;
  return bright >= 0.04 && span > 6 && brightAbove < 0.35 ? SceneKind::Interior : SceneKind::Landscape;
}

std::vector<Tie> automaticTies(const LightHistogram& histogram, SceneKind kind) {
  const double wanted = middleOf(kind);
  const auto slopes = slopesFor(histogram.share, kPaperWhite - kPaperBlack);
  std::vector<double> rise(slopes.size() + 1, 0.0);
  double median = 0, below = 0;
  for (std::size_t i = 0; i < slopes.size(); ++i) {
    rise[i + 1] = rise[i] + slopes[i] * LightHistogram::kStep;
    if (below < 0.5 && below + histogram.share[i] >= 0.5) median = rise[i];
    below += histogram.share[i];
  }
  // White decides, unless that would leave the middle of a flat scene too bright.
  const double offset = std::min(kPaperWhite - rise.back(), wanted + 0.4 - median);
  std::vector<Tie> ties;
  const std::size_t stride = std::max<std::size_t>(1, slopes.size() / 12);
  const auto sceneAt = [&](std::size_t i) { return histogram.start + double(i) * LightHistogram::kStep; };
  for (std::size_t i = 0; i < rise.size(); i += stride) ties.push_back({sceneAt(i), rise[i] + offset});
  if (ties.back().scene < sceneAt(rise.size() - 1) - 1e-9) ties.push_back({sceneAt(rise.size() - 1), rise.back() + offset});
  // A dim middle is raised by bending the curve up between its ends (a smooth, monotone bend).
  const double middle = median + offset, lift = std::clamp(wanted - middle, 0.0, 1.9);
  const double first = ties.front().paper, last = ties.back().paper;
  for (Tie& tie : ties) {
    const double t = (tie.paper - first) / std::max(1e-6, last - first), tm = (middle - first) / std::max(1e-6, last - first);
    const double bump = t < tm ? t / std::max(tm, 1e-6) : (1 - t) / std::max(1 - tm, 1e-6);
    tie.paper += lift * bump * (2 - bump);
  }
  for (std::size_t i = 1; i < ties.size(); ++i) ties[i].paper = std::max(ties[i].paper, ties[i - 1].paper + 1e-3);
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
    const auto at = std::lower_bound(out.begin(), out.end(), p.scene, [](const Tie& tie, double scene) { return tie.scene < scene; });
    if (at != out.end() && at->scene - p.scene < 0.1) at->paper = p.paper, at->scene = p.scene;
    else if (at != out.begin() && p.scene - std::prev(at)->scene < 0.1) *std::prev(at) = p;
    else out.insert(at, p);
  }
  // Rising from the middle outwards, so that a pull wins over what lies beyond it.
  const std::size_t middle = out.size() / 2;
  for (std::size_t i = middle + 1; i < out.size(); ++i) out[i].paper = std::max(out[i].paper, out[i - 1].paper + kLeastRise * (out[i].scene - out[i - 1].scene));
  for (std::size_t i = middle; i-- > 0;) out[i].paper = std::min(out[i].paper, out[i + 1].paper - kLeastRise * (out[i + 1].scene - out[i].scene));
  return out;
}

} // namespace ml
