#include "judge/set_judge.h"

#include "exposure/ev.h"
#include "judge/words.h"

#include <algorithm>
#include <cmath>

namespace ml {
namespace {

double stopsApart(double a, double b) { return std::abs(std::log2(a / b)); }

} // namespace

bool FrameJudgement::has(Flaw flaw) const { return std::find(flaws.begin(), flaws.end(), flaw) != flaws.end(); }

void SetJudge::add(const Frame& frame) { addSketch(sketchOf(frame, setup_.zones)); }

void SetJudge::addSketch(std::shared_ptr<const Sketch> sketch) {
  sketches_.push_back(std::move(sketch));
  aside_.push_back(0);
}

void SetJudge::setAside(int frame) {
  if (frame >= 0 && frame < count()) aside_[std::size_t(frame)] = 1;
}

std::vector<SetJudge::Member> SetJudge::byExposure() const {
  std::vector<Member> order;
  for (int i = 0; i < count(); ++i)
    if (!aside_[std::size_t(i)]) order.push_back({i, sketches_[std::size_t(i)].get()});
  std::stable_sort(order.begin(), order.end(), [](const Member& a, const Member& b) {
    return relativeExposure(a.sketch->settings) < relativeExposure(b.sketch->settings);
  });
  return order;
}

const PairMeasure& SetJudge::pair(int a, int b) const {
  const auto known = pairs_.find({a, b});
  if (known != pairs_.end()) return known->second;
  return pairs_.emplace(std::pair{a, b}, measurePair(*sketches_[std::size_t(a)], *sketches_[std::size_t(b)])).first->second;
}

void SetJudge::judgeEnds(std::vector<FrameJudgement>& all, const std::vector<Member>& order) const {
  const auto& zones = setup_.zones;
  const auto at = [&](const Member& m) -> FrameJudgement& { return all[std::size_t(m.frame)]; };
  const Member &dark = order.front(), &bright = order.back();
  bool zoneClips = false, placed = false;
  for (std::size_t z = 0; z < zones.size(); ++z) {
    if (!zones[z].keepTexture) continue;
    placed = true;
    zoneClips = zoneClips || dark.sketch->zoneClipped[z] > setup_.limits.zoneClipped;
  }
  // With readings, what was read decides; without, the picture as a whole.
  if (zoneClips || dark.sketch->clippedShare > setup_.limits.clippedShare * (placed ? 4 : 1)) at(dark).flaws.push_back(Flaw::HighlightsClipped);

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

void SetJudge::judgeSettings(std::vector<FrameJudgement>& all) const {
  const ExposureSettings first = setup_.planned.empty() ? sketches_.front()->settings : setup_.planned.front();
  for (int i = 0; i < count(); ++i) {
    if (aside_[std::size_t(i)]) continue;
    const auto& s = sketches_[std::size_t(i)]->settings;
    auto& flaws = all[std::size_t(i)].flaws;
    if (stopsApart(s.iso.value, first.iso.value) > setup_.limits.settingStops ||
        2 * stopsApart(s.aperture.value, first.aperture.value) > setup_.limits.settingStops)
      flaws.push_back(Flaw::SettingsDrifted);
    const auto wasPlanned = [&](const ExposureSettings& p) { return stopsApart(p.time.value, s.time.value) <= setup_.limits.settingStops; };
    bool wrong = !setup_.planned.empty() && std::none_of(setup_.planned.begin(), setup_.planned.end(), wasPlanned);
    for (int k = 0; k < i && !wrong; ++k) // the same exposure a second time: the bracket did not go on
      wrong = !aside_[std::size_t(k)] && stopsApart(sketches_[std::size_t(k)]->settings.time.value, s.time.value) <= setup_.limits.settingStops &&
              std::count_if(setup_.planned.begin(), setup_.planned.end(), wasPlanned) < 2 && !setup_.planned.empty();
    if (wrong) flaws.push_back(Flaw::WrongTime);
  }
}

void SetJudge::judgePairs(std::vector<FrameJudgement>& all, const std::vector<Member>& order) const {
  const std::size_t n = order.size();
  std::vector<const PairMeasure*> pairs;
  for (std::size_t i = 0; i + 1 < n; ++i) pairs.push_back(&pair(order[i].frame, order[i + 1].frame));
  const auto at = [&](std::size_t i) -> FrameJudgement& { return all[std::size_t(order[i].frame)]; };
  const auto later = [&](std::size_t i) -> FrameJudgement& { return order[i].frame > order[i + 1].frame ? at(i) : at(i + 1); };

  // Sharpness is compared along runs of neighbours that show structure in common.
  for (std::size_t from = 0; from < n;) {
    std::vector<double> structure{0};
    std::size_t to = from;
    for (; to + 1 < n && pairs[to]->structuredBlocks >= PairMeasure::kEnoughBlocks; ++to) structure.push_back(structure.back() + pairs[to]->sharpness);
    const double sharpest = *std::max_element(structure.begin(), structure.end());
    for (std::size_t i = from; i <= to; ++i) {
      at(i).softness = sharpest - structure[i - from];
      if (at(i).softness > setup_.limits.softRatio) at(i).flaws.push_back(Flaw::Soft);
    }
    from = to + 1;
  }
  for (std::size_t i = 0; i + 1 < n; ++i) {
    const PairMeasure& m = *pairs[i];
    FrameJudgement& judged = later(i);
    if (order[i].sketch->width != order[i + 1].sketch->width || order[i].sketch->height != order[i + 1].sketch->height) {
      judged.flaws.push_back(Flaw::NotAlike);
      continue;
    }
    if (m.placed) {
      judged.shiftX = m.shiftX;
      judged.shiftY = m.shiftY;
      judged.degrees = m.degrees;
      const double limit = setup_.handHeld ? 0.05 * order[i].sketch->width : setup_.limits.stillPixels;
      if (m.transform.reach(order[i].sketch->width, order[i].sketch->height) > limit) judged.flaws.push_back(Flaw::CameraMoved);
    }
    if (m.comparable < 0.01) continue;
    const bool rendered = !setup_.curveKnown && (order[i].sketch->rendered || order[i + 1].sketch->rendered);
    judged.light = {m.light};
    if (std::abs(m.light) > (rendered ? setup_.limits.lightStopsRendered : setup_.limits.lightStops)) judged.flaws.push_back(Flaw::LightDrifted);
    if (std::max(std::abs(m.redGreen), std::abs(m.blueGreen)) > setup_.limits.colourStops) judged.flaws.push_back(Flaw::ColourDrifted);
  }
  judgeMoved(all, order, pairs);
}

/// A thing that stands in one frame only disagrees with the frames on both sides: the frame that disagrees most is the odd one.
void SetJudge::judgeMoved(std::vector<FrameJudgement>& all, const std::vector<Member>& order, const std::vector<const PairMeasure*>& neighbours) const {
  const double limit = setup_.limits.movedShare;
  if (std::none_of(neighbours.begin(), neighbours.end(), [&](const PairMeasure* m) { return m->movedShare > limit; })) return;
  std::vector<double> disagreement(order.size(), 0);
  std::vector<const PairMeasure*> worst(order.size(), nullptr);
  const auto blame = [&](std::size_t i, const PairMeasure& m) {
    disagreement[i] += m.movedShare > limit ? m.movedShare : 0;
    if (!worst[i] || m.movedShare > worst[i]->movedShare) worst[i] = &m;
  };
  for (std::size_t i = 0; i < order.size(); ++i)
    for (std::size_t j = i + 1; j < std::min(order.size(), i + 3); ++j) {
      const PairMeasure& m = pair(order[i].frame, order[j].frame);
      blame(i, m);
      blame(j, m);
    }
  std::size_t odd = 0;
  for (std::size_t i = 1; i < order.size(); ++i)
    if (disagreement[i] >= disagreement[odd]) odd = i;
  FrameJudgement& judged = all[std::size_t(order[odd].frame)];
  judged.movedShare = worst[odd]->movedShare;
  judged.movedPlace = worst[odd]->movedPlace;
  judged.flaws.push_back(Flaw::ThingMoved);
}

std::vector<FrameJudgement> SetJudge::frames() const {
  std::vector<FrameJudgement> all;
  for (int i = 0; i < count(); ++i) {
    FrameJudgement j;
    j.frame = i;
    j.settings = sketches_[std::size_t(i)]->settings;
    j.clippedShare = sketches_[std::size_t(i)]->clippedShare;
    all.push_back(std::move(j));
  }
  const auto order = byExposure();
  if (order.empty()) return all;
  judgeSettings(all);
  judgeEnds(all, order);
  judgePairs(all, order);
  for (auto& j : all) j.sentence = aside_[std::size_t(j.frame)] ? "Set aside." : describe(j);
  return all;
}

std::vector<ExposureSettings> SetJudge::missing() const {
  std::vector<ExposureSettings> out;
  for (const auto& planned : setup_.planned) {
    bool there = false;
    for (int i = 0; i < count() && !there; ++i) {
      const auto& s = sketches_[std::size_t(i)]->settings;
      there = !aside_[std::size_t(i)] && stopsApart(s.time.value, planned.time.value) <= setup_.limits.settingStops;
    }
    if (!there) out.push_back(planned);
  }
  return out;
}

SetVerdict SetJudge::verdict(bool shootingEnded) const {
  VerdictInput in;
  in.frames = frames();
  for (int i = 0; i < count(); ++i)
    if (aside_[std::size_t(i)]) in.aside.push_back(i);
  for (const auto& member : byExposure()) in.order.push_back(member.frame);
  if (shootingEnded) in.missing = missing();
  return wordVerdict(in, setup_);
}

} // namespace ml
