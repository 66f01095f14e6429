// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "visit/sun.h"

#include <string>
#include <vector>

namespace ml {

/// The light a view is to be photographed in.
enum class LightWant {
  Any,           ///< At any time of the visit.
  Daylight,      ///< The sun is up.
  NoSunInWindow, ///< Daylight, and the sun does not shine through a window in the direction of view.
  SunOnFront,    ///< The sun shines on what faces the camera.
  LowSun,        ///< Just above the horizon, morning or evening.
  BeforeSunrise, ///< Twilight of the morning.
  AfterSunset,   ///< Twilight of the evening, lamps and sky alike.
  Night
};
[[nodiscard]] const std::vector<LightWant>& lightWants();
/// Never changes: "after-sunset".
[[nodiscard]] const char* idOf(LightWant want);
[[nodiscard]] std::optional<LightWant> lightWant(const std::string& id);
/// "after sunset, with the lamps": follows "wants light".
[[nodiscard]] std::string wordsOf(LightWant want);
/// "after sunset": for a list.
[[nodiscard]] std::string nameOf(LightWant want);
[[nodiscard]] bool needsDirection(LightWant want);

/// What a view asks of the sun.
struct LightWish {
  LightWant want = LightWant::Any;
  double direction = 0; ///< The camera looks there, degrees from north over east.
  /// Altitudes between which it must stand, instead of the usual ones.
  std::optional<std::pair<double, double>> altitudes;
  friend bool operator==(const LightWish&, const LightWish&) = default;
};

/// Altitudes of the sun's centre that a want accepts, degrees (common practice, no source): low sun up to 6; twilight
/// with lamps from 2 below to 7 below, where sky and lit windows are of one brightness; night from 12 below.
[[nodiscard]] std::pair<double, double> usualAltitudes(LightWant want);
/// The sun may stand so far to the side and still light a front, degrees.
inline constexpr double kFrontAngle = 75;

[[nodiscard]] bool suits(const LightWish& wish, const SunTrack& track, Moment moment);
/// When it suits, inside `within`; edges to the second.
[[nodiscard]] std::vector<Span> windowsOf(const LightWish& wish, const SunTrack& track, Span within);
/// Why there is no window: "the sun does not come round to 280 degrees that day".
[[nodiscard]] std::string whyNever(const LightWish& wish);

} // namespace ml
