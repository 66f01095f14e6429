// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <array>
#include <cstddef>
#include <cstdint>
#include <optional>
#include <vector>

namespace ml {

/// Photosites beside the picture that no light reaches, over its whole height.
struct MaskedStrip {
  const std::uint16_t* data = nullptr; ///< First of the picture's first row.
  int width = 0;
  std::ptrdiff_t pitch = 0; ///< Samples from row to row.
  int before = 0;           ///< Columns from its first to the picture's first; negative: it lies behind.
};

/// What a sensor reads without light.
struct MaskedBlack {
  std::array<float, 4> black{}; ///< At the picture's (0,0), (1,0), (0,1), (1,1): hot photosites count no more than
                                ///< noise does.
  std::vector<float> rows;      ///< Beyond that, of each row: what its amplifier added while it was read.
};
/// Each row is compared with the others of its kind, photosite by photosite of a column. What only the photosites'
/// noise explains is held back (Wiener), so that strips of little say do no harm; `rows` is empty where rows do not
/// differ beyond it. Nothing where fewer than 8 columns or 64 rows are masked.
[[nodiscard]] std::optional<MaskedBlack> maskedBlack(const std::vector<MaskedStrip>& strips, int height);

} // namespace ml
