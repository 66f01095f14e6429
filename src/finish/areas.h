#pragma once
#include "finish/shape.h"

namespace ml {

/// What all areas of a recipe add together, as maps that follow the picture's edges: the cost of a pixel does not depend on their number.
struct AreaMaps {
  LocalMap exposure, warmth, tint, saturation, contrast;
  [[nodiscard]] bool empty() const { return exposure.empty() && warmth.empty() && tint.empty() && saturation.empty() && contrast.empty(); }
};

/// The mask of one area as a map, and what it adds at its moves.
[[nodiscard]] LocalMap mapOf(const Area& area, const ToneAnalysis& analysis, const ShapeMap& shape);
void addMoves(AreaMaps& maps, const LocalMap& mask, const Area& area);

/// How far a place of the picture as combined belongs to an area, 0..1, edges and light apart.
[[nodiscard]] double coverageOf(const Area& area, Spot2 place, double aspect);

/// The same on the analysis grid, with light limits and windows; one channel, 0..1.
[[nodiscard]] Image<float> maskOf(const Area& area, const ToneAnalysis& analysis, const ShapeMap& shape);

/// Cells of windows and other openings into the light: far brighter than the middle of the picture and connected; 0 or 1.
[[nodiscard]] Image<float> windowCells(const ToneAnalysis& analysis);

} // namespace ml
