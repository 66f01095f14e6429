#include "model/moved_places.h"

#include <algorithm>

namespace ml {
namespace {

struct Window {
  double x = 0, y = 0, width = 1, height = 1; ///< The crop, pixels.
  double fullWidth = 1, fullHeight = 1;       ///< The reference frame.
};

Window windowOf(const nlohmann::json& report) {
  Window w;
  if (report.contains("crop") && report["crop"].is_array() && report["crop"].size() == 4)
    w = {report["crop"][0], report["crop"][1], report["crop"][2], report["crop"][3], 1, 1};
  w.fullWidth = report.value("reference_width", w.width);
  w.fullHeight = report.value("reference_height", w.height);
  return w;
}

/// Is the cell that holds reference pixel (px, py) part of the place?
bool holds(const nlohmann::json& place, double px, double py) {
  const int cell = place.value("cell", 4), cx = int(px) / cell - place.value("x", 0), cy = int(py) / cell - place.value("y", 0);
  if (cy < 0 || !place.contains("rows") || cy >= int(place["rows"].size())) return false;
  for (const auto& run : place["rows"][std::size_t(cy)])
    if (cx >= run[0].get<int>() && cx < run[0].get<int>() + run[1].get<int>()) return true;
  return false;
}

constexpr int kLeastDrawn = 12;      ///< Cells.
constexpr double kLeastRing = 0.0012; ///< Of the picture.

} // namespace

std::vector<MovedPlace> movedPlaces(const nlohmann::json& report) {
  std::vector<MovedPlace> out;
  if (!report.contains("places")) return out;
  const Window w = windowOf(report);
  for (const auto& place : report["places"]) {
    MovedPlace p;
    const double cell = place.value("cell", 4), x0 = place.value("x", 0), y0 = place.value("y", 0);
    QPainterPath path;
    path.setFillRule(Qt::WindingFill);
    int cells = 0, widest = 0;
    for (std::size_t y = 0; y < place["rows"].size(); ++y)
      for (const auto& run : place["rows"][y]) {
        const int from = run[0], length = run[1];
        cells += length;
        // A little overlap, so that rows join into one outline.
        path.addRect(((x0 + from) * cell - w.x) / w.width, ((y0 + double(y)) * cell - w.y) / w.height, length * cell / w.width, 1.02 * cell / w.height);
        if (length > widest) {
          widest = length;
          p.label = {((x0 + from + length / 2.0) * cell - w.x) / w.width, ((y0 + double(y) + 0.5) * cell - w.y) / w.height};
        }
      }
    if (cells < kLeastDrawn) continue;
    // Only outlines worth seeing: neither pinholes nor crumbs.
    p.outline = {};
    for (const QPolygonF& ring : path.simplified().toSubpathPolygons())
      if (const QRectF box = ring.boundingRect(); box.width() * box.height() > kLeastRing) p.outline.addPolygon(ring);
    if (p.outline.isEmpty()) p.outline = path.simplified();
    p.source = place.value("source", 0);
    p.recording = place.value("recording", std::vector<int>{});
    p.painted = place.value("painted", false);
    out.push_back(std::move(p));
  }
  return out;
}

SourceChoice::Point toReference(const nlohmann::json& report, double x, double y) {
  const Window w = windowOf(report);
  return {(w.x + x * w.width) / w.fullWidth, (w.y + y * w.height) / w.fullHeight};
}

std::optional<std::vector<SourceChoice>> nextSource(const nlohmann::json& report, const std::vector<SourceChoice>& choices, double x, double y) {
  if (!report.contains("places")) return {};
  const Window w = windowOf(report);
  const auto point = toReference(report, x, y);
  const double px = point.x * w.fullWidth, py = point.y * w.fullHeight;
  const nlohmann::json* found = nullptr;
  for (const auto& place : report["places"])
    if (holds(place, px, py)) found = &place; // what was painted lies last, and on top
  if (!found) return {};
  auto recording = found->value("recording", std::vector<int>{});
  if (recording.size() < 2) return {};
  const auto now = std::find(recording.begin(), recording.end(), found->value("source", 0));
  const int next = now == recording.end() || std::next(now) == recording.end() ? recording.front() : *std::next(now);
  std::vector<SourceChoice> out = choices;
  const bool painted = found->value("painted", false);
  for (auto i = out.rbegin(); i != out.rend(); ++i) {
    const bool same = painted ? i->radius > 0 && holds(*found, i->stroke.front().x * w.fullWidth, i->stroke.front().y * w.fullHeight)
                              : i->radius <= 0 && holds(*found, i->stroke.front().x * w.fullWidth, i->stroke.front().y * w.fullHeight);
    if (!same) continue;
    i->frame = next;
    return out;
  }
  out.push_back({{point}, 0, next});
  return out;
}

std::optional<GhostsLeft> ghostsLeft(const nlohmann::json& report) {
  const auto found = report.find("ghosts");
  if (found == report.end() || !found->is_object() || !found->value("looked", false)) return {};
  GhostsLeft ghosts;
  ghosts.share = found->value("share", 0.0);
  for (const auto& place : found->value("places", nlohmann::json::array()))
    if (place.is_array() && place.size() == 2 && place[0].is_number() && place[1].is_number()) ghosts.places.push_back({place[0].get<double>(), place[1].get<double>()});
  return ghosts;
}

} // namespace ml
