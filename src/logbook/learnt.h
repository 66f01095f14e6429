// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "logbook/learn.h"
#include "visit/visit.h"

#include <cstdint>
#include <map>
#include <string>
#include <vector>

namespace ml {

/// A view of a visit, where a figure comes from.
struct LogCase {
  std::int64_t visit = 0;
  std::string view; ///< Its folder.
  std::string name, date;
  friend bool operator==(const LogCase&, const LogCase&) = default;
};

/// What is counted of all views.
struct LogCases {
  struct View {
    LogCase from;
    std::string kind;
    double siteMinutes = 0, deskMinutes = 0; ///< 0: not worked on there.
    int sets = 1;
    double range = -1; ///< Stops; below 0: not read.
    int combinedOf = 0, spoke = 0;
    bool checked = false;                  ///< By the field check, which counts its faults.
    std::map<std::string, double> offsets; ///< Empty: not finished.
  };
  struct Hand {
    LogCase from;
    HandFrame frame;
  };
  struct Fault {
    LogCase from;
    std::string kind;
    int hour = -1;
  };
  std::vector<View> views;
  std::vector<Hand> hand;
  std::vector<Fault> faults;
};

/// Something the logbook has learnt, never from fewer than kFewestCases.
struct Learnt {
  std::string id;       ///< "pace-interior"; never shown.
  std::string sentence; ///< With its figures and the number of its cases.
  std::vector<LogCase> cases;
};
[[nodiscard]] std::vector<Learnt> learntFrom(const LogCases& cases);

/// Own pace by kind of view, for the plan of a visit; kinds below kFewestCases are not there.
[[nodiscard]] std::vector<Pace> ownPace(const LogCases& cases);
/// Minutes at the desk for a view of any kind.
[[nodiscard]] std::optional<LogSpread> deskPace(const LogCases& cases);
/// "38 views at your pace: 2 h 50 on site, two hours at the desk." Empty: not known yet.
[[nodiscard]] std::string forecast(const LogCases& cases, int views);
/// How long this hand holds.
[[nodiscard]] std::optional<HandCurve> handCurve(const LogCases& cases);
/// Where finishes end relative to the automatic start, by control; only what is moved in most of them.
[[nodiscard]] std::map<std::string, double> ownStart(const LogCases& cases);

/// Figures a chart shows.
struct PacePoint {
  std::string month; ///< "2026-06".
  double siteMinutes = 0, deskMinutes = 0;
  int cases = 0;
};
[[nodiscard]] std::vector<PacePoint> paceByMonth(const LogCases& cases);
struct RangeBar {
  std::string kind;
  LogSpread stops;
};
[[nodiscard]] std::vector<RangeBar> rangesByKind(const LogCases& cases);
/// Sharp shares of hand-held frames by whole stops beyond 1 / focal length.
struct HandBin {
  double stops = 0; ///< Middle of the bin.
  int sharp = 0, all = 0;
};
[[nodiscard]] std::vector<HandBin> handBins(const LogCases& cases);

} // namespace ml
