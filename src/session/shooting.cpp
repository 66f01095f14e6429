// SPDX-License-Identifier: GPL-3.0-or-later
#include "session/shooting.h"

#include "base/phrase.h"
#include "pipeline/report.h"
#include "session/view_positions.h"

#include <algorithm>

namespace ml {
namespace fs = std::filesystem;
namespace {

/// A spot reading stands for its surroundings: a few hundredths of the width.
constexpr double kZoneRadius = 0.02;

} // namespace

const char* idOf(Flaw flaw) {
  static constexpr const char* kIds[] = {"highlights-clipped", "shadows-noisy", "wrong-time", "settings-drifted",
                                         "colour-drifted",     "light-drifted", "soft",       "camera-moved",
                                         "thing-moved",        "not-alike"};
  return kIds[std::size_t(flaw)];
}

void keepCheck(const View& view, FrameSet& set, const SetVerdict& verdict, const std::vector<FrameJudgement>& judged) {
  set.verdict = verdict.sentence;
  set.answer = answerName(verdict.answer);
  set.notes.clear();
  const double focal = view.situation.opticsOn(view.profile()).equivalentFocalMm();
  for (const auto& j : judged) {
    if (j.frame < 0 || j.frame >= int(set.frames.size())) continue;
    FrameNote note{set.frames[std::size_t(j.frame)].file.filename().string(),
                   j.settings.time.value,
                   focal,
                   view.situation.handHeld,
                   j.softness,
                   {}};
    for (const Flaw flaw : j.flaws) note.flaws.emplace_back(idOf(flaw));
    set.notes.push_back(std::move(note));
  }
}

Result<void> checkFolder(const View& view) {
  std::error_code error;
  if (fs::exists(view.folder / "plan.json", error)) return {};
  return fail(ErrorCode::CannotWrite, phrase("The folder `{}` has vanished; bring it back (the drive, the share) and "
                                             "go on. What was shot is where it was.",
                                             view.folder.string()));
}

Result<void> recordFrame(View& view, const fs::path& file) {
  if (view.activeSet < 0) view.startSet("Bracket", {});
  view.sets[std::size_t(view.activeSet)].frames.push_back({file, true});
  view.refreshFrames();
  if (auto there = checkFolder(view); !there) return there;
  return view.saveFrames();
}

int nextFrameNumber(const View& view) {
  if (view.activeSet < 0) return 1;
  const FrameSet& set = view.sets[std::size_t(view.activeSet)];
  int number = int(set.frames.size()) + 1;
  std::error_code error;
  const auto taken = [&](int n) {
    for (const char* ending : {".dng", ".jpg", ".tif"})
      if (fs::exists(view.setFolder(set) / ("frame-" + std::to_string(n) + ending), error)) return true;
    return false;
  };
  while (taken(number)) ++number;
  return number;
}

std::optional<MustKeep> mustKeepOf(const View& view) {
  MustKeep wanted;
  int kept = 0;
  for (const auto& reading : view.readings) {
    if (!reading.keepTexture) continue;
    wanted.low = kept ? std::min(wanted.low, reading.ev100) : reading.ev100;
    wanted.high = kept ? std::max(wanted.high, reading.ev100) : reading.ev100;
    ++kept;
  }
  wanted.snrTarget = view.snrTarget;
  return kept >= 2 ? std::optional(wanted) : std::nullopt;
}

std::pair<Stops, Stops> unsureOf(const View& view) {
  const SpotReading *darkest = nullptr, *brightest = nullptr;
  for (const auto& reading : view.readings) {
    if (!reading.keepTexture) continue;
    if (!darkest || reading.ev100 < darkest->ev100) darkest = &reading;
    if (!brightest || reading.ev100 > brightest->ev100) brightest = &reading;
  }
  const auto unsure = [](const SpotReading* r) { return Stops{std::max(kReadingStep.value, r ? r->uncertainty : 0)}; };
  return {unsure(darkest), unsure(brightest)};
}

JudgeSetup judgeSetupOf(const View& view) {
  JudgeSetup setup;
  setup.fading = view.situation.fadeStopsPerMinute > 0;
  if (view.activeSet >= 0) setup.planned = view.sets[std::size_t(view.activeSet)].planned;
  setup.camera = view.profile();
  setup.wanted = mustKeepOf(view);
  const FrameSet* set = view.activeSet >= 0 ? &view.sets[std::size_t(view.activeSet)] : nullptr;
  for (const auto& reading : view.readings)
    if (reading.x && reading.y && (!set || isAt(reading, {set->row, set->column})))
      setup.zones.push_back({reading.name, *reading.x, *reading.y, reading.keepTexture ? kZoneRadius : 3 * kZoneRadius,
                             reading.keepTexture, reading.ev100});
  setup.curveKnown = !view.world.empty();
  setup.support = view.situation.handHeld ? Support::Hand : Support::Tripod;
  return setup;
}

} // namespace ml
