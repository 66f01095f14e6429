// SPDX-License-Identifier: GPL-3.0-or-later
#include "visit/visit.h"
#include "base/phrase.h"

#include <algorithm>
#include <cmath>
#include <nlohmann/json.hpp>

namespace ml {
using nlohmann::json;
namespace {

constexpr double kMoveSeconds = 20; ///< To the next position or plane (common practice, no source).
constexpr double kLampSeconds = 60; ///< To go round and switch (common practice, no source).
constexpr int kDayMinutes = 24 * 60;

struct Problem {
  std::string what;
};

double numberIn(const json& object, const char* field, double fallback, double low, double high) {
  const auto it = object.find(field);
  if (it == object.end() || it->is_null()) return fallback;
  if (!it->is_number()) throw Problem{phrase("\"{}\" must be a number", field)};
  const double value = it->get<double>();
  if (!(value >= low && value <= high))
    throw Problem{phrase("\"{}\" must lie between {:g} and {:g}", field, low, high)};
  return value;
}

std::string textIn(const json& object, const char* field, const std::string& fallback) {
  const auto it = object.find(field);
  if (it == object.end() || it->is_null()) return fallback;
  if (!it->is_string()) throw Problem{phrase("\"{}\" must be text", field)};
  return it->get<std::string>();
}

bool flagIn(const json& object, const char* field, bool fallback) {
  const auto it = object.find(field);
  if (it == object.end() || it->is_null()) return fallback;
  if (!it->is_boolean()) throw Problem{phrase("\"{}\" must be true or false", field)};
  return it->get<bool>();
}

const json& listIn(const json& object, const char* field) {
  static const json none = json::array();
  const auto it = object.find(field);
  if (it == object.end() || it->is_null()) return none;
  if (!it->is_array()) throw Problem{phrase("\"{}\" must be a list", field)};
  return *it;
}

const json& objectIn(const json& list, const char* field) {
  if (!list.is_object()) throw Problem{phrase("every entry of \"{}\" must be an object", field)};
  return list;
}

int clockIn(const json& object, const char* field, int fallback) {
  const std::string text = textIn(object, field, "");
  if (text.empty()) return fallback;
  const auto minutes = parseClock(text);
  if (!minutes) throw Problem{phrase("\"{}\" must be a time such as \"17:30\", not \"{}\"", field, text)};
  return *minutes;
}

/// Early or late; nothing else.
bool lateIn(const json& object, const char* field, bool fallback) {
  const std::string text = textIn(object, field, fallback ? "late" : "early");
  if (text != "late" && text != "early") throw Problem{phrase("\"{}\" takes early or late", field)};
  return text == "late";
}

const char* nameOf(Lamps lamps) {
  return lamps == Lamps::On ? "on" : lamps == Lamps::Both ? "both" : "off";
}

Lamps lampsIn(const json& object) {
  const std::string text = textIn(object, "lamps", "off");
  for (const Lamps lamps : {Lamps::Off, Lamps::On, Lamps::Both})
    if (text == nameOf(lamps)) return lamps;
  throw Problem{phrase("\"lamps\" takes on, off or both, not \"{}\"", text)};
}

LightWish wishIn(const json& object) {
  LightWish out;
  const std::string id = textIn(object, "light", "any");
  const auto want = lightWant(id);
  if (!want) {
    std::string all;
    for (const LightWant known : lightWants()) all += std::string(all.empty() ? "" : ", ") + idOf(known);
    throw Problem{phrase("\"light\" takes one of {}, not \"{}\"", all, id)};
  }
  out.want = *want;
  if (needsDirection(*want) && !object.contains("direction"))
    throw Problem{
        phrase("\"direction\", where the camera looks in degrees from north, is needed for light \"{}\"", id)};
  out.direction = numberIn(object, "direction", 0, -360, 360);
  if (out.direction < 0) out.direction += 360;
  if (const auto& limits = listIn(object, "sun_altitude"); !limits.empty()) {
    if (limits.size() != 2 || !limits[0].is_number() || !limits[1].is_number() || limits[0] > limits[1])
      throw Problem{phrase("\"sun_altitude\" takes two degrees, the lower one first")};
    out.altitudes = {limits[0].get<double>(), limits[1].get<double>()};
  }
  return out;
}

VisitView viewIn(const json& object) {
  VisitView out;
  out.name = textIn(object, "name", "");
  if (out.name.empty()) throw Problem{phrase("every view needs a \"name\"")};
  out.kind = textIn(object, "kind", out.kind);
  out.stand = textIn(object, "stand", "");
  out.folder = textIn(object, "view", "");
  out.light = wishIn(object);
  out.lamps = lampsIn(object);
  out.positions = int(numberIn(object, "positions", 1, 1, 200));
  out.planes = int(numberIn(object, "planes", 1, 1, 50));
  out.setSeconds = numberIn(object, "set_seconds", out.setSeconds, 0, 7200);
  if (object.contains("minutes") && !object["minutes"].is_null())
    out.minutes = numberIn(object, "minutes", 0, 0.1, 1440);
  out.late = lateIn(object, "prefer", false);
  out.worth = int(numberIn(object, "worth", 1, 1, 9));
  out.done = flagIn(object, "done", false);
  return out;
}

Visit visitIn(const json& document) {
  Visit out;
  out.name = textIn(document, "name", "");
  const auto place = document.find("place");
  if (place == document.end() || !place->is_object())
    throw Problem{phrase("\"place\" with \"latitude\" and \"longitude\" is missing")};
  out.place.name = textIn(*place, "name", "");
  for (const char* needed : {"latitude", "longitude"})
    if (!place->contains(needed)) throw Problem{phrase("\"{}\" is missing in \"place\"", needed)};
  out.place.latitude = numberIn(*place, "latitude", 0, -90, 90);
  out.place.longitude = numberIn(*place, "longitude", 0, -180, 180);
  out.place.timeZone = textIn(document, "time_zone", "UTC");
  const auto date = parseDate(textIn(document, "date", ""));
  if (!date) throw Problem{phrase("\"date\" must be a day such as \"2026-06-21\"")};
  out.date = *date;
  out.from = clockIn(document, "from", 0);
  out.to = clockIn(document, "to", kDayMinutes);
  if (out.to <= out.from) out.to += kDayMinutes; // beyond midnight
  out.late = lateIn(document, "prefer", false);
  out.wayMinutes = numberIn(document, "way_minutes", out.wayMinutes, 0, 1440);
  for (const auto& entry : listIn(document, "ways")) {
    objectIn(entry, "ways");
    out.ways.push_back({textIn(entry, "from", ""), textIn(entry, "to", ""), numberIn(entry, "minutes", 0, 0, 1440)});
  }
  for (const auto& entry : listIn(document, "views")) {
    try {
      out.views.push_back(viewIn(objectIn(entry, "views")));
    } catch (const Problem& problem) {
      throw Problem{phrase("view {}: {}", out.views.size() + 1, problem.what)};
    }
    if (out.views.size() > kMostVisitViews) throw Problem{phrase("a visit has at most {} views", kMostVisitViews)};
  }
  for (const auto& entry : listIn(document, "tags"))
    if (entry.is_string()) out.tags.push_back(entry.get<std::string>());
  out.lesson = textIn(document, "lesson", "");
  return out;
}

json viewJson(const VisitView& view) {
  json out{{"name", view.name},
           {"kind", view.kind},
           {"stand", view.stand},
           {"light", idOf(view.light.want)},
           {"direction", view.light.direction},
           {"lamps", nameOf(view.lamps)},
           {"positions", view.positions},
           {"planes", view.planes},
           {"set_seconds", view.setSeconds},
           {"prefer", view.late ? "late" : "early"},
           {"worth", view.worth},
           {"done", view.done}};
  if (!view.folder.empty()) out["view"] = view.folder;
  if (view.minutes) out["minutes"] = *view.minutes;
  if (view.light.altitudes) out["sun_altitude"] = {view.light.altitudes->first, view.light.altitudes->second};
  return out;
}

} // namespace

const std::string& standOf(const VisitView& view) {
  return view.stand.empty() ? view.name : view.stand;
}

bool joinsTheSame(const StandWay& a, const StandWay& b) {
  return (a.from == b.from && a.to == b.to) || (a.from == b.to && a.to == b.from);
}

std::vector<std::string> standsOf(const Visit& visit) {
  std::vector<std::string> out;
  for (const auto& view : visit.views)
    if (std::find(out.begin(), out.end(), standOf(view)) == out.end()) out.push_back(standOf(view));
  return out;
}

double Visit::wayBetween(const VisitView& a, const VisitView& b) const {
  const std::string &one = standOf(a), &other = standOf(b);
  if (one == other) return 0;
  for (const auto& way : ways)
    if (joinsTheSame(way, {one, other})) return way.minutes;
  return wayMinutes;
}

Span Visit::span() const {
  return {momentOf(place.timeZone, date, from), momentOf(place.timeZone, date, to)};
}

std::optional<std::string> Visit::invalidReason() const {
  if (auto reason = place.invalidReason()) return reason;
  if (to <= from || to > 2 * kDayMinutes) return phrase("A visit ends after it began, and within the next day.");
  return {};
}

Result<Visit> visitFromJson(const std::string& text, const std::string& source) {
  const json document = json::parse(text, nullptr, false);
  if (document.is_discarded() || !document.is_object())
    return fail(ErrorCode::FileUnreadable, phrase("`{}` is not a visit: it must hold one JSON object.", source));
  if (const auto version = document.find("version"); version != document.end() && *version != 1)
    return fail(ErrorCode::FileUnreadable, phrase("`{}` was written by a newer version; use that one.", source));
  try {
    Visit visit = visitIn(document);
    visit.extra = document.dump();
    if (const auto reason = visit.invalidReason())
      return fail(ErrorCode::InvalidArgument, "`" + source + "`: " + *reason);
    return visit;
  } catch (const Problem& problem) {
    return fail(ErrorCode::InvalidArgument, "`" + source + "`: " + problem.what + ".");
  } catch (const json::exception& error) {
    return fail(ErrorCode::FileUnreadable, phrase("`{}` is damaged ({}).", source, error.what()));
  }
}

std::string toJson(const Visit& visit) {
  json document = json::parse(visit.extra, nullptr, false);
  if (!document.is_object()) document = json::object();
  json views = json::array(), ways = json::array();
  for (const auto& view : visit.views) views.push_back(viewJson(view));
  for (const auto& way : visit.ways) ways.push_back({{"from", way.from}, {"to", way.to}, {"minutes", way.minutes}});
  document.update(
      {{"version", 1},
       {"name", visit.name},
       {"place",
        {{"name", visit.place.name}, {"latitude", visit.place.latitude}, {"longitude", visit.place.longitude}}},
       {"time_zone", visit.place.timeZone},
       {"date", print(visit.date)},
       {"from", printClock(visit.from)},
       {"to", printClock(visit.to > kDayMinutes ? visit.to - kDayMinutes : visit.to)},
       {"prefer", visit.late ? "late" : "early"},
       {"way_minutes", visit.wayMinutes},
       {"ways", ways},
       {"views", views},
       {"tags", visit.tags},
       {"lesson", visit.lesson}});
  return document.dump(2) + "\n";
}

const std::vector<Pace>& usualPace() {
  static const std::vector<Pace> usual{{"interior", 3, 0}, {"detail", 2, 0},   {"exterior", 5, 0}, {"landscape", 8, 0},
                                       {"dusk", 6, 0},     {"panorama", 6, 0}, {"sphere", 4, 0}};
  return usual;
}

Pace paceFor(const std::string& kind, const std::vector<Pace>& own) {
  const auto named = [](const std::vector<Pace>& list, const std::string& name) {
    return std::find_if(list.begin(), list.end(), [&](const Pace& p) { return p.kind == name; });
  };
  if (const auto it = named(own, kind); it != own.end()) return *it;
  if (const auto it = named(usualPace(), kind); it != usualPace().end()) return *it;
  return {kind, usualPace().front().minutes, 0};
}

int setsOf(const VisitView& view) {
  return view.positions * view.planes * (view.lamps == Lamps::Both ? 2 : 1);
}

int secondsFor(const VisitView& view, const std::vector<Pace>& own) {
  if (view.minutes) return int(std::lround(*view.minutes * 60));
  const int stands = view.positions * view.planes;
  const Pace pace = paceFor(view.kind, own);
  const int sets = setsOf(view) - (pace.cases > 0 ? 1 : 0); // one's own has a set in it
  double seconds = pace.minutes * 60 + sets * view.setSeconds + (stands - 1) * kMoveSeconds;
  if (view.lamps == Lamps::Both) seconds += kLampSeconds + (stands - 1) * kMoveSeconds;
  return int(std::lround(seconds));
}

} // namespace ml
