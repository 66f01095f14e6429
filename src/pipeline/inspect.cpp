// SPDX-License-Identifier: GPL-3.0-or-later
#include "pipeline/inspect.h"

#include "base/phrase.h"

#include "exposure/marks.h"
#include "ingest/estimate_exposure.h"
#include "ingest/load_frame.h"

#include <cmath>

namespace ml {
namespace {

constexpr double kAtOnce = 4; ///< Seconds between frames of one release.

/// Judges frames as they come.
class SketchedSet {
public:
  explicit SketchedSet(bool timesKnown) : setup_(setupOf(timesKnown)), judge_(setup_) {}
  void add(Frame& frame) {
    turnLike(sketches_, frame);
    sketches_.push_back(sketchOf(frame, setup_.zones));
    judge_.addSketch(sketches_.back());
  }
  void judge(InspectedSet& set) const {
    set.frames = judge_.frames();
    set.verdict = judge_.verdict(true);
  }

private:
  static JudgeSetup setupOf(bool timesKnown) {
    JudgeSetup setup;
    setup.support = Support::Unknown;
    setup.timesKnown = timesKnown;
    return setup;
  }

  JudgeSetup setup_;
  SetJudge judge_;
  std::vector<std::shared_ptr<const Sketch>> sketches_;
};

/// Exposures that the files do not say follow from the pixels of all frames, and cannot be checked by them.
Result<void> judgeSilent(InspectedSet& set, const Progress& progress) {
  std::vector<Frame> frames;
  for (const auto& file : set.group.files) {
    if (progress.stopRequested()) return stopped();
    auto frame = loadFrame(file.path, Unsaid::Allowed);
    if (!frame) return passOn(frame.error());
    frames.push_back(std::move(*frame));
  }
  set.verdict.answer = Answer::CannotTell;
  if (frames.size() < 2 || !estimateExposures(frames)) {
    set.verdict.sentence = frames.size() < 2
                               ? phrase("The file does not say how long it was exposed; its light is only relative.")
                               : phrase("The files do not say how long they were exposed, and some share too few tones "
                                        "to tell from the picture: type the times.");
    return {};
  }
  SketchedSet sketched(false);
  for (Frame& frame : frames) sketched.add(frame);
  sketched.judge(set);
  if (set.verdict.answer == Answer::Holds) set.verdict.answer = Answer::CannotTell;
  set.verdict.sentence =
      phrase("The files do not say how long they were exposed, so that their steps cannot be checked; "
             "they are estimated from the picture.") +
      " " + set.verdict.sentence;
  return {};
}

Result<void> judgeKnown(InspectedSet& set, const Progress& progress) {
  SketchedSet sketched(true);
  for (const auto& file : set.group.files) {
    if (progress.stopRequested()) return stopped();
    auto frame = loadFrame(file.path);
    if (!frame) return passOn(frame.error());
    sketched.add(*frame);
  }
  sketched.judge(set);
  return {};
}

InspectedSet inspectSet(const FileGroup& group, const Progress& progress) {
  InspectedSet set{group, {}, {}};
  const bool known =
      std::all_of(group.files.begin(), group.files.end(), [](const FileFacts& file) { return file.exposureKnown; });
  const auto judged = known ? judgeKnown(set, progress) : judgeSilent(set, progress);
  if (!judged && judged.error().code != ErrorCode::Stopped) set.verdict.sentence = judged.error().message;
  return set;
}

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
