// SPDX-License-Identifier: GPL-3.0-or-later
#include "model/ladder.h"

#include "exposure/marks.h"
#include "exposure/reading.h"
#include "session/shooting.h"

#include <algorithm>
#include <cmath>

namespace ml {
namespace {

constexpr double kExcellentSnr = 40; // ISO 12232

LadderData::Column columnOf(const SensorModel& sensor, const ExposureSettings& frame, int number, double middleEv,
                            double snrTarget, bool shot) {
  LadderData::Column c;
  c.number = number;
  c.time = QString::fromStdString(print(frame.time));
  c.seconds = frame.time.value;
  c.offset = QString::fromStdString(print(Stops{middleEv - ev100(frame).value}));
  c.floor = sensor.floorAt(frame, snrTarget).value;
  c.quiet = sensor.floorAt(frame, kExcellentSnr).value;
  c.clip = sensor.clipsAt(frame).value;
  c.shot = shot;
  return c;
}

/// The curve as a dozen ties that can be told apart and grasped, and those that were pulled.
std::vector<Tie> drawnTies(const ToneAnalysis& analysis, const ToneSettings& settings) {
  constexpr int kTies = 12;
  const ToneCurve curve(placedTies(analysis, settings));
  const double start = analysis.histogram.start,
               step = double(analysis.histogram.share.size()) * LightHistogram::kStep / kTies;
  std::vector<Tie> out;
  for (const Tie& pull : settings.pulls) out.push_back({pull.scene, curve(pull.scene)});
  for (int k = 0; k <= kTies; ++k) {
    const double light = start + k * step;
    const bool taken = std::any_of(settings.pulls.begin(), settings.pulls.end(),
                                   [&](const Tie& pull) { return std::abs(pull.scene - light) < step / 2; });
    if (!taken) out.push_back({light, curve(light)});
  }
  std::sort(out.begin(), out.end(), [](const Tie& a, const Tie& b) { return a.scene < b.scene; });
  return out;
}

/// Parts of the wanted range that these frames together record with less than the SNR target, or not at all.
std::vector<LadderData::Stretch> gaps(const SensorModel& sensor, const MustKeep& wanted,
                                      const std::vector<ExposureSettings>& frames) {
  constexpr double kStep = 0.05;
  std::vector<LadderData::Stretch> out;
  for (double ev = wanted.low.value; ev <= wanted.high.value + 1e-9; ev += kStep) {
    if (sensor.mergedSnr({ev}, frames) >= wanted.snrTarget * (1 - 1e-9)) continue;
    if (!out.empty() && ev - out.back().to < 1.5 * kStep)
      out.back().to = ev;
    else
      out.push_back({ev, ev + kStep});
  }
  return out;
}

void fitRange(LadderData& d, const View& view, const LadderContent& content, const SensorModel& sensor) {
  double low = 1e9, high = -1e9;
  const auto include = [&](double a, double b) {
    low = std::min(low, a);
    high = std::max(high, b);
  };
  // All that is known belongs to the scale, drawn at this station or not: the same scene on the same scale everywhere.
  for (const auto& p : d.pins) include(p.ev - 1, p.ev + 1);
  std::vector<ExposureSettings> frames = content.shot;
  if (view.plan) frames.insert(frames.end(), view.plan->frames.begin(), view.plan->frames.end());
  for (const auto& f : frames) include(sensor.floorAt(f, view.snrTarget).value, sensor.clipsAt(f).value);
  if (content.scene && !content.scene->share.empty())
    include(content.scene->start,
            content.scene->start + double(content.scene->share.size()) * SceneDistribution::kStep);
  if (content.analysis)
    include(content.ev100OfUnit + content.analysis->histogram.start,
            content.ev100OfUnit + content.analysis->histogram.start +
                double(content.analysis->histogram.share.size()) * LightHistogram::kStep);
  if (low > high) return;
  d.bottom = std::floor(low - 0.5);
  d.top = std::max(std::ceil(high + 0.5), d.bottom + 8);
}

bool sameExposure(const ExposureSettings& a, const ExposureSettings& b) {
  return std::abs((ev100(a) - ev100(b)).value) < 0.1;
}

/// Frames that are there, and those planned that are not there yet; darkest first.
void addColumns(LadderData& d, const View& view, const LadderContent& content, const SensorModel& sensor) {
  struct Entry {
    ExposureSettings settings;
    int frame;
  };
  std::vector<Entry> entries;
  const bool planning =
      content.columns == LadderContent::Columns::Planned && view.plan; // the question is what will be shot
  const std::vector<ExposureSettings> shot = planning ? std::vector<ExposureSettings>{} : content.shot;
  for (std::size_t i = 0; i < shot.size(); ++i) entries.push_back({shot[i], int(i)});
  if (view.plan && (shot.empty() || !view.world.empty()))
    for (const auto& planned : view.plan->frames)
      if (std::none_of(shot.begin(), shot.end(), [&](const auto& s) { return sameExposure(s, planned); }))
        entries.push_back({planned, -1});
  if (entries.empty()) return;
  std::stable_sort(entries.begin(), entries.end(),
                   [](const Entry& a, const Entry& b) { return ev100(a.settings) > ev100(b.settings); });
  const double middle = (ev100(entries.front().settings).value + ev100(entries.back().settings).value) / 2;
  const std::vector<FrameSet::Member>* members =
      view.activeSet >= 0 ? &view.sets[std::size_t(view.activeSet)].frames : nullptr;
  for (std::size_t i = 0; i < entries.size(); ++i) {
    const int frame = entries[i].frame;
    auto column =
        columnOf(sensor, entries[i].settings, frame >= 0 ? frame + 1 : int(i) + 1, middle, view.snrTarget, frame >= 0);
    column.frame = frame;
    if (frame >= 0 && frame < int(content.judged.size()))
      column.flawed = !content.judged[std::size_t(frame)].flaws.empty();
    if (frame >= 0 && members && frame < int(members->size())) column.aside = !(*members)[std::size_t(frame)].used;
    d.columns.push_back(std::move(column));
  }
}

/// The columns are told from each other by their exposure times: the report counts only frames that took part.
void addGiven(LadderData& d, const CombineReport& report) {
  std::vector<int> columnOfFrame;
  for (const auto& f : report.frames) {
    int column = -1;
    for (std::size_t k = 0; k < d.columns.size(); ++k)
      if (d.columns[k].shot && !d.columns[k].aside &&
          std::abs(std::log2(d.columns[k].seconds / std::max(1e-9, f.settings.time.value))) < 0.05)
        column = int(k);
    columnOfFrame.push_back(column);
  }
  for (const auto& stop : report.stops) {
    if (stop.frames.empty()) continue;
    const auto most = std::max_element(stop.frames.begin(), stop.frames.end()) - stop.frames.begin();
    if (most >= std::ptrdiff_t(columnOfFrame.size())) continue;
    d.given.push_back({stop.ev100, stop.snr, columnOfFrame[std::size_t(most)], stop.frames[std::size_t(most)]});
  }
}

} // namespace

LadderData ladderOf(const View& view, const LadderContent& content) {
  LadderData d;
  const CameraProfile camera = view.plan ? view.plan->camera : view.profile();
  const SensorModel sensor(camera);
  for (const auto& r : view.readings)
    d.pins.push_back({QString::fromStdString(r.name), r.ev100.value, r.keepTexture, r.atLeast, r.uncertainty});
  const auto wanted = mustKeepOf(view);
  if (wanted) d.wanted = {wanted->low.value, wanted->high.value};
  // What is out there is read first; what will be shot comes beside it from Frames on.
  if (content.columns != LadderContent::Columns::None) {
    addColumns(d, view, content, sensor);
    std::vector<ExposureSettings> recording;
    for (const auto& c : d.columns)
      if (c.shot && !c.aside) recording.push_back(content.shot[std::size_t(c.frame)]);
    if (recording.empty() && view.plan) recording = view.plan->frames;
    if (!recording.empty()) {
      const Coverage c = coverageOf(sensor, wanted.value_or(MustKeep{{0}, {0}, view.snrTarget, {1.0 / 3}}), recording);
      d.together = {c.low.value, c.high.value};
      if (wanted) d.uncovered = gaps(sensor, *wanted, recording);
    }
  }
  if (content.legend)
    for (const auto& level : everydayLight())
      d.legend.push_back({QString::fromUtf8(level.name), level.ev100.value, true, false, 0});
  if (content.combined && content.given) addGiven(d, *content.combined);
  // Before combining, what the frames themselves show; after it, what they gave together.
  if (content.analysis && !(content.scene && content.sceneFirst)) {
    d.glow = content.analysis->histogram.share;
    d.glowStart = content.ev100OfUnit + content.analysis->histogram.start;
    d.glowStep = LightHistogram::kStep;
    if (content.ties)
      for (const Tie& pull : view.recipe.tone.pulls) d.pulled.push_back(pull.scene + content.ev100OfUnit);
    if (content.ties)
      for (const Tie& tie : drawnTies(*content.analysis, view.recipe.tone))
        d.ties.push_back({tie.scene + content.ev100OfUnit, tie.paper + view.recipe.tone.exposure});
  } else if (content.scene) {
    d.glow = content.scene->share;
    d.glowStart = content.scene->start;
    d.glowStep = SceneDistribution::kStep;
  }
  fitRange(d, view, content, sensor);
  return d;
}

} // namespace ml
