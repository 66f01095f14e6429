// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "base/result.h"
#include "plan/planner.h"

#include <filesystem>

namespace ml {

/// A plan as `plan --json` prints it. Errors: FileMissing, FileUnreadable with what to do.
[[nodiscard]] Result<Plan> readPlan(const std::filesystem::path& file);

} // namespace ml
