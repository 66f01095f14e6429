// SPDX-License-Identifier: GPL-3.0-or-later
#include "visit/light_want.h"

#include <algorithm>
#include <fmt/format.h>

namespace ml {
namespace {

struct Kind {
  LightWant want;
  const char *id, *words, *name;
  std::pair<double, double> altitudes;
};
constexpr double kAll = 90;
const Kind& kindOf(LightWant want) {
  static const Kind kinds[] = {
      {LightWant::Any, "any", "of any kind", "any", {-kAll, kAll}},
      {LightWant::Daylight, "daylight", "of day", "day", {kHorizonAltitude, kAll}},
      {LightWant::NoSunInWindow,
       "no-sun-in-window",
       "of day without sun in the window",
       "no sun in window",
       {kHorizonAltitude, kAll}},
      {LightWant::SunOnFront, "sun-on-front", "with sun on the front", "sun on front", {3, kAll}},
      {LightWant::LowSun, "low-sun", "of a low sun", "low sun", {kHorizonAltitude, 6}},
      {LightWant::BeforeSunrise, "before-sunrise", "before sunrise", "before sunrise", {-7, -2}},
      {LightWant::AfterSunset, "after-sunset", "after sunset, with the lamps", "after sunset", {-7, -2}},
      {LightWant::Night, "night", "of night", "night", {-kAll, -12}}};
  return kinds[std::size_t(want)];
}

/// Does the sun climb?
bool climbs(const SunTrack& track, Moment moment) {
  constexpr std::chrono::seconds kApart{60};
  return track.at(moment + kApart).altitude > track.at(moment - kApart).altitude;
}

} // namespace

const std::vector<LightWant>& lightWants() {
  static const std::vector<LightWant> all{LightWant::Any,         LightWant::Daylight, LightWant::NoSunInWindow,
                                          LightWant::SunOnFront,  LightWant::LowSun,   LightWant::BeforeSunrise,
                                          LightWant::AfterSunset, LightWant::Night};
  return all;
}

const char* idOf(LightWant want) {
  return kindOf(want).id;
}

std::optional<LightWant> lightWant(const std::string& id) {
  for (const LightWant want : lightWants())
    if (id == idOf(want)) return want;
  return {};
}

const char* wordsOf(LightWant want) {
  return kindOf(want).words;
}

const char* nameOf(LightWant want) {
  return kindOf(want).name;
}

bool needsDirection(LightWant want) {
  return want == LightWant::NoSunInWindow || want == LightWant::SunOnFront;
}

std::pair<double, double> usualAltitudes(LightWant want) {
  return kindOf(want).altitudes;
}

bool suits(const LightWish& wish, const SunTrack& track, Moment moment) {
  const auto sun = track.at(moment);
  const auto [low, high] = wish.altitudes.value_or(usualAltitudes(wish.want));
  if (sun.altitude < low || sun.altitude > high) return false;
  const double fromView = bearingBetween(sun.azimuth, wish.direction);
  switch (wish.want) {
  case LightWant::NoSunInWindow: return fromView >= 90;
  case LightWant::SunOnFront: return 180 - fromView <= kFrontAngle;
  case LightWant::BeforeSunrise: return climbs(track, moment);
  case LightWant::AfterSunset: return !climbs(track, moment);
  default: return true;
  }
}

std::vector<Span> windowsOf(const LightWish& wish, const SunTrack& track, Span within) {
  constexpr std::chrono::seconds kStep{60};
  const auto good = [&](Moment t) { return suits(wish, track, t); };
  const auto edge = [&](Moment before, Moment after) {
    const bool first = good(before);
    while (after - before > std::chrono::seconds{1}) {
      const Moment middle = before + (after - before) / 2;
      (good(middle) == first ? before : after) = middle;
    }
    return after;
  };
  std::vector<Span> out;
  bool open = good(within.from);
  Moment since = within.from;
  for (Moment t = within.from; t < within.to;) {
    const Moment next = std::min(t + kStep, within.to);
    const bool now = good(next);
    if (now && !open) since = edge(t, next);
    if (!now && open) out.push_back({since, edge(t, next)});
    open = now;
    t = next;
  }
  if (open && since < within.to) out.push_back({since, within.to});
  return out;
}

std::string whyNever(const LightWish& wish) {
  switch (wish.want) {
  case LightWant::Any: return "there is no time for it in this visit";
  case LightWant::Daylight: return "the sun is not up then";
  case LightWant::NoSunInWindow:
    return fmt::format("whenever the sun is up then, it stands before a window towards {:.0f} degrees", wish.direction);
  case LightWant::SunOnFront:
    return fmt::format("the sun does not reach a front seen towards {:.0f} degrees then", wish.direction);
  case LightWant::LowSun: return "the sun does not stand low then";
  case LightWant::BeforeSunrise: return "there is no such twilight of the morning then";
  case LightWant::AfterSunset: return "there is no such twilight of the evening then";
  case LightWant::Night: return "it does not become night then";
  }
  return {};
}

} // namespace ml
