// SPDX-License-Identifier: GPL-3.0-or-later
#include "judge/words.h"

#include "base/phrase.h"
#include "exposure/marks.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace ml {
namespace {

std::string stops(double value) {
  return printAmount({std::abs(value)});
}

std::string numbered(int frame) {
  return phrase("Frame {}", frame + 1);
}

std::string times(const std::vector<ExposureSettings>& frames) {
  std::string out;
  for (const auto& f : frames) out += (out.empty() ? "" : ", ") + print(f.time);
  return out;
}

double shift(const FrameJudgement& j) {
  return std::hypot(j.shiftX, j.shiftY);
}

const FrameJudgement* first(const VerdictInput& in, Flaw flaw) {
  for (const auto& j : in.frames)
    if (std::find(in.aside.begin(), in.aside.end(), j.frame) == in.aside.end() && j.has(flaw)) return &j;
  return nullptr;
}

/// What was ordered in that place of the set.
ExposureSettings orderedFor(const FrameJudgement& j, const JudgeSetup& setup) {
  ExposureSettings s = j.settings;
  if (setup.planned.empty()) return s;
  s.aperture = setup.planned.front().aperture;
  s.iso = setup.planned.front().iso;
  return s;
}

/// Do the other frames still cover the scene?
bool othersCover(const VerdictInput& in, int without, const JudgeSetup& setup) {
  if (!setup.camera || !setup.wanted) return false;
  std::vector<ExposureSettings> rest;
  for (const int i : in.order)
    if (i != without) rest.push_back(in.frames[std::size_t(i)].settings);
  return !rest.empty() && coverageOf(SensorModel(*setup.camera), *setup.wanted, rest).complete(setup.wanted->snrTarget);
}

/// What was left out because the others cover the scene without it is not missing.
VerdictInput lessWhatIsNotNeeded(VerdictInput in, const JudgeSetup& setup) {
  if (!othersCover(in, -1, setup)) return in;
  std::erase_if(in.missing, [&](const ExposureSettings& m) {
    return std::any_of(in.aside.begin(), in.aside.end(), [&](int i) {
      const Seconds made = in.frames[std::size_t(i)].settings.time;
      return std::abs(std::log2(made.value / m.time.value)) <= setup.limits.settingStops;
    });
  });
  return in;
}

NextAction shoot(NextAction::Kind kind, std::vector<ExposureSettings> frames, std::vector<int> replaces,
                 std::string label) {
  return {kind, std::move(frames), std::move(replaces), std::move(label)};
}

Seconds withinCamera(Seconds t, const JudgeSetup& setup) {
  if (setup.camera) t = std::clamp(t, setup.camera->shortest, setup.camera->longest);
  return timeAtThirds(nearestThirds(t));
}

/// How far down a further frame must go: what the reading says when it was taken, else two stops (common practice, no
/// source).
SetVerdict darkerFrames(const FrameJudgement& dark, const JudgeSetup& setup) {
  double down = 2;
  if (setup.camera && setup.wanted) {
    const double needed =
        (setup.wanted->high + setup.wanted->highlightMargin - SensorModel(*setup.camera).clipsAt(dark.settings)).value;
    down = std::max(2.0, std::ceil(3 * needed) / 3);
  }
  const ExposureSettings first = orderedFor(dark, setup);
  if (withinCamera(brighter(first.time, {-1.0 / 3}), setup).value > first.time.value * 0.9)
    return {phrase("Highlights are clipped in the darkest frame, and {} is the camera's shortest time: close the "
                   "aperture or let them clip.",
                   print(first.time)),
            {},
            Answer::DoesNotHold,
            {},
            {}};
  // Steps of three stops at most, so that no gap is left between the old frames and the new.
  const int count = std::max(1, int(std::ceil(down / 3 - 1e-6)));
  std::vector<ExposureSettings> frames;
  for (int i = 1; i <= count; ++i) {
    ExposureSettings s = first;
    s.time = withinCamera(brighter(first.time, {-down * i / count}), setup);
    if (frames.empty() || s.time < frames.back().time) frames.push_back(s);
  }
  const std::string what = frames.size() == 1 ? phrase("one more at {}", times(frames))
                                              : phrase("{} more at {}", frames.size(), times(frames));
  return {
      phrase("Highlights are clipped in the darkest frame ({:.1f} % of the picture): shoot {}.",
             100 * dark.clippedShare, what),
      shoot(NextAction::Kind::ShootDarker, frames, {},
            frames.size() == 1 ? phrase("Shoot one at {}", times(frames)) : phrase("Shoot {} darker", frames.size())),
      Answer::DoesNotHold,
      {},
      {}};
}

SetVerdict oneBrighter(const FrameJudgement& bright, const JudgeSetup& setup) {
  ExposureSettings s = orderedFor(bright, setup);
  const Seconds before = s.time;
  s.time = withinCamera(brighter(s.time, {2}), setup);
  if (s.time.value < before.value * 1.1)
    return {phrase("The deep shadow is still noise at {}, the camera's longest time: open the aperture or add light.",
                   print(before)),
            {},
            Answer::DoesNotHold,
            {},
            {}};
  return {phrase("The deep shadow is still noise in the brightest frame: shoot one more at {}.", print(s.time)),
          shoot(NextAction::Kind::ShootBrighter, {s}, {}, phrase("Shoot one at {}", print(s.time))),
          Answer::DoesNotHold,
          {},
          {}};
}

SetVerdict repeatAll(const std::string& sentence, const VerdictInput& in, const JudgeSetup& setup) {
  std::vector<ExposureSettings> frames = setup.planned;
  if (frames.empty())
    for (const int i : in.order) frames.push_back(in.frames[std::size_t(i)].settings);
  return {sentence,
          shoot(NextAction::Kind::RepeatSet, frames, in.order, phrase("Shoot the set again")),
          Answer::DoesNotHold,
          {},
          {}};
}

SetVerdict repeatOne(const std::string& sentence, const FrameJudgement& j, const JudgeSetup& setup) {
  const ExposureSettings s = orderedFor(j, setup);
  return {
      sentence,
      shoot(NextAction::Kind::RepeatFrame, {s}, {j.frame}, phrase("Repeat frame {} at {}", j.frame + 1, print(s.time))),
      Answer::DoesNotHold,
      {},
      {}};
}

/// Aperture and ISO as they were planned, or as the first frame has them.
SetVerdict drifted(const VerdictInput& in, const JudgeSetup& setup) {
  const auto meant = [&](const FrameJudgement& j) {
    ExposureSettings s = orderedFor(j, setup);
    if (setup.planned.empty()) s.aperture = in.frames.front().settings.aperture, s.iso = in.frames.front().settings.iso;
    return s;
  };
  std::vector<int> wrong;
  std::vector<ExposureSettings> again;
  for (const int i : in.order) {
    const auto& j = in.frames[std::size_t(i)];
    if (!j.has(Flaw::SettingsDrifted)) continue;
    wrong.push_back(i);
    again.push_back(meant(j));
  }
  const auto& j = in.frames[std::size_t(*std::min_element(wrong.begin(), wrong.end()))];
  const ExposureSettings ordered = meant(j);
  const bool iso = std::abs(std::log2(j.settings.iso.value / ordered.iso.value)) > setup.limits.settingStops;
  const std::string what = iso ? phrase("ISO went to {:.0f}", j.settings.iso.value)
                               : phrase("the aperture went to {}", print(j.settings.aperture));
  const std::string mend = iso ? phrase("switch automatic ISO off") : phrase("fix the aperture");
  return {wrong.size() == 1 ? phrase("From frame {} on {}: {} and shoot it again.", j.frame + 1, what, mend)
                            : phrase("From frame {} on {}: {} and shoot them again.", j.frame + 1, what, mend),
          shoot(NextAction::Kind::RepeatFrame, again, wrong,
                wrong.size() == 1 ? phrase("Repeat frame {}", j.frame + 1) : phrase("Repeat {} frames", wrong.size())),
          Answer::DoesNotHold,
          {},
          {}};
}

SetVerdict resetBracket(const VerdictInput& in) {
  std::vector<int> wrong;
  for (const int i : in.order)
    if (in.frames[std::size_t(i)].has(Flaw::WrongTime)) wrong.push_back(i);
  const int firstWrong = *std::min_element(wrong.begin(), wrong.end());
  return {phrase("From frame {} on the time is not the planned one; the camera has left its bracket. Set it again "
                 "and shoot {}.",
                 firstWrong + 1, times(in.missing)),
          shoot(NextAction::Kind::ShootMissing, in.missing, wrong,
                in.missing.size() == 1 ? phrase("Shoot the missing frame")
                                       : phrase("Shoot the {} missing", in.missing.size())),
          Answer::DoesNotHold,
          {},
          {}};
}

/// A cloud passes; dusk does not, and waiting makes it worse.
std::string lightRemedy(const VerdictInput& in, const JudgeSetup& setup) {
  const bool fades = setup.fading || std::count_if(in.frames.begin(), in.frames.end(), [](const FrameJudgement& f) {
                                       return f.has(Flaw::LightDrifted) && f.light.value < 0;
                                     }) > 1;
  return fades ? phrase("it will not come back, so shoot the set again with fewer frames or shorter times")
               : phrase("wait until it is steady and shoot the set again");
}

SetVerdict soft(const VerdictInput& in, const FrameJudgement& j, const JudgeSetup& setup) {
  const std::string state = shift(j) > 1.5 && j.has(Flaw::CameraMoved)
                                ? phrase("moved {:.0f} pixels and is soft", shift(j))
                                : phrase("is soft");
  if (othersCover(in, j.frame, setup))
    return {phrase("{} {}: leave it out; the rest still cover the scene.", numbered(j.frame), state),
            shoot(NextAction::Kind::LeaveOut, {}, {j.frame}, phrase("Leave frame {} out", j.frame + 1)),
            Answer::DoesNotHold,
            {},
            {}};
  return repeatOne(phrase("{} {}: shoot it again.", numbered(j.frame), state), j, setup);
}

SetVerdict sound(const VerdictInput& in) {
  if (in.order.empty()) return {phrase("No frame has arrived yet."), {}, Answer::DoesNotHold, {}, {}};
  const auto& dark = in.frames[std::size_t(in.order.front())];
  const auto& bright = in.frames[std::size_t(in.order.back())];
  if (in.order.size() == 1)
    return {phrase("One frame at {} is on disk and nothing is wrong with it.", print(dark.settings.time)),
            {},
            Answer::Holds,
            {},
            {}};
  const PrintedEnds ends = printedEnds(dark.settings, bright.settings);
  return {phrase("{} frames from {} to {} {}; highlights and shadows are held, nothing large moved: go on.",
                 in.order.size(), ends.first, ends.last, in.aside.empty() ? phrase("are on disk") : phrase("are used")),
          {},
          Answer::Holds,
          {},
          {}};
}

} // namespace

std::string describe(const FrameJudgement& j) {
  std::string out;
  const auto add = [&](const std::string& part) { out += (out.empty() ? "" : "; ") + part; };
  for (const Flaw flaw : j.flaws) switch (flaw) {
    case Flaw::HighlightsClipped: add(phrase("highlights clipped, {:.1f} %", 100 * j.clippedShare)); break;
    case Flaw::ShadowsNoisy: add(phrase("deep shadow still noise")); break;
    case Flaw::WrongTime: add(phrase("not the planned time")); break;
    case Flaw::SettingsDrifted: add(phrase("set to {}, {}", print(j.settings.aperture), print(j.settings.iso))); break;
    case Flaw::ColourDrifted: add(phrase("white balance changed")); break;
    case Flaw::LightDrifted:
      add(phrase("light {} by {}", j.light.value < 0 ? phrase("fell") : phrase("rose"), stops(j.light.value)));
      break;
    case Flaw::Soft: add(phrase("soft")); break;
    case Flaw::CameraMoved: add(phrase("camera moved {:.1f} pixels", shift(j))); break;
    case Flaw::ThingMoved: add(phrase("something moved, {:.1f} % of the picture", 100 * j.movedShare)); break;
    case Flaw::NotAlike: add(phrase("another size or view")); break;
    }
  return out.empty() ? phrase("nothing wrong") : out;
}

std::string softPerhaps(const FrameJudgement& frame) {
  return phrase("Whether frame {} is quite sharp cannot be told from these files; look at it at 100 %.",
                frame.frame + 1);
}

std::string sharpnessUnknown(const FrameJudgement& frame) {
  return phrase("Frame {} shows too little of what the others show to say whether it is sharp; look at it at 100 %.",
                frame.frame + 1);
}

std::string lightPerhaps(int before, double stops_, bool mayFlicker) {
  if (mayFlicker)
    return phrase("From frame {} on the light differs by {}: lamps that flicker against short times, or a cloud; "
                  "combining allows for it.",
                  before + 1, stops(stops_));
  return phrase("Whether the light {} by {} before frame {} cannot be told apart from this camera's curve; "
                "combining allows for it.",
                stops_ < 0 ? phrase("fell") : phrase("rose"), stops(stops_), before + 1);
}

std::string colourPerhaps(int before) {
  return phrase("Whether the white balance changed before frame {} cannot be told apart from this camera's rendering.",
                before + 1);
}

namespace {

/// "A fifth", "12 %".
std::string shareWords(double share) {
  static constexpr std::pair<double, const char*> kWords[] = {{0.1, wording("A tenth")},
                                                              {0.2, wording("A fifth")},
                                                              {0.25, wording("A quarter")},
                                                              {1 / 3.0, wording("A third")},
                                                              {0.5, wording("Half")}};
  for (const auto& [value, word] : kWords)
    if (std::abs(share - value) < 0.08 * value) return phrase(word);
  return fmt::format("{:.0f} %", 100 * share);
}

/// A little of the darkest frame clips: glints, lamps, or texture that one more frame would hold.
std::string offerDarker(const VerdictInput& in, const JudgeSetup& setup) {
  constexpr double kSome = 0.002; // of the picture; below, glints
  const FrameJudgement& dark = in.frames[std::size_t(in.order.front())];
  const Seconds next = withinCamera(brighter(dark.settings.time, {-2}), setup);
  if (dark.clippedShare < kSome || next.value > dark.settings.time.value / 1.5) return {};
  return phrase("{:.1f} % of the picture is cut in the darkest frame; if that is not lamps or glints, one more "
                "frame at {} would hold it.",
                100 * dark.clippedShare, print(next));
}

/// What was measured against what was asked for: much of the picture below the darkest reading, and noise in the
/// brightest frame.
std::string offerOf(const VerdictInput& in, const JudgeSetup& setup) {
  constexpr double kMuch = 0.1; // of the picture
  if (in.order.empty()) return {};
  if (!setup.wanted || !setup.camera) return offerDarker(in, setup);
  const auto& brightest = in.frames[std::size_t(in.order.back())].settings;
  const double floor = SensorModel(*setup.camera).floorAt(brightest, setup.wanted->snrTarget).value;
  double below = in.light.dark, darkest = floor - 4;
  for (std::size_t i = 0; i < in.light.share.size(); ++i) {
    const double ev = in.light.start + (double(i) + 0.5) * SceneDistribution::kStep;
    if (ev >= std::min(setup.wanted->low.value, floor)) break;
    if (below < kMuch / 5 && below + in.light.share[i] >= kMuch / 5) darkest = ev;
    below += in.light.share[i];
  }
  if (below < kMuch) return {};
  const Seconds next =
      withinCamera(brighter(brightest.time, {std::clamp(std::ceil(3 * (floor - darkest)) / 3, 1.0, 3.0)}), setup);
  if (next.value < brightest.time.value * 1.5) return {};
  return phrase("{} of the picture is darker than your darkest reading; one more frame at {} would hold it.",
                shareWords(below), print(next));
}

SetVerdict asIs(const VerdictInput& in, const JudgeSetup& setup) {
  SetVerdict verdict = sound(in);
  verdict.offer = offerOf(in, setup);
  if (!verdict.offer.empty()) verdict.sentence += " " + verdict.offer;
  if (in.open.empty()) return verdict;
  verdict.answer = Answer::CannotTell;
  verdict.open = in.open;
  verdict.sentence = in.open.front();
  return verdict;
}

} // namespace

SetVerdict wordVerdict(const VerdictInput& given, const JudgeSetup& setup) {
  const VerdictInput in = lessWhatIsNotNeeded(given, setup);
  if (in.order.empty()) return sound(in);
  if (const auto* j = first(in, Flaw::NotAlike))
    return {phrase("{} has another size or shows another view: it is not of this set.", numbered(j->frame)),
            shoot(NextAction::Kind::LeaveOut, {}, {j->frame}, phrase("Leave frame {} out", j->frame + 1)),
            Answer::DoesNotHold,
            {},
            {}};
  if (first(in, Flaw::WrongTime) && !in.missing.empty()) return resetBracket(in);
  if (first(in, Flaw::SettingsDrifted)) return drifted(in, setup);
  if (!in.missing.empty())
    return {in.missing.size() == 1 ? phrase("{} of {} frames are there; {} is missing.", in.order.size(),
                                            in.order.size() + 1, times(in.missing))
                                   : phrase("{} of {} frames are there; {} are missing.", in.order.size(),
                                            in.order.size() + in.missing.size(), times(in.missing)),
            shoot(NextAction::Kind::ShootMissing, in.missing, {},
                  in.missing.size() == 1 ? phrase("Shoot the missing frame")
                                         : phrase("Shoot the {} missing", in.missing.size())),
            Answer::DoesNotHold,
            {},
            {}};
  if (const auto* j = first(in, Flaw::ColourDrifted))
    return repeatAll(phrase("The white balance changed before frame {}: fix it and shoot the set again.", j->frame + 1),
                     in, setup);
  if (const auto* j = first(in, Flaw::HighlightsClipped)) return darkerFrames(*j, setup);
  if (const auto* j = first(in, Flaw::Soft)) return soft(in, *j, setup);
  if (const auto* j = first(in, Flaw::ThingMoved))
    return repeatOne(
        phrase(
            "Something moved in frame {}, {:.{}f} % of the picture: shoot it again, or choose one frame for it later.",
            j->frame + 1, 100 * j->movedShare, j->movedShare < 0.02 ? 1 : 0),
        *j, setup);
  if (const auto* j = first(in, Flaw::LightDrifted))
    return repeatAll(phrase("The light {} by {} before frame {}: {}.",
                            j->light.value < 0 ? phrase("fell") : phrase("rose"), stops(j->light.value), j->frame + 1,
                            lightRemedy(in, setup)),
                     in, setup);
  if (const auto* j = first(in, Flaw::CameraMoved))
    return repeatAll(phrase("The camera moved {:.0f} pixels before frame {}: combining can align that, but check "
                            "column and head and shoot the set again.",
                            std::max(1.0, shift(*j)), j->frame + 1),
                     in, setup);
  if (const auto* j = first(in, Flaw::ShadowsNoisy)) return oneBrighter(*j, setup);
  return asIs(in, setup);
}

} // namespace ml
