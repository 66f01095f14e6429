#include "judge/pair.h"

#include "align/register_pair.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <vector>

namespace ml {
namespace {

constexpr int kCell = 4;               ///< Sketch pixels.
constexpr double kLeastPiece = 0.0025; ///< Of the picture: smaller pieces are leaves, glints, far walkers.
constexpr double kMovedStops = 0.45;   ///< Beyond noise, misplacement and ripples of water.

double median(std::vector<double> values) {
  if (values.empty()) return 0;
  const auto middle = values.begin() + long(values.size() / 2);
  std::nth_element(values.begin(), middle, values.end());
  return *middle;
}

double quantile(std::vector<double>& values, double q) {
  const auto place = values.begin() + long(q * double(values.size() - 1));
  std::nth_element(values.begin(), place, values.end());
  return *place;
}

void place(const Sketch& a, const Sketch& b, PairMeasure& m) {
  // A frame of the same set lies near; only when nothing fits there is the whole neighbourhood searched.
  PairFit fit = registerPair(a.pyramid, b.pyramid, {}, AlignMode::Rigid, false);
  if (fit.correlation < 0.8) fit = registerPair(a.pyramid, b.pyramid, {}, AlignMode::Rigid, true);
  m.placed = fit.informative > 0.004 && fit.correlation > 0.4;
  if (!m.placed) return;
  m.transform = fit.transform;
  const double cx = (a.width - 1) / 2.0, cy = (a.height - 1) / 2.0;
  double u, v;
  m.transform.map(cx, cy, u, v);
  m.shiftX = u - cx;
  m.shiftY = v - cy;
  m.degrees = std::atan2(m.transform.h[3], m.transform.h[0]) * 180 / std::numbers::pi;
}

/// ln of the second's structure over the first's along one axis (0 across, 1 down), over blocks of which one shows structure that
/// the other's noise could not hide. The upper fifth of the ratios says how sharp the second can be, the lower fifth the first:
/// moving water blurs its own blocks, not all of them.
double structureRatio(const Sketch& a, const Sketch& b, int axis, int& blocks) {
  std::vector<double> ratios;
  for (int y = 0; y < std::min(a.structure.height(), b.structure.height()); ++y)
    for (int x = 0; x < std::min(a.structure.width(), b.structure.width()); ++x) {
      const float *ea = a.structure.at(x, y), *eb = b.structure.at(x, y);
      if (ea[0] < 0 || eb[0] < 0) continue;
      const double noise = std::max(ea[2], eb[2]), sa = std::max(0.f, ea[axis] - ea[2]), sb = std::max(0.f, eb[axis] - eb[2]);
      if (std::max(sa, sb) < 6 * noise || std::max(sa, sb) < 1e-4) continue;
      ratios.push_back(std::log((sb + 0.3 * noise + 1e-6) / (sa + 0.3 * noise + 1e-6)));
    }
  blocks = int(ratios.size());
  if (blocks < PairMeasure::kEnoughBlocks) return 0;
  const double upper = quantile(ratios, 0.8), lower = quantile(ratios, 0.2);
  return upper < 0 ? upper : lower > 0 ? lower : 0;
}

/// A shake blurs along its own direction only, so the axis that differs more decides.
void compareStructure(const Sketch& a, const Sketch& b, PairMeasure& m) {
  int across = 0, down = 0;
  const double x = structureRatio(a, b, 0, across), y = structureRatio(a, b, 1, down);
  m.structuredBlocks = std::max(across, down);
  m.sharpness = std::abs(x) > std::abs(y) ? x : y;
}

struct Cell {
  bool comparable = false;
  bool contradicts = false; ///< Saturated in one frame, and in the other a stop or more below where it should be.
  double rgb[3] = {};   ///< log2 of second over first, less the exposures' ratio.
  double tolerance = 0; ///< Stops that noise and misplacement explain.
  double tone = 0;      ///< log2 of the first's green.
};

enum class Tone { Recorded, Saturated, Unknown };

/// Mean of a block of `s` whose corner lies at (x, y) of the sketch, fractions allowed. Saturated when nearly all of it clips;
/// unknown outside and where only a part clips.
Tone blockMean(const Sketch& s, double x, double y, double rgb[3]) {
  const int ix = int(std::floor(x)), iy = int(std::floor(y));
  if (ix < 0 || iy < 0 || ix + kCell >= s.light.width() || iy + kCell >= s.light.height()) return Tone::Unknown;
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
  return clipped == 0 ? Tone::Recorded : clipped > 0.95 * kCell * kCell ? Tone::Saturated : Tone::Unknown;
}

/// Standard deviation of a cell's mean in stops.
double noiseStops(const Sketch& s, double mean) {
  const double pixels = double(kCell * s.scale) * (kCell * s.scale) / 3; // neighbours share values after demosaicing
  return std::sqrt(s.noise.variance(mean) / pixels) / mean / std::numbers::ln2;
}

Cell compareCell(const Sketch& a, const Sketch& b, const Transform& onSketch, int cx, int cy, double exposureRatio) {
  Cell cell;
  double ma[3], mb[3], u, v;
  onSketch.map(cx * kCell + (kCell - 1) / 2.0, cy * kCell + (kCell - 1) / 2.0, u, v);
  const Tone ta = blockMean(a, cx * kCell, cy * kCell, ma), tb = blockMean(b, u - (kCell - 1) / 2.0, v - (kCell - 1) / 2.0, mb);
  if (ta == Tone::Unknown || tb == Tone::Unknown) return cell;
  if (ta != tb) {
    // One frame saturates: by the exposures the other should stand above this; far below it, something else stands there.
    const double below = ta == Tone::Saturated ? exposureRatio - std::log2(mb[1]) : -exposureRatio - std::log2(ma[1]);
    cell.contradicts = below > 1 && std::min(ma[1], mb[1]) > 6e-4;
    return cell;
  }
  if (ta == Tone::Saturated) return cell;
  for (int c = 0; c < 3; ++c)
    if (ma[c] < 6e-4 || mb[c] < 6e-4) return cell;
  const double noise = std::hypot(noiseStops(a, ma[1]), noiseStops(b, mb[1]));
  if (noise > 0.12) return cell;
  cell.comparable = true;
  for (int c = 0; c < 3; ++c) cell.rgb[c] = std::log2(mb[c] / ma[c]) - exposureRatio;
  cell.tone = std::log2(ma[1]);
  cell.tolerance = kMovedStops + 3 * noise;
  return cell;
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
  for (std::size_t i = 0; i < cells.size(); ++i) moved[i] = cells[i].contradicts || (cells[i].comparable && std::abs(cells[i].rgb[1] - m.light) > cells[i].tolerance);
  // A lone cell is a glint; what matters hangs together.
  std::vector<char> seen(cells.size(), 0);
  std::vector<int> stack;
  int sum = 0;
  const int least = std::max(3, int(kLeastPiece * w * h));
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
    if (size < least) continue;
    sum += size;
    left = std::min(left, x0), right = std::max(right, x1), top = std::min(top, y0), bottom = std::max(bottom, y1);
  }
  m.movedShare = double(sum) / double(w * h);
  const int cell = kCell * a.scale;
  if (right >= 0) m.movedPlace = {left * cell, top * cell, (right - left + 1) * cell, (bottom - top + 1) * cell};
}

} // namespace

PairMeasure measurePair(const Sketch& a, const Sketch& b) {
  PairMeasure m;
  if (a.width != b.width || a.height != b.height) return m;
  place(a, b, m);
  compareStructure(a, b, m);
  const Transform onSketch = m.transform.scaled(1.0 / a.scale);
  const double ratio = std::log2(relativeExposure(b.settings) / relativeExposure(a.settings));
  const int w = a.light.width() / kCell, h = a.light.height() / kCell;
  std::vector<Cell> cells(std::size_t(w) * h);
  std::vector<double> green, red, blue;
  for (int y = 0; y < h; ++y)
    for (int x = 0; x < w; ++x) {
      Cell& cell = cells[std::size_t(y) * w + x];
      cell = compareCell(a, b, onSketch, x, y, ratio);
      if (!cell.comparable) continue;
      green.push_back(cell.rgb[1]);
      red.push_back(cell.rgb[0] - cell.rgb[1]);
      blue.push_back(cell.rgb[2] - cell.rgb[1]);
    }
  m.comparable = double(green.size()) / std::max(1, w * h);
  m.light = median(std::move(green));
  // The sensor's own channels are compared; a changed white balance of raw files stands in the balance alone.
  const auto balance = [&](std::size_t c) {
    return std::log2(double(b.saturation[c]) * a.saturation[1] / (double(b.saturation[1]) * a.saturation[c]));
  };
  m.redGreen = median(std::move(red)) + balance(0);
  m.blueGreen = median(std::move(blue)) + balance(2);
  allowForEdges(cells, w, h);
  findMoved(cells, w, h, a, m);
  return m;
}

} // namespace ml
