// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "align/transform.h"
#include "capture/frame.h"

#include <functional>

namespace ml {

/// Green light of a frame, as fine as its sharpness is judged: means of `scale` x `scale` pixels as roots of light,
/// kCut - 1 at saturation; kCut where a channel of one of those pixels clips.
struct Detail {
  static constexpr std::uint16_t kCut = 65535;
  static constexpr double kMostPixels = 3e6; ///< Larger frames are binned.
  int scale = 1;
  Image<std::uint16_t> roots;
};
[[nodiscard]] Detail detailOf(const Frame& frame);

/// Linear light of a detail; kNoLight where it is cut. `reading`: light as it was read (0..1) to the light it stands
/// for; empty: itself.
inline constexpr float kNoLight = -1;
[[nodiscard]] Image<float> lightOf(const Detail& detail, const std::function<double(double)>& reading);
/// The light of places `onto` of each pixel, on a picture of the same size; kNoLight outside and beside what is cut.
[[nodiscard]] Image<float> lightAt(const Image<float>& light, const Transform& onto);
/// Means of 2 x 2; kNoLight when one of them is.
[[nodiscard]] Image<float> halvedLight(const Image<float>& light);

} // namespace ml
