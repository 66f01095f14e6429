// SPDX-License-Identifier: GPL-3.0-or-later
#include "logbook/export.h"
#include "base/phrase.h"

#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace ml {
namespace {

/// A field of RFC 4180; what a spreadsheet would take for a formula is made text.
std::string cell(const std::string& text) {
  std::string out = text;
  if (!out.empty() && std::string("=+-@\t").find(out.front()) != std::string::npos) out = "'" + out;
  if (out.find_first_of(",\"\r\n") == std::string::npos) return out;
  std::string quoted = "\"";
  for (const char c : out) quoted += c == '"' ? std::string("\"\"") : std::string(1, c);
  return quoted + '"';
}

std::string joined(const std::vector<std::string>& words, const char* between) {
  std::string out;
  for (const auto& word : words) out += (out.empty() ? "" : between) + word;
  return out;
}

/// Characters that Markdown reads as its own, as they are.
std::string plain(const std::string& text) {
  std::string out;
  for (const char c : text) {
    if (std::string("\\`*_{}[]<>#|").find(c) != std::string::npos) out += '\\';
    out += c == '\n' ? ' ' : c;
  }
  return out;
}

void addLine(std::string& out, const std::string& what, const std::string& words) {
  if (!words.empty()) out += fmt::format("- {}: {}\n", what, plain(words));
}

std::string pageOf(const LogEntry& entry) {
  std::string out = fmt::format("# {}{}\n\n", plain(entry.name), entry.date.empty() ? "" : ", " + entry.date);
  addLine(out, phrase("Place"), entry.place);
  addLine(out, phrase("Tags"), joined(entry.tags, ", "));
  addLine(out, phrase("Learnt"), entry.lesson);
  for (const auto& view : entry.views) {
    out += fmt::format("\n## {} ({})\n\n", plain(view.name), plain(view.kind));
    if (view.hasRange)
      addLine(out, phrase("Light"),
              phrase("EV {:.1f} to {:.1f}, {:.1f} stops", view.darkest, view.brightest, view.range()));
    addLine(out, phrase("Plan"), view.plan);
    if (view.fired > 0)
      addLine(out, phrase("Shot"), phrase("{} frames in {} sets, {} shot again", view.fired, view.sets, view.repeats));
    addLine(out, phrase("Field check"), view.verdict);
    addLine(out, phrase("Combined"), view.combined);
    if (view.combinedOf > 0)
      addLine(out, phrase("Frames that said anything"), phrase("{} of {}", view.spoke, view.combinedOf));
    addLine(out, phrase("Finish"), joined(view.finish, ", "));
    addLine(out, phrase("Judgement"), view.judgement);
    addLine(out, phrase("Delivered"), joined(view.delivered, ", "));
    if (view.siteSeconds() + view.deskSeconds() > 0)
      addLine(out, phrase("Time"),
              phrase("{:.1f} minutes on site, {:.1f} at the desk", view.siteSeconds() / 60, view.deskSeconds() / 60));
    addLine(out, phrase("Notes"), view.notes);
  }
  return out;
}

} // namespace

std::string toCsv(const std::vector<LogEntry>& entries) {
  std::string out = "date,visit,place,tags,view,kind,darkest_ev,brightest_ev,range_stops,planned,fired,sets,repeats,"
                    "answer,combined_of,spoke,minutes_on_site,minutes_at_the_desk,faults,delivered,notes,lesson\r\n";
  for (const auto& entry : entries)
    for (const auto& view : entry.views) {
      const auto figure = [&](double value) { return view.hasRange ? fmt::format("{:.2f}", value) : std::string(); };
      std::vector<std::string> faults;
      for (const auto& fault : view.faults) faults.push_back(fault.kind);
      const std::vector<std::string> cells{entry.date, entry.name, entry.place, joined(entry.tags, "; "),
                                           view.name,  view.kind};
      for (const auto& text : cells) out += cell(text) + ",";
      out += figure(view.darkest) + "," + figure(view.brightest) + "," + figure(view.range()) + ",";
      out +=
          fmt::format("{},{},{},{},{},{},{},{:.2f},{:.2f},", view.planned, view.fired, view.sets, view.repeats,
                      cell(view.answer), view.combinedOf, view.spoke, view.siteSeconds() / 60, view.deskSeconds() / 60);
      out += cell(joined(faults, "; ")) + "," + cell(joined(view.delivered, "; ")) + "," + cell(view.notes) + "," +
             cell(entry.lesson) + "\r\n";
    }
  return out;
}

std::string toJsonText(const std::vector<LogEntry>& entries) {
  nlohmann::json list = nlohmann::json::array();
  for (const auto& entry : entries) list.push_back(toJson(entry));
  return nlohmann::json{{"version", 1}, {"visits", list}}.dump(2, ' ', false,
                                                               nlohmann::json::error_handler_t::replace) +
         "\n";
}

std::string toMarkdown(const std::vector<LogEntry>& entries) {
  std::string out;
  for (const auto& entry : entries) out += (out.empty() ? "" : "\n---\n\n") + pageOf(entry);
  return out;
}

} // namespace ml
