// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "practice/truths.h"

namespace ml {

/// What is looked at on a camera before a bracket, all of it right (common practice, no source).
[[nodiscard]] std::vector<SettingItem> settingsFor(bool inTheHand);

} // namespace ml
