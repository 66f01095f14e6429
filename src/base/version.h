// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <string>

namespace ml {

/// Of the program, as CMakeLists.txt has it: "0.1.0".
[[nodiscard]] const char* version();
/// As written into files: "Mellow Lantern 0.1.0".
[[nodiscard]] inline std::string software() {
  return std::string("Mellow Lantern ") + version();
}

} // namespace ml
