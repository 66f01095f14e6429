// SPDX-License-Identifier: GPL-3.0-or-later
#include "finish/areas.h"

#include "base/parallel.h"
#include "base/vector_clones.h"
#include "tone/base_layer.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace ml {
namespace {

constexpr double kWindowStops = 2.2;    ///< A window is brighter than the middle of its room by this and more.
constexpr double kLeastWindow = 0.0015; ///< Of the picture; smaller is a lamp or a glint.
constexpr int kEdgeReach = 4;           ///< Cells over which an area's border moves to the picture's edge.
constexpr double kEdgeSoftness = 0.2;   ///< Stops.

double smooth(double t) {
  t = std::clamp(t, 0.0, 1.0);
  return t * t * (3 - 2 * t);
}

double distanceTo(const Spot2& p, const Spot2& a, const Spot2& b, double aspect) {
  const double dx = b.x - a.x, dy = (b.y - a.y) / aspect, px = p.x - a.x, py = (p.y - a.y) / aspect,
               length = dx * dx + dy * dy;
  const double t = length > 0 ? std::clamp((px * dx + py * dy) / length, 0.0, 1.0) : 0;
  return std::hypot(px - t * dx, py - t * dy);
}

double brushed(const Area& area, const Spot2& p, double aspect) {
  double value = 0;
  for (const auto& stroke : area.strokes) {
    double nearest = 1e9;
    for (std::size_t i = 0; i < stroke.points.size(); ++i)
      nearest = std::min(nearest, distanceTo(p, stroke.points[i > 0 ? i - 1 : 0], stroke.points[i], aspect));
    const double inner = stroke.radius * (1 - area.softness),
                 covered = 1 - smooth((nearest - inner) / std::max(1e-6, stroke.radius - inner));
    value = stroke.erase ? value * (1 - covered) : std::max(value, covered);
  }
  return value;
}

ML_VECTOR_CLONES void addTimes(const float* mask, float amount, std::size_t n, float* __restrict sum) {
  for (std::size_t i = 0; i < n; ++i) sum[i] += amount * mask[i];
}

/// Sum of masks (one grid), each times its amount; empty when all amounts are 0.
LocalMap sumOf(const std::vector<const LocalMap*>& masks, const std::vector<double>& amounts) {
  LocalMap sum;
  if (std::all_of(amounts.begin(), amounts.end(), [](double a) { return a == 0; })) return sum;
  const Image<float>& grid = masks.front()->offset;
  sum = {Image<float>(grid.width(), grid.height(), 1), Image<float>(grid.width(), grid.height(), 1)};
  forEachBand(grid.height(), [&](const Band& band) {
    const std::size_t cells = std::size_t(band.end - band.begin) * std::size_t(grid.width());
    for (const auto part : {&LocalMap::slope, &LocalMap::offset}) {
      float* to = (sum.*part).row(band.begin);
      std::fill_n(to, cells, 0.f);
      for (std::size_t k = 0; k < masks.size(); ++k)
        if (amounts[k] != 0) addTimes((masks[k]->*part).row(band.begin), float(amounts[k]), cells, to);
    }
  });
  return sum;
}

struct Quantity {
  double Area::*amount;
  LocalMap AreaMaps::*map;
};
constexpr Quantity kQuantities[] = {{&Area::exposure, &AreaMaps::exposure},
                                    {&Area::warmth, &AreaMaps::warmth},
                                    {&Area::tint, &AreaMaps::tint},
                                    {&Area::saturation, &AreaMaps::saturation},
                                    {&Area::contrast, &AreaMaps::contrast}};

} // namespace

double coverageOf(const Area& area, Spot2 p, double aspect) {
  switch (area.shape) {
  case AreaShape::Oval: {
    const double t = area.angle * std::numbers::pi / 180, dx = p.x - area.a.x, dy = (p.y - area.a.y) / aspect;
    const double u = (dx * std::cos(t) + dy * std::sin(t)) / std::max(1e-4, area.b.x),
                 v = (-dx * std::sin(t) + dy * std::cos(t)) / std::max(1e-4, area.b.y / aspect);
    const double r = std::hypot(u, v), inner = 1 - area.softness;
    return 1 - smooth((r - inner) / std::max(0.02, area.softness));
  }
  case AreaShape::Ramp: {
    const double dx = area.b.x - area.a.x, dy = (area.b.y - area.a.y) / aspect, length = dx * dx + dy * dy;
    if (length <= 0) return 0;
    return 1 - smooth(((p.x - area.a.x) * dx + (p.y - area.a.y) / aspect * dy) / length);
  }
  case AreaShape::Brush: return brushed(area, p, aspect);
  default: return 0;
  }
}

Image<float> windowCells(const ToneAnalysis& analysis) {
  const Image<float>& log = analysis.logLight;
  const int w = log.width(), h = log.height();
  const float limit = float(analysis.histogram.below(0.5) + kWindowStops);
  Image<float> out(w, h, 1);
  for (std::size_t i = 0; i < out.size(); ++i) {
    out.data()[i] = analysis.base.slope.data()[i] * log.data()[i] + analysis.base.offset.data()[i] > limit ? 1.f : 0.f;
  }
  // Small pieces are lamps and glints.
  std::vector<int> stack;
  Image<std::uint8_t> seen(w, h, 1);
  seen.fill(0);
  for (int start = 0; start < w * h; ++start) {
    if (seen.data()[start] || out.data()[start] == 0) continue;
    std::vector<int> piece{start};
    seen.data()[start] = 1;
    stack = {start};
    while (!stack.empty()) {
      const int at = stack.back();
      stack.pop_back();
      const int x = at % w, y = at / w;
      for (const auto& [u, v] : {std::pair{x - 1, y}, {x + 1, y}, {x, y - 1}, {x, y + 1}}) {
        if (u < 0 || v < 0 || u >= w || v >= h || seen.data()[v * w + u] || out.data()[v * w + u] == 0) continue;
        seen.data()[v * w + u] = 1;
        stack.push_back(v * w + u);
        piece.push_back(v * w + u);
      }
    }
    if (double(piece.size()) < kLeastWindow * w * h)
      for (const int at : piece) out.data()[at] = 0;
  }
  return out;
}

Image<float> maskOf(const Area& area, const ToneAnalysis& analysis, const ShapeMap& shape) {
  const int w = analysis.logLight.width(), h = analysis.logLight.height();
  const double aspect = double(shape.width()) / std::max(1, shape.height());
  const bool found = isFound(area.shape);
  Image<float> mask = area.shape == AreaShape::Windows ? windowCells(analysis)
                      : found                          ? skyCells(analysis)
                                                       : Image<float>(w, h, 1);
  forEachBand(h, [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y)
      for (int x = 0; x < w; ++x) {
        float& m = mask.row(y)[x];
        if (!found) m = float(coverageOf(area, shape.toCombined({(x + 0.5) / w, (y + 0.5) / h}), aspect));
        const double light = analysis.logLight.row(y)[x];
        if (area.above) m *= float(smooth((light - *area.above) / 0.5 + 0.5));
        if (area.below) m *= float(smooth((*area.below - light) / 0.5 + 0.5));
        if (area.inverted) m = 1 - m;
      }
  });
  return mask;
}

LocalMap mapOf(const Area& area, const ToneAnalysis& analysis, const ShapeMap& shape) {
  const Image<float> mask = maskOf(area, analysis, shape);
  return area.followEdges || isFound(area.shape) ? followEdges(mask, analysis.logLight, kEdgeReach, kEdgeSoftness)
                                                 : plainMap(mask);
}

void AreaSums::update(const std::vector<Area>& areas, const ToneAnalysis& analysis, const ShapeMap& shape) {
  std::vector<Known> used;
  bool sameMasks = areas.size() == known_.size();
  for (std::size_t i = 0; i < areas.size(); ++i) {
    Area bare = areas[i];
    for (const Quantity& q : kQuantities) bare.*q.amount = 0;
    const auto found =
        std::find_if(known_.begin(), known_.end(), [&](const Known& k) { return k.bare == bare && !k.mask.empty(); });
    sameMasks = sameMasks && std::size_t(found - known_.begin()) == i;
    used.push_back(found != known_.end() ? std::move(*found) : Known{bare, mapOf(bare, analysis, shape)});
  }
  known_ = std::move(used);
  std::vector<const LocalMap*> masks;
  for (const Known& k : known_) masks.push_back(&k.mask);
  for (const Quantity& q : kQuantities) {
    std::vector<double> amounts, before;
    for (const Area& area : areas) amounts.push_back(area.*q.amount);
    for (const Area& area : summed_) before.push_back(area.*q.amount);
    if (!sameMasks || amounts != before) maps_.*q.map = sumOf(masks, amounts);
  }
  summed_ = areas;
}

void AreaSums::forget() {
  known_.clear();
  summed_.clear();
  maps_ = {};
}

} // namespace ml
