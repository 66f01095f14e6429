// SPDX-License-Identifier: GPL-3.0-or-later
#include "visit/visit_file.h"

#include "base/atomic_file.h"

namespace ml {

Result<std::optional<Visit>> readVisit(const std::filesystem::path& job) {
  std::error_code error;
  if (!std::filesystem::exists(visitFile(job), error)) return std::optional<Visit>{};
  const auto text = readText(visitFile(job));
  if (!text) return passOn(text.error());
  auto visit = visitFromJson(*text, visitFile(job).string());
  if (!visit) return passOn(visit.error());
  return std::optional<Visit>(std::move(*visit));
}

Result<void> writeVisit(const std::filesystem::path& job, const Visit& visit) {
  return writeTextAtomically(visitFile(job), toJson(visit));
}

} // namespace ml
