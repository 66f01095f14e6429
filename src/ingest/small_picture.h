// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "base/result.h"
#include "image/image.h"

#include <cstdint>
#include <filesystem>

namespace ml {

/// A file as a small picture, 8-bit sRGB codes, longest side at most `edge` (16 or more), turned as Exif says. JPEG is
/// decoded at an eighth of its size where that suffices, raw from its preview where it has one. Errors: of reading.
[[nodiscard]] Result<Image<std::uint8_t>> loadSmallPicture(const std::filesystem::path& file, int edge);

/// What of a view survives exposure: logarithm of light on kWidth x kHeight cells, mean 0, only where neither black nor
/// white.
struct Signature {
  static constexpr int kWidth = 48, kHeight = 32;
  Image<float> tones;   ///< Mean 0, deviation 1; cells that say nothing are 0.
  double deviation = 0; ///< Of light between cells, stops.
  double structure =
      0; ///< Mean step between neighbouring cells, stops: next to nothing for a hand or a cap before the lens.
  Image<float> detail; ///< Stops by which cells stand out from those around them: what light that changes leaves.
};
[[nodiscard]] Signature signatureOf(const Image<std::uint8_t>& picture);

/// How alike two views are: correlation 0..1 at the best shift, and that shift in shares of the width and height.
struct Likeness {
  double correlation = 0, shiftX = 0, shiftY = 0;
};
/// Looks at shifts up to `reach` of the width and a quarter of that in height.
[[nodiscard]] Likeness likenessOf(const Signature& a, const Signature& b, double reach);

/// How the same view, not moved, differs between two pictures.
struct LightChanged {
  double detail = 0;    ///< Correlation of `detail`; a room under other lamps keeps most, another view next to nothing.
  double elsewhere = 0; ///< The same, at most, with one of them moved by some cells.
  double light = 0; ///< By how much the light of one says nothing of the other's: half of the cells lie further from a
                    ///< curve that leads from tone to tone, stops.
};
[[nodiscard]] LightChanged lightChanged(const Signature& a, const Signature& b);
/// Is it the same view under another light (lamps on, lamps off)?
[[nodiscard]] bool underAnotherLight(const Signature& a, const Signature& b);

} // namespace ml
