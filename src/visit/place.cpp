// SPDX-License-Identifier: GPL-3.0-or-later
#include "visit/place.h"
#include "base/phrase.h"

#include <algorithm>
#include <charconv>
#include <cmath>
#include <date/tz.h>
#include <fmt/format.h>

namespace ml {
namespace {

/// Figures of `text` apart from each other, at most `most`; nothing when something else stands there.
std::optional<std::vector<double>> numbersIn(std::string text, std::size_t most) {
  for (const std::string mark : {"°", "'", "\"", "′", "″"})
    for (std::size_t at; (at = text.find(mark)) != std::string::npos;) text.replace(at, mark.size(), " ");
  std::replace(text.begin(), text.end(), ',', '.'); // a decimal comma
  std::vector<double> out;
  const char *at = text.data(), *const end = text.data() + text.size();
  while (true) {
    while (at != end && *at == ' ') ++at;
    if (at == end) break;
    double value = 0;
    const auto [rest, error] = std::from_chars(at, end, value);
    if (error != std::errc() || !std::isfinite(value) || out.size() == most) return {};
    out.push_back(value);
    at = rest;
  }
  return out;
}

/// Its zone; "UTC" where there is none: asked for only after checkZone.
const date::time_zone* zoneOf(const std::string& zone) {
  try {
    return date::locate_zone(zone);
  } catch (const std::exception&) {
    return nullptr;
  }
}

std::chrono::seconds offsetAt(const std::string& zone, Moment moment) {
  const auto* found = zoneOf(zone);
  return found ? found->get_info(moment).offset : std::chrono::seconds{0};
}

} // namespace

std::optional<std::string> Place::invalidReason() const {
  if (!(std::abs(latitude) <= 90)) return phrase("A latitude lies between 90 degrees south and 90 north.");
  if (!(std::abs(longitude) <= 180)) return phrase("A longitude lies between 180 degrees west and 180 east.");
  if (const auto known = checkZone(timeZone); !known) return known.error().message;
  return {};
}

std::optional<double> parseAngle(const std::string& text, double most) {
  std::string rest = text;
  double sign = 1;
  while (!rest.empty() && rest.back() == ' ') rest.pop_back();
  if (!rest.empty() && std::string("NSEWnsew").find(rest.back()) != std::string::npos) {
    if (std::string("SWsw").find(rest.back()) != std::string::npos) sign = -1;
    rest.pop_back();
  }
  if (const auto minus = rest.find("−"); minus == 0) rest.replace(0, std::string("−").size(), "-");
  const auto parts = numbersIn(rest, 3);
  if (!parts || parts->empty()) return {};
  const bool negative = std::signbit(parts->front());
  if (negative && sign < 0) return {};
  double value = std::abs(parts->front()), unit = 60;
  for (std::size_t i = 1; i < parts->size(); ++i, unit *= 60) {
    if (!((*parts)[i] >= 0 && (*parts)[i] < 60)) return {};
    value += (*parts)[i] / unit;
  }
  if (value > most) return {};
  return negative ? -value : sign * value;
}

std::optional<year_month_day> parseDate(const std::string& text) {
  int parts[3] = {};
  const char* at = text.data();
  const char* const end = text.data() + text.size();
  for (int i = 0; i < 3; ++i) {
    if (i > 0 && (at == end || *at++ != '-')) return {};
    const auto [rest, error] = std::from_chars(at, end, parts[i]);
    if (error != std::errc()) return {};
    at = rest;
  }
  const year_month_day date{std::chrono::year{parts[0]}, std::chrono::month{unsigned(parts[1])},
                            std::chrono::day{unsigned(parts[2])}};
  if (at != end || !date.ok() || parts[0] < 1900 || parts[0] > 2200) return {};
  return date;
}

std::string print(const year_month_day& date) {
  return fmt::format("{:04d}-{:02d}-{:02d}", int(date.year()), unsigned(date.month()), unsigned(date.day()));
}

std::optional<int> parseClock(const std::string& text) {
  const auto colon = text.find(':');
  if (colon == std::string::npos || colon == 0 || colon > 2 || text.size() != colon + 3) return {};
  for (const char c : text)
    if (c != ':' && (c < '0' || c > '9')) return {};
  const int hours = std::stoi(text.substr(0, colon)), minutes = std::stoi(text.substr(colon + 1));
  if (minutes > 59 || hours * 60 + minutes > 24 * 60) return {};
  return hours * 60 + minutes;
}

std::string printClock(int minutes) {
  return fmt::format("{:02d}:{:02d}", minutes / 60, minutes % 60);
}

Result<void> checkZone(const std::string& zone) {
  try {
    (void)date::locate_zone(zone);
    return {};
  } catch (const std::exception&) {
    if (timeZones().empty())
      return fail(ErrorCode::FileMissing,
                  phrase("This machine has no list of time zones; install the package tzdata, or give times in UTC."));
    return fail(
        ErrorCode::InvalidArgument,
        phrase("There is no time zone \"{}\"; name one as the system does, such as Europe/Vienna or UTC.", zone));
  }
}

Moment momentOf(const std::string& zone, const year_month_day& day, int minutes) {
  const auto* found = zoneOf(zone);
  const date::local_seconds wall{std::chrono::sys_days(day).time_since_epoch() + std::chrono::minutes{minutes}};
  if (!found) return Moment{wall.time_since_epoch()};
  const auto info = found->get_info(wall);
  if (info.result == date::local_info::nonexistent) return info.first.end;
  return Moment{wall.time_since_epoch() - info.first.offset};
}

std::string clockAt(const std::string& zone, Moment moment) {
  using namespace std::chrono;
  const auto wall = moment.time_since_epoch() + offsetAt(zone, moment) + seconds{30};
  const auto inDay = wall - floor<days>(wall);
  return printClock(int(floor<minutes>(inDay).count()));
}

year_month_day dateAt(const std::string& zone, Moment moment) {
  return year_month_day{
      std::chrono::floor<std::chrono::days>(Moment{moment.time_since_epoch() + offsetAt(zone, moment)})};
}

Span dayOf(const std::string& zone, const year_month_day& date) {
  return {momentOf(zone, date, 0),
          momentOf(zone, year_month_day{std::chrono::sys_days(date) + std::chrono::days{1}}, 0)};
}

std::vector<std::string> timeZones() {
  std::vector<std::string> out;
  try {
    for (const auto& zone : date::get_tzdb().zones) out.push_back(zone.name());
  } catch (const std::exception&) {
  }
  return out;
}

std::string localZone() {
  try {
    return date::current_zone()->name();
  } catch (const std::exception&) {
    return "UTC";
  }
}

} // namespace ml
