// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "visit/light_want.h"

#include <string>
#include <vector>

namespace ml {

enum class Lamps { Off, On, Both };

/// One view to be photographed at a visit.
struct VisitView {
  std::string name;
  std::string kind = "interior"; ///< Free words; the pace is learnt for each.
  std::string stand;             ///< Where the camera stands; empty: the view's own name.
  std::string folder;            ///< Of the job's view it is; empty: not in the job yet.
  LightWish light;
  Lamps lamps = Lamps::Off;
  int positions = 1, planes = 1;
  double setSeconds = 10;        ///< Of one bracket, timer included.
  std::optional<double> minutes; ///< All of it, as the photographer says; empty: from pace and plan.
  bool late = false;             ///< As late as the rest allows.
  int worth = 1;                 ///< 1 to 9: against others that would take its time.
  bool done = false;
  friend bool operator==(const VisitView&, const VisitView&) = default;
};

/// A way between two stands, either direction.
struct StandWay {
  std::string from, to;
  double minutes = 3;
  friend bool operator==(const StandWay&, const StandWay&) = default;
};

/// Whether both lead between the same two stands, whichever way round.
[[nodiscard]] bool joinsTheSame(const StandWay& a, const StandWay& b);

/// Where, when, and what for. The part of a visit that people write.
struct Visit {
  std::string name;
  Place place;
  year_month_day date{std::chrono::year{2026}, std::chrono::month{6}, std::chrono::day{21}};
  int from = 8 * 60, to = 20 * 60; ///< Minutes after midnight; `to` up to 48 hours, beyond midnight.
  bool late = false;               ///< Begin as late as the light allows, instead of as early.
  double wayMinutes = 2;           ///< Between stands that no way is given for.
  std::vector<StandWay> ways;
  std::vector<VisitView> views;
  std::vector<std::string> tags;
  std::string lesson; ///< What to do better next time.
  std::string extra;  ///< JSON as it was read: fields of other versions are kept.
  friend bool operator==(const Visit&, const Visit&) = default;

  /// From stand to stand; the same: none.
  [[nodiscard]] double wayBetween(const VisitView& a, const VisitView& b) const;
  [[nodiscard]] Span span() const;
  [[nodiscard]] std::optional<std::string> invalidReason() const;
};

inline constexpr int kMostVisitViews = 200;

/// Where its camera stands: what was said, else at the view's own name.
[[nodiscard]] const std::string& standOf(const VisitView& view);
/// Of all views, each once, in their order.
[[nodiscard]] std::vector<std::string> standsOf(const Visit& visit);

/// `source` names the text in errors. Errors: FileUnreadable (not JSON, a wrong type, another version),
/// InvalidArgument (a value that makes no sense); both name the field.
[[nodiscard]] Result<Visit> visitFromJson(const std::string& text, const std::string& source);
[[nodiscard]] std::string toJson(const Visit& visit);

/// Minutes on site for a view of a kind, its brackets not counted: composing, reading the light, checking.
struct Pace {
  std::string kind;
  double minutes = 3;
  int cases = 0; ///< The photographer's own; 0: a usual figure.
};
/// Usual figures (common practice, no source).
[[nodiscard]] const std::vector<Pace>& usualPace();
/// That of the kind: of `own` if there, else the usual one, else that of an interior.
[[nodiscard]] Pace paceFor(const std::string& kind, const std::vector<Pace>& own);
/// Sets to shoot: positions, planes, and both ways of the lamps.
[[nodiscard]] int setsOf(const VisitView& view);
/// Seconds a view takes on site.
[[nodiscard]] int secondsFor(const VisitView& view, const std::vector<Pace>& own);

} // namespace ml
