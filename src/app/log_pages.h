// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "logbook/entry.h"
#include "logbook/learnt.h"

#include <QString>

namespace ml {

/// A visit to be read, with the small pictures that lie in its job.
[[nodiscard]] QString logPageHtml(const LogEntry& entry);
/// What was learnt, then a page for each visit; fonts embedded.
Result<void> writeLogPdf(const std::vector<LogEntry>& entries, const std::vector<Learnt>& lessons,
                         const std::filesystem::path& file);

} // namespace ml
