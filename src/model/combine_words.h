// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "pipeline/combine_report.h"

#include <QStringList>
#include <optional>
#include <string>

namespace ml {

/// How the frames lay and what was found of the camera's curve.
[[nodiscard]] QStringList combineReasons(const CombineReport& report);

/// What a report says of one frame, by its name.
struct FrameWords {
  int merged = -1;             ///< Index among the merged frames.
  QString line, details, note; ///< `note`: why leaving it out is proposed, or what is odd about it.
};
[[nodiscard]] std::optional<FrameWords> frameWords(const CombineReport& report, const std::string& file);

} // namespace ml
