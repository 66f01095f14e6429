// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <cctype>
#include <string>

namespace ml {

/// Small letters and figures of `text`, everything between them one hyphen: safe as a file name. `empty` when nothing
/// is left.
[[nodiscard]] inline std::string slug(const std::string& text, const std::string& empty) {
  constexpr std::size_t kLongest = 60;
  std::string out;
  for (const unsigned char c : text) {
    if (std::isalnum(c))
      out += char(std::tolower(c));
    else if (!out.empty() && out.back() != '-')
      out += '-';
    if (out.size() >= kLongest) break;
  }
  while (!out.empty() && out.back() == '-') out.pop_back();
  return out.empty() ? empty : out;
}

} // namespace ml
