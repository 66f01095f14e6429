// SPDX-License-Identifier: GPL-3.0-or-later
#include "judge/pair.h"

#include "align/register_pair.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>
#include <vector>

namespace ml {
namespace {

constexpr int kCell = 4;               ///< Sketch pixels.
constexpr double kLeastPiece = 0.0025; ///< Of the picture: smaller pieces are leaves, glints, far walkers.
constexpr double kSmallPiece = 0.0012; ///< Somebody far away, or half hidden; only together with other evidence.
constexpr double kMovedStops = 0.45;   ///< Beyond noise, misplacement and ripples of water.

constexpr double kCurveBend = 0.33; ///< Stops that a tone may differ everywhere and be the curve's.
constexpr double kMayBeCut = 0.7;   ///< Of clipping: rendered colours above it may be cut.
constexpr double kOverCut = 1.5; ///< The same in a cell that is clipped in part, at an edge: glare and a quarter of a
                                 ///< cell of misplacement stay below.
constexpr double kOverSaturated =
    0.65; ///< Stops that light should be over saturation and is not: more than noise, glare and edges explain.

double median(std::vector<double> values) {
  if (values.empty()) return 0;
  const auto middle = values.begin() + long(values.size() / 2);
  std::nth_element(values.begin(), middle, values.end());
  return *middle;
}

struct Cell {
  bool comparable = false;
  bool contradicts = false; ///< Saturated in one frame, and in the other a stop or more below where it should be.
  double green = 0;         ///< log2 of second over first, less the exposures' ratio.
  double tolerance = 0;     ///< Stops that noise and misplacement explain.
  double tone = 0;          ///< log2 of the first's green.
};

enum class Tone { Recorded, Saturated, AtLeast, Unknown };

/// Reaches the block with its corner at (x, y) beyond the circles that two fisheyes leave?
bool besideCircles(const Sketch& s, double x, double y) {
  if (!s.circles) return false;
  for (const FisheyeCircle& circle : *s.circles) {
    const double dx = std::max(std::abs(x - circle.x), std::abs(x + kCell - circle.x)),
                 dy = std::max(std::abs(y - circle.y), std::abs(y + kCell - circle.y));
    if (std::hypot(dx, dy) < circle.radius) return false;
  }
  return true;
}

/// Mean of a block of `s` whose corner lies at (x, y) of the sketch, fractions allowed. Saturated when nearly all of it
/// clips; a lower bound where a part clips; unknown outside.
Tone blockMean(const Sketch& s, double x, double y, double rgb[3]) {
  const int ix = int(std::floor(x)), iy = int(std::floor(y));
  if (ix < 0 || iy < 0 || ix + kCell >= s.light.width() || iy + kCell >= s.light.height()) return Tone::Unknown;
  if (besideCircles(s, x, y)) return Tone::Unknown;
  const double fx = x - ix, fy = y - iy;
  double clipped = 0;
  rgb[0] = rgb[1] = rgb[2] = 0;
  for (int v = 0; v <= kCell; ++v)
    for (int u = 0; u <= kCell; ++u) {
      const double weight = (u == 0 ? 1 - fx : u == kCell ? fx : 1) * (v == 0 ? 1 - fy : v == kCell ? fy : 1);
      if (weight <= 0) continue;
      clipped += weight * *s.clipped.at(ix + u, iy + v) / 255.0;
      for (int c = 0; c < 3; ++c) rgb[c] += weight * s.light.at(ix + u, iy + v)[c];
    }
  for (int c = 0; c < 3; ++c) rgb[c] /= kCell * kCell;
  return clipped == 0 ? Tone::Recorded : clipped > 0.95 * kCell * kCell ? Tone::Saturated : Tone::AtLeast;
}

/// Standard deviation of a cell's mean in stops.
double noiseStops(const Sketch& s, double mean) {
  const double samples = double(kCell * s.scale) * (kCell * s.scale) * s.independent;
  return std::sqrt(s.noise.variance(mean) / samples) / mean / std::numbers::ln2;
}

Cell compareCell(const Sketch& a, const Sketch& b, const Transform& onSketch, int cx, int cy, const PairLight& light) {
  Cell cell;
  double ma[3], mb[3], u, v;
  onSketch.map(cx * kCell + (kCell - 1) / 2.0, cy * kCell + (kCell - 1) / 2.0, u, v);
  const Tone ta = blockMean(a, cx * kCell, cy * kCell, ma),
             tb = blockMean(b, u - (kCell - 1) / 2.0, v - (kCell - 1) / 2.0, mb);
  if (ta == Tone::Unknown || tb == Tone::Unknown) return cell;
  if (ta == Tone::AtLeast || tb == Tone::AtLeast) {
    // More light than the other frame foretells, and only part of it counted: something else stands there. Of linear
    // frames: a curve ends unsurely.
    const double more = std::log2(std::max(1e-9, mb[1]) / std::max(1e-9, ma[1])) - light.stops;
    const bool linear = !light.tones && !light.cutBeforeMatrix && std::min(ma[1], mb[1]) > 6e-4;
    cell.contradicts = linear && ((tb == Tone::AtLeast && ta == Tone::Recorded && more > kOverCut) ||
                                  (ta == Tone::AtLeast && tb == Tone::Recorded && more < -kOverCut));
    return cell;
  }
  const double coding =
      light.tones && ta == tb ? light.tones->stopsPerCode(ma[1]) + light.tones->stopsPerCode(mb[1]) : 0;
  if (light.tones)
    for (int c = 0; c < 3; ++c) ma[c] = light.tones->at(c, ma[c]), mb[c] = light.tones->at(c, mb[c]);
  if (ta != tb) {
    // One frame saturates: by the exposures the other should stand above this; far below it, something else stands
    // there.
    const double* seen = ta == Tone::Saturated ? mb : ma;
    const double level = std::max({seen[0], seen[1], seen[2]}); // any channel may be the one that saturates
    const double below = (ta == Tone::Saturated ? light.stops : -light.stops) - std::log2(level);
    cell.contradicts = below > kOverSaturated + light.unknown && std::min({seen[0], seen[1], seen[2]}) > 6e-4;
    return cell;
  }
  if (ta == Tone::Saturated) return cell;
  for (int c = 0; c < 3; ++c)
    if (ma[c] < 6e-4 || mb[c] < 6e-4) return cell;
  const double most = std::max({ma[0], ma[1], ma[2]}), seen = std::max({mb[0], mb[1], mb[2]});
  if (light.cutBeforeMatrix && std::max(most, seen) > kMayBeCut) {
    // Cut colours can only be told from what is far too dark or far too bright.
    const double expected = most * std::exp2(light.stops), unsure = std::exp2(light.unknown);
    cell.contradicts = (expected > 1.6 * unsure && seen < 0.82) || (expected < 0.45 / unsure && seen > kMayBeCut);
    return cell;
  }
  const double noise = std::hypot(noiseStops(a, ma[1]), noiseStops(b, mb[1]));
  if (noise > 0.12) return cell;
  cell.comparable = true;
  cell.green = std::log2(mb[1] / ma[1]) - light.stops;
  cell.tone = std::log2(ma[1]);
  cell.tolerance = kMovedStops + light.unknown + 3 * noise + coding;
  return cell;
}

/// What all cells of a tone differ by is the curve's: it is taken off, up to kCurveBend.
void straightenTones(std::vector<Cell>& cells, double light) {
  constexpr int kBins = 24;
  constexpr std::size_t kEnough = 30;
  std::array<std::vector<double>, kBins> differences;
  const auto bin = [](double tone) { return std::size_t(std::clamp(int(2 * (tone + 11)), 0, kBins - 1)); };
  for (const Cell& cell : cells)
    if (cell.comparable) differences[bin(cell.tone)].push_back(cell.green - light);
  std::array<double, kBins> bend{};
  for (std::size_t i = 0; i < kBins; ++i)
    if (differences[i].size() >= kEnough) bend[i] = std::clamp(median(differences[i]), -kCurveBend, kCurveBend);
  for (Cell& cell : cells)
    if (cell.comparable) cell.green -= bend[bin(cell.tone)];
}

/// Steps of tone beside a cell: what a misplacement of a quarter cell would make of them.
void allowForEdges(std::vector<Cell>& cells, int w, int h) {
  for (int y = 0; y < h; ++y)
    for (int x = 0; x < w; ++x) {
      Cell& cell = cells[std::size_t(y) * w + x];
      if (!cell.comparable) continue;
      double steepest = 0;
      for (const auto& [dx, dy] : {std::pair{-1, 0}, {1, 0}, {0, -1}, {0, 1}}) {
        const int u = x + dx, v = y + dy;
        if (u < 0 || v < 0 || u >= w || v >= h || !cells[std::size_t(v) * w + u].comparable) continue;
        steepest = std::max(steepest, std::abs(cells[std::size_t(v) * w + u].tone - cell.tone));
      }
      cell.tolerance += 0.2 * steepest;
    }
}

void findMoved(const std::vector<Cell>& cells, int w, int h, const Sketch& a, PairMeasure& m) {
  std::vector<char> moved(cells.size(), 0);
  for (std::size_t i = 0; i < cells.size(); ++i)
    moved[i] = cells[i].contradicts || (cells[i].comparable && std::abs(cells[i].green - m.light) > cells[i].tolerance);
  // A lone cell is a glint; what matters hangs together.
  std::vector<char> seen(cells.size(), 0);
  std::vector<int> stack;
  int sum = 0, small = 0;
  const int least = std::max(3, int(kLeastPiece * w * h)), leastSmall = std::max(3, int(kSmallPiece * w * h));
  int left = w, top = h, right = -1, bottom = -1;
  for (int start = 0; start < w * h; ++start) {
    if (!moved[std::size_t(start)] || seen[std::size_t(start)]) continue;
    int size = 0, x0 = w, y0 = h, x1 = 0, y1 = 0;
    stack.assign(1, start);
    seen[std::size_t(start)] = 1;
    while (!stack.empty()) {
      const int i = stack.back(), x = i % w, y = i / w;
      stack.pop_back();
      ++size;
      x0 = std::min(x0, x), x1 = std::max(x1, x), y0 = std::min(y0, y), y1 = std::max(y1, y);
      for (const auto& [dx, dy] : {std::pair{-1, 0}, {1, 0}, {0, -1}, {0, 1}}) {
        const int u = x + dx, v = y + dy;
        if (u < 0 || v < 0 || u >= w || v >= h) continue;
        const auto j = std::size_t(v) * w + u;
        if (moved[j] && !seen[j]) {
          seen[j] = 1;
          stack.push_back(int(j));
        }
      }
    }
    if (size >= leastSmall) small += size;
    if (size < leastSmall || (size < least && sum > 0)) continue;
    sum += size >= least ? size : 0;
    left = std::min(left, x0), right = std::max(right, x1), top = std::min(top, y0), bottom = std::max(bottom, y1);
  }
  m.movedShare = double(sum) / double(w * h);
  m.movedSmall = double(small) / double(w * h);
  const int cell = kCell * a.scale;
  if (right >= 0) m.movedPlace = {left * cell, top * cell, (right - left + 1) * cell, (bottom - top + 1) * cell};
}

} // namespace

PairPlace placePair(const Sketch& a, const Sketch& b) {
  PairPlace out;
  if (a.width != b.width || a.height != b.height) return out;
  // A frame of the same set lies near; only when nothing fits there is the whole neighbourhood searched.
  PairFit fit = registerPair(a.pyramid, b.pyramid, {}, AlignMode::Rigid, false);
  if (fit.correlation < 0.8) fit = registerPair(a.pyramid, b.pyramid, {}, AlignMode::Rigid, true);
  out.placed = fit.informative > 0.004 && fit.correlation > 0.4;
  if (!out.placed) return out;
  constexpr double kExact = 0.65, kAtRest = 0.5; // pixels
  out.exact = fit.transform.isIdentity() || fit.residual <= kExact;
  out.moved = fit.proof >= kProven;
  out.rests = !out.moved && fit.still > 0 && fit.still < kAtRest;
  out.transform = fit.transform;
  const double cx = (a.width - 1) / 2.0, cy = (a.height - 1) / 2.0;
  double u, v;
  out.transform.map(cx, cy, u, v);
  out.shiftX = u - cx;
  out.shiftY = v - cy;
  out.degrees = std::atan2(out.transform.h[3], out.transform.h[0]) * 180 / std::numbers::pi;
  return out;
}

ToneReading::ToneReading(const CodeTable& assumed, const CodeTable& found) {
  for (std::size_t c = 0; c < 3; ++c) {
    const float *from = assumed.channel(int(c)), *to = found.channel(int(c));
    int code = 0;
    for (int i = 0; i <= kSteps; ++i) {
      const float light = float(i) / kSteps * float(i) / kSteps;
      while (code + 2 < assumed.size() && from[code + 1] < light) ++code;
      const float t = std::clamp((light - from[code]) / std::max(1e-9f, from[code + 1] - from[code]), 0.f, 1.f);
      found_[c].push_back(to[code] + t * (to[code + 1] - to[code]));
    }
  }
}

double ToneReading::at(int channel, double light) const {
  const auto& found = found_[std::size_t(channel)];
  const double at = std::sqrt(std::clamp(light, 0.0, 1.0)) * kSteps;
  const auto i = std::min(std::size_t(at), std::size_t(kSteps - 1));
  return found[i] + (at - double(i)) * (found[i + 1] - found[i]);
}

double ToneReading::stopsPerCode(double light) const {
  const double code = srgbEncode(std::clamp(light, 0.0, 1.0)), half = 1 / 512.0;
  const double low = at(1, srgbDecode(std::max(0.0, code - half))),
               high = at(1, srgbDecode(std::min(1.0, code + half)));
  return std::log2(std::max(1e-6, high) / std::max(1e-6, low));
}

PairMeasure measurePair(const Sketch& a, const Sketch& b, const PairPlace& place, const PairLight& light) {
  PairMeasure m;
  m.place = place;
  if (a.width != b.width || a.height != b.height) return m;
  const Transform onSketch = place.transform.scaled(1.0 / a.scale);
  const int w = a.light.width() / kCell, h = a.light.height() / kCell;
  std::vector<Cell> cells(std::size_t(w) * h);
  std::vector<double> green;
  for (int y = 0; y < h; ++y)
    for (int x = 0; x < w; ++x) {
      Cell& cell = cells[std::size_t(y) * w + x];
      cell = compareCell(a, b, onSketch, x, y, light);
      if (cell.comparable) green.push_back(cell.green);
    }
  m.comparable = double(green.size()) / std::max(1, w * h);
  m.light = median(std::move(green));
  if (light.cutBeforeMatrix) straightenTones(cells, m.light);
  // A changed white balance of raw files stands in the balance alone.
  const auto balance = [&](std::size_t c) {
    return std::log2(double(b.saturation[c]) * a.saturation[1] / (double(b.saturation[1]) * a.saturation[c]));
  };
  m.redGreen = balance(0);
  m.blueGreen = balance(2);
  allowForEdges(cells, w, h);
  findMoved(cells, w, h, a, m);
  return m;
}

PairMeasure measurePair(const Sketch& a, const Sketch& b) {
  return measurePair(a, b, placePair(a, b),
                     {std::log2(relativeExposure(b.settings) / relativeExposure(a.settings)), nullptr,
                      a.curveAssumed ? 0.3 : 0, a.curveAssumed});
}

} // namespace ml
