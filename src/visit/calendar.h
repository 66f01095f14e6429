// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "visit/plan_visit.h"

#include <string>

namespace ml {

/// The visit as an iCalendar file: an event for each planned view, times in UTC, with its light and cautions. RFC 5545:
/// lines end with CR LF and are folded after at most 75 octets, never inside a character. `stamp`: when it is written.
[[nodiscard]] std::string toCalendar(const Visit& visit, const VisitPlan& plan, Moment stamp);

} // namespace ml
