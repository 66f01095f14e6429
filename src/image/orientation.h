// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "base/parallel.h"
#include "image/image.h"

namespace ml {

/// A stored picture and how it is to be turned, by Exif's orientation (Exif 2.32, tag 0x0112); 1 and what is not 2..8
/// leave it as it is.
struct Turn {
  int width, height; ///< As stored.
  int orientation;

  [[nodiscard]] bool swaps() const { return orientation >= 5 && orientation <= 8; }
  /// Where pixel (x, y) of the turned picture is stored.
  void source(int x, int y, int& u, int& v) const {
    u = swaps() ? y : x, v = swaps() ? x : y;
    if (orientation == 2 || orientation == 3 || orientation == 7 || orientation == 8) u = width - 1 - u;
    if (orientation == 3 || orientation == 4 || orientation == 6 || orientation == 7) v = height - 1 - v;
  }
};

/// Stored pixels, turned.
template <class T> [[nodiscard]] Image<T> oriented(ImageView<const T> stored, int orientation) {
  const Turn turn{stored.width, stored.height, orientation};
  Image<T> out(turn.swaps() ? stored.height : stored.width, turn.swaps() ? stored.width : stored.height,
               stored.channels);
  forEachBand(out.height(), [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y)
      for (int x = 0; x < out.width(); ++x) {
        int u, v;
        turn.source(x, y, u, v);
        std::copy_n(stored.at(u, v), stored.channels, out.at(x, y));
      }
  });
  return out;
}

} // namespace ml
