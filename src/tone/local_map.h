// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "image/image.h"

#include <vector>

namespace ml {

/// Where the columns of a picture of `width` lie on a grid of `gridWidth`.
struct GridColumns {
  GridColumns(int gridWidth, int width);
  std::vector<int> cell;
  std::vector<float> fraction;
  bool dense; ///< Any eight neighbours lie within seven cells.
};

/// A slowly varying quantity of a picture that follows its edges: value = slope L + offset with L the pixel's log2
/// luminance, on a reduced grid (local linear coefficients of a guided filter: He, Sun, Tang, IEEE TPAMI 35, 2013; at
/// reduced size: He and Sun, arXiv:1505.00996).
struct LocalMap {
  Image<float> slope, offset; ///< One channel each, same size. Empty: the quantity is 0 everywhere.
  [[nodiscard]] bool empty() const { return offset.empty(); }
  /// Values at pixels [x0, x0 + n) of row y of a picture of `height` rows whose log2 luminance is `log`; the grid is
  /// read bilinearly. `scratch` keeps rows of the grid between calls. False, and nothing is written, where all cells
  /// are 0.
  bool readRow(const GridColumns& columns, int y, int height, int x0, int n, const float* log, float* out,
               std::vector<float>& scratch) const;
  [[nodiscard]] LocalMap clone() const { return empty() ? LocalMap{} : LocalMap{slope.clone(), offset.clone()}; }
};

/// The guided filter's coefficients that make `wanted` (one channel, on the grid) follow the edges of `guide` (log2
/// luminance, same size). `softness` is the standard deviation, in stops, of what is no edge.
[[nodiscard]] LocalMap followEdges(const Image<float>& wanted, const Image<float>& guide, int radius, double softness);
/// The same without edges: the offset is what is wanted.
[[nodiscard]] LocalMap plainMap(const Image<float>& wanted);

} // namespace ml
