// SPDX-License-Identifier: GPL-3.0-or-later
#include "model/position_check.h"

#include "base/phrase.h"
#include "ingest/load_frame.h"

#include <cmath>
#include <cstdlib>
#include <fmt/format.h>

namespace ml {
namespace {

bool neighbours(const PlannedPosition& a, const PlannedPosition& b) {
  const int apart = std::abs(a.row - b.row) + std::abs(a.column - b.column);
  return apart == 1 || (apart == 0 && a.plane != b.plane);
}

PositionSketches sketchesAt(const PlannedPosition& position, const View& view, SketchShelf::Sketches frames) {
  const int width = frames.empty() ? 0 : std::max(frames.front()->width, frames.front()->height);
  return {position.aim, view.situation.focalMm / view.profile().sensorWidthMm * width, std::move(frames)};
}

} // namespace

void SketchShelf::keep(const std::string& set, const Sketches& sketches) {
  const std::lock_guard lock(mutex_);
  bySet_[set] = sketches;
}

void SketchShelf::clear() {
  const std::lock_guard lock(mutex_);
  bySet_.clear();
}

SketchShelf::Sketches SketchShelf::of(const FrameSet& set, const Progress& progress) {
  {
    const std::lock_guard lock(mutex_);
    if (const auto there = bySet_.find(set.name); there != bySet_.end()) return there->second;
  }
  Sketches sketches;
  for (const auto& member : set.frames) {
    if (progress.stopRequested()) return {};
    if (!member.used) continue;
    if (auto frame = loadFrame(member.file)) {
      turnLike(sketches, *frame);
      sketches.push_back(sketchOf(*frame, {}));
    }
  }
  keep(set.name, sketches);
  return sketches;
}

PositionFinding checkPosition(const View& view, const SketchShelf::Sketches& sketches, SketchShelf& shelf,
                              const Progress& progress) {
  if (view.activeSet < 0 || sketches.empty()) return {};
  const FrameSet& mine = view.sets[std::size_t(view.activeSet)];
  shelf.keep(mine.name, sketches);
  const auto positions = viewPositions(view);
  const PlannedPosition* here = nullptr;
  for (const auto& p : positions)
    if (isAt(mine, p.planned)) here = &p.planned;
  if (!here || positions.size() < 2) return {};
  PositionFinding lesser;
  for (std::size_t i = 0; i < positions.size(); ++i) {
    const ViewPosition& other = positions[i];
    if (other.set < 0 || other.set == view.activeSet || !neighbours(*here, other.planned)) continue;
    const FrameSet& set = view.sets[std::size_t(other.set)];
    if (set.name > mine.name) continue; // shot later: it was compared with this one then
    const auto found =
        comparePositions(sketchesAt(other.planned, view, shelf.of(set, progress)), sketchesAt(*here, view, sketches));
    if (progress.stopRequested()) return {};
    const double planned = std::abs(here->row - other.planned.row) + std::abs(here->column - other.planned.column) > 0
                               ? view.situation.positions.overlap
                               : 1;
    const auto finding = findingOf(found, phrase("position {}", i + 1), planned);
    if (finding.again) return finding;
    if (lesser.sentence.empty()) lesser = finding;
  }
  return lesser;
}

} // namespace ml
