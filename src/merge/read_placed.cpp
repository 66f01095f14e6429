// SPDX-License-Identifier: GPL-3.0-or-later
#include "merge/read_placed.h"

#include "base/parallel.h"
#include "merge/share.h"

namespace ml {

bool readPlaced(const PlacedFrame& frame, const Image<float>* share, int cell, int width, int height,
                const StopFlag& stop, const std::function<void(const PlacedRow&)>& work) {
  constexpr int kWidth = 256, kRows = 32;
  return forEachBand(
      height, stop,
      [&](const Band& band) {
        TileScratch scratch;
        TileReader reader(frame, scratch);
        FrameTile tile;
        float use[kWidth];
        for (int x = 0; x < width; x += kWidth) {
          const Roi where{x, band.begin, std::min(kWidth, width - x), band.end - band.begin};
          reader.read(where, false, tile);
          for (int y = 0; y < where.height; ++y) {
            if (!share || shareRow(*share, cell, x, where.y + y, where.width, use)) std::fill_n(use, where.width, 1.f);
            PlacedRow row{x, where.y + y, where.width, {}, use, {}};
            for (std::size_t c = 0; c < 3; ++c) {
              row.linear[c] = tile.linear[c].row(y);
              row.trust[c] = tile.allTrusted ? nullptr : tile.trust[c].row(y);
            }
            if (!tile.allTrusted)
              for (int i = 0; i < where.width; ++i)
                if (tile.trust[0].row(y)[i] < 0) use[i] = 0;
            work(row);
          }
        }
      },
      kRows);
}

} // namespace ml
