// SPDX-License-Identifier: GPL-3.0-or-later
#include "judge/set_judge.h"

#include "base/phrase.h"
#include "exposure/ev.h"
#include "exposure/shot_metadata.h"
#include "judge/own_edges.h"
#include "judge/sharpness.h"
#include "judge/words.h"

#include <algorithm>
#include <cmath>

namespace ml {
namespace {

constexpr double kLooserOfFew = 1.7;  ///< Three rendered frames do not show how noise reduction changes with the tone.
constexpr double kCoarseEdges = -1.3; ///< Of edgeFineness: a blur of about 1.4 pixels at all strong edges.
constexpr double kLooserByHand = 1.7; ///< Frames that lie a part of a pixel wrong share less than they show.

/// By how much one of a group, darkest first, is softer than its middle, and than what the others' course leads one to
/// expect: noise reduction and sharpening change with the tone, from frame to frame by the same.
double softnessIn(const std::vector<double>& group, std::size_t own) {
  std::vector<double> sorted = group;
  std::sort(sorted.begin(), sorted.end());
  const double below = sorted[sorted.size() / 2] - group[own];
  if (group.size() < 4) return std::max(0.0, below);
  double n = 0, x = 0, y = 0, xx = 0, xy = 0;
  for (std::size_t k = 0; k < group.size(); ++k)
    if (k != own) n += 1, x += double(k), y += group[k], xx += double(k * k), xy += double(k) * group[k];
  const double slope = (n * xy - x * y) / (n * xx - x * x), expected = (y - slope * x) / n + slope * double(own);
  return std::max(0.0, std::min(below, expected - group[own]));
}

using PairMeasures = std::map<std::pair<std::size_t, std::size_t>, PairMeasure>;

/// The frame that two others contradict by `least` of the picture and more, while no pair without it disagrees about
/// anything: somebody far away or half hidden. Where leaves or water move, all pairs disagree.
std::optional<std::size_t> onlyOneDisagrees(const PairMeasures& measures, std::size_t frames, double least) {
  for (std::size_t k = 0; k < frames; ++k) {
    int contradict = 0;
    bool others = false;
    for (const auto& [which, m] : measures) {
      const bool own = which.first == k || which.second == k;
      contradict += own && m.movedSmall >= least;
      others = others || (!own && m.movedSmall > 0);
    }
    if (contradict >= 2 && !others) return k;
  }
  return {};
}

double stopsApart(double a, double b) {
  return std::abs(std::log2(a / b));
}

} // namespace

bool FrameJudgement::has(Flaw flaw) const {
  return std::find(flaws.begin(), flaws.end(), flaw) != flaws.end();
}

void SetJudge::add(const Frame& frame) {
  addSketch(sketchOf(frame, setup_.zones));
}

void SetJudge::addSketch(std::shared_ptr<const Sketch> sketch) {
  sketches_.push_back(std::move(sketch));
  aside_.push_back(0);
}

void SetJudge::setAside(int frame) {
  if (frame >= 0 && frame < count()) aside_[std::size_t(frame)] = 1;
}

bool SetJudge::standsApart(int frame) const {
  std::size_t lit = 0, all = 0;
  for (std::size_t i = 0; i < sketches_.size(); ++i)
    if (!aside_[i]) ++all, lit += sketches_[i]->lit;
  const auto i = std::size_t(frame);
  return !aside_[i] && sketches_[i]->lit && litApart(lit, all);
}

std::vector<SetJudge::Member> SetJudge::byExposure() const {
  std::vector<Member> order;
  for (int i = 0; i < count(); ++i)
    if (!aside_[std::size_t(i)] && !standsApart(i)) order.push_back({i, sketches_[std::size_t(i)].get()});
  std::stable_sort(order.begin(), order.end(), [](const Member& a, const Member& b) {
    return relativeExposure(a.sketch->settings) < relativeExposure(b.sketch->settings);
  });
  return order;
}

std::optional<double> SetJudge::raisedByFlash(int frame) const {
  constexpr double kFurthest = 1;  // stops: a curve that is only assumed leads astray further off
  constexpr float kLeast = 0.004f; // of saturation
  const Sketch& lit = *sketches_[std::size_t(frame)];
  const auto apart = [&](const Sketch& s) {
    return stopsApart(relativeExposure(s.settings), relativeExposure(lit.settings));
  };
  const auto order = byExposure();
  const auto nearest = std::min_element(order.begin(), order.end(), [&](const Member& a, const Member& b) {
    return apart(*a.sketch) < apart(*b.sketch);
  });
  if (nearest == order.end() || nearest->sketch->light.size() != lit.light.size()) return {};
  const Sketch& own = *nearest->sketch;
  if (lit.curveAssumed && apart(own) > kFurthest) return {};
  const double exposure = std::log2(relativeExposure(lit.settings) / relativeExposure(own.settings));
  std::vector<double> raised;
  for (int y = 0; y < own.light.height(); ++y)
    for (int x = 0; x < own.light.width(); ++x) {
      const float before = own.light.at(x, y)[1], after = lit.light.at(x, y)[1];
      if (*own.clipped.at(x, y) || *lit.clipped.at(x, y) || before < kLeast || after < kLeast) continue;
      raised.push_back(std::log2(after / before) - exposure);
    }
  if (raised.empty()) return {};
  const auto most = raised.begin() + std::ptrdiff_t(raised.size() * 9 / 10);
  std::nth_element(raised.begin(), most, raised.end());
  return *most;
}

std::string SetJudge::wordsOfLit(int frame) const {
  constexpr double kNothing = 0.5;
  const auto raised = raisedByFlash(frame);
  return raised && *raised < kNothing
             ? phrase(
                   "Lit by flash, which raised nothing by half a stop: it must be stronger, or straight at the window.")
             : phrase("Lit by flash: it shows what the others clip, and is not compared.");
}

const PairPlace& SetJudge::place(int a, int b) const {
  const auto known = places_.find({a, b});
  if (known != places_.end()) return known->second;
  return places_.emplace(std::pair{a, b}, placePair(*sketches_[std::size_t(a)], *sketches_[std::size_t(b)]))
      .first->second;
}

/// What the frames say together. `order`: darkest first; what is said of pairs is said of neighbours in it.
struct SetJudge::Findings {
  std::vector<FrameJudgement> all; ///< As they arrived.
  std::vector<Member> order;
  SetLight light;
  std::vector<std::string> open;
  bool byHand = false;        ///< Most frames are seen to lie elsewhere.
  std::vector<char> compared; ///< Of the order: its sharpness was held against another's.
  [[nodiscard]] FrameJudgement& at(std::size_t i) { return all[std::size_t(order[i].frame)]; }
  [[nodiscard]] bool alike(std::size_t i, std::size_t j) const {
    return order[i].sketch->width == order[j].sketch->width && order[i].sketch->height == order[j].sketch->height;
  }
};

const PairPlace* SetJudge::placeIn(const Findings& f, std::size_t i, std::size_t j) const {
  if (!f.alike(i, j)) return nullptr;
  const PairPlace& lies = place(f.order[i].frame, f.order[j].frame);
  // Of frames that were held in the hand, one that is not seen to lie where it is said to may lie anywhere.
  return lies.placed && (lies.moved || lies.rests || !f.byHand) ? &lies : nullptr;
}

void SetJudge::judgeEnds(std::vector<FrameJudgement>& all, const std::vector<Member>& order) const {
  const auto& zones = setup_.zones;
  const auto at = [&](const Member& m) -> FrameJudgement& { return all[std::size_t(m.frame)]; };
  const Member &dark = order.front(), &bright = order.back();
  const Sketch* holding = dark.sketch; // or a frame with flash, which is there for the window
  for (int i = 0; i < count(); ++i)
    if (standsApart(i) && sketches_[std::size_t(i)]->clippedShare < holding->clippedShare)
      holding = sketches_[std::size_t(i)].get();
  bool zoneClips = false, placed = false;
  for (std::size_t z = 0; z < zones.size(); ++z) {
    if (!zones[z].keepTexture) continue;
    placed = true;
    zoneClips = zoneClips || holding->zoneClipped[z] > setup_.limits.zoneClipped;
  }
  // With readings, what was read decides; without, the picture as a whole.
  if (zoneClips || holding->clippedShare > setup_.limits.clippedShare * (placed ? 2 : 1))
    at(dark).flaws.push_back(Flaw::HighlightsClipped);

  if (!setup_.wanted || !setup_.camera) return;
  // The tone that must be held, where the brightest frame shows it; the planner's figure where no place was read.
  double snr = SensorModel(*setup_.camera).mergedSnr(setup_.wanted->low, {bright.sketch->settings});
  for (std::size_t z = 0; z < zones.size(); ++z)
    if (zones[z].keepTexture && zones[z].reading <= setup_.wanted->low + Stops{0.05}) {
      const double electrons = bright.sketch->zoneLevel[z] * setup_.camera->fullWellAt(bright.sketch->settings.iso);
      snr = std::min(snr, SensorModel(*setup_.camera).snr(electrons, bright.sketch->settings.iso));
    }
  const bool allThere = setup_.planned.empty() || missing().empty();
  if (allThere && snr < 0.7 * setup_.wanted->snrTarget) at(bright).flaws.push_back(Flaw::ShadowsNoisy);
}

/// No plan is known, one time and one aperture serve all frames, and each has an ISO of its own: a bracket of ISO.
bool SetJudge::bracketedByIso() const {
  if (!setup_.planned.empty() || count() < 2) return false;
  const auto& first = sketches_.front()->settings;
  for (int i = 1; i < count(); ++i) {
    const auto &s = sketches_[std::size_t(i)]->settings, &before = sketches_[std::size_t(i - 1)]->settings;
    if (stopsApart(s.time.value, first.time.value) > setup_.limits.settingStops ||
        2 * stopsApart(s.aperture.value, first.aperture.value) > setup_.limits.settingStops ||
        stopsApart(s.iso.value, before.iso.value) <= setup_.limits.settingStops)
      return false;
  }
  return true;
}

void SetJudge::judgeSettings(std::vector<FrameJudgement>& all) const {
  if (bracketedByIso()) return;
  const ExposureSettings first = setup_.planned.empty() ? sketches_.front()->settings : setup_.planned.front();
  for (int i = 0; i < count(); ++i) {
    if (aside_[std::size_t(i)] || standsApart(i)) continue;
    const auto& s = sketches_[std::size_t(i)]->settings;
    auto& flaws = all[std::size_t(i)].flaws;
    if (stopsApart(s.iso.value, first.iso.value) > setup_.limits.settingStops ||
        2 * stopsApart(s.aperture.value, first.aperture.value) > setup_.limits.settingStops)
      flaws.push_back(Flaw::SettingsDrifted);
    const auto wasPlanned = [&](const ExposureSettings& p) {
      return stopsApart(p.time.value, s.time.value) <= setup_.limits.settingStops;
    };
    bool wrong = !setup_.planned.empty() && std::none_of(setup_.planned.begin(), setup_.planned.end(), wasPlanned);
    for (int k = 0; k < i && !wrong; ++k) // the same exposure a second time: the bracket did not go on
      wrong = !aside_[std::size_t(k)] && !standsApart(k) &&
              stopsApart(sketches_[std::size_t(k)]->settings.time.value, s.time.value) <= setup_.limits.settingStops &&
              std::count_if(setup_.planned.begin(), setup_.planned.end(), wasPlanned) < 2 && !setup_.planned.empty();
    if (wrong) flaws.push_back(Flaw::WrongTime);
  }
}

/// Sharpness is compared along runs of neighbours whose places are known.
void SetJudge::judgeSharpness(Findings& f) const {
  const std::size_t n = f.order.size();
  f.compared.assign(n, 0);
  for (std::size_t from = 0; from < n;) {
    std::vector<ViewMember> view{{f.order[from].sketch, {}}};
    std::vector<std::size_t> which{from};
    for (std::size_t i = from; i + 1 < n; ++i) {
      const PairPlace* lies = placeIn(f, i, i + 1);
      if (!lies || !lies->exact) break;
      view.push_back({f.order[i + 1].sketch, lies->transform.after(view.back().fromFirst)});
      which.push_back(i + 1);
    }
    from += view.size();
    // A soft frame spoils the comparison of its neighbours: without it they are compared again.
    while (const auto soft =
               judgeSharpness(f, which, sharpnessOf(view, f.light.tones.get()), f.byHand ? kLooserByHand : 1)) {
      view.erase(view.begin() + std::ptrdiff_t(*soft));
      which.erase(which.begin() + std::ptrdiff_t(*soft));
    }
  }
  for (std::size_t i = 0; i < n && n > 1; ++i)
    if (!f.compared[i] && !mayBeSharp(f, i)) f.open.push_back(sharpnessUnknown(f.at(i)));
}

/// By its own edges: a frame whose sharpness cannot be held against another's. A raw frame without a strong edge shows
/// next to nothing; a rendered one may have lost it to blur.
bool SetJudge::mayBeSharp(const Findings& f, std::size_t i) const {
  const Sketch& sketch = *f.order[i].sketch;
  const auto fineness = edgeFineness(lightOf(sketch.detail, readingOf(f)));
  return fineness ? *fineness > kCoarseEdges : !sketch.curveAssumed;
}

/// Light by the curve that was found.
std::function<double(double)> SetJudge::readingOf(const Findings& f) {
  const ToneReading* tones = f.light.tones.get();
  return tones ? std::function<double(double)>([tones](double light) { return tones->at(1, light); }) : nullptr;
}

std::optional<std::size_t> SetJudge::judgeSharpness(Findings& f, const std::vector<std::size_t>& which,
                                                    const std::vector<FrameSharpness>& sharpness, double looser) const {
  std::optional<std::size_t> softest;
  for (std::size_t i = 0; i < sharpness.size(); ++i) {
    if (sharpness[i].group < 0) continue;
    f.compared[which[i]] = 1;
    std::vector<double> group;
    std::size_t own = 0;
    for (std::size_t k = 0; k < sharpness.size(); ++k)
      if (sharpness[k].group == sharpness[i].group) {
        if (k == i) own = group.size();
        group.push_back(sharpness[k].log);
      }
    FrameJudgement& frame = f.at(which[i]);
    const bool few = group.size() < 4 && f.order[which[i]].sketch->curveAssumed; // no course to be seen
    frame.softness = softnessIn(group, own);
    if (few && (frame.softness < setup_.limits.perhapsSoft || mayBeSharp(f, which[i]))) frame.softness /= kLooserOfFew;
    if (!softest || frame.softness > f.at(which[*softest]).softness) softest = i;
  }
  if (!softest) return {};
  FrameJudgement& frame = f.at(which[*softest]);
  if (frame.softness > looser * setup_.limits.softRatio) {
    frame.flaws.push_back(Flaw::Soft);
    return softest;
  }
  if (frame.softness > looser * setup_.limits.perhapsSoft) f.open.push_back(softPerhaps(frame));
  return {};
}

void SetJudge::judgePlaces(Findings& f) const {
  const std::size_t n = f.order.size();
  struct Along {
    int arrived;
    bool known = false;
    Transform fromFirst; ///< Pixel of the darkest frame -> pixel of this.
  };
  std::vector<Along> along{{f.order.front().frame, true, {}}};
  for (std::size_t i = 0; i + 1 < n; ++i) {
    FrameJudgement& later = f.order[i].frame > f.order[i + 1].frame ? f.at(i) : f.at(i + 1);
    along.push_back({f.order[i + 1].frame, false, {}});
    if (!f.alike(i, i + 1)) {
      later.flaws.push_back(Flaw::NotAlike);
      continue;
    }
    const PairPlace& lies = place(f.order[i].frame, f.order[i + 1].frame);
    if (!lies.placed) continue;
    later.shiftX = lies.shiftX, later.shiftY = lies.shiftY, later.degrees = lies.degrees;
    along.back().known = along[i].known;
    along.back().fromFirst = lies.transform.after(along[i].fromFirst);
  }
  // From frame to frame as they were taken: at rest, or moved by how much.
  std::erase_if(along, [](const Along& a) { return !a.known; });
  std::sort(along.begin(), along.end(), [](const Along& a, const Along& b) { return a.arrived < b.arrived; });
  const int w = f.order.front().sketch->width, h = f.order.front().sketch->height;
  std::vector<double> moves;
  for (std::size_t k = 0; k + 1 < along.size(); ++k)
    moves.push_back(along[k + 1].fromFirst.after({inverse(along[k].fromFirst.h)}).reach(w, h));
  f.byHand = setup_.support != Support::Tripod && 2 * std::count_if(moves.begin(), moves.end(), [&](double m) {
                                                    return m > setup_.limits.stillPixels;
                                                  }) > std::ptrdiff_t(moves.size());
  const auto moved = std::count_if(moves.begin(), moves.end(), [&](double m) { return m > setup_.limits.stillPixels; });
  const auto rested = std::count_if(moves.begin(), moves.end(), [&](double m) { return m < setup_.limits.restPixels; });
  const bool onTripod =
      setup_.support == Support::Tripod || (setup_.support == Support::Unknown && moved == 1 && rested >= 1 &&
                                            rested + moved == std::ptrdiff_t(moves.size()));
  const double limit = onTripod ? setup_.limits.stillPixels : 0.05 * w;
  for (std::size_t k = 0; k < moves.size(); ++k)
    if (moves[k] > limit) f.all[std::size_t(along[k + 1].arrived)].flaws.push_back(Flaw::CameraMoved);
}

void SetJudge::judgeLight(Findings& f) const {
  std::vector<LightMember> members;
  for (const Member& m : f.order) members.push_back({m.sketch, m.frame});
  f.light = findSetLight(
      members, [&](std::size_t i, std::size_t j) { return placeIn(f, i, j); }, setup_.curveKnown, setup_.limits.light);
  const LightStep &light = f.light.light, &colour = f.light.colour;
  if (light.before >= 0) f.all[std::size_t(light.before)].light = {light.stops};
  const bool told = setup_.timesKnown; // else the steps were taken from the light itself
  if (told && light.clear == LightStep::Clear::Yes)
    f.all[std::size_t(light.before)].flaws.push_back(Flaw::LightDrifted);
  if (told && light.clear == LightStep::Clear::Perhaps)
    f.open.push_back(lightPerhaps(light.before, light.stops, f.light.mayFlicker));
  if (colour.clear == LightStep::Clear::Yes) f.all[std::size_t(colour.before)].flaws.push_back(Flaw::ColourDrifted);
  if (colour.clear == LightStep::Clear::Perhaps) f.open.push_back(colourPerhaps(colour.before));
}

/// A thing that stands in one frame only disagrees with the frames on both sides: the frame that disagrees most is the
/// odd one.
void SetJudge::judgeMoved(Findings& f) const {
  const std::size_t n = f.order.size();
  const double limit = setup_.limits.movedShare;
  std::vector<double> disagreement(n, 0);
  PairMeasures measures;
  const auto& photometry = f.light.photometry;
  for (std::size_t i = 0; i < n; ++i)
    for (std::size_t j = i + 1; j < std::min(n, i + 3); ++j) {
      const PairPlace* lies = placeIn(f, i, j);
      if (!lies) continue;
      const Sketch &a = *f.order[i].sketch, &b = *f.order[j].sketch;
      PairLight light{std::log2(relativeExposure(b.settings) / relativeExposure(a.settings)), f.light.tones.get(), 0,
                      false};
      if (photometry.light.size() == n) light.stops += photometry.light[j].stops - photometry.light[i].stops;
      if (a.curveAssumed && !setup_.curveKnown) {
        light.unknown = photometry.response ? std::min(0.3, 2 * photometry.response->disagreementAfter) : 0.3;
        light.cutBeforeMatrix = true;
      }
      measures.emplace(std::pair{i, j}, measurePair(a, b, *lies, light));
    }
  std::vector<const PairMeasure*> worst(n, nullptr);
  bool any = false;
  for (const auto& [which, m] : measures) {
    any = any || (which.second == which.first + 1 && m.movedShare > limit);
    for (const std::size_t i : {which.first, which.second}) {
      disagreement[i] += m.movedShare > limit ? m.movedShare : 0;
      if (!worst[i] || m.movedSmall > worst[i]->movedSmall) worst[i] = &m;
    }
    if (which.second == which.first + 1 &&
        std::max(std::abs(m.redGreen), std::abs(m.blueGreen)) > setup_.limits.balanceStops)
      f.all[std::size_t(std::max(f.order[which.first].frame, f.order[which.second].frame))].flaws.push_back(
          Flaw::ColourDrifted);
  }
  std::size_t odd = 0;
  for (std::size_t i = 1; i < n; ++i)
    if (disagreement[i] >= disagreement[odd]) odd = i;
  if (!any) {
    const auto small = onlyOneDisagrees(measures, n, 0.4 * limit);
    if (!small) return;
    odd = *small;
  }
  FrameJudgement& judged = f.at(odd);
  judged.movedShare = std::max(worst[odd]->movedShare, worst[odd]->movedSmall);
  judged.movedPlace = worst[odd]->movedPlace;
  judged.flaws.push_back(Flaw::ThingMoved);
}

SetJudge::Findings SetJudge::find() const {
  Findings f;
  for (int i = 0; i < count(); ++i) {
    FrameJudgement j;
    j.frame = i;
    j.settings = sketches_[std::size_t(i)]->settings;
    j.clippedShare = sketches_[std::size_t(i)]->clippedShare;
    f.all.push_back(std::move(j));
  }
  f.order = byExposure();
  if (f.order.empty()) return f;
  judgeSettings(f.all);
  judgeEnds(f.all, f.order);
  judgePlaces(f);
  judgeLight(f);
  judgeSharpness(f);
  judgeMoved(f);
  for (auto& j : f.all)
    j.sentence = aside_[std::size_t(j.frame)] ? phrase("Set aside.")
                 : standsApart(j.frame)       ? wordsOfLit(j.frame)
                                              : describe(j);
  return f;
}

std::vector<FrameJudgement> SetJudge::frames() const {
  return find().all;
}

std::vector<ExposureSettings> SetJudge::missing() const {
  std::vector<ExposureSettings> out;
  for (const auto& planned : setup_.planned) {
    bool there = false;
    for (int i = 0; i < count() && !there; ++i) {
      const auto& s = sketches_[std::size_t(i)]->settings;
      there = !aside_[std::size_t(i)] && !standsApart(i) &&
              stopsApart(s.time.value, planned.time.value) <= setup_.limits.settingStops;
    }
    if (!there) out.push_back(planned);
  }
  return out;
}

SetVerdict SetJudge::verdict(bool shootingEnded) const {
  VerdictInput in;
  Findings found = find();
  in.frames = std::move(found.all);
  in.open = std::move(found.open);
  std::vector<std::shared_ptr<const Sketch>> counting;
  for (const auto& member : found.order) counting.push_back(sketches_[std::size_t(member.frame)]);
  in.light = distributionOf(counting);
  for (int i = 0; i < count(); ++i)
    if (aside_[std::size_t(i)]) in.aside.push_back(i);
  for (const auto& member : byExposure()) in.order.push_back(member.frame);
  if (shootingEnded) in.missing = missing();
  return wordVerdict(in, setup_);
}

} // namespace ml
