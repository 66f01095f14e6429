// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "model/combining.h"

namespace ml {

/// All positions of a view to one picture that lies in its history, cropped to what they cover; drawn and written some
/// rows at a time. Positions whose sets are named in `options.unused` take no part. Errors: of assembling and of
/// writing.
[[nodiscard]] Result<CombinedView> joinView(const View& view, const CombineOptions& options, const Progress& progress);

/// What joining will give, at a fraction of its size.
struct JoinedLook {
  Image<float> radiance; ///< Cropped to what the positions cover.
  SceneFacts facts;
};
/// Frames are read at about `edge` pixels; nothing is written. Errors: of assembling.
[[nodiscard]] Result<JoinedLook> lookAtJoined(const View& view, const CombineOptions& options, int edge,
                                              const Progress& progress);

} // namespace ml
