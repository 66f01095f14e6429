// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "merge/cell_mask.h"
#include "merge/pixel_veto.h"
#include "merge/source.h"
#include "merge/tile.h"

namespace ml {

/// Merges tiles of placed frames, all three colours of a pixel known in each.
class TileMerger {
public:
  static constexpr int kWidth = 256, kHeight = 32; ///< All frames of a tile stay in the second-level cache.

  /// `decides`: cells in which each pixel decides for itself who speaks, by what frame (see Consistency); null: none.
  TileMerger(const std::vector<Source>& sources, const CellMask* decides, const float* matrix, MergeResult& result);

  /// Merges a tile into the result; returns how many of its pixels are clipped in every frame.
  int merge(const Roi& where);

private:
  /// From the lightest frame down. Where one is trusted everywhere, frames that would add less than kAddsTooLittle of
  /// its information are not read.
  void readFrames(const Roi& where);
  /// Whether its share is `value` all over and around.
  [[nodiscard]] bool shares(std::size_t i, const Roi& where, float value) const;
  /// Marks the frames that decide somewhere in a tile.
  void findDeciders(const Roi& where);
  /// Marks the pixels of a row that lie where things moved; false: none does.
  bool markMoved(const Roi& where, int y);
  void veto(int y, int n);
  int mergeRow(const Roi& where, int y);
  void prepareUse(std::size_t i, const Roi& where, int y);
  /// What a frame shows just below clipping must be what the next darker one shows that records it well. Things that
  /// passed in a long exposure, most of them clipped, are not seen by the cells.
  void doubtNearClipping(std::size_t i, int y, int n);
  /// Null where misplacement does not matter.
  static const float* gradientOf(const Source& s, const Plane& light, int y, int n, float* row);
  /// Has it nothing to say in the row?
  void fillFull(int y, int n);
  [[nodiscard]] bool silent(std::size_t i) const;
  void mergeChannel(int c, int y, int n);
  /// What single channels allow beyond all three, darkest frame first.
  void mergeSurplus(int y, int n);
  void keepAtLeastOf(std::size_t i, std::size_t c, int y, int n, float* use);
  /// Pixels in which a channel is trusted in no frame take the darkest that may speak, as it is. Returns how many are
  /// clipped even there.
  int mendClipped(int y, int n);
  /// The darkest frame that may speak and does not clip; else, one that may saying "at least this bright", the
  /// brightest that any says; else the darkest. False: it is clipped.
  bool takeDarkest(int x, int y);
  /// True: it is clipped there.
  [[nodiscard]] bool showsLess(std::size_t i, std::size_t darker, int x, int y) const;
  bool takeAsItIs(std::size_t i, int x, int y);
  /// Has a frame a say at a pixel, apart from its exposure?
  bool speaks(std::size_t i, int x, int y) const;
  void fillMaps(const Roi& where, int y);

  const std::vector<Source>& sources_;
  const CellMask* decides_;
  const float* matrix_;
  MergeResult& result_;
  TileScratch scratch_;
  std::vector<TileReader> readers_;
  std::vector<std::size_t> byExposure_; ///< Darkest first.
  std::vector<FrameTile> tiles_;
  std::vector<std::vector<float>> use_;
  std::vector<std::array<std::vector<float>, 3>> surplus_;
  std::vector<char> beyond_; ///< Whether a frame has any surplus in the row.
  std::vector<char> shared_; ///< Whether a frame's share in the row is not all 1.
  std::vector<std::vector<float>> shares_;
  std::vector<std::vector<std::uint8_t>> vetoed_;
  std::vector<char> deciding_; ///< Whether a frame decides somewhere in the tile.
  std::vector<char> filling_;  ///< Frames that show, in this tile, only what all others clip.
  std::uint8_t decidesRow_[kWidth];
  bool vetoing_ = false; ///< In this row pixels decide.
  int tileX_ = 0, tileY_ = 0;
  float merged_[3][kWidth], weight_[3][kWidth], gathered_[3][kWidth];
};

} // namespace ml
