// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "finish/judgement.h"
#include "judge/set_judge.h"
#include "pipeline/combine.h"
#include "pipeline/inspect.h"
#include "plan/comparison.h"
#include "plan/shot_list.h"

#include <nlohmann/json_fwd.hpp>

namespace ml {

/// JSON documents of the command line and of job folders; shapes in docs/formats.md.
[[nodiscard]] nlohmann::json toJson(const Plan& plan);
/// As on the command line: radiance, fusion, tone-range, darker, single.
[[nodiscard]] const char* methodName(CombineMethod method);
[[nodiscard]] nlohmann::json settingsJson(const ExposureSettings& settings);
[[nodiscard]] nlohmann::json toJson(const std::vector<InspectedSet>& sets, const std::vector<LeftOut>& leftOut);
[[nodiscard]] nlohmann::json toJson(const FinishReport& report);
/// `figure` is missing where something was not looked at.
[[nodiscard]] nlohmann::json toJson(const Judgement& judgement);

[[nodiscard]] nlohmann::json toJson(const ShotList& list);
[[nodiscard]] nlohmann::json toJson(const Comparison& comparison);
[[nodiscard]] nlohmann::json toJson(const std::vector<FrameJudgement>& frames, const SetVerdict& verdict);
/// "holds", "does_not_hold" or "cannot_tell".
[[nodiscard]] const char* answerName(Answer answer);

/// Reads back what toJson(Plan) wrote, camera profile included.
[[nodiscard]] Result<Plan> planFromJson(const nlohmann::json& document);

[[nodiscard]] nlohmann::json toJson(const CameraProfile& profile);
[[nodiscard]] Result<CameraProfile> profileFromJson(const nlohmann::json& document);

} // namespace ml
