// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "visit/visit.h"

#include <filesystem>

namespace ml {

/// What people write of a visit lies in its job's folder.
[[nodiscard]] inline std::filesystem::path visitFile(const std::filesystem::path& job) {
  return job / "visit.json";
}
/// Empty: nothing was written yet. Errors: as visitFromJson.
[[nodiscard]] Result<std::optional<Visit>> readVisit(const std::filesystem::path& job);
/// Atomic. Errors: CannotWrite.
Result<void> writeVisit(const std::filesystem::path& job, const Visit& visit);

} // namespace ml
