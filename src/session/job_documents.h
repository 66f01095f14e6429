// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "base/result.h"

#include <filesystem>
#include <nlohmann/json.hpp>
#include <string>

// Reading and writing the JSON documents of a job's folder, and what is refused before that.

namespace ml {

/// Errors: FileUnreadable (damaged, of a newer version), of reading.
[[nodiscard]] Result<nlohmann::json> readJson(const std::filesystem::path& file);
/// Known fields over whatever other fields (`extra`, JSON) were there before. Errors: CannotWrite.
[[nodiscard]] Result<void> writeJson(const std::filesystem::path& file, nlohmann::json known, const std::string& extra);
/// Before anything of the job is touched. What is damaged is said where it is read. Errors: FileUnreadable.
[[nodiscard]] Result<void> refuseNewer(const std::filesystem::path& job);
/// A job may come from a stranger: what is written into it stays in it. Errors: FileUnreadable.
[[nodiscard]] Result<void> refuseWaysOut(const std::filesystem::path& viewFolder);
/// Errors: CannotWrite.
[[nodiscard]] Result<void> makeFolder(const std::filesystem::path& folder);

} // namespace ml
