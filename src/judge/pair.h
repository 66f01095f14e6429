#pragma once
#include "align/transform.h"
#include "judge/sketch.h"

namespace ml {

/// How one frame differs from its neighbour in exposure.
struct PairMeasure {
  bool placed = false;            ///< Enough in common to say where they lie.
  Transform transform;            ///< Pixel of the first -> pixel of the second.
  double shiftX = 0, shiftY = 0;  ///< At the centre, frame pixels.
  double degrees = 0;
  double sharpness = 0;           ///< ln of the second's fine structure over the first's; 0: alike.
  int structuredBlocks = 0;       ///< Blocks that figure rests on; below kEnoughBlocks it says nothing.
  static constexpr int kEnoughBlocks = 12;
  double light = 0;               ///< Stops the second is brighter than its exposure says; median of green.
  double redGreen = 0, blueGreen = 0; ///< Stops by which its colours differ.
  double comparable = 0;          ///< Share of cells that both record.
  double movedShare = 0;          ///< Connected places of some size where they disagree, as a share of the picture.
  Roi movedPlace;                 ///< Around them, pixels of the first frame.
};

/// `a` and `b` from the same camera and view. Cells of a hundredth of the width are compared after registration: their ratio,
/// channel by channel, should be that of the exposures; its median tells of light and colour, its outliers of things that moved.
[[nodiscard]] PairMeasure measurePair(const Sketch& a, const Sketch& b);

} // namespace ml
