// SPDX-License-Identifier: GPL-3.0-or-later
#include "visit/light_want.h"
#include "base/phrase.h"

#include <algorithm>

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
      {LightWant::Any, "any", wording("of any kind"), wording("any"), {-kAll, kAll}},
      {LightWant::Daylight, "daylight", wording("of day"), wording("day"), {kHorizonAltitude, kAll}},
      {LightWant::NoSunInWindow,
       "no-sun-in-window",
       wording("of day without sun in the window"),
       wording("no sun in window"),
       {kHorizonAltitude, kAll}},
      {LightWant::SunOnFront, "sun-on-front", wording("with sun on the front"), wording("sun on front"), {3, kAll}},
      {LightWant::LowSun, "low-sun", wording("of a low sun"), wording("low sun"), {kHorizonAltitude, 6}},
      {LightWant::BeforeSunrise, "before-sunrise", wording("before sunrise"), wording("before sunrise"), {-7, -2}},
      {LightWant::AfterSunset,
       "after-sunset",
       wording("after sunset, with the lamps"),
       wording("after sunset"),
       {-7, -2}},
      {LightWant::Night, "night", wording("of night"), wording("night"), {-kAll, -12}}};
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

std::string wordsOf(LightWant want) {
  return phrase(kindOf(want).words);
}

std::string nameOf(LightWant want) {
  return phrase(kindOf(want).name);
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
  case LightWant::Any: return phrase("there is no time for it in this visit");
  case LightWant::Daylight: return phrase("the sun is not up then");
  case LightWant::NoSunInWindow:
    return phrase("whenever the sun is up then, it stands before a window towards {:.0f} degrees", wish.direction);
  case LightWant::SunOnFront:
    return phrase("the sun does not reach a front seen towards {:.0f} degrees then", wish.direction);
  case LightWant::LowSun: return phrase("the sun does not stand low then");
  case LightWant::BeforeSunrise: return phrase("there is no such twilight of the morning then");
  case LightWant::AfterSunset: return phrase("there is no such twilight of the evening then");
  case LightWant::Night: return phrase("it does not become night then");
  }
  return {};
}

} // namespace ml
