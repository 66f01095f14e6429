// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <cstddef>
#include <cstdint>
#include <span>
#include <vector>

namespace ml {

/// The samples of one lossless JPEG stream (ITU-T T.81, process 14, annex H, Huffman coded: up to 16 bits, up to four
/// components that are coded together), line by line, components beside each other.
struct LosslessJpeg {
  int width = 0;  ///< Samples of a line: columns times components.
  int height = 0; ///< Lines.
  std::vector<std::uint16_t> samples;
};

/// Reads `stream` into `out`, whose memory is used again; false when it is damaged, ends early, holds more than `most`
/// samples, or is of a kind that cameras do not write: point transform, restart intervals, subsampled components.
[[nodiscard]] bool readLosslessJpeg(std::span<const std::uint8_t> stream, std::size_t most, LosslessJpeg& out);

} // namespace ml
