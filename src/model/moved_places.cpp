// SPDX-License-Identifier: GPL-3.0-or-later
#include "model/moved_places.h"

#include <algorithm>

namespace ml {
namespace {

constexpr int kLeastDrawn = 12;       ///< Cells.
constexpr double kLeastRing = 0.0012; ///< Of the picture.

/// The place's cells as an outline on the picture; its label goes into the widest row.
MovedPlace drawn(const CombineReport::Place& place, const Roi& crop) {
  MovedPlace out;
  QPainterPath path;
  path.setFillRule(Qt::WindingFill);
  const double cell = place.cell;
  int widest = 0;
  for (std::size_t y = 0; y < place.rows.size(); ++y)
    for (const auto& run : place.rows[y]) {
      const double left = (place.cells.x + run.from) * cell - crop.x, top = (place.cells.y + double(y)) * cell - crop.y;
      // A little overlap, so that rows join into one outline.
      path.addRect(left / crop.width, top / crop.height, run.length * cell / crop.width, 1.02 * cell / crop.height);
      if (run.length <= widest) continue;
      widest = run.length;
      out.label = {(left + run.length * cell / 2) / crop.width, (top + cell / 2) / crop.height};
    }
  // Only outlines worth seeing: neither pinholes nor crumbs.
  for (const QPolygonF& ring : path.simplified().toSubpathPolygons())
    if (const QRectF box = ring.boundingRect(); box.width() * box.height() > kLeastRing) out.outline.addPolygon(ring);
  if (out.outline.isEmpty()) out.outline = path.simplified();
  out.source = place.source;
  out.recording = place.recording;
  out.painted = place.painted;
  return out;
}

int cellsOf(const CombineReport::Place& place) {
  int cells = 0;
  for (const auto& row : place.rows)
    for (const auto& run : row) cells += run.length;
  return cells;
}

} // namespace

std::vector<MovedPlace> movedPlaces(const CombineReport& report) {
  std::vector<MovedPlace> out;
  if (report.crop.width < 1 || report.crop.height < 1) return out;
  for (const auto& place : report.places)
    if (cellsOf(place) >= kLeastDrawn) out.push_back(drawn(place, report.crop));
  return out;
}

SourceChoice::Point toReference(const CombineReport& report, double x, double y) {
  return {(report.crop.x + x * report.crop.width) / std::max(1, report.referenceWidth),
          (report.crop.y + y * report.crop.height) / std::max(1, report.referenceHeight)};
}

std::optional<std::vector<SourceChoice>> nextSource(const CombineReport& report,
                                                    const std::vector<SourceChoice>& choices, double x, double y) {
  const auto point = toReference(report, x, y);
  const auto holds = [&](const CombineReport::Place& place, const SourceChoice::Point& p) {
    return place.holds(p.x * report.referenceWidth, p.y * report.referenceHeight);
  };
  // What was painted lies last, and on top.
  const auto found = std::find_if(report.places.rbegin(), report.places.rend(),
                                  [&](const auto& place) { return holds(place, point); });
  if (found == report.places.rend() || found->recording.size() < 2) return {};
  const auto now = std::find(found->recording.begin(), found->recording.end(), found->source);
  const int next = now == found->recording.end() || std::next(now) == found->recording.end() ? found->recording.front()
                                                                                             : *std::next(now);
  std::vector<SourceChoice> out = choices;
  for (auto i = out.rbegin(); i != out.rend(); ++i) {
    if (found->painted != (i->radius > 0) || !holds(*found, i->stroke.front())) continue;
    i->frame = next;
    return out;
  }
  out.push_back({{point}, 0, next});
  return out;
}

} // namespace ml
