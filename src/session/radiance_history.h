// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "session/job.h"

namespace ml {

/// Combined pictures of a view that undo may want back, `history/radiance-STAMP.exr`; `radiance.exr` is another name of
/// the one in force.

/// A stamp that no other combined picture has.
[[nodiscard]] std::string newStamp();
[[nodiscard]] std::filesystem::path historyFile(const View& view, const std::string& stamp);
/// The file of the combined picture in force.
[[nodiscard]] std::filesystem::path radianceNow(const View& view);
/// Where positions that were combined are kept, so that joining that was stopped, and the same positions laid
/// otherwise, do not combine them again.
[[nodiscard]] std::filesystem::path joiningFolder(const View& view);
/// combine.json and `radiance.exr` as the view has them. Errors: CannotWrite.
Result<void> keepCombined(const View& view);
/// Removes all but the one in force, and positions kept for joining that came to its end.
void forgetHistory(const View& view);

} // namespace ml
