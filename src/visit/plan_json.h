// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "visit/plan_visit.h"

#include <nlohmann/json_fwd.hpp>

namespace ml {

/// As `visit plan --json` prints it; docs/formats.md.
[[nodiscard]] nlohmann::json toJson(const Visit& visit, const VisitPlan& plan);

} // namespace ml
