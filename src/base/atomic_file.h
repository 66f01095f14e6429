// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "base/result.h"
#include <filesystem>
#include <functional>
#include <string_view>

namespace ml {

/// Runs `write` on a temporary name beside `target`, flushes it to disk, renames it over `target` and flushes the
/// folder: readers see the old file or the new one, never half of one, also after a power cut. The temporary keeps the
/// extension of `target`. On error nothing is left.
Result<void> writeAtomically(const std::filesystem::path& target,
                             const std::function<Result<void>(const std::filesystem::path& temporary)>& write);

/// Removes what writers that died left in `folder`: temporaries whose process is gone.
void clearLeftovers(const std::filesystem::path& folder);

Result<void> writeTextAtomically(const std::filesystem::path& target, std::string_view text);
Result<std::string> readText(const std::filesystem::path& file);

} // namespace ml
