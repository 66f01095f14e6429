// SPDX-License-Identifier: GPL-3.0-or-later
#include "image/bytes.h"

#include "base/parallel.h"
#include "base/vector_clones.h"

namespace ml {
namespace {

ML_VECTOR_CLONES void bytesOfRow(const std::uint16_t* in, int n, std::uint8_t* __restrict out) {
  for (int i = 0; i < n; ++i)
    out[i] = std::uint8_t((in[i] * 255u + 32895u) >> 16); // the nearest of v / 257, for every v
}

} // namespace

Image<std::uint8_t> bytesOf(ImageView<const std::uint16_t> codes) {
  Image<std::uint8_t> bytes(codes.width, codes.height, 3);
  forEachBand(codes.height, [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y) bytesOfRow(codes.row(y), 3 * codes.width, bytes.row(y));
  });
  return bytes;
}

} // namespace ml
