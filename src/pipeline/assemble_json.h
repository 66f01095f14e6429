// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "pipeline/assemble.h"

#include <nlohmann/json_fwd.hpp>

namespace ml {

/// The report of `assemble`; shape in docs/formats.md, fixed.
[[nodiscard]] nlohmann::json toJson(const Assembly& assembly);

} // namespace ml
