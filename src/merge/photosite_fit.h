// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "merge/cell_mask.h"
#include "merge/source.h"
#include "merge/tile.h"

#include <vector>

namespace ml {

/// Brings light that was merged from developed raw frames nearer to what their photosites said. Frames held in the hand
/// see each place behind other colours, so where one had to guess, others know: the merged light is looked up where
/// every photosite lay (`GridPlaces`), and what the photosites said beyond that is given back to it by a kernel of half
/// a pixel, each weighed by its own noise (one step of iterative back-projection, Irani and Peleg, CVGIP 53, 1991;
/// samples of each colour where they lie, as in Wronski et al., SIGGRAPH 2019). How much of it is believed follows from
/// the place: as far as different frames say it alike (Wiener; noise, and what one frame alone saw, are not shared), so
/// even surfaces stay as smooth as they were merged.
class PhotositeFit {
public:
  static constexpr int kWidth = 256, kHeight = 64;
  static constexpr int kReach = 14; ///< Pixels of merged light that are needed around a tile.

  /// At least two are mosaics on linear codes, and some moved.
  [[nodiscard]] static bool serves(const std::vector<Source>& sources);

  /// `moved` may be null.
  PhotositeFit(const std::vector<Source>& sources, const CellMask* moved, int width, int height);

  /// Merged rows of the whole width: linear light of the camera's colours over the exposure, three channels.
  struct Merged {
    const float* data = nullptr;
    std::ptrdiff_t pitch = 0; ///< Samples from row to row.
    int top = 0, rows = 0;    ///< Of the picture.
    [[nodiscard]] const float* row(int y) const { return data + (y - top) * pitch; }
  };
  /// Writes the tile with what its photosites say to `out`, its own first pixel; `merged` reaches kReach beyond the
  /// tile, or to the picture's border. Where the frames do not all speak for themselves, and at the border, it stays as
  /// it is.
  void fit(const Roi& tile, const Merged& merged, float* out, std::ptrdiff_t outPitch);

private:
  static constexpr int kCell = 8;

  /// What the photosites of one frame said, on its own grid.
  struct Said {
    Roi roi;
    Plane ratio, weight; ///< Beyond the merged light, of it; its inverse variance, 0 where it says nothing.
    bool any = false;
  };
  struct Cell {
    float energy[3] = {}, count[3] = {}, weight[3] = {};
  };

  /// Of two rows with the same colours.
  struct RowPair {
    std::vector<float> energy, count, weight;
  };

  [[nodiscard]] bool recordsAll(const Source& s) const;
  void takeLight(const Roi& tile, const Merged& merged);
  void listen(std::size_t i, const Roi& around);
  void lookUp(const Source& s, const Roi& roi);
  bool markFull();
  void compare(const Source& s, Said& said);
  void countInto(const Source& s, const Said& said, const Roi& around);
  [[nodiscard]] bool anyBeyondNoise() const;
  bool believe();
  void gather(std::size_t i, const Roi& around);
  void apply(const Roi& tile, const Merged& merged, float* out, std::ptrdiff_t outPitch) const;

  const std::vector<Source>& sources_;
  const CellMask* moved_;
  int width_, height_;
  std::array<float, 3> full_{};           ///< Light at which every frame is full, or nearly.
  float foot_;                            ///< Light below which noise and not light decides, as in MosaicScale.
  std::vector<std::size_t> fromLightest_; ///< Sources by exposure. Where one records all, those that add too little are
                                          ///< not listened to.
  std::vector<Said> said_;
  std::vector<Cell> cells_;
  std::vector<float> belief_; ///< For each cell and colour: variance that is believed, and noise over the model's.
  int cellsAcross_ = 0, cellsDown_ = 0;
  GridPlaces places_;
  std::array<Plane, 4> light_, seen_; ///< Three colours, and whether something full is near.
  Roi around_;                        ///< What `light_` holds.
  std::array<float, 3> most_{};       ///< Of `light_`.
  bool anyFull_ = false;
  std::array<RowPair, 2> pairs_;
  std::array<Plane, 3> ratios_, weights_;
  std::array<Plane, 3> sum_, share_, squares_, shareSquares_; ///< Of all frames: what they say, and its weight.
  std::vector<float> column_, other_, range_;
};

} // namespace ml
