// SPDX-License-Identifier: GPL-3.0-or-later
#include "practice/scoring.h"

#include "base/phrase.h"
#include "exposure/ev.h"
#include "exposure/marks.h"

#include <algorithm>
#include <bitset>
#include <cmath>
#include <fmt/format.h>
#include <set>

namespace ml {
namespace {

constexpr double kThird = 1.0 / 3, kWorthless = 2; ///< Stops.

/// 1 up to a third of a stop, 0 from two on.
double nearness(double stopsOff) {
  return std::clamp((kWorthless - std::abs(stopsOff)) / (kWorthless - kThird), 0.0, 1.0);
}

std::string amount(double stops) {
  return printAmount({std::abs(stops)});
}

std::string listed(const std::vector<std::string>& words, const std::string& none) {
  std::string out;
  for (const auto& word : words) out += (out.empty() ? "" : ", ") + word;
  return out.empty() ? none : out;
}

Score score(const SpotTruth& truth, const SpotAnswer& answer) {
  Score out;
  double sum = 0;
  for (std::size_t i = 0; i < truth.spots.size(); ++i) {
    const double real = truth.spots[i].ev100.value;
    if (i >= answer.ev100.size()) {
      out.explanation.push_back(phrase("Spot {} was not read; it is EV {:.1f}.", i + 1, real));
      continue;
    }
    const double off = answer.ev100[i].value - real;
    sum += nearness(off);
    out.explanation.push_back(std::abs(off) <= kThird
                                  ? phrase("Spot {}: EV {:.1f}, within a third of a stop.", i + 1, real)
                                  : phrase("Spot {}: EV {:.1f}; you read it {} too {}.", i + 1, real, amount(off),
                                           off > 0 ? phrase("bright") : phrase("dark")));
  }
  out.points = truth.spots.empty() ? 0 : 100 * sum / double(truth.spots.size());
  return out;
}

/// Stops of light that a bracket leaves out: clipped, lost in noise, and between its frames.
struct Missed {
  double high = 0, low = 0, gap = 0;
  [[nodiscard]] double all() const { return high + low + gap; }
};

Missed missedBy(const Coverage& coverage) {
  const double high = std::max(0.0, -coverage.spareHigh.value), low = std::max(0.0, -coverage.spareLow.value);
  return {high, low, std::max(0.0, coverage.shortfall.value - high - low)}; // the shortfall counts the ends too
}

Score score(const BracketTruth& truth, const BracketAnswer& answer) {
  Score out;
  constexpr double kForFrame = 12, kForStop = 30;
  constexpr int kMostFrames = 50;
  const int count = std::clamp(answer.count, 1, kMostFrames);
  std::vector<ExposureSettings> frames;
  for (const Stops offset : bracketOffsets(count, answer.step))
    frames.push_back({brighter(answer.centre, offset), truth.request.aperture, truth.best.iso()});
  std::sort(frames.begin(), frames.end(), [](const auto& a, const auto& b) { return a.time < b.time; });
  const Plan plan = planOfFrames(truth.camera, truth.request, frames);
  const Missed missed = missedBy(plan.coverage);
  const double high = missed.high, low = missed.low;
  // What the best plan leaves out nobody can keep.
  const double lost = std::max(0.0, missed.all() - missedBy(truth.best.coverage).all());
  const int tooMany = std::max(0, count - int(truth.best.frames.size()));
  out.points = std::clamp(100 - kForFrame * tooMany - kForStop * lost, 0.0, 100.0);
  if (high > 0.05) out.explanation.push_back(phrase("The brightest {} clip in your darkest frame.", amount(high)));
  if (low > 0.05) out.explanation.push_back(phrase("The darkest {} stay below the noise you allowed.", amount(low)));
  if (missed.gap > 0.05)
    out.explanation.push_back(phrase("Between your frames {} fall into a gap.", amount(missed.gap)));
  if (tooMany > 0)
    out.explanation.push_back(tooMany == 1 ? phrase("1 frame more than needed.")
                                           : phrase("{} frames more than needed.", tooMany));
  if (out.explanation.empty()) out.explanation.emplace_back(phrase("Everything is covered with no frame too many."));
  out.explanation.push_back(phrase("The smallest bracket: {}", verdict(truth.best)));
  return out;
}

std::string faultWords(const Fault& fault) {
  for (const auto& name : faultNames())
    if (name.kind == fault.kind) return phrase("frame {}: {}", fault.frame + 1, phrase(name.name));
  return {};
}

Score score(const FaultTruth& truth, const FaultAnswer& answer) {
  Score out;
  std::vector<char> found(truth.faults.size());
  double right = 0;
  int wrong = 0;
  std::vector<Fault> left = answer.faults;
  const auto take = [&](const auto& same, double worth) {
    for (std::size_t i = 0; i < truth.faults.size(); ++i) {
      if (found[i]) continue;
      const auto it = std::find_if(left.begin(), left.end(), [&](const Fault& f) { return same(f, truth.faults[i]); });
      if (it == left.end()) continue;
      found[i] = 1;
      right += worth;
      left.erase(it);
      out.explanation.push_back(worth == 1
                                    ? phrase("Found: {}.", faultWords(truth.faults[i]))
                                    : phrase("Half right, the frame is another: {}.", faultWords(truth.faults[i])));
    }
  };
  take([](const Fault& a, const Fault& b) { return a.kind == b.kind && a.frame == b.frame; }, 1);
  take([](const Fault& a, const Fault& b) { return a.kind == b.kind; }, 0.5);
  for (std::size_t i = 0; i < truth.faults.size(); ++i)
    if (!found[i]) out.explanation.push_back(phrase("Missed: {}.", faultWords(truth.faults[i])));
  for (const auto& fault : left) {
    ++wrong;
    out.explanation.push_back(phrase("Not so: {}.", faultWords(fault)));
  }
  if (truth.faults.empty()) {
    out.points = wrong == 0 ? 100 : 0;
    out.explanation.insert(out.explanation.begin(), phrase("The set is sound."));
  } else { // harmonic mean of what was found and what was right
    out.points = 100 * 2 * right / double(truth.faults.size() + answer.faults.size());
  }
  return out;
}

bool covers(const LeaveOutTruth& truth, const std::vector<ExposureSettings>& frames) {
  return !frames.empty() && planOfFrames(truth.camera, truth.request, frames).covers;
}

std::vector<ExposureSettings> without(const LeaveOutTruth& truth, const std::set<int>& out) {
  std::vector<ExposureSettings> rest;
  for (int i = 0; i < int(truth.frames.size()); ++i)
    if (!out.contains(i)) rest.push_back(truth.frames[std::size_t(i)]);
  return rest;
}

std::vector<int> bestLeftOut(const LeaveOutTruth& truth) {
  std::vector<int> best;
  for (std::size_t set = 0; set < (std::size_t(1) << truth.frames.size()); ++set) {
    const std::bitset<32> in(set);
    if (in.count() <= best.size()) continue;
    std::set<int> out;
    for (int i = 0; i < int(truth.frames.size()); ++i)
      if (in[std::size_t(i)]) out.insert(i);
    if (covers(truth, without(truth, out))) best.assign(out.begin(), out.end());
  }
  return best;
}

Score score(const LeaveOutTruth& truth, const LeaveOutAnswer& answer) {
  Score out;
  std::set<int> gone;
  for (const int frame : answer.frames)
    if (frame >= 0 && frame < int(truth.frames.size())) gone.insert(frame);
  const auto rest = without(truth, gone);
  const bool good = covers(truth, rest);
  if (good) {
    out.points = truth.most == 0 ? 100 : 100.0 * double(gone.size()) / truth.most;
    out.explanation.push_back(phrase("The {} frames left still cover the scene; {} of {} that can go are gone.",
                                     rest.size(), gone.size(), truth.most));
  } else if (rest.empty()) {
    out.explanation.emplace_back(phrase("Nothing is left."));
  } else {
    const double lost = missedBy(planOfFrames(truth.camera, truth.request, rest).coverage).all();
    out.points = std::max(0.0, 40 - 20 * lost);
    out.explanation.push_back(phrase("With these gone {} are no longer recorded.", amount(lost)));
  }
  std::vector<std::string> names;
  for (const int frame : bestLeftOut(truth)) names.push_back(fmt::format("{}", frame + 1));
  out.explanation.push_back(phrase("Can go: {}.", listed(names, phrase("none"))));
  return out;
}

Score score(const SettingsTruth& truth, const SettingsAnswer& answer) {
  Score out;
  int wrongAtFirst = 0, mended = 0, spoilt = 0;
  for (const auto& item : truth.items) {
    std::string after = item.now;
    for (const auto& [id, choice] : answer.set)
      if (id == item.id) after = choice;
    const bool before = item.now == item.right, now = after == item.right;
    wrongAtFirst += !before;
    mended += !before && now;
    spoilt += before && !now;
    if (!now)
      out.explanation.push_back(
          phrase("{}: {} should be {}. {}", phrase(item.name), phrase(after), phrase(item.right), phrase(item.why)));
  }
  out.points = wrongAtFirst == 0 ? (spoilt == 0 ? 100 : 0) : std::max(0.0, 100.0 * (mended - spoilt) / wrongAtFirst);
  if (out.explanation.empty()) out.explanation.emplace_back(phrase("All settings are right."));
  return out;
}

Seconds rightCentre(const DuskTruth& truth, double minute) {
  // Midway between sky and lamps, as a meter that weighs both would have it.
  const double middle = (truth.skyAt(minute).value + truth.lamps) / 2;
  return timeFor({middle}, truth.aperture, truth.iso);
}

Score score(const DuskTruth& truth, const DuskAnswer& answer) {
  Score out;
  double sum = 0, before = -1e9;
  for (std::size_t i = 0; i < answer.shots.size(); ++i) {
    const auto& shot = answer.shots[i];
    const double off = std::log2(shot.centre.value / rightCentre(truth, shot.minute).value);
    const bool inLight = shot.minute >= truth.from && shot.minute <= truth.to;
    const bool possible = shot.minute >= before + truth.apart - 1e-9;
    const double worth = inLight && possible ? nearness(off) : 0;
    sum += worth;
    before = std::max(before, shot.minute);
    std::string words = phrase("Set {} at minute {:.1f}: ", i + 1, shot.minute);
    if (!possible)
      words += phrase("the one before was not done yet.");
    else if (!inLight)
      words += shot.minute < truth.from ? phrase("too early, the sky still outshines the lamps.")
                                        : phrase("too late, the sky is gone.");
    else if (std::abs(off) <= kThird)
      words += phrase("right.");
    else
      words += phrase("{} too {}; {} would have been right.", amount(off), off > 0 ? phrase("bright") : phrase("dark"),
                      print(timeAtThirds(nearestThirds(rightCentre(truth, shot.minute)))));
    out.explanation.push_back(words);
  }
  const int wanted = std::max(truth.sets, int(answer.shots.size()));
  if (int(answer.shots.size()) < truth.sets)
    out.explanation.push_back(phrase("{} of {} sets were shot.", answer.shots.size(), truth.sets));
  out.explanation.push_back(
      phrase("Sky and lamps were within a stop from minute {:.1f} to {:.1f}; the sky loses {:.2f} stop a minute.",
             truth.from, truth.to, truth.fadePerMinute));
  out.points = wanted == 0 ? 0 : 100 * sum / wanted;
  return out;
}

/// "on the left", "at the top", "in the lower right", "in the middle".
std::string whereabouts(const FinishPlace& at) {
  static constexpr const char* kWords[3][3] = {
      {wording("in the upper left"), wording("at the top"), wording("in the upper right")},
      {wording("on the left"), wording("in the middle"), wording("on the right")},
      {wording("in the lower left"), wording("at the bottom"), wording("in the lower right")}};
  const auto third = [](double v) { return v < 1.0 / 3 ? 0 : v > 2.0 / 3 ? 2 : 1; };
  return phrase(kWords[third(at.y)][third(at.x)]);
}

/// 1 within the flaw's reach, 0 from twice its reach on.
double hit(const FinishTruth& truth, const FinishTruth::Picture& picture, const FinishPlace& said) {
  const double dx = said.x - picture.place.x, dy = said.y - picture.place.y;
  const double off =
      truth.aspect >= 1 ? std::hypot(dx, dy / truth.aspect) : std::hypot(dx * truth.aspect, dy); // of the longer side
  return std::clamp(2 - off / picture.reach, 0.0, 1.0);
}

/// Half for what it is, half for where.
Score score(const FinishTruth& truth, const FinishAnswer& answer) {
  Score out;
  double sum = 0;
  for (std::size_t i = 0; i < truth.pictures.size(); ++i) {
    const auto& real = truth.pictures[i];
    const bool natural = real.flaw == FinishFlaw::Natural;
    std::string words = phrase("Picture {} is {}", i + 1, wordsOf(real.flaw));
    if (!natural) words += ", " + whereabouts(real.place);
    if (i >= answer.pictures.size()) {
      out.explanation.push_back(phrase("{}; it was not judged.", words));
      continue;
    }
    const auto& said = answer.pictures[i];
    if (said.flaw != real.flaw) words += phrase("; not {}", wordsOf(said.flaw));
    if (natural) {
      sum += said.flaw == real.flaw;
    } else if (said.flaw != FinishFlaw::Natural) {
      sum += said.flaw == real.flaw ? 0.5 : 0.25; // overdone it is, in another way
      const double place = said.place ? hit(truth, real, *said.place) : 0;
      sum += 0.5 * place;
      if (!said.place)
        words += phrase("; you did not say where");
      else if (place < 1)
        words += phrase("; you looked for it {}", whereabouts(*said.place));
    }
    out.explanation.push_back(words + ".");
  }
  out.points = truth.pictures.empty() ? 0 : 100 * sum / double(truth.pictures.size());
  return out;
}

/// Pairs of frames that one grouping puts together.
std::set<std::pair<int, int>> pairsOf(const std::vector<std::vector<int>>& sets) {
  std::set<std::pair<int, int>> out;
  for (const auto& set : sets)
    for (const int a : set)
      for (const int b : set)
        if (a < b) out.emplace(a, b);
  return out;
}

std::vector<std::vector<int>> setsOf(const SortTruth& truth) {
  std::vector<std::vector<int>> out;
  for (int i = 0; i < int(truth.frames.size()); ++i) {
    const int set = truth.frames[std::size_t(i)].set;
    if (set < 0) continue;
    if (set >= int(out.size())) out.resize(std::size_t(set) + 1);
    out[std::size_t(set)].push_back(i);
  }
  return out;
}

Score score(const SortTruth& truth, const SortAnswer& answer) {
  Score out;
  const auto real = pairsOf(setsOf(truth)), said = pairsOf(answer.sets);
  std::size_t both = 0;
  for (const auto& pair : said) both += real.contains(pair);
  out.points = real.empty() && said.empty() ? 100 : 100.0 * 2 * double(both) / double(real.size() + said.size());
  out.explanation.push_back(phrase("{} sets; {} of {} pairs of frames that belong together are together, {} that do "
                                   "not are.",
                                   setsOf(truth).size(), both, real.size(), said.size() - both));
  for (const auto& set : setsOf(truth)) {
    if (set.empty()) continue;
    out.explanation.push_back(phrase("{} to {}: {} frames.", truth.frames[std::size_t(set.front())].name,
                                     truth.frames[std::size_t(set.back())].name, set.size()));
  }
  return out;
}

ExerciseAnswer right(const SpotTruth& truth) {
  SpotAnswer out;
  for (const auto& spot : truth.spots) out.ev100.push_back(spot.ev100);
  return out;
}
ExerciseAnswer right(const BracketTruth& truth) {
  const auto& frames = truth.best.frames; // of two runs, all of them as one
  const double first = std::log2(frames.front().time.value), last = std::log2(frames.back().time.value);
  const int count = int(frames.size());
  return BracketAnswer{count, {count > 1 ? (last - first) / (count - 1) : 0}, {std::exp2((first + last) / 2)}};
}
ExerciseAnswer right(const FaultTruth& truth) {
  return FaultAnswer{truth.faults};
}
ExerciseAnswer right(const LeaveOutTruth& truth) {
  return LeaveOutAnswer{bestLeftOut(truth)};
}
ExerciseAnswer right(const SettingsTruth& truth) {
  SettingsAnswer out;
  for (const auto& item : truth.items)
    if (item.now != item.right) out.set.emplace_back(item.id, item.right);
  return out;
}
ExerciseAnswer right(const DuskTruth& truth) {
  DuskAnswer out;
  for (int i = 0; i < truth.sets; ++i) {
    const double minute = truth.from + i * truth.apart;
    out.shots.push_back({minute, rightCentre(truth, minute)});
  }
  return out;
}
ExerciseAnswer right(const FinishTruth& truth) {
  FinishAnswer out;
  for (const auto& picture : truth.pictures) {
    out.pictures.push_back({picture.flaw, {}});
    if (picture.flaw != FinishFlaw::Natural) out.pictures.back().place = picture.place;
  }
  return out;
}
ExerciseAnswer right(const SortTruth& truth) {
  return SortAnswer{setsOf(truth)};
}

} // namespace

Score scoreOf(const ExerciseTruth& truth, const ExerciseAnswer& answer) {
  return std::visit(
      [](const auto& t, const auto& a) -> Score {
        if constexpr (requires { score(t, a); })
          return score(t, a);
        else
          return {0, {phrase("The answer is to another exercise.")}};
      },
      truth, answer);
}

ExerciseAnswer rightAnswer(const ExerciseTruth& truth) {
  return std::visit([](const auto& t) { return right(t); }, truth);
}

namespace {
struct FlawName {
  const char *id, *words;
};
constexpr FlawName kFlaws[] = {{"natural", "natural"},
                               {"texture", wording("crunchy: too much local contrast")},
                               {"colour", wording("too colourful")},
                               {"flat", wording("flat: window and room pulled together too far")},
                               {"grey", wording("too grey and dark")}};
} // namespace

const std::vector<FinishFlaw>& finishFlaws() {
  using enum FinishFlaw;
  static const std::vector<FinishFlaw> all{Natural, TooMuchTexture, TooColourful, TooFlat, Grey};
  return all;
}
const char* idOf(FinishFlaw flaw) {
  return kFlaws[std::size_t(flaw)].id;
}
std::string wordsOf(FinishFlaw flaw) {
  return phrase(kFlaws[std::size_t(flaw)].words);
}
std::optional<FinishFlaw> finishFlaw(const std::string& id) {
  for (const FinishFlaw flaw : finishFlaws())
    if (id == idOf(flaw)) return flaw;
  return {};
}

} // namespace ml
