#include "finish/areas.h"

#include "base/parallel.h"
#include "tone/base_layer.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace ml {
namespace {

constexpr double kWindowStops = 2.2;     ///< A window is brighter than the middle of its room by this and more.
constexpr double kLeastWindow = 0.0015;  ///< Of the picture; smaller is a lamp or a glint.
constexpr int kEdgeReach = 4;            ///< Cells over which an area's border moves to the picture's edge.
constexpr double kEdgeSoftness = 0.2;    ///< Stops.

double smooth(double t) {
  t = std::clamp(t, 0.0, 1.0);
  return t * t * (3 - 2 * t);
}

double distanceTo(const Spot2& p, const Spot2& a, const Spot2& b, double aspect) {
  const double dx = b.x - a.x, dy = (b.y - a.y) / aspect, px = p.x - a.x, py = (p.y - a.y) / aspect, length = dx * dx + dy * dy;
  const double t = length > 0 ? std::clamp((px * dx + py * dy) / length, 0.0, 1.0) : 0;
  return std::hypot(px - t * dx, py - t * dy);
}

double brushed(const Area& area, const Spot2& p, double aspect) {
  double value = 0;
  for (const auto& stroke : area.strokes) {
    double nearest = 1e9;
    for (std::size_t i = 0; i < stroke.points.size(); ++i) nearest = std::min(nearest, distanceTo(p, stroke.points[i > 0 ? i - 1 : 0], stroke.points[i], aspect));
    const double inner = stroke.radius * (1 - area.softness), covered = 1 - smooth((nearest - inner) / std::max(1e-6, stroke.radius - inner));
    value = stroke.erase ? value * (1 - covered) : std::max(value, covered);
  }
  return value;
}

/// Added to `into`, which is made when it is empty.
void add(LocalMap& into, const LocalMap& mask, double amount) {
  if (amount == 0) return;
  if (into.empty()) {
    into.coefficients = Image<float>(mask.coefficients.width(), mask.coefficients.height(), 2);
    into.coefficients.fill(0);
  }
  for (std::size_t i = 0; i < into.coefficients.size(); ++i) into.coefficients.data()[i] += float(amount) * mask.coefficients.data()[i];
}

} // namespace

double coverageOf(const Area& area, Spot2 p, double aspect) {
  switch (area.shape) {
  case AreaShape::Oval: {
    const double t = area.angle * std::numbers::pi / 180, dx = p.x - area.a.x, dy = (p.y - area.a.y) / aspect;
    const double u = (dx * std::cos(t) + dy * std::sin(t)) / std::max(1e-4, area.b.x), v = (-dx * std::sin(t) + dy * std::cos(t)) / std::max(1e-4, area.b.y / aspect);
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
    const float* c = analysis.base.coefficients.data() + 2 * i;
    out.data()[i] = c[0] * log.data()[i] + c[1] > limit ? 1.f : 0.f;
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
  Image<float> mask = area.shape == AreaShape::Windows ? windowCells(analysis) : Image<float>(w, h, 1);
  forEachBand(h, [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y)
      for (int x = 0; x < w; ++x) {
        float& m = mask.row(y)[x];
        if (area.shape != AreaShape::Windows) m = float(coverageOf(area, shape.toCombined({(x + 0.5) / w, (y + 0.5) / h}), aspect));
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
  return area.followEdges || area.shape == AreaShape::Windows ? followEdges(mask, analysis.logLight, kEdgeReach, kEdgeSoftness) : plainMap(mask);
}

void addMoves(AreaMaps& maps, const LocalMap& mask, const Area& area) {
  add(maps.exposure, mask, area.exposure);
  add(maps.warmth, mask, area.warmth);
  add(maps.tint, mask, area.tint);
  add(maps.saturation, mask, area.saturation);
  add(maps.contrast, mask, area.contrast);
}

} // namespace ml
