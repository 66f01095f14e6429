// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "pipeline/combine.h"

#include <nlohmann/json_fwd.hpp>

namespace ml {

/// As kept in `combine.json` under "options"; what is missing or makes no sense keeps its default.
[[nodiscard]] nlohmann::json toJson(const CombineOptions& options);
[[nodiscard]] CombineOptions combineOptionsFromJson(const nlohmann::json& document);

} // namespace ml
