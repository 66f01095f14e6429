// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "finish/recipe.h"

#include <array>

namespace ml {

/// Lines to compose by inside the part that is kept.
enum class CropGuide { None, Thirds, Golden, Middle, Diagonals };

struct GuideLine {
  Spot2 from, to; ///< 0..1 of the part that is kept.
};
[[nodiscard]] std::vector<GuideLine> guideLines(CropGuide guide);

/// A part of the finished picture, 0..1.
struct CropBox {
  double x0 = 0, y0 = 0, x1 = 1, y1 = 1;
  friend bool operator==(const CropBox&, const CropBox&) = default;
};

/// The box a drag asks for. `ratio`: longer to shorter side in pixels, 0: as dragged; it lies as the drag does, and the
/// box is the largest of it inside the drag that begins where the drag began. `aspect`: width to height of the finished
/// picture.
[[nodiscard]] CropBox draggedBox(Spot2 from, Spot2 to, double ratio, double aspect);

/// `was` cut further to a box of its finished picture; at least a twentieth of each side is kept.
[[nodiscard]] Geometry cutTo(const Geometry& was, const CropBox& box);

/// The largest part of a ratio about the middle of what is kept now, lying as that does. `aspect`: width to height of
/// the whole picture.
[[nodiscard]] Geometry cutToRatio(const Geometry& was, double ratio, double aspect);

/// Four points from the upper left clockwise, as they lie about their middle.
[[nodiscard]] std::vector<Spot2> clockwise(std::vector<Spot2> points);

} // namespace ml
