// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "model/finish_state.h"

#include <optional>

namespace ml {

/// A drag over the finished picture, and the recipe as it was when it began.
struct FinishDrag {
  const FinishState& state;
  const Recipe& recipe;
  Spot2 from, to;                 ///< 0..1 of the finished picture.
  Spot2 combinedFrom, combinedTo; ///< The same places of the picture as it was combined.
  int area = -1;                  ///< The chosen one.
  [[nodiscard]] double dx() const { return to.x - from.x; }
  [[nodiscard]] double dy() const { return to.y - from.y; }
};

/// Each gives the recipe that the drag makes; none: it does nothing there.
using DraggedRecipe = std::optional<Recipe>;
[[nodiscard]] DraggedRecipe liftLight(const FinishDrag& drag);
[[nodiscard]] DraggedRecipe takeWhite(const FinishDrag& drag);
/// A white point of the chosen area's own: what that of the whole picture leaves of a cast.
[[nodiscard]] DraggedRecipe takePlaceWhite(const FinishDrag& drag);
[[nodiscard]] DraggedRecipe moveHue(const FinishDrag& drag);
[[nodiscard]] DraggedRecipe layOval(const FinishDrag& drag);
[[nodiscard]] DraggedRecipe layRamp(const FinishDrag& drag);
[[nodiscard]] DraggedRecipe cover(const FinishDrag& drag);
/// Against level or plumb, whichever is nearer.
[[nodiscard]] DraggedRecipe level(const FinishDrag& drag);

/// Light at `scene` (log2 of radiance) goes to this tone of the paper (stops below white).
void setPull(ToneSettings& tone, double scene, double paper);

} // namespace ml
