// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "merge/cell_mask.h"
#include "merge/merge.h"

namespace ml {

/// For each frame a map of its share in the merge, 1 used .. 0 left out, on square cells of `cell` reference pixels.
struct Consistency {
  int cell = 4;
  std::vector<Image<float>> share; ///< Empty when nothing was checked and nothing chosen.
  CellMask decides; ///< Where things moved and around, 1 + the frame whose moment is shown: there each pixel decides
                    ///< for itself (vetoRow). Empty: nowhere.
  MotionReport report;
  int moment = -1; ///< The frame of whose moment most can be told; -1 where that was not asked (referenceFree).
};

/// Side of a cell for a picture: about a million cells, so that the check costs the same for a large picture as for a
/// small one.
[[nodiscard]] int consistencyCell(int width, int height);

/// Borders are grown by so many cells: they are blurred by the lens, and by the cells themselves.
inline constexpr int kBorderCells = 3;

/// Cells of a width x height grid under a brush stroke.
[[nodiscard]] std::vector<int> strokeCells(const SourceChoice& stroke, int width, int height);

/// Cells under a brush stroke, or those of the found place that holds a single point; empty when there is none.
[[nodiscard]] std::vector<int> choiceCells(const SourceChoice& choice, const std::vector<MovedRegion>& places,
                                           int width, int height);

/// Cells of a grid `width` wide as a place that comes from `source`; nothing is said of who records it.
[[nodiscard]] MovedRegion regionOf(const std::vector<int>& cells, int width, int source);

/// Compares mean light on cells, then gives each connected place to one frame.
/// 1. Each cell has an owner. Reference-guided: the reference where that records it, else the nearest exposure that
/// does and does not contradict the reference's clipping. Emptied: a frame of the largest group that agree with each
/// other.
/// 2. The others disagree where they differ from the owner by more than noise, tone error and misplacement explain,
/// after the tones of each frame were brought to those of the others. Near what moved for certain, less is needed.
/// 3. Specks are dropped; places near each other make one region. All regions show the moment of one frame, so that
/// nobody stands twice: the reference's, unless that is free and more of them can be told of another's. Told is what
/// that frame records, and what most of the others show that do not contradict it. A region of which the common moment
/// tells too little then shows its own.
/// 4. In a region, what the frame of its moment records stays its own, the rest is taken from the frame that records
/// most of it and lies nearest to it in exposure; frames that disagree in it are left out far around what they disagree
/// on.
/// 5. The user's choices come last. Borders are grown and softened.
[[nodiscard]] Consistency findConsistency(const std::vector<PlacedFrame>& frames, const MergeOptions& options,
                                          const Progress& progress);

} // namespace ml
