// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <array>
#include <cstdint>
#include <vector>

namespace ml {

/// What a mosaic of light behind a 2x2 colour filter is measured in.
struct MosaicScale {
  std::array<int, 4> colours{0, 1, 1, 2}; ///< 0 red, 1 green, 2 blue at (0,0), (1,0), (0,1), (1,1).
  std::array<float, 3> full{1, 1, 1};     ///< Light from which a photosite of each colour says only "at least".
  float foot = 0.005f; ///< Light added before logarithms are taken: noise about black stays as large as it is.
};

/// Beyond the border a mosaic is mirrored about its last photosite, which keeps the colours in their places.
[[nodiscard]] int mirrored(int i, int size);

/// Demosaicing of one tile, as `MosaicDeveloper` says. The owner writes light into the rows, borders included, calls
/// `prepare`, and takes row after row.
class DemosaicTile {
public:
  static constexpr int kMargin = 10, kWidth = 192, kHeight = 64; ///< Photosites; the margin is even: a tile begins with
                                                                 ///< the same colour as the mosaic.
  static constexpr int kStride = kWidth + 2 * kMargin, kRows = kHeight + 2 * kMargin;

  DemosaicTile();
  /// Before the first tile, and before a tile of another mosaic.
  void measureIn(const MosaicScale& scale);

  /// kStride photosites of row y - kMargin, from column -kMargin on.
  [[nodiscard]] float* light(int y) { return at(here_, y); }
  void prepare();
  /// Finds the colours of row y, 0 <= y < kHeight, of `width` pixels; they are read until the next call.
  void develop(int y, int width);
  /// The same as light, of the row that was developed last.
  void takeLight(int width, float* red, float* green, float* blue) const;
  /// As codes: `zero` + `range` * light, rounded and held to 16 bits; three channels.
  void takeCodes(int width, float zero, float range, std::uint16_t* codes) const;

  [[nodiscard]] int colourAt(int x, int y) const { return scale_.colours[std::size_t(2 * (y & 1) + (x & 1))]; }

private:
  using Plane = std::vector<float>;
  static float* at(Plane& p, int y) { return p.data() + std::ptrdiff_t(y) * kStride; }

  void findFull();
  void cutAroundFull();
  void directions();
  void box(Plane& out);
  void greens();
  void doubtHues();
  void others();
  void colours(int y);
  void mendFull(int y, int width);
  [[nodiscard]] bool countNearFull(int y);
  std::uint8_t* full(int y) { return fulls_.data() + std::ptrdiff_t(y) * kStride; }

  MosaicScale scale_;
  Plane here_, alongDiff_, acrossDiff_, along_, across_, scratch_, doubt_, own_, other_, green_, hueAlong_, hueAcross_;
  Plane whole_;              ///< Light before it was cut; only where something is full.
  std::array<Plane, 3> out_; ///< Of a row: the colour of the row, green, that of the rows beside it.
  std::array<Plane, 2> pair_;
  std::array<Plane, 2> signs_; ///< Of rows by their parity: +1 where green is missing.
  std::array<float, 3> full_{};
  float cut_ = 0;
  std::vector<std::uint8_t> fulls_, spread_, near_;
  std::array<bool, kRows> rowFull_{}, rowCut_{};
  bool anyFull_ = false, redRow_ = false;
};

} // namespace ml
