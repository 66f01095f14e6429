// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "pipeline/combine_report.h"
#include "session/job.h"

#include <QStringList>
#include <optional>
#include <string>

namespace ml {

/// A frame has one number everywhere: as it arrived in the set in hand, counted from 1; frames that are lent go on from
/// there. 0: it is neither.
[[nodiscard]] int frameNumber(const View& view, const std::filesystem::path& file);
/// The numbers of the merged frames, darkest first.
[[nodiscard]] std::vector<int> frameNumbers(const View& view, const CombineReport& report);

/// How the frames lay, in the order of their numbers, and what was found of the camera's curve.
[[nodiscard]] QStringList combineReasons(const CombineReport& report, const std::vector<int>& numbers);

/// Which frame the finish is as light as; empty: none was metered for most of the scene.
[[nodiscard]] QString meteredWords(const CombineReport& report, const std::vector<int>& numbers);

/// What a report says of one frame, by its name; of another set when `lent`.
struct FrameWords {
  int merged = -1;             ///< Index among the merged frames.
  QString line, details, note; ///< `note`: why leaving it out is proposed, or what is odd about it.
};
[[nodiscard]] std::optional<FrameWords> frameWords(const CombineReport& report, const std::filesystem::path& file,
                                                   bool lent, int number);

} // namespace ml
