#pragma once
#include "capture/frame.h"
#include "merge/merge.h"

namespace ml {

/// How far each sample can be trusted, 0..255: it falls as the brightest channel nears clipping, and stays low for two pixels
/// around, because demosaicing, sharpening and compression spread what clipped there.
[[nodiscard]] Image<std::uint8_t> trustMap(const Frame& frame);

/// One row of a frame on the reference's pixel grid.
struct RowSamples {
  std::vector<float> linear; ///< Three values a pixel.
  std::vector<float> trust;  ///< 1 well exposed .. 0 clipped; -1 outside the frame.
};

/// Catmull-Rom interpolation of linear light, held between the least and the greatest of its 16 samples so that no edge rings;
/// a pixel is trusted as little as the least trusted of the four samples around it.
void sampleRow(const PlacedFrame& placed, const Image<std::uint8_t>& trust, int y, int width, RowSamples& out);

/// Trust in a sample whose largest channel stands at `level` of its clipping point: 1 below 0.9, falling smoothly to 0.
[[nodiscard]] inline float trustOf(float level) {
  const float t = std::clamp((1 - level) / 0.1f, 0.f, 1.f);
  return t * t * (3 - 2 * t);
}

/// Largest channel relative to where it clips.
[[nodiscard]] inline float clipLevel(const float* linear, const float inverseClip[3]) {
  return std::max({linear[0] * inverseClip[0], linear[1] * inverseClip[1], linear[2] * inverseClip[2]});
}

} // namespace ml
