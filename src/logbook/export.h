// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "logbook/entry.h"

#include <string>
#include <vector>

namespace ml {

/// A line for each view. RFC 4180; header row; docs/formats.md.
[[nodiscard]] std::string toCsv(const std::vector<LogEntry>& entries);
/// All that is known, as `log export --json` has it.
[[nodiscard]] std::string toJsonText(const std::vector<LogEntry>& entries);
/// A page for each visit, to be read by people.
[[nodiscard]] std::string toMarkdown(const std::vector<LogEntry>& entries);

} // namespace ml
