// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <algorithm>
#include <cstdint>
#include <nlohmann/json.hpp>

namespace ml {

/// A whole number of a document, within what a double holds exactly; 0: there is none. A stranger's may be 9e99, which
/// no integer is.
[[nodiscard]] inline std::int64_t wholeNumber(const nlohmann::json& document, const char* name) {
  constexpr double kMost = 9007199254740992.0; // 2^53
  const double value = document.value(name, 0.0);
  return value == value ? std::int64_t(std::clamp(value, -kMost, kMost)) : 0;
}

} // namespace ml
