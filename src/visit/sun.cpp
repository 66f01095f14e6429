// SPDX-License-Identifier: GPL-3.0-or-later
#include "visit/sun.h"

#include <algorithm>
#include <cmath>
#include <libnova/dynamical_time.h>
#include <libnova/precession.h>
#include <libnova/solar.h>
#include <libnova/transform.h>
#include <numbers>

namespace ml {
namespace {

using std::chrono::seconds;
constexpr double kDegree = std::numbers::pi / 180;
constexpr seconds kTrackStep{300}, kSearchStep{120};

double julianDay(Moment moment) {
  constexpr double kOfEpoch = 2440587.5;
  return kOfEpoch + double(moment.time_since_epoch().count()) / 86400;
}

double horizontal(double azimuth) {
  const double turned = std::fmod(azimuth, 360);
  return turned < 0 ? turned + 360 : turned;
}

/// Where `above` changes between two moments, to the second.
template <class Above> Moment edge(Moment before, Moment after, const Above& above) {
  const bool first = above(before);
  while (after - before > seconds{1}) {
    const Moment middle = before + (after - before) / 2;
    (above(middle) == first ? before : after) = middle;
  }
  return after;
}

} // namespace

SunPosition sunAt(const Place& place, Moment moment) {
  const double day = julianDay(moment);
  ln_equ_posn of2000{}, ofDate{};
  ln_get_solar_equ_coords(ln_get_jde(day), &of2000);
  ln_get_equ_prec(&of2000, day, &ofDate);
  ln_lnlat_posn observer{place.longitude, place.latitude};
  ln_hrz_posn seen{};
  ln_get_hrz_from_equ(&ofDate, &observer, day, &seen);
  return {horizontal(seen.az + 180), seen.alt}; // libnova counts from the south
}

SunTrack::SunTrack(const Place& place, Span span) : span_(span) {
  for (Moment t = span.from - kTrackStep; t <= span.to + 2 * kTrackStep; t += kTrackStep) {
    const auto sun = sunAt(place, t);
    const double level = std::cos(sun.altitude * kDegree);
    points_.push_back({level * std::sin(sun.azimuth * kDegree), level * std::cos(sun.azimuth * kDegree),
                       std::sin(sun.altitude * kDegree)});
  }
}

SunPosition SunTrack::at(Moment moment) const {
  const Moment inside = std::clamp(moment, span_.from, span_.to);
  const double place = double((inside - span_.from).count()) / double(kTrackStep.count());
  const auto cell = std::size_t(place);
  const double t = place - double(cell); // between points cell + 1 and cell + 2
  const double weights[4] = {-t * (t - 1) * (t - 2) / 6, (t + 1) * (t - 1) * (t - 2) / 2, -(t + 1) * t * (t - 2) / 2,
                             (t + 1) * t * (t - 1) / 6};
  std::array<double, 3> v{};
  for (std::size_t i = 0; i < 4; ++i)
    for (std::size_t axis = 0; axis < 3; ++axis) v[axis] += weights[i] * points_[cell + i][axis];
  return {horizontal(std::atan2(v[0], v[1]) / kDegree), std::atan2(v[2], std::hypot(v[0], v[1])) / kDegree};
}

Passing passing(const SunTrack& track, Span within, double altitude) {
  Passing out;
  const auto above = [&](Moment t) { return track.at(t).altitude >= altitude; };
  bool before = above(within.from);
  for (Moment t = within.from; t < within.to;) {
    const Moment next = std::min(t + kSearchStep, within.to);
    const bool after = above(next);
    if (after && !before && !out.rises) out.rises = edge(t, next, above);
    if (!after && before) out.sets = edge(t, next, above);
    before = after;
    t = next;
  }
  return out;
}

namespace {

/// Where it passes from east to west; of a day without (at the date line of sun time), its highest end.
Moment transit(const SunTrack& track, Span day) {
  const auto east = [&](Moment t) { return std::sin(track.at(t).azimuth * kDegree) >= 0; };
  for (Moment t = day.from; t < day.to; t += kSearchStep) {
    const Moment next = std::min(t + kSearchStep, day.to);
    if (east(t) && !east(next)) return edge(t, next, east);
  }
  return track.at(day.from).altitude > track.at(day.to).altitude ? day.from : day.to;
}

} // namespace

SunDay sunDay(const Place& place, const year_month_day& date) {
  SunDay out;
  out.day = dayOf(place.timeZone, date);
  const SunTrack track(place, out.day);
  out.horizon = passing(track, out.day, kHorizonAltitude);
  out.civil = passing(track, out.day, kCivil);
  out.nautical = passing(track, out.day, kNautical);
  out.astronomical = passing(track, out.day, kAstronomical);
  out.highest = transit(track, out.day);
  out.highestAltitude = track.at(out.highest).altitude;
  const bool up = track.at(out.day.from).altitude >= kHorizonAltitude;
  if (!out.horizon.rises && !out.horizon.sets) (up ? out.neverSets : out.neverRises) = true;
  return out;
}

double skyLight(double altitude) {
  struct Fit {
    double from, a, b, c, d;
  };
  static constexpr Fit kFits[] = {{20, 3.74, 3.97, -4.07, 1.47},         {5, 3.05, 13.28, -45.98, 64.33},
                                  {-0.8, 2.88, 22.26, -207.64, 1034.30}, {-5, 2.88, 21.81, -258.11, -858.36},
                                  {-12, 2.70, 12.17, -431.69, -1899.83}, {-18, 13.84, 262.72, 1447.42, 2797.93}};
  const double kept = std::clamp(altitude, -18.0, 90.0), x = kept / 90;
  for (const auto& fit : kFits)
    if (kept >= fit.from) return std::pow(10, fit.a + x * (fit.b + x * (fit.c + x * fit.d)));
  return 0;
}

double fadeBetween(const SunTrack& track, Moment from, Moment to) {
  return std::log2(skyLight(track.at(from).altitude) / skyLight(track.at(to).altitude));
}

double fadeAt(const SunTrack& track, Moment moment) {
  return fadeBetween(track, moment - seconds{60}, moment + seconds{60}) / 2;
}

double bearingBetween(double a, double b) {
  const double apart = horizontal(a - b);
  return std::min(apart, 360 - apart);
}

} // namespace ml
