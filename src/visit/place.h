// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "base/result.h"

#include <chrono>
#include <optional>
#include <string>
#include <vector>

namespace ml {

/// A moment, UTC, whole seconds.
using Moment = std::chrono::sys_seconds;
using std::chrono::year_month_day;

/// Where a visit takes place.
struct Place {
  std::string name;
  double latitude = 0;  ///< Degrees, north positive.
  double longitude = 0; ///< Degrees, east positive.
  std::string timeZone; ///< Of the IANA database, "Europe/Vienna"; "UTC" is one.
  [[nodiscard]] std::optional<std::string> invalidReason() const;
  friend bool operator==(const Place&, const Place&) = default;
};

/// "47.5", "47.5 N", "12 30 W", "12° 30' 15\" W". Degrees with their sign; nothing for anything else, or beyond
/// `most`.
[[nodiscard]] std::optional<double> parseAngle(const std::string& text, double most);

/// "2026-06-21".
[[nodiscard]] std::optional<year_month_day> parseDate(const std::string& text);
[[nodiscard]] std::string print(const year_month_day& date);
/// Minutes after midnight of "17:30"; "24:00" is the end of the day.
[[nodiscard]] std::optional<int> parseClock(const std::string& text);
[[nodiscard]] std::string printClock(int minutes);

/// Is there such a zone? Errors: InvalidArgument; FileMissing where the system has no zones at all (tzdata).
[[nodiscard]] Result<void> checkZone(const std::string& zone);
/// Moment of a wall clock. A time that a change of clocks leaves out is the moment of the change; of one that comes
/// twice, the first. Needs a zone that checkZone takes.
[[nodiscard]] Moment momentOf(const std::string& zone, const year_month_day& date, int minutes);
/// The wall clock there: "17:30", to the nearest minute.
[[nodiscard]] std::string clockAt(const std::string& zone, Moment moment);
[[nodiscard]] year_month_day dateAt(const std::string& zone, Moment moment);
/// Midnight to midnight there; 23 or 25 hours where clocks change.
struct Span {
  Moment from, to;
  [[nodiscard]] bool empty() const { return to <= from; }
  friend bool operator==(const Span&, const Span&) = default;
};
[[nodiscard]] Span dayOf(const std::string& zone, const year_month_day& date);
/// All zones of this machine, sorted; empty where there are none.
[[nodiscard]] std::vector<std::string> timeZones();
/// This machine's; "UTC" when it does not say.
[[nodiscard]] std::string localZone();

} // namespace ml
