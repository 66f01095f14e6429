// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "exposure/units.h"
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace ml {

/// Cameras count in exact third stops and print rounded marks: 1/125 is 2^-7 s, f/5.6 is 2^2.5, "30 s" is 32 s.
/// Everything here computes with the exact value and shows the printed one (common practice, no source).

/// The exact time `thirds` third-stops shorter than one second: 2^(-thirds / 3).
[[nodiscard]] Seconds timeAtThirds(int thirds);
/// Third-stops below one second, rounded to the nearest.
[[nodiscard]] int nearestThirds(Seconds t);

inline constexpr int kShortestMarkThirds = 39; ///< 1/8000
inline constexpr int kLongestMarkThirds = -15; ///< 30 s; longer is bulb

/// All marks from 1/8000 to 30 s, shortest first, exact values.
[[nodiscard]] std::vector<Seconds> shutterMarks();

/// "1/125", "0.4 s", "30 s"; longer than the marks: "bulb 64 s". A time off the ladder prints its own figure. In files:
/// the same in every language.
[[nodiscard]] std::string markOf(Seconds t);
/// "f/5.6".
[[nodiscard]] std::string markOf(FNumber n);

/// The same for people: with the decimal mark of their language.
[[nodiscard]] std::string print(Seconds t);
[[nodiscard]] std::string print(FNumber n);
/// "ISO 100".
[[nodiscard]] std::string print(Iso s);
/// "+1 1/3", "-2/3", "0"; off the thirds: "+1.7".
[[nodiscard]] std::string print(Stops s);
/// One decimal with the unit: "0.8 stop", "2 stops".
[[nodiscard]] std::string printAmount(Stops s);

/// A figure as it was typed, with a point for its decimal comma: "2,3" is "2.3". "1,600" may mean thousands: it stays,
/// and is no figure.
[[nodiscard]] std::string pointed(std::string_view figure);

/// Wherever figures are read, a comma is a decimal mark as well as a point (`pointed`).
/// "1/125", "1/125 s", "0.4", "0.4 s", "2\"", "2s". A printed mark becomes its exact value. Nothing for anything else.
[[nodiscard]] std::optional<Seconds> parseTime(std::string_view text);
/// "f/5.6", "F5.6", "5.6".
[[nodiscard]] std::optional<FNumber> parseFNumber(std::string_view text);
/// "100", "ISO 100".
[[nodiscard]] std::optional<Iso> parseIso(std::string_view text);
/// "+1 1/3", "-2/3", "1.5", "2 stops", "-2 EV"; accepts the true minus sign.
[[nodiscard]] std::optional<Stops> parseStops(std::string_view text);

/// The exact value behind a printed figure (Exif stores printed ones); a figure that is no mark stays as it is.
[[nodiscard]] Seconds exact(Seconds printed);
[[nodiscard]] FNumber exact(FNumber printed);
[[nodiscard]] Iso exact(Iso printed);

/// How the first and the last frame of a bracket are told apart: by their times, or by what was stepped instead.
struct PrintedEnds {
  std::string first, last;
};
[[nodiscard]] PrintedEnds printedEnds(const ExposureSettings& first, const ExposureSettings& last);

} // namespace ml
