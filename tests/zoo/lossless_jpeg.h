// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <cstddef>
#include <cstdint>
#include <vector>

namespace ml::zoo {

/// Beyond `inside` columns and rows the last ones are repeated.
struct Samples {
  const std::uint16_t* first;
  std::ptrdiff_t pitch;
  int insideWidth, insideHeight;
};
/// Neighbours in a row are coded as `components` pictures that lie in each other; `predictor` as T.81's table H.1.
struct Coding {
  int components = 1, predictor = 1;
};
/// Samples of 16 bits as a lossless JPEG (ITU-T T.81, annex H; from memory), as cameras put them into the tiles of a
/// DNG. `width` is a multiple of the components.
[[nodiscard]] std::vector<std::uint8_t> losslessJpeg(const Samples& samples, int width, int height, Coding coding = {});

} // namespace ml::zoo
