#pragma once
#include "merge/merge.h"

namespace ml {

/// For each frame a map of its share in the merge, 1 used .. 0 left out, on cells of kCell x kCell reference pixels.
struct Consistency {
  static constexpr int kCell = 4;
  std::vector<Image<float>> share; ///< Empty when nothing was checked.
  MotionReport report;
};

/// Compares mean light on cells (step 1), then gives each connected place to one frame (step 2).
/// 1. Each cell is owned by the reference where that records it, else by the nearest exposure
/// that does and does not contradict the reference's clipping. The others disagree where they differ from the owner by
/// more than noise, tone error and misplacement explain, after the tones of each frame were brought to those of the others.
/// 2. Specks are dropped; places near each other make one region, and a region is taken whole from the frame that records most
/// of it and lies nearest to the reference's exposure, so that nothing stands there twice. Borders are grown and softened.
[[nodiscard]] Consistency findConsistency(const std::vector<PlacedFrame>& frames, const MergeOptions& options, const Progress& progress);

} // namespace ml
