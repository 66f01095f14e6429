// SPDX-License-Identifier: GPL-3.0-or-later
#include "session/read_plan.h"

#include "base/atomic_file.h"
#include "base/phrase.h"
#include "pipeline/report.h"

#include <nlohmann/json.hpp>

namespace ml {

Result<Plan> readPlan(const std::filesystem::path& file) {
  const auto text = readText(file);
  if (!text) return passOn(text.error());
  const auto document = nlohmann::json::parse(*text, nullptr, false);
  if (document.is_discarded())
    return fail(ErrorCode::FileUnreadable,
                phrase("`{}` is not a plan; make one with `mellow-lantern-cli plan --json`.", file.string()));
  return planFromJson(document);
}

} // namespace ml
