// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "pipeline/combine.h"
#include "pipeline/steps.h"

namespace ml {

/// A set as it is combined: of one size, held one way, with exposures, darkest first.
struct ReadSet {
  BracketSet set;
  std::vector<std::filesystem::path> lit; ///< Frames of the set's own that a flash lit, unlike the others.
  int margin = 0;                         ///< Pixels laid around a sphere.
};

/// Reads the files that `options` want and those it lends. Frames that were lit stand by as lent ones do, and are added
/// to these. What cannot be used is named in `out.leftOut`, what was done in `out.remarks`; `out.sphere` is set.
/// Errors: nothing can be read, SizeMismatch, Stopped.
[[nodiscard]] Result<ReadSet> readSet(const std::vector<std::filesystem::path>& files, CombineOptions& options,
                                      const Progress& progress, Combined& out);

[[nodiscard]] bool isLent(const Frame& frame, const CombineOptions& options);
/// The set's own, darkest first.
[[nodiscard]] OwnFrames ownFrames(const std::vector<Frame>& frames, const CombineOptions& options);

} // namespace ml
