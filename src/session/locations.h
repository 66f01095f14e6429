// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "base/result.h"

#include <filesystem>
#include <optional>
#include <string>
#include <vector>

namespace ml {

/// Folder of a demo world: MELLOW_LANTERN_WORLDS, then ../share/mellow-lantern/worlds beside the program, then the
/// source tree the program was built from. Nothing when there is no such world.
[[nodiscard]] std::optional<std::filesystem::path> findWorld(const std::string& id);

/// A file that ships with the program: `installed` below ../share/mellow-lantern beside it, else `inSource` below the
/// source tree it was built from. Empty: neither is there.
[[nodiscard]] std::filesystem::path sharedFile(const std::string& installed, const std::string& inSource);

/// Where new jobs are kept: MELLOW_LANTERN_JOBS, else XDG_DATA_HOME or ~/.local/share, each with mellow-lantern/jobs.
[[nodiscard]] std::filesystem::path jobsFolder();

/// Where the user's own camera profiles are kept: "cameras" beside the jobs folder.
[[nodiscard]] std::filesystem::path profilesFolder(const std::filesystem::path& jobs);

/// And their own looks: "looks" beside it.
[[nodiscard]] std::filesystem::path looksFolder(const std::filesystem::path& jobs);

/// And the response curves of cameras that sets have shown: "curves" beside it.
[[nodiscard]] std::filesystem::path curvesFolder(const std::filesystem::path& jobs);

/// And areas of the finish that were kept by name: "areas" beside it.
[[nodiscard]] std::filesystem::path areasFolder(const std::filesystem::path& jobs);

/// Before long writes: is there room for `bytes` where `folder` lies, or will lie? Where the system does not say, there
/// is. Errors: CannotWrite with both figures.
Result<void> checkSpace(const std::filesystem::path& folder, double bytes);

} // namespace ml
