// SPDX-License-Identifier: GPL-3.0-or-later
#include "visit/calendar.h"

#include "base/slug.h"
#include "base/version.h"
#include "visit/words.h"

#include <fmt/format.h>

namespace ml {
namespace {

constexpr std::size_t kLongestLine = 75;

/// TEXT of RFC 5545, 3.3.11; control characters but line ends are dropped.
std::string escaped(const std::string& text) {
  std::string out;
  for (const char c : text) {
    if (c == '\\' || c == ';' || c == ',') out += '\\';
    if (c == '\n')
      out += "\\n";
    else if (static_cast<unsigned char>(c) >= 0x20)
      out += c;
  }
  return out;
}

void addLine(std::string& out, const std::string& line) {
  std::size_t used = 0;
  for (std::size_t i = 0; i < line.size();) {
    std::size_t length = 1;
    while (i + length < line.size() && (static_cast<unsigned char>(line[i + length]) & 0xC0) == 0x80) ++length;
    if (used + length > kLongestLine) {
      out += "\r\n ";
      used = 1;
    }
    out.append(line, i, length);
    used += length;
    i += length;
  }
  out += "\r\n";
}

std::string stampOf(Moment moment) {
  using namespace std::chrono;
  const auto day = floor<days>(moment);
  const year_month_day date{day};
  const auto inDay = (moment - day).count();
  return fmt::format("{:04d}{:02d}{:02d}T{:02d}{:02d}{:02d}Z", int(date.year()), unsigned(date.month()),
                     unsigned(date.day()), inDay / 3600, inDay / 60 % 60, inDay % 60);
}

std::string descriptionOf(const Visit& visit, const PlannedView& planned) {
  const auto& view = visit.views[std::size_t(planned.view)];
  std::string out = lightWords(view) + ".";
  out[0] = char(std::toupper(out[0]));
  if (const std::string fade = fadeWords(visit, planned); !fade.empty()) out += "\n" + fade;
  for (const auto& caution : cautionsFor(view, planned)) out += "\n" + caution;
  return out;
}

} // namespace

std::string toCalendar(const Visit& visit, const VisitPlan& plan, Moment stamp) {
  std::string out;
  addLine(out, "BEGIN:VCALENDAR");
  addLine(out, "VERSION:2.0");
  addLine(out, "PRODID:-//Mellow Lantern//" + std::string(version()) + "//EN");
  addLine(out, "CALSCALE:GREGORIAN");
  for (const auto& planned : plan.order) {
    const auto& view = visit.views[std::size_t(planned.view)];
    addLine(out, "BEGIN:VEVENT");
    addLine(out, fmt::format("UID:{}-{}-{}@{}.mellow-lantern", stampOf(planned.begin), planned.view,
                             slug(view.name, "view"), slug(visit.name, "visit")));
    addLine(out, "DTSTAMP:" + stampOf(stamp));
    addLine(out, "DTSTART:" + stampOf(planned.begin));
    addLine(out, "DTEND:" + stampOf(planned.end));
    addLine(out, "SUMMARY:" + escaped(view.name));
    addLine(out, "DESCRIPTION:" + escaped(descriptionOf(visit, planned)));
    if (!visit.place.name.empty()) addLine(out, "LOCATION:" + escaped(visit.place.name));
    addLine(out, fmt::format("GEO:{:.6f};{:.6f}", visit.place.latitude, visit.place.longitude));
    addLine(out, "END:VEVENT");
  }
  addLine(out, "END:VCALENDAR");
  return out;
}

} // namespace ml
