// SPDX-License-Identifier: GPL-3.0-or-later
#include "model/moved_places.h"

#include "pipeline/place_outline.h"

#include <algorithm>

namespace ml {
namespace {

QPainterPath pathOf(const std::vector<std::vector<Spot2>>& rings) {
  QPainterPath path;
  for (const auto& ring : rings) {
    QPolygonF polygon;
    for (const Spot2& p : ring) polygon << QPointF(p.x, p.y);
    polygon << polygon.front();
    path.addPolygon(polygon);
  }
  return path;
}

/// The middle of the widest row of cells.
QPointF middleOf(const CombineReport::Place& place, const Roi& crop) {
  int widest = 0;
  QPointF middle;
  for (std::size_t y = 0; y < place.rows.size(); ++y)
    for (const auto& run : place.rows[y]) {
      if (run.length <= widest) continue;
      widest = run.length;
      middle = {((place.cells.x + run.from + run.length / 2.0) * place.cell - crop.x) / crop.width,
                ((place.cells.y + double(y) + 0.5) * place.cell - crop.y) / crop.height};
    }
  return middle;
}

} // namespace

std::vector<MovedPlace> movedPlaces(const CombineReport& report, const std::vector<int>& numbers) {
  std::vector<MovedPlace> out;
  if (report.crop.width < 1 || report.crop.height < 1) return out;
  for (const auto& place : report.places) {
    MovedPlace drawn;
    drawn.outline = pathOf(outlineOf(place, report.crop));
    drawn.label = middleOf(place, report.crop);
    drawn.source = place.source;
    drawn.number = std::size_t(place.source) < numbers.size() ? numbers[std::size_t(place.source)] : place.source + 1;
    drawn.recording = place.recording;
    drawn.painted = place.painted;
    out.push_back(std::move(drawn));
  }
  return out;
}

SourceChoice::Point toReference(const CombineReport& report, double x, double y) {
  return {(report.crop.x + x * report.crop.width) / std::max(1, report.referenceWidth),
          (report.crop.y + y * report.crop.height) / std::max(1, report.referenceHeight)};
}

namespace {

bool holds(const CombineReport& report, const CombineReport::Place& place, const SourceChoice::Point& p) {
  return place.holds(p.x * report.referenceWidth, p.y * report.referenceHeight);
}

} // namespace

const CombineReport::Place* placeAt(const CombineReport& report, double x, double y) {
  const auto point = toReference(report, x, y);
  // What was painted lies last, and on top.
  const auto found = std::find_if(report.places.rbegin(), report.places.rend(),
                                  [&](const auto& place) { return holds(report, place, point); });
  return found == report.places.rend() || found->recording.size() < 2 ? nullptr : &*found;
}

int nextFrame(const CombineReport::Place& place) {
  const auto now = std::find(place.recording.begin(), place.recording.end(), place.source);
  return now == place.recording.end() || std::next(now) == place.recording.end() ? place.recording.front()
                                                                                 : *std::next(now);
}

std::vector<SourceChoice> withSource(const CombineReport& report, std::vector<SourceChoice> choices, double x, double y,
                                     int frame) {
  const CombineReport::Place* place = placeAt(report, x, y);
  if (!place) return choices;
  for (auto i = choices.rbegin(); i != choices.rend(); ++i) {
    if (place->painted != (i->radius > 0) || !holds(report, *place, i->stroke.front())) continue;
    i->frame = frame;
    return choices;
  }
  choices.push_back({{toReference(report, x, y)}, 0, frame});
  return choices;
}

} // namespace ml
