#pragma once
#include "finish/recipe.h"

namespace ml {

/// Hue in degrees and chroma 0..1 (share of the largest channel) of linear colour; hue 0 for greys.
struct HueAndChroma {
  double hue = 0, chroma = 0;
};
[[nodiscard]] HueAndChroma hueOf(const float* rgb);

/// Moves of saturation and lightness by hue, as a table; applied to rows of display-linear colour.
class HueTable {
public:
  explicit HueTable(const std::vector<HueMove>& moves);
  [[nodiscard]] bool empty() const { return table_.empty(); }
  void apply(int n, float* r, float* g, float* b) const;

private:
  std::vector<float> table_; ///< Pairs: saturation gain less 1, stops; for each kSteps of the circle, the first repeated at the end.
};

} // namespace ml
