// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <string>

namespace ml {

/// The name of a file in a folder that a stranger's document may choose: no way into another folder, nothing hidden.
[[nodiscard]] inline bool isPlainName(const std::string& name) {
  constexpr std::size_t kLongest = 200;
  return !name.empty() && name.size() < kLongest && name.front() != '.' && name.find('/') == std::string::npos &&
         name.find('\0') == std::string::npos;
}

} // namespace ml
