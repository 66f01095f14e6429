#pragma once
#include "image/image.h"

#include <vector>

namespace ml {

/// A slowly varying quantity of a picture that follows its edges: value = a L + b with L the pixel's log2 luminance and a, b on a reduced
/// grid (local linear coefficients of a guided filter: He, Sun, Tang, IEEE TPAMI 35, 2013; at reduced size: He and Sun, arXiv:1505.00996).
struct LocalMap {
  Image<float> coefficients; ///< Two channels: a, b. Empty: the quantity is 0 everywhere.
  [[nodiscard]] bool empty() const { return coefficients.empty(); }
};

/// Where the columns of a picture of `width` lie on a grid of `gridWidth`.
struct GridColumns {
  GridColumns(int gridWidth, int width);
  std::vector<int> cell;
  std::vector<float> fraction;
  bool dense; ///< Any eight neighbours lie within seven cells.
};

/// a and b for pixels [x0, x0 + n) of row y of a picture of `height` rows, bilinear.
class GridRow {
public:
  /// `scratch` keeps some rows of the grid between calls. False, and nothing is written, where all cells are 0.
  static bool read(const LocalMap& map, const GridColumns& columns, int y, int height, int x0, int n, float* a, float* b, std::vector<float>& scratch);
};

/// The guided filter's coefficients that make `wanted` (one channel, on the grid) follow the edges of `guide` (log2 luminance, same size).
/// `softness` is the standard deviation, in stops, of what is no edge.
[[nodiscard]] LocalMap followEdges(const Image<float>& wanted, const Image<float>& guide, int radius, double softness);
/// The same without edges: b = wanted.
[[nodiscard]] LocalMap plainMap(const Image<float>& wanted);

} // namespace ml
