// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "plan/planner.h"

#include <QStringList>
#include <vector>

namespace ml {

/// Times as they stand on a dial, with commas between them.
[[nodiscard]] QString timesWords(const std::vector<ExposureSettings>& frames);
/// What was asked of a plan and what its bracket records.
[[nodiscard]] QStringList planReasons(const Plan& plan);
/// That nothing smaller would do.
[[nodiscard]] QString smallestWords(const Plan& plan);

} // namespace ml
