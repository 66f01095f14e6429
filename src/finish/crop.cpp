// SPDX-License-Identifier: GPL-3.0-or-later
#include "finish/crop.h"

#include <algorithm>
#include <cmath>

namespace ml {
namespace {
constexpr double kLeast = 0.05;
constexpr double kGolden = 0.6180339887498949; ///< (sqrt 5 - 1) / 2.
} // namespace

std::vector<GuideLine> guideLines(CropGuide guide) {
  const auto cross = [](std::initializer_list<double> at) {
    std::vector<GuideLine> lines;
    for (const double v : at) {
      lines.push_back({{v, 0}, {v, 1}});
      lines.push_back({{0, v}, {1, v}});
    }
    return lines;
  };
  switch (guide) {
  case CropGuide::Thirds: return cross({1 / 3.0, 2 / 3.0});
  case CropGuide::Golden: return cross({1 - kGolden, kGolden});
  case CropGuide::Middle: return cross({0.5});
  case CropGuide::Diagonals: return {{{0, 0}, {1, 1}}, {{0, 1}, {1, 0}}};
  case CropGuide::None: break;
  }
  return {};
}

CropBox draggedBox(Spot2 from, Spot2 to, double ratio, double aspect) {
  const auto held = [](double v) { return std::clamp(v, 0.0, 1.0); };
  from = {held(from.x), held(from.y)}, to = {held(to.x), held(to.y)};
  double w = std::abs(to.x - from.x), h = std::abs(to.y - from.y);
  if (ratio > 0 && w > 0 && h > 0) {
    const double wanted = w * aspect >= h ? ratio : 1 / ratio; // of pixels
    if (w * aspect > h * wanted)
      w = h * wanted / aspect;
    else
      h = w * aspect / wanted;
  }
  const double x = to.x >= from.x ? from.x : from.x - w, y = to.y >= from.y ? from.y : from.y - h;
  return {x, y, x + w, y + h};
}

Geometry cutTo(const Geometry& was, const CropBox& box) {
  Geometry g = was;
  g.cropX = was.cropX + box.x0 * was.cropWidth, g.cropWidth = std::max(kLeast, (box.x1 - box.x0) * was.cropWidth);
  g.cropY = was.cropY + box.y0 * was.cropHeight, g.cropHeight = std::max(kLeast, (box.y1 - box.y0) * was.cropHeight);
  g.cropX = std::clamp(g.cropX, 0.0, 1 - g.cropWidth), g.cropY = std::clamp(g.cropY, 0.0, 1 - g.cropHeight);
  return g;
}

Geometry cutToRatio(const Geometry& was, double ratio, double aspect) {
  if (!(ratio > 0)) return was;
  const double now = was.cropWidth * aspect / was.cropHeight, wanted = now >= 1 ? ratio : 1 / ratio;
  const double w = now > wanted ? wanted / now : 1, h = now > wanted ? 1 : now / wanted;
  return cutTo(was, {(1 - w) / 2, (1 - h) / 2, (1 + w) / 2, (1 + h) / 2});
}

std::vector<Spot2> clockwise(std::vector<Spot2> points) {
  if (points.size() != 4) return points;
  double cx = 0, cy = 0;
  for (const Spot2& p : points) cx += p.x / 4, cy += p.y / 4;
  // Down is positive, so a rising angle goes clockwise.
  std::sort(points.begin(), points.end(), [&](const Spot2& a, const Spot2& b) {
    return std::atan2(a.y - cy, a.x - cx) < std::atan2(b.y - cy, b.x - cx);
  });
  const auto first = std::min_element(points.begin(), points.end(),
                                      [](const Spot2& a, const Spot2& b) { return a.x + a.y < b.x + b.y; });
  std::rotate(points.begin(), first, points.end());
  return points;
}

} // namespace ml
