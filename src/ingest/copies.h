// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "base/progress.h"

#include <filesystem>
#include <map>
#include <vector>

namespace ml {

/// Which of `files` are copies of another of the same folder, and of which: byte for byte, and named after it (`a
/// (1).jpg` and `a-copy.jpg` after `a.jpg`). Equal files with names of their own stay: whoever made them meant them.
[[nodiscard]] std::map<std::filesystem::path, std::filesystem::path>
copiesAmong(const std::vector<std::filesystem::path>& files, const StopFlag& stop = {});

} // namespace ml
