// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <cstddef>
#include <string>

namespace ml {

/// A count as it begins a sentence: "No", "One" ... "Twelve"; in figures beyond `most` (at most 12).
[[nodiscard]] std::string spelled(std::size_t count, std::size_t most = 9);

} // namespace ml
