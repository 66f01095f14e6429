// SPDX-License-Identifier: GPL-3.0-or-later
#include "logbook/learnt.h"

#include "base/phrase.h"
#include "exposure/marks.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <set>

namespace ml {
namespace {

std::string hoursOf(double minutes) {
  const long whole = std::lround(minutes);
  if (whole < 100) return phrase("{} minutes", whole);
  return fmt::format("{} h {:02d}", whole / 60, whole % 60);
}

std::set<std::string> kindsOf(const LogCases& cases) {
  std::set<std::string> kinds;
  for (const auto& view : cases.views) kinds.insert(view.kind);
  return kinds;
}

/// Figures of the views that have one, and where they come from.
template <class Figure>
std::pair<std::vector<double>, std::vector<LogCase>> collected(const LogCases& cases, const Figure& figure) {
  std::pair<std::vector<double>, std::vector<LogCase>> out;
  for (const auto& view : cases.views)
    if (const std::optional<double> value = figure(view)) {
      out.first.push_back(*value);
      out.second.push_back(view.from);
    }
  return out;
}

void learnPace(const LogCases& cases, std::vector<Learnt>& out) {
  for (const auto& kind : kindsOf(cases)) {
    const auto [site, from] = collected(cases, [&](const LogCases::View& v) -> std::optional<double> {
      if (v.kind != kind || v.siteMinutes <= 0) return {};
      return v.siteMinutes;
    });
    if (const auto spread = spreadOf(site))
      out.push_back({"pace-" + kind,
                     phrase("A view of the kind {} takes you {:.1f} minutes on site, half of them between {:.1f} and "
                            "{:.1f} ({} views).",
                            kind, spread->middle, spread->low, spread->high, spread->cases),
                     from});
  }
  const auto [desk, from] = collected(cases, [](const LogCases::View& v) -> std::optional<double> {
    if (v.deskMinutes <= 0) return {};
    return v.deskMinutes;
  });
  if (const auto spread = spreadOf(desk))
    out.push_back({"desk",
                   phrase("A picture takes you {:.1f} minutes at the desk, half of them between {:.1f} and {:.1f} "
                          "({} pictures).",
                          spread->middle, spread->low, spread->high, spread->cases),
                   from});
}

void learnHand(const LogCases& cases, std::vector<Learnt>& out) {
  const auto curve = handCurve(cases);
  if (!curve) return;
  std::vector<LogCase> from;
  for (const auto& hand : cases.hand)
    if (from.empty() || !(from.back() == hand.from)) from.push_back(hand.from);
  const auto timeAt = [&](double focal, double stops) { return Seconds{std::exp2(stops) / focal}; };
  const auto mark = [&](double focal, double stops) {
    return print(timeAtThirds(nearestThirds(timeAt(focal, stops))));
  };
  out.push_back({"hand",
                 phrase("Four of five frames from your hand are sharp at {} with 24 mm, {} with 50 mm and {} with "
                        "100 mm (35 mm equivalents); the band at 24 mm is {} to {} ({} frames).",
                        mark(24, curve->stops), mark(50, curve->stops), mark(100, curve->stops), mark(24, curve->low),
                        mark(24, curve->high), curve->cases),
                 from});
}

void learnRanges(const LogCases& cases, std::vector<Learnt>& out) {
  for (const auto& bar : rangesByKind(cases)) {
    const auto [figures, from] = collected(cases, [&](const LogCases::View& v) -> std::optional<double> {
      if (v.kind != bar.kind || v.range < 0) return {};
      return v.range;
    });
    out.push_back({"range-" + bar.kind,
                   phrase("Views of the kind {} span {:.1f} stops in the middle, half of them {:.1f} to {:.1f} ({} "
                          "views).",
                          bar.kind, bar.stops.middle, bar.stops.low, bar.stops.high, bar.stops.cases),
                   from});
  }
}

void learnFrames(const LogCases& cases, std::vector<Learnt>& out) {
  constexpr int kUsual = 3;
  std::vector<LogCase> from;
  int enough = 0;
  for (const auto& view : cases.views) {
    if (view.combinedOf <= kUsual) continue;
    from.push_back(view.from);
    enough += view.spoke <= kUsual;
  }
  if (int(from.size()) < kFewestCases) return;
  out.push_back({"frames",
                 phrase("Of {} views combined from more than three frames, in {} no more than three said anything.",
                        from.size(), enough),
                 from});
}

std::string faultWords(const std::string& kind) {
  std::string out = kind;
  std::replace(out.begin(), out.end(), '-', ' ');
  return out;
}

void learnFaults(const LogCases& cases, std::vector<Learnt>& out) {
  const auto checked = std::count_if(cases.views.begin(), cases.views.end(), [](const auto& v) { return v.checked; });
  std::map<std::string, std::vector<const LogCases::Fault*>> byKind;
  for (const auto& fault : cases.faults) byKind[fault.kind].push_back(&fault);
  for (const auto& [kind, faults] : byKind) {
    if (int(faults.size()) < kFewestCases) continue;
    std::map<int, int> byPart; // of the day, three hours each
    std::vector<LogCase> from;
    int timed = 0;
    for (const auto* fault : faults) {
      if (from.empty() || !(from.back() == fault->from)) from.push_back(fault->from);
      if (fault->hour >= 0) ++byPart[fault->hour / 3], ++timed;
    }
    std::string when;
    const auto most =
        std::max_element(byPart.begin(), byPart.end(), [](auto a, auto b) { return a.second < b.second; });
    if (timed >= kFewestCases)
      when = phrase(", most between {:02d}:00 and {:02d}:00 ({} of {})", most->first * 3, most->first * 3 + 3,
                    most->second, timed);
    out.push_back({"fault-" + kind,
                   phrase("The field check found \"{}\" in {} frames of {} checked views{}.", faultWords(kind),
                          faults.size(), checked, when),
                   from});
  }
}

void learnStart(const LogCases& cases, std::vector<Learnt>& out) {
  const auto start = ownStart(cases);
  if (start.empty()) return;
  const auto [ignored, from] = collected(cases, [](const LogCases::View& v) -> std::optional<double> {
    if (v.offsets.empty()) return {};
    return 0.0;
  });
  std::string moves;
  for (const auto& [control, by] : start) moves += fmt::format("{}{} {:+.2f}", moves.empty() ? "" : ", ", control, by);
  out.push_back({"start",
                 phrase("Your finishes end away from the automatic start: {} in the middle ({} pictures). It can be "
                        "your own starting point.",
                        moves, from.size()),
                 from});
}

} // namespace

std::vector<Learnt> learntFrom(const LogCases& cases) {
  std::vector<Learnt> out;
  learnPace(cases, out);
  learnHand(cases, out);
  learnFrames(cases, out);
  learnRanges(cases, out);
  learnFaults(cases, out);
  learnStart(cases, out);
  return out;
}

std::vector<Pace> ownPace(const LogCases& cases) {
  std::vector<Pace> out;
  for (const auto& kind : kindsOf(cases)) {
    std::vector<double> minutes;
    for (const auto& view : cases.views)
      if (view.kind == kind && view.siteMinutes > 0) minutes.push_back(view.siteMinutes);
    if (const auto spread = spreadOf(minutes)) out.push_back({kind, spread->middle, spread->cases});
  }
  return out;
}

std::optional<LogSpread> deskPace(const LogCases& cases) {
  std::vector<double> minutes;
  for (const auto& view : cases.views)
    if (view.deskMinutes > 0) minutes.push_back(view.deskMinutes);
  return spreadOf(minutes);
}

std::string forecast(const LogCases& cases, int views) {
  std::vector<double> site;
  for (const auto& view : cases.views)
    if (view.siteMinutes > 0) site.push_back(view.siteMinutes);
  const auto on = spreadOf(site);
  if (!on || views < 1) return {};
  std::string out = views == 1 ? phrase("1 view at your pace: {} on site", hoursOf(on->middle))
                               : phrase("{} views at your pace: {} on site", views, hoursOf(views * on->middle));
  if (const auto desk = deskPace(cases)) out += phrase(", {} at the desk", hoursOf(views * desk->middle));
  return out + ".";
}

std::optional<HandCurve> handCurve(const LogCases& cases) {
  std::vector<HandFrame> frames;
  for (const auto& hand : cases.hand) frames.push_back(hand.frame);
  return fitHand(frames);
}

std::map<std::string, double> ownStart(const LogCases& cases) {
  constexpr double kNothing = 0.01;
  std::map<std::string, std::vector<double>> byControl;
  for (const auto& view : cases.views)
    for (const auto& [control, by] : view.offsets) byControl[control].push_back(by);
  std::map<std::string, double> out;
  for (const auto& [control, moves] : byControl) {
    const auto moved = std::count_if(moves.begin(), moves.end(), [](double by) { return std::abs(by) > kNothing; });
    const auto spread = spreadOf(moves);
    if (spread && 2 * moved > std::ptrdiff_t(moves.size()) && std::abs(spread->middle) > kNothing)
      out[control] = spread->middle;
  }
  return out;
}

std::vector<PacePoint> paceByMonth(const LogCases& cases) {
  struct Month {
    std::vector<double> site, desk;
  };
  std::map<std::string, Month> months;
  for (const auto& view : cases.views) {
    if (view.from.date.size() < 7) continue;
    auto& month = months[view.from.date.substr(0, 7)];
    if (view.siteMinutes > 0) month.site.push_back(view.siteMinutes);
    if (view.deskMinutes > 0) month.desk.push_back(view.deskMinutes);
  }
  const auto middle = [](std::vector<double> figures) {
    if (figures.empty()) return 0.0;
    std::nth_element(figures.begin(), figures.begin() + std::ptrdiff_t(figures.size() / 2), figures.end());
    return figures[figures.size() / 2];
  };
  std::vector<PacePoint> out;
  for (const auto& [name, month] : months)
    if (const int count = int(std::max(month.site.size(), month.desk.size())); count > 0)
      out.push_back({name, middle(month.site), middle(month.desk), count});
  return out;
}

std::vector<RangeBar> rangesByKind(const LogCases& cases) {
  std::vector<RangeBar> out;
  for (const auto& kind : kindsOf(cases)) {
    std::vector<double> ranges;
    for (const auto& view : cases.views)
      if (view.kind == kind && view.range >= 0) ranges.push_back(view.range);
    if (const auto spread = spreadOf(ranges)) out.push_back({kind, *spread});
  }
  return out;
}

std::vector<HandBin> handBins(const LogCases& cases) {
  std::map<int, HandBin> bins;
  for (const auto& hand : cases.hand) {
    const int at = int(std::floor(hand.frame.stops));
    auto& bin = bins[at];
    bin.stops = at + 0.5;
    bin.sharp += hand.frame.sharp;
    ++bin.all;
  }
  std::vector<HandBin> out;
  for (const auto& [at, bin] : bins) out.push_back(bin);
  return out;
}

} // namespace ml
