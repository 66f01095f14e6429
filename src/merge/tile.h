#pragma once
#include "merge/merge.h"

#include <array>
#include <vector>

namespace ml {

/// Trust in a sample that stands at `level` of its clipping point: 1 below 0.9, falling smoothly to 0.
[[nodiscard, gnu::always_inline]] inline float trustOf(float level) {
  const float t = std::clamp((1 - level) * 10, 0.f, 1.f);
  return t * t * (3 - 2 * t);
}

/// Largest channel relative to where it clips.
[[nodiscard]] inline float clipLevel(const float* linear, const float inverseClip[3]) {
  return std::max({linear[0] * inverseClip[0], linear[1] * inverseClip[1], linear[2] * inverseClip[2]});
}

/// A rectangle of planes, row after row without gaps; a scratch that is used again and again.
struct Plane {
  int width = 0, height = 0;
  std::vector<float> values;
  void shape(int w, int h) {
    width = w, height = h;
    values.resize(std::size_t(w) * h);
  }
  [[nodiscard]] float* row(int y) { return values.data() + std::size_t(y) * width; }
  [[nodiscard]] const float* row(int y) const { return values.data() + std::size_t(y) * width; }
};

/// One frame on a rectangle of the reference's pixel grid.
struct FrameTile {
  std::array<Plane, 3> linear; ///< Light, saturation about 1.
  std::array<Plane, 3> trust;  ///< For each channel 1 well exposed .. 0 clipped or near it; -1 outside the frame.
  bool allTrusted = true;      ///< Every trust in the rectangle is 1; the planes are not filled then.
  bool noneTrusted = false;    ///< Every trust is 0 or less.
  bool placed = true;          ///< False: `linear` holds nothing.
};

/// Reads rectangles of one placed frame: codes to light, how far each can be trusted, and both on the reference's grid.
/// Light is interpolated with interpolationWeights, first down the columns and then along the rows (Catmull and Smith, SIGGRAPH 1980:
/// exact for any homography that does not turn the picture far), and held between the four nearest samples so that no edge rings.
/// Trust falls as a channel nears clipping and stays low for two pixels around what clipped, because demosaicing, sharpening,
/// compression and chroma subsampling spread it. A position is trusted as little as the least of the samples around it.
class TileReader {
public:
  /// With `values` the codes are read through that table instead of the frame's own (to see them as codes, not as light); everything in
  /// the frame is then trusted.
  explicit TileReader(const PlacedFrame& placed, const CodeTable* values = nullptr);
  /// With `mayStayOut` a tile in which nothing is trusted is not placed: `out.placed` false, `linear` undefined.
  void read(const Roi& where, bool mayStayOut, FrameTile& out);

private:
  void linearise(const Roi& source);
  void findTrust(FrameTile& out);
  void place(const Roi& where, const Roi& source, FrameTile& out);
  [[nodiscard]] Roi sourceOf(const Roi& where) const;

  const PlacedFrame placed_;
  const CodeTable* values_;
  bool still_;
  float inverseClip_[3];
  std::array<Plane, 3> light_, trust_;
  Plane across_;
  std::vector<float> position_, weights_, column_, columnTrust_;
};

} // namespace ml
