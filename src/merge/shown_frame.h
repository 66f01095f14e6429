// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "image/image.h"
#include "merge/merge.h"
#include "merge/tile.h"

#include <optional>

namespace ml {

/// One frame as it would be shown: sRGB codes 0..1, a plane for each channel, on the reference's grid.
struct ShownTile {
  Image<float> red, green, blue;
  Image<float> use; ///< 1 used .. 0 left out for movement, or outside the frame.
};

/// What does not change from tile to tile; shared by all threads.
class ShownFrame {
public:
  /// `share` may be null; it and the frame must outlive this.
  ShownFrame(const PlacedFrame& placed, const Image<float>* share, int cell);
  [[nodiscard]] const PlacedFrame& placed() const { return placed_; }
  /// A rendered file is shown as it is, by this table of its codes; else null.
  [[nodiscard]] const CodeTable* codes() const { return codes_ ? &*codes_ : nullptr; }
  /// Fills `out`, whose planes have the size of `where`.
  void read(TileReader& reader, const Roi& where, FrameTile& scratch, ShownTile& out) const;

private:
  PlacedFrame placed_;
  const Image<float>* share_;
  int cell_;
  bool plain_;
  std::optional<CodeTable> codes_;
};

} // namespace ml
