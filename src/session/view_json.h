// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "session/job.h"

#include <nlohmann/json_fwd.hpp>

namespace ml {

/// Parts of a view as they stand in its JSON files (docs/formats.md). The readers throw nlohmann::json exceptions on
/// wrong types.
[[nodiscard]] nlohmann::json readingJson(const SpotReading& reading);
[[nodiscard]] SpotReading readingFrom(const nlohmann::json& json);
[[nodiscard]] nlohmann::json situationJson(const Situation& situation);
[[nodiscard]] Situation situationFrom(const nlohmann::json& json);
/// Frames shot into the view are stored relative to it, so that the job folder can move.
[[nodiscard]] nlohmann::json setJson(const View& view, const FrameSet& set);
[[nodiscard]] FrameSet setFrom(const View& view, const nlohmann::json& json);
[[nodiscard]] nlohmann::json noteJson(const FrameNote& note);
[[nodiscard]] FrameNote noteFrom(const nlohmann::json& json);
/// A stored file name as a path: relative ones lie in the view's folder.
[[nodiscard]] std::filesystem::path restored(const View& view, const std::string& name);

} // namespace ml
