// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <cstddef>
#include <cstdint>
#include <vector>

namespace ml::zoo {

/// Samples of 16 bits as a lossless JPEG (ITU-T T.81, annex H: each less the one on its left; from memory), as cameras
/// put them into the tiles of a DNG. Beyond `inside` columns and rows the last ones are repeated.
struct Samples {
  const std::uint16_t* first;
  std::ptrdiff_t pitch;
  int insideWidth, insideHeight;
};
[[nodiscard]] std::vector<std::uint8_t> losslessJpeg(const Samples& samples, int width, int height);

} // namespace ml::zoo
