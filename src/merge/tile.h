// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "merge/grid_places.h"
#include "merge/merge.h"
#include "mosaic/developer.h"

#include <array>
#include <optional>
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

/// A rectangle of samples with a border around it that rows may reach into; a scratch that is used again and again.
class Plane {
public:
  /// Makes room; what was held is lost.
  void shape(int width, int height, int border = 0) {
    width_ = width, height_ = height, border_ = border, pitch_ = width + 2 * border;
    values_.resize(std::size_t(pitch_) * (height + 2 * border));
  }
  [[nodiscard]] int width() const { return width_; }
  [[nodiscard]] int height() const { return height_; }
  [[nodiscard]] std::ptrdiff_t pitch() const { return pitch_; } ///< From row to row.
  [[nodiscard]] float* row(int y) { return values_.data() + (y + border_) * pitch_ + border_; }
  [[nodiscard]] const float* row(int y) const { return values_.data() + (y + border_) * pitch_ + border_; }
  void fill(float value) { std::fill(values_.begin(), values_.end(), value); }

private:
  int width_ = 0, height_ = 0, border_ = 0;
  std::ptrdiff_t pitch_ = 0;
  std::vector<float> values_;
};

/// One frame on a rectangle of the reference's pixel grid.
struct FrameTile {
  std::array<Plane, 3> linear; ///< Light, saturation about 1.
  std::array<Plane, 3> trust;  ///< For each channel 1 well exposed .. 0 clipped or near it; -1 outside the frame.
  bool allTrusted = true;      ///< Every trust in the rectangle is 1; the planes are not filled then.
  bool noneTrusted = false;    ///< Every trust is 0 or less.
  bool placed = true;          ///< False: `linear` holds nothing.
};

/// What reading needs besides its result; one for each thread, whatever the number of frames, so that it stays in the
/// cache.
struct TileScratch {
  std::array<Plane, 3> light, trust;
  Plane across;
  std::vector<float> column, columnTrust;
  GridPlaces places;
  std::optional<MosaicDeveloper> developer; ///< Once a mosaic was read.
};

/// Reads rectangles of one placed frame: codes to light, how far each can be trusted, and both on the reference's grid.
/// Light is interpolated with interpolationWeights, first down the columns and then along the rows (Catmull and Smith,
/// SIGGRAPH 1980: exact for any homography that does not turn the picture far), and held between the four nearest
/// samples so that no edge rings. Trust falls as a channel nears clipping and stays low for two pixels around what
/// clipped, because demosaicing, sharpening, compression and chroma subsampling spread it. A position is trusted as
/// little as the least of the samples around it.
class TileReader {
public:
  /// With `values` the codes are read through that table instead of the frame's own (to see them as codes, not as
  /// light); everything in the frame is then trusted.
  TileReader(const PlacedFrame& placed, TileScratch& scratch, const CodeTable* values = nullptr);
  /// With `mayStayOut` a tile in which nothing is trusted is not placed: `out.placed` false, `linear` undefined.
  void read(const Roi& where, bool mayStayOut, FrameTile& out);

private:
  enum class Exposed { AllWell, AllClipped, Mixed };

  /// By the codes alone, without reading them as light. The source is held within the frame for it.
  [[nodiscard]] Exposed exposed(const Roi& source) const;
  void linearise(const Roi& source, std::array<Plane, 3>& light, int border) const;
  void develop(const Roi& source, std::array<Plane, 3>& light, int border) const;
  void findTrust(const std::array<Plane, 3>& light, std::array<Plane, 3>& trust, int border);
  void place(const Roi& where, const Roi& source, FrameTile& out);
  void markOutside(const Roi& where, FrameTile& out) const;
  [[nodiscard]] Roi sourceOf(const Roi& where) const;

  const PlacedFrame placed_;
  const CodeTable* values_;
  TileScratch& scratch_;
  bool still_;
  float inverseClip_[3];
  int wellBelow_, clippedFrom_; ///< Codes: below the one every channel is trusted, from the other on none is.
};

} // namespace ml
