// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "base/progress.h"
#include "judge/position_judge.h"
#include "session/view_positions.h"

#include <map>
#include <memory>
#include <mutex>

namespace ml {

/// What positions of the view in hand showed, by set; so that a neighbour is read from its files only once.
class SketchShelf {
public:
  using Sketches = std::vector<std::shared_ptr<const Sketch>>;
  void keep(const std::string& set, const Sketches& sketches);
  void clear();
  /// Of a set's used frames; those that cannot be read are left out.
  [[nodiscard]] Sketches of(const FrameSet& set, const Progress& progress);

private:
  std::mutex mutex_;
  std::map<std::string, Sketches> bySet_;
};

/// How the active set of `view` lies beside the positions that were shot before it: the first thing that is wrong.
/// Nothing, where there is one position or no neighbour. Takes some tenths of a second and reads files.
[[nodiscard]] PositionFinding checkPosition(const View& view, const SketchShelf::Sketches& sketches, SketchShelf& shelf,
                                            const Progress& progress);

} // namespace ml
