// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "visit/place.h"

#include <array>
#include <vector>

namespace ml {

/// Where the sun's centre stands, degrees; without refraction.
struct SunPosition {
  double azimuth = 0;  ///< From north over east, 0..360.
  double altitude = 0; ///< Above the horizon.
};
/// By libnova (after VSOP87; Meeus, Astronomical Algorithms, ch. 25), whose coordinates are those of the equinox of
/// 2000 and are carried to the date here. Within 0.02 degree of other almanacs from 1950 to 2100 (docs/accuracy.md);
/// seen from the earth's centre: up to 0.0025 degree too high.
[[nodiscard]] SunPosition sunAt(const Place& place, Moment moment);

/// Altitudes of the sun's centre that have a name. Rise and set: upper limb on a flat horizon, 34' of refraction and
/// 16' of radius (The Astronomical Almanac, explanation).
inline constexpr double kHorizonAltitude = -50.0 / 60, kCivil = -6, kNautical = -12, kAstronomical = -18;

/// The sun over a stretch of time; cheap to ask again and again. Cubic between positions five minutes apart: within
/// 0.001 degree of sunAt.
class SunTrack {
public:
  SunTrack(const Place& place, Span span);
  /// Inside the span; beyond it as at its end.
  [[nodiscard]] SunPosition at(Moment moment) const;
  [[nodiscard]] const Span& span() const { return span_; }

private:
  Span span_;
  std::vector<std::array<double, 3>> points_; ///< East, north, up.
};

/// Where the sun passes through `altitude`, to the second; the first time upwards and the last time downwards.
struct Passing {
  std::optional<Moment> rises, sets;
};
/// What the sun does on one day of a place.
struct SunDay {
  Span day;
  Passing horizon, civil, nautical, astronomical;
  Moment highest; ///< Of its transit.
  double highestAltitude = 0;
  bool neverSets = false; ///< Above the horizon all day.
  bool neverRises = false;
};
[[nodiscard]] SunDay sunDay(const Place& place, const year_month_day& date);
[[nodiscard]] Passing passing(const SunTrack& track, Span within, double altitude);

/// Light of a clear sky with its sun on level ground, lux; `altitude` in degrees. Four-term fits of Janiczek and
/// DeYoung, U.S. Naval Observatory Circular 171 (1987), as in Seidelmann, Explanatory Supplement to the Astronomical
/// Almanac (1992), 9.3; coefficients from memory, held to its values at the twilights by a test. Below -18 degrees, as
/// there.
[[nodiscard]] double skyLight(double altitude);
/// Stops that this light loses in a minute; negative: it grows.
[[nodiscard]] double fadeAt(const SunTrack& track, Moment moment);
/// Stops it changes by from one moment to another; positive: it falls.
[[nodiscard]] double fadeBetween(const SunTrack& track, Moment from, Moment to);

/// Degrees between two bearings, 0..180.
[[nodiscard]] double bearingBetween(double a, double b);

} // namespace ml
