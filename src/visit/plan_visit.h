// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "visit/schedule.h"
#include "visit/visit.h"

#include <string>
#include <vector>

namespace ml {

/// When a view is photographed, and in what light.
struct PlannedView {
  int view = 0; ///< Index in Visit::views.
  Moment begin, end;
  Span light;          ///< The window it stands in.
  SunPosition sun;     ///< In the middle of it.
  double fade = 0;     ///< Stops a minute the light loses there; negative: it grows.
  double setLoses = 0; ///< Stops during one bracket.
  [[nodiscard]] std::chrono::seconds length() const { return end - begin; }
};

/// A view that finds no time, and the least that would change it.
struct LeftOutView {
  int view = 0;
  std::string reason, change; ///< Sentences.
};

struct VisitPlan {
  std::string zone;
  SunDay sun;
  Span span;
  std::vector<PlannedView> order;
  std::vector<LeftOutView> leftOut;
  Moment begin, end; ///< Setting out for the first view, end of the last; equal: nothing to do.
};

/// Where one stands in the middle of a visit.
struct VisitNow {
  Moment moment;
  int at = -1; ///< View photographed last; -1: none yet.
};

/// Views that are not done into the windows of light they want (findSchedule), from now on. `advise`: also the change
/// that would let in what is left out, which takes many times as long. Errors: InvalidArgument.
[[nodiscard]] Result<VisitPlan> planVisit(const Visit& visit, const std::vector<Pace>& own,
                                          std::optional<VisitNow> now = {}, bool advise = true);

/// What stands in the plan at a moment.
struct VisitMoment {
  int next = -1;                      ///< Entry of VisitPlan::order; -1: nothing more.
  std::chrono::seconds untilBegin{0}; ///< Below 0: it is under way, or late.
  std::chrono::seconds lightLeft{0};  ///< Of the window of the next.
  std::chrono::seconds spare{0};      ///< What can be spent before the next must begin, or the visit ends.
};
[[nodiscard]] VisitMoment momentIn(const Visit& visit, const VisitPlan& plan, Moment now);

} // namespace ml
