// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "finish/shape.h"

namespace ml {

/// What all areas of a recipe add together, as maps that follow the picture's edges: the cost of a pixel does not
/// depend on their number.
struct AreaMaps {
  LocalMap exposure, warmth, tint, saturation, contrast;
  [[nodiscard]] bool empty() const {
    return exposure.empty() && warmth.empty() && tint.empty() && saturation.empty() && contrast.empty();
  }
};

/// The mask of one area as a map.
[[nodiscard]] LocalMap mapOf(const Area& area, const ToneAnalysis& analysis, const ShapeMap& shape);

/// Keeps the sums while areas change: only the quantity that moved is summed anew, and only masks that changed are made
/// anew.
class AreaSums {
public:
  /// Analysis and shape must be those of the last time; `forget` first when they are not.
  void update(const std::vector<Area>& areas, const ToneAnalysis& analysis, const ShapeMap& shape);
  void forget();
  [[nodiscard]] const AreaMaps& maps() const { return maps_; }

private:
  struct Known {
    Area bare; ///< With all amounts 0.
    LocalMap mask;
  };
  std::vector<Known> known_;
  std::vector<Area> summed_; ///< As they were when `maps_` was made.
  AreaMaps maps_;
};

/// How far a place of the picture as combined belongs to an area, 0..1, edges and light apart.
[[nodiscard]] double coverageOf(const Area& area, Spot2 place, double aspect);

/// The same on the analysis grid, with light limits and windows; one channel, 0..1.
[[nodiscard]] Image<float> maskOf(const Area& area, const ToneAnalysis& analysis, const ShapeMap& shape);

/// Cells of the sky of a landscape, 0..1: smooth light from the upper border down to where it ends, and the gaps
/// between what stands before it. All 0 for a room, and where there is no sky.
[[nodiscard]] Image<float> skyCells(const ToneAnalysis& analysis);

/// Cells of windows and other openings into the light: far brighter than the middle of the picture and connected; 0
/// or 1.
[[nodiscard]] Image<float> windowCells(const ToneAnalysis& analysis);

} // namespace ml
