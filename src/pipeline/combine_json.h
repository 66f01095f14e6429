// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "pipeline/combine.h"

#include <nlohmann/json_fwd.hpp>

namespace ml {

/// Modes by their names in files and on the command line: "off", "shift", "rigid", "similarity", "perspective", "auto".
[[nodiscard]] std::optional<AlignMode> alignNamed(const std::string& name);
/// "ignore", "obvious", "usual", "close", "auto"; what earlier versions wrote is understood.
[[nodiscard]] std::optional<MotionMode> motionNamed(const std::string& name);

/// As kept in `combine.json` under "options"; what is missing or makes no sense keeps its default.
[[nodiscard]] nlohmann::json toJson(const CombineOptions& options);
[[nodiscard]] CombineOptions combineOptionsFromJson(const nlohmann::json& document);

} // namespace ml
