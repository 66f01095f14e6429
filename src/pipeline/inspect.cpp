// SPDX-License-Identifier: GPL-3.0-or-later
#include "pipeline/inspect.h"

#include "base/phrase.h"

#include "exposure/marks.h"

#include <cmath>

namespace ml {
namespace {

constexpr double kAtOnce = 4; ///< Seconds between frames of one release.

InspectedSet inspectSet(const FileGroup& group, const Progress& progress) {
  InspectedSet set{group, {}, {}};
  JudgeSetup setup;
  setup.support = Support::Unknown;
  SetJudge judge(setup);
  std::vector<std::shared_ptr<const Sketch>> sketches;
  for (const auto& file : group.files) {
    if (progress.stopRequested()) return set;
    auto frame = loadFrame(file.path);
    if (!frame) {
      set.verdict.sentence = frame.error().message;
      return set;
    }
    turnLike(sketches, *frame);
    sketches.push_back(sketchOf(*frame, setup.zones));
    judge.addSketch(sketches.back());
  }
  set.frames = judge.frames();
  set.verdict = judge.verdict(true);
  return set;
}

} // namespace

namespace {

/// What begins at once after a set: frames with the exposure of its last one (the camera has left its bracket), or the
/// next steps of the same bracket at another aperture.
void noteBrokenBrackets(std::vector<InspectedSet>& sets) {
  for (std::size_t i = 0; i + 1 < sets.size(); ++i) {
    InspectedSet& set = sets[i];
    const InspectedSet& next = sets[i + 1];
    if (set.group.files.empty() || next.group.files.empty() || set.group.kind == GroupKind::Separator) continue;
    const FileFacts &last = set.group.files.back(), &first = next.group.files.front();
    const auto pause = secondsBetween(last, first);
    if (last.path.parent_path() != first.path.parent_path() || !pause || *pause > kAtOnce) continue;
    const auto alike = [](double a, double b) { return std::abs(std::log2(a / b)) < 0.1; };
    if (last.metadata.aperture && first.metadata.aperture &&
        !alike(first.settings.aperture.value, last.settings.aperture.value)) {
      const bool again = std::any_of(set.group.files.begin(), set.group.files.end(), [&](const FileFacts& f) {
        return alike(f.settings.time.value, first.settings.time.value);
      });
      if (again) continue;
      set.verdict.answer = Answer::DoesNotHold;
      set.verdict.sentence =
          phrase("After frame {} the aperture went to {} within the bracket: fix the aperture and shoot the set again.",
                 set.group.files.size(), print(first.settings.aperture));
      continue;
    }
    if (next.group.files.size() != 1 || !alike(relativeExposure(first.settings), relativeExposure(last.settings)))
      continue;
    set.verdict.answer = Answer::DoesNotHold;
    set.verdict.sentence = phrase("After frame {} the exposure stays at {}: the camera has left its bracket. Set "
                                  "it again and shoot the set again.",
                                  set.group.files.size(), print(last.settings.time));
  }
}

} // namespace

std::vector<InspectedSet> inspectSets(const Grouping& grouping, const Progress& progress) {
  std::vector<InspectedSet> sets;
  for (std::size_t i = 0; i < grouping.sets.size() && !progress.stopRequested(); ++i) {
    progress.at(phrase("Set {} of {}", i + 1, grouping.sets.size()), double(i) / double(grouping.sets.size()));
    sets.push_back(inspectSet(grouping.sets[i], progress));
  }
  if (!progress.stopRequested()) noteBrokenBrackets(sets);
  return sets;
}

} // namespace ml
