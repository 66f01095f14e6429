// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "image/image.h"
#include "mosaic/demosaic_tile.h"

#include <array>
#include <cstdint>
#include <functional>

namespace ml {

/// Photosites as codes (photositeCodes), whoever keeps them.
struct PhotositeCodes {
  ImageView<const std::uint16_t> codes;   ///< One channel, at least 2 x 2.
  std::array<int, 4> colours{0, 1, 1, 2}; ///< 0 red, 1 green, 2 blue at (0,0), (1,0), (0,1), (1,1).
  std::array<float, 3> full{1, 1, 1};     ///< Light from which a photosite of each colour says only "at least".
};

/// Rows of three colours from (x, y) on, `n` pixels.
using TakeRow = std::function<void(int x, int y, int n, const float* red, const float* green, const float* blue)>;

/// Photosites to pixels with three colours, rectangle by rectangle; one for each thread.
///
/// Green along four directions by differences of colour, weighed by how little these change there (Pekkucuksen,
/// Altunbasak, "Gradient based threshold free color filter array interpolation", ICIP 2010): no direction is chosen, so
/// noise makes no mazes. Red and blue by the same differences over the diagonals, then across. In logarithms of light:
/// shading keeps the ratios of a surface's colours, not their differences (6 dB better than in roots on scenes with a
/// lens's blur). Where differences hold still in no direction, plain means take over. A value between full photosites
/// is full; beside them light is cut where the first channel is full while colours are looked for, so that no colour
/// comes out of a clipped neighbour.
class MosaicDeveloper {
public:
  /// Light of the rectangle, which must lie in the mosaic. What a pixel gets does not depend on the rectangle.
  void develop(const PhotositeCodes& mosaic, const Roi& where, const TakeRow& take);
  /// The same as codes, into the rectangle of `out`, whose columns begin on an even one.
  void develop(const PhotositeCodes& mosaic, const Roi& where, Image<std::uint16_t>& out);

private:
  void read(const PhotositeCodes& mosaic, int x0, int y0);
  /// Calls `take` with the first pixel of each piece of a row, its place in the tile and how many there are.
  template <class Take> void forEachRow(const PhotositeCodes& mosaic, const Roi& where, const Take& take);

  DemosaicTile tile_;
};

/// The whole mosaic, on all cores: three channels of the same codes.
[[nodiscard]] Image<std::uint16_t> developed(const PhotositeCodes& mosaic);

} // namespace ml
