// SPDX-License-Identifier: GPL-3.0-or-later
#include "pipeline/combine_report.h"

#include "exposure/reading.h"
#include "pipeline/metered.h"
#include "pipeline/noisier.h"
#include "pipeline/report.h"

#include <cmath>
#include <nlohmann/json.hpp>

namespace ml {
using nlohmann::json;
namespace {

constexpr int kCurvePoints = 32;

std::vector<std::vector<CombineReport::Run>> runsOf(const MovedRegion& region) {
  std::vector<std::vector<CombineReport::Run>> rows;
  for (int y = 0; y < region.cells.height; ++y) {
    const std::uint8_t* mask = region.mask.data() + std::ptrdiff_t(y) * region.cells.width;
    auto& runs = rows.emplace_back();
    for (int x = 0; x < region.cells.width; ++x) {
      if (!mask[x]) continue;
      int end = x;
      while (end < region.cells.width && mask[end]) ++end;
      runs.push_back({x, end - x});
      x = end;
    }
  }
  return rows;
}

CombineReport::Curve curveOf(const Response& r, bool fromShelf) {
  CombineReport::Curve curve{
      r.start,      r.changed,     fromShelf, r.samples, r.disagreementBefore, r.disagreementAfter,
      r.lowestCode, r.highestCode, {}};
  for (int i = 0; i <= kCurvePoints; ++i) {
    const int code = int(std::lround(double(i) / kCurvePoints * (r.table.size() - 1)));
    curve.points.push_back(
        {double(code), r.table.channel(0)[code], r.table.channel(1)[code], r.table.channel(2)[code]});
  }
  return curve;
}

// ---- Written

json frameJson(const CombineReport::Frame& f) {
  json entry{{"file", f.file.string()},     {"settings", settingsJson(f.settings)}, {"shift_x_px", f.shiftX},
             {"shift_y_px", f.shiftY},      {"rotation_degrees", f.degrees},        {"scale", f.scale},
             {"residual_px", f.residual},   {"correlation", f.correlation},         {"clipped_share", f.clippedShare},
             {"moved_share", f.movedShare}, {"light_stops", f.lightStops}};
  if (f.exposureEstimated) entry["exposure_estimated"] = true;
  if (f.lent) entry["lent"] = true;
  if (f.flash) entry["flash"] = true;
  if (!f.note.empty()) entry["note"] = f.note;
  return entry;
}

/// Bounds in cells of the reference frame, and runs of cells for each row.
json placeJson(const CombineReport::Place& p) {
  json rows = json::array();
  for (const auto& row : p.rows) {
    json runs = json::array();
    for (const auto& run : row) runs.push_back({run.from, run.length});
    rows.push_back(std::move(runs));
  }
  return {{"cell", p.cell},           {"x", p.cells.x},           {"y", p.cells.y},
          {"width", p.cells.width},   {"height", p.cells.height}, {"source", p.source},
          {"recording", p.recording}, {"painted", p.painted},     {"rows", std::move(rows)}};
}

/// Places in shares of the picture.
json ghostsJson(const std::optional<GhostsLeft>& ghosts) {
  json places = json::array();
  if (ghosts)
    for (const auto& g : ghosts->places) places.push_back({g.x, g.y});
  return {{"looked", ghosts.has_value()}, {"share", ghosts ? ghosts->share : 0.0}, {"places", places}};
}

json curveJson(const CombineReport::Curve& r) {
  json points = json::array();
  for (const auto& p : r.points) points.push_back({int(p[0]), p[1], p[2], p[3]});
  return {{"start", r.start},
          {"changed", r.changed},
          {"samples", r.samples},
          {"disagreement_before_stops", r.disagreementBefore},
          {"disagreement_after_stops", r.disagreementAfter},
          {"lowest_code", r.lowestCode},
          {"highest_code", r.highestCode},
          {"curve", points},
          {"from_earlier_sets", r.fromEarlierSets}};
}

// ---- Read

/// A value of the right kind, or what was there before.
template <class Value> void take(const json& from, const char* key, Value& into) {
  const auto found = from.find(key);
  if (found == from.end()) return;
  try {
    into = found->get<Value>();
  } catch (const json::exception&) {
    return; // as if it were not there
  }
}

template <class Work> void eachObject(const json& from, const char* key, const Work& work) {
  const auto found = from.find(key);
  if (found == from.end() || !found->is_array()) return;
  for (const json& entry : *found)
    if (entry.is_object()) work(entry);
}

CombineReport::Frame frameFrom(const json& j) {
  CombineReport::Frame f;
  std::string file;
  take(j, "file", file);
  f.file = file;
  if (const auto s = j.find("settings"); s != j.end() && s->is_object()) {
    take(*s, "seconds", f.settings.time.value);
    take(*s, "f_number", f.settings.aperture.value);
    take(*s, "iso", f.settings.iso.value);
  }
  take(j, "shift_x_px", f.shiftX), take(j, "shift_y_px", f.shiftY), take(j, "rotation_degrees", f.degrees),
      take(j, "scale", f.scale);
  take(j, "residual_px", f.residual), take(j, "correlation", f.correlation);
  take(j, "clipped_share", f.clippedShare), take(j, "moved_share", f.movedShare), take(j, "light_stops", f.lightStops);
  take(j, "exposure_estimated", f.exposureEstimated), take(j, "lent", f.lent), take(j, "flash", f.flash),
      take(j, "note", f.note);
  return f;
}

CombineReport::Place placeFrom(const json& j) {
  CombineReport::Place p;
  take(j, "cell", p.cell), take(j, "x", p.cells.x), take(j, "y", p.cells.y), take(j, "width", p.cells.width),
      take(j, "height", p.cells.height);
  take(j, "source", p.source), take(j, "recording", p.recording), take(j, "painted", p.painted);
  p.cell = std::max(1, p.cell);
  std::vector<std::vector<std::array<int, 2>>> rows;
  take(j, "rows", rows);
  for (const auto& row : rows) {
    auto& runs = p.rows.emplace_back();
    for (const auto& run : row) runs.push_back({run[0], run[1]});
  }
  return p;
}

std::optional<GhostsLeft> ghostsFrom(const json& j) {
  bool looked = false;
  take(j, "looked", looked);
  if (!looked) return {};
  GhostsLeft ghosts;
  take(j, "share", ghosts.share);
  std::vector<std::array<double, 2>> places;
  take(j, "places", places);
  for (const auto& p : places) ghosts.places.push_back({p[0], p[1]});
  return ghosts;
}

CombineReport::Curve curveFrom(const json& j) {
  CombineReport::Curve c;
  take(j, "start", c.start), take(j, "changed", c.changed), take(j, "from_earlier_sets", c.fromEarlierSets),
      take(j, "samples", c.samples);
  take(j, "disagreement_before_stops", c.disagreementBefore), take(j, "disagreement_after_stops", c.disagreementAfter);
  take(j, "lowest_code", c.lowestCode), take(j, "highest_code", c.highestCode), take(j, "curve", c.points);
  return c;
}

} // namespace

bool CombineReport::Place::holds(double x, double y) const {
  const int cx = int(x) / cell - cells.x, cy = int(y) / cell - cells.y;
  if (cy < 0 || cy >= int(rows.size())) return false;
  return std::any_of(rows[std::size_t(cy)].begin(), rows[std::size_t(cy)].end(),
                     [cx](const Run& r) { return cx >= r.from && cx < r.from + r.length; });
}

double CombineReport::candelasOfUnit() const {
  return luminanceOf({ev100OfUnit});
}

CombineReport combineReport(const Combined& c) {
  CombineReport r;
  for (const auto& f : c.frames) {
    const Registration& g = f.registration;
    r.frames.push_back({f.path, f.settings, g.shiftX, g.shiftY, g.degrees, g.scale, g.residual, g.correlation,
                        f.clippedShare, f.excludedShare, f.lightStops, f.exposureEstimated, f.lent, f.flash, g.note});
  }
  r.reference = c.reference;
  r.width = c.radiance.width(), r.height = c.radiance.height();
  r.crop = c.crop;
  r.referenceWidth = c.fullWidth, r.referenceHeight = c.fullHeight;
  r.ev100OfUnit = c.ev100OfUnit, r.clippedShare = c.clippedShare;
  r.method = methodName(c.method);
  r.motionRegions = c.motion.regions;
  r.ghosts = ghostsLeft(c);
  for (const auto& p : c.motion.places)
    r.places.push_back({c.motion.cell, p.cells, p.source, p.recording, p.painted, runsOf(p)});
  r.stops = c.stops;
  if (!c.noisier.empty()) r.noisier = std::make_shared<const Image<float>>(c.noisier.clone());
  r.metered = c.metered;
  if (c.response) r.response = curveOf(*c.response, c.curveFromShelf);
  r.remarks = c.remarks;
  for (const auto& entry : withoutCompanions(c.leftOut))
    r.leftOut.push_back({entry.path.string(), entry.reason.message});
  r.verdict = verdict(c);
  return r;
}

namespace {

json positionJson(const CombineReport::Position& p) {
  return {{"name", p.name},
          {"row", p.row},
          {"column", p.column},
          {"plane", p.plane},
          {"residual_px", p.residual},
          {"overlap", p.overlap},
          {"outline", p.outline}};
}

CombineReport::Position positionFrom(const json& j) {
  CombineReport::Position p;
  take(j, "name", p.name), take(j, "row", p.row), take(j, "column", p.column), take(j, "plane", p.plane);
  take(j, "residual_px", p.residual), take(j, "overlap", p.overlap), take(j, "outline", p.outline);
  return p;
}

} // namespace

json toJson(const CombineReport& r) {
  json frames = json::array(), places = json::array(), positions = json::array(), stops = json::array(),
       leftOut = json::array();
  for (const auto& f : r.frames) frames.push_back(frameJson(f));
  for (const auto& p : r.places) places.push_back(placeJson(p));
  for (const auto& p : r.positions) positions.push_back(positionJson(p));
  for (const auto& s : r.stops)
    stops.push_back({{"ev100", s.ev100}, {"share", s.share}, {"snr", s.snr}, {"frames", s.frames}});
  for (const auto& l : r.leftOut) leftOut.push_back({{"file", l.file}, {"reason", l.reason}});
  return {{"version", 1},
          {"kind", "combine"},
          {"frames", frames},
          {"reference", r.reference},
          {"width", r.width},
          {"height", r.height},
          {"crop", {r.crop.x, r.crop.y, r.crop.width, r.crop.height}},
          {"reference_width", r.referenceWidth},
          {"reference_height", r.referenceHeight},
          {"primaries", "Rec. 709, D65, linear"},
          {"ev100_of_unit", r.ev100OfUnit},
          {"cd_per_m2_of_unit", r.candelasOfUnit()},
          {"clipped_share", r.clippedShare},
          {"method", r.method},
          {"motion_regions", r.motionRegions},
          {"ghosts", ghostsJson(r.ghosts)},
          {"places", places},
          {"positions", positions},
          {"focal", r.focal},
          {"plumb", r.plumb},
          {"stops", stops},
          {"noisier", r.noisier ? noisierJson(*r.noisier) : json()},
          {"metered", meteredJson(r.metered)},
          {"response", r.response ? curveJson(*r.response) : json()},
          {"remarks", r.remarks},
          {"left_out", leftOut},
          {"verdict", r.verdict}};
}

CombineReport combineReportFromJson(const json& d) {
  CombineReport r;
  if (!d.is_object()) return r;
  eachObject(d, "frames", [&](const json& j) { r.frames.push_back(frameFrom(j)); });
  take(d, "reference", r.reference), take(d, "width", r.width), take(d, "height", r.height);
  std::array<int, 4> crop{0, 0, r.width, r.height};
  take(d, "crop", crop);
  r.crop = {crop[0], crop[1], crop[2], crop[3]};
  r.referenceWidth = r.crop.width, r.referenceHeight = r.crop.height;
  take(d, "reference_width", r.referenceWidth), take(d, "reference_height", r.referenceHeight);
  take(d, "ev100_of_unit", r.ev100OfUnit), take(d, "clipped_share", r.clippedShare), take(d, "method", r.method),
      take(d, "motion_regions", r.motionRegions);
  if (const auto ghosts = d.find("ghosts"); ghosts != d.end() && ghosts->is_object()) r.ghosts = ghostsFrom(*ghosts);
  eachObject(d, "places", [&](const json& j) { r.places.push_back(placeFrom(j)); });
  take(d, "focal", r.focal), take(d, "plumb", r.plumb);
  eachObject(d, "positions", [&](const json& j) { r.positions.push_back(positionFrom(j)); });
  eachObject(d, "stops", [&](const json& j) {
    StopRecord& s = r.stops.emplace_back();
    take(j, "ev100", s.ev100), take(j, "share", s.share), take(j, "snr", s.snr), take(j, "frames", s.frames);
  });
  if (Image<float> noisier = noisierFromReport(d); !noisier.empty())
    r.noisier = std::make_shared<const Image<float>>(std::move(noisier));
  r.metered = meteredFromReport(d);
  if (const auto response = d.find("response"); response != d.end() && response->is_object())
    r.response = curveFrom(*response);
  take(d, "remarks", r.remarks);
  eachObject(d, "left_out", [&](const json& j) {
    CombineReport::Refused& refused = r.leftOut.emplace_back();
    take(j, "file", refused.file), take(j, "reason", refused.reason);
  });
  take(d, "verdict", r.verdict);
  return r;
}

} // namespace ml
