// SPDX-License-Identifier: GPL-3.0-or-later
#include "mosaic/developer.h"

#include "base/parallel.h"
#include "mosaic/bayer.h"

#include <algorithm>

namespace ml {
using Tile = DemosaicTile;

/// The tile whose first pixel is (x0, y0), both even.
void MosaicDeveloper::read(const PhotositeCodes& mosaic, int x0, int y0) {
  const auto& codes = mosaic.codes;
  const int from = x0 - Tile::kMargin;
  std::array<std::uint16_t, Tile::kStride> beyond;
  for (int y = 0; y < Tile::kRows; ++y) {
    const std::uint16_t* row = codes.row(mirrored(y0 + y - Tile::kMargin, codes.height));
    if (from >= 0 && from + Tile::kStride <= codes.width) {
      lightOfCodes(row + from, Tile::kStride, tile_.light(y));
      continue;
    }
    for (int i = 0; i < Tile::kStride; ++i) beyond[std::size_t(i)] = row[mirrored(from + i, codes.width)];
    lightOfCodes(beyond.data(), Tile::kStride, tile_.light(y));
  }
}

template <class Take>
void MosaicDeveloper::forEachRow(const PhotositeCodes& mosaic, const Roi& where, const Take& take) {
  tile_.measureIn({mosaic.colours, mosaic.full});
  const int right = where.x + where.width, bottom = where.y + where.height;
  for (int y0 = where.y & ~1; y0 < bottom; y0 += Tile::kHeight)
    for (int x0 = where.x & ~1; x0 < right; x0 += Tile::kWidth) {
      read(mosaic, x0, y0);
      tile_.prepare();
      const int first = std::max(where.x, x0), n = std::min(right, x0 + Tile::kWidth) - first;
      for (int y = std::max(where.y, y0); y < std::min(bottom, y0 + Tile::kHeight); ++y) {
        tile_.develop(y - y0, first - x0 + n);
        take(first, y, first - x0, n);
      }
    }
}

void MosaicDeveloper::develop(const PhotositeCodes& mosaic, const Roi& where, const TakeRow& take) {
  std::array<std::array<float, Tile::kWidth>, 3> light;
  forEachRow(mosaic, where, [&](int x, int y, int from, int n) {
    tile_.takeLight(from + n, light[0].data(), light[1].data(), light[2].data());
    take(x, y, n, light[0].data() + from, light[1].data() + from, light[2].data() + from);
  });
}

void MosaicDeveloper::develop(const PhotositeCodes& mosaic, const Roi& where, Image<std::uint16_t>& out) {
  forEachRow(mosaic, where,
             [&](int x, int y, int, int n) { tile_.takeCodes(n, kPedestal, kLightRange, out.at(x, y)); });
}

Image<std::uint16_t> developed(const PhotositeCodes& mosaic) {
  const int w = mosaic.codes.width;
  Image<std::uint16_t> out(w, mosaic.codes.height, 3);
  forEachBand(
      out.height(),
      [&](const Band& band) {
        MosaicDeveloper().develop(mosaic, {0, band.begin, w, band.end - band.begin}, out);
      },
      Tile::kHeight);
  return out;
}

} // namespace ml
