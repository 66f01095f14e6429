// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "visit/plan_visit.h"

#include <string>
#include <vector>

namespace ml {

/// "Six views from 16:10 to 20:45, all in their light." or what is left out: one sentence.
[[nodiscard]] std::string verdict(const Visit& visit, const VisitPlan& plan);
/// "Sunrise 5:12, sunset 20:58, ..." One sentence.
[[nodiscard]] std::string sunWords(const VisitPlan& plan);
/// "One bracket takes 9 s; in that time the light falls by 0.2 stop." Empty: it hardly changes.
[[nodiscard]] std::string fadeWords(const Visit& visit, const PlannedView& view);
/// "Next: Jetty at dusk at 19:40, in 12 minutes. There is time for a repeat: 6 minutes to spare." One or two sentences.
[[nodiscard]] std::string nowWords(const Visit& visit, const VisitPlan& plan, Moment now);
/// "the lake front (towards 280°, sun on the front)".
[[nodiscard]] std::string lightWords(const VisitView& view);
/// How long the views of a kind take and whose figure that is.
[[nodiscard]] std::string paceWords(const Pace& pace);

/// What to have along and to set, in the order one needs it (common practice, no source).
[[nodiscard]] const std::vector<std::string>& checklist();
/// What to mind at a view: sun, dusk, roads and water; empty when nothing special.
[[nodiscard]] std::vector<std::string> cautionsFor(const VisitView& view, const PlannedView& planned);
/// That hold for any visit.
[[nodiscard]] const std::string& generalCaution();

} // namespace ml
