// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "finish/shape.h"
#include "merge/merge.h"
#include "tone/natural.h"

#include <nlohmann/json_fwd.hpp>

namespace ml {

/// Where a merged picture is noisier than its light is elsewhere: usual signal to noise ratio of that light over the
/// one there, 1..8, on a grid of `crop` about kNoisierAcross cells wide. So it is where things moved and darker frames
/// had to speak alone. Empty: nowhere by a quarter.
inline constexpr int kNoisierAcross = 96;
/// `snr` and `light` as in MergeResult.
[[nodiscard]] Image<float> noisierPlaces(const Image<float>& snr, const Image<float>& light, const Roi& crop);

/// As an analysis of a finished shape wants it: how much more, 0 elsewhere. `width` x `height`: of the analysis' grid.
[[nodiscard]] LocalMap noisierMap(const Image<float>& places, const ShapeMap& shape, int width, int height);
/// The same for a picture as it was combined.
[[nodiscard]] LocalMap noisierMap(const Image<float>& places, int width, int height);

[[nodiscard]] nlohmann::json noisierJson(const Image<float>& places);
/// Empty when a report says nothing, or nothing sound.
[[nodiscard]] Image<float> noisierFromReport(const nlohmann::json& combineReport);

} // namespace ml
