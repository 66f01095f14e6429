// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <cstdint>
#include <vector>

namespace ml {

/// The cheapest cut of a grid of width x height nodes between those held to one side and those held to the other.
struct GridCut {
  int width = 0, height = 0;
  std::vector<float> right, down;  ///< Cost of parting a node from its right and its lower neighbour.
  std::vector<float> source, sink; ///< Cost of parting a node from either side; kHeld: never.
  static constexpr float kHeld = 1e9f;
  bool closed = false; ///< The last column's right neighbour is the first column.

  GridCut(int width, int height);
  /// 1: on the source's side. Boykov and Kolmogorov, PAMI 2004.
  [[nodiscard]] std::vector<std::uint8_t> solve() const;
};

} // namespace ml
