// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "session/job.h"

namespace ml {

/// A view from its folder; frames that reached the disk when the program did not live to note them are taken in.
/// Errors: FileUnreadable (damaged, of a newer version, a way out of the job).
[[nodiscard]] Result<View> loadView(const std::filesystem::path& folder);

} // namespace ml
