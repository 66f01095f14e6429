// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "image/image.h"

#include <algorithm>

namespace ml {

/// What lies beside and beyond the edges of an equirectangular picture: left meets right, and beyond a pole the sphere
/// goes on down the opposite side. With such margins everything local may be done as on any picture.
template <class T> [[nodiscard]] Image<T> withSphereMargins(ImageView<const T> in, int margin) {
  Image<T> out(in.width + 2 * margin, in.height + 2 * margin, in.channels);
  for (int y = 0; y < out.height(); ++y) {
    int from = y - margin, turn = 0;
    if (from < 0) from = -1 - from, turn = in.width / 2;
    if (from >= in.height) from = 2 * in.height - 1 - from, turn = in.width / 2;
    for (int x = 0; x < out.width(); ++x) {
      const int u = ((x - margin + turn) % in.width + in.width) % in.width;
      std::copy_n(in.at(u, from), in.channels, out.at(x, y));
    }
  }
  return out;
}

/// A margin that local work does not reach over: a sixteenth of the width.
[[nodiscard]] inline int sphereMargin(int width) {
  return std::max(16, width / 16);
}

} // namespace ml
