// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <QString>
#include <string>

namespace ml {

/// The core's words for the window.
[[nodiscard]] inline QString text(const std::string& words) {
  return QString::fromStdString(words);
}

} // namespace ml
