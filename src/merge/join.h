// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "merge/merge.h"

namespace ml {

/// Two frames joined by tone: the lighter one, and where its brightest channel passes a soft threshold the darker one.
/// Codes of an sRGB picture, 0..255 (fully replaced above 185, untouched below 160: common practice, no source).
struct ToneRange {
  float untouchedBelow = 160, replacedAbove = 185;
  [[nodiscard]] std::optional<std::string> invalidReason() const;
};
/// Joins the darkest and the lightest of `frames` in radiance; moving things follow `options`. Errors as mergeRadiance,
/// and TooFewFrames below two.
Result<MergeResult> joinByTone(const std::vector<PlacedFrame>& frames, const MergeOptions& options,
                               const ToneRange& range, const Progress& progress);

/// The merged picture, and inside the painted area (strokes with a brush radius) the darker, per pixel, of it and of
/// frame `dark`: for a frame in which a flash outshone the reflections in a window, or in which a lamp was off. Both
/// have the same scale.
struct DarkerArea {
  std::vector<SourceChoice> strokes; ///< Their `frame` is the frame that may darken.
};
Result<MergeResult> joinDarker(const std::vector<PlacedFrame>& frames, const MergeOptions& options,
                               const DarkerArea& area, const Progress& progress);

} // namespace ml
