#pragma once
#include "merge/merge.h"

namespace ml {

/// For each frame a map of its share in the merge, 1 used .. 0 left out, on cells of kCell x kCell reference pixels.
struct Consistency {
  static constexpr int kCell = 4;
  std::vector<Image<float>> share; ///< Empty when nothing was checked.
  MotionReport report;
};

/// Compares mean light on cells. Each cell is owned by the reference where that records it, else by the nearest exposure
/// that does and does not contradict the reference's clipping. The others are left out where they differ from the owner by
/// more than noise, tone error and misplacement explain; specks are dropped, places are grown and softened.
[[nodiscard]] Consistency findConsistency(const std::vector<PlacedFrame>& frames, const MergeOptions& options, const Progress& progress);

} // namespace ml
