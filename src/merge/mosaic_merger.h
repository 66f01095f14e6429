// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "merge/cell_mask.h"
#include "merge/source.h"
#include "mosaic/demosaic_tile.h"

#include <vector>

namespace ml {

/// Merges raw frames that lie in place as mosaics, and demosaics the result once. Each photosite counts by its own
/// noise and its own clipping, whatever its neighbours of other colours do; demosaicing sees the light of all frames
/// instead of the noise of each.
class MosaicMerger {
public:
  static constexpr int kWidth = DemosaicTile::kWidth, kHeight = DemosaicTile::kHeight;

  /// All are mosaics of one pattern, in place, on linear codes.
  [[nodiscard]] static bool serves(const std::vector<Source>& sources);

  /// `moved` may be null. `matrix`: balanced camera colour, 1 the reference's saturation, to the result's.
  MosaicMerger(const std::vector<Source>& sources, const CellMask* moved, const float* matrix, MergeResult& result);

  /// Does every frame speak for itself in all that a tile is made from?
  [[nodiscard]] bool mayMerge(const Roi& where) const;

  /// Merges a tile whose first pixel is even both ways; returns how many of its pixels are clipped in every frame.
  int merge(const Roi& where);

private:
  static constexpr int kStride = DemosaicTile::kStride;

  struct FrameRow {
    std::vector<float> light = std::vector<float>(kStride),
                       use =
                           std::vector<float>(kStride); ///< Of the photosite's own saturation; 1 trusted .. 0 clipped.
    bool read = false;
  };

  void readRows(int x, int y);
  void readRow(std::size_t i, int x, int y);
  void mergeRow(int y, float* light);
  void doubtNearClipping();
  int finishRow(const Roi& where, int y);
  void fillMaps(const Roi& where, int y);

  const std::vector<Source>& sources_;
  const CellMask* moved_;
  const float* matrix_;
  MergeResult& result_;
  std::vector<std::size_t> byExposure_; ///< Darkest first.
  std::array<float, 3> saturation_{};   ///< Of balanced light.
  float clip_ = 1;                      ///< Share of saturation from which a photosite says only "at least".
  DemosaicTile tile_;
  std::vector<FrameRow> rows_;
  int parity_ = 0; ///< Of the row that `rows_` holds.
};

} // namespace ml
