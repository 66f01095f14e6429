// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "image/image.h"

namespace ml {

/// Stored pixels turned as Exif's orientation says (Exif 2.32, tag 0x0112); 1 and what is not 2..8 leave them as they
/// are. Three channels.
template <class T> [[nodiscard]] Image<T> oriented(ImageView<const T> stored, int orientation) {
  const bool turned = orientation >= 5 && orientation <= 8;
  const int w = stored.width, h = stored.height;
  Image<T> out(turned ? h : w, turned ? w : h, 3);
  for (int y = 0; y < out.height(); ++y)
    for (int x = 0; x < out.width(); ++x) {
      int u = turned ? y : x, v = turned ? x : y;
      if (orientation == 2 || orientation == 3 || orientation == 7 || orientation == 8) u = w - 1 - u;
      if (orientation == 3 || orientation == 4 || orientation == 6 || orientation == 7) v = h - 1 - v;
      std::copy_n(stored.at(u, v), 3, out.at(x, y));
    }
  return out;
}

} // namespace ml
