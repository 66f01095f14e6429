// SPDX-License-Identifier: GPL-3.0-or-later
#include "model/ladder.h"

#include "base/phrase.h"
#include "exposure/marks.h"
#include "exposure/reading.h"
#include "session/shooting.h"

#include <QLocale>
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
  const double start = analysis.darkest, step = (analysis.brightest - analysis.darkest) / kTies;
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

/// One scale for a view: what was once drawn stays where it is, unless light comes that lies beyond it.
void widen(LadderData& d, const LadderData::Stretch& before) {
  d.bottom = std::min(d.bottom, before.from);
  d.top = std::max(d.top, before.to);
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
  d.top = std::ceil(high + 0.5);
  if (content.scale) widen(d, *content.scale);
  if (content.scale) *content.scale = {d.bottom, d.top};
}

bool sameExposure(const ExposureSettings& a, const ExposureSettings& b) {
  return std::abs((ev100(a) - ev100(b)).value) < 0.1;
}

/// The middle of what was planned, EV100: an extra frame renames nothing. Of frames that nobody planned, their own.
double middleOf(const View& view, const std::vector<ExposureSettings>& frames) {
  std::vector<ExposureSettings> planned;
  if (view.plan) planned = view.plan->frames;
  if (const FrameSet* set = view.activeSet < 0 ? nullptr : &view.sets[std::size_t(view.activeSet)];
      planned.empty() && set)
    planned = set->planned;
  const auto& of = planned.empty() ? frames : planned;
  const auto [low, high] =
      std::minmax_element(of.begin(), of.end(), [](const auto& a, const auto& b) { return ev100(a) < ev100(b); });
  return (ev100(*low).value + ev100(*high).value) / 2;
}

/// Frames that are there, and those planned that are not there yet; darkest first. Each frame has the number under
/// which it arrived, those to come go on from there in the order of firing.
void addColumns(LadderData& d, const View& view, const LadderContent& content, const SensorModel& sensor) {
  struct Entry {
    ExposureSettings settings;
    int frame, number;
  };
  std::vector<Entry> entries;
  const bool planning =
      content.columns == LadderContent::Columns::Planned && view.plan; // the question is what will be shot
  const std::vector<ExposureSettings> shot = planning ? std::vector<ExposureSettings>{} : content.shot;
  for (std::size_t i = 0; i < shot.size(); ++i) entries.push_back({shot[i], int(i), int(i) + 1});
  if (view.plan && (shot.empty() || !view.world.empty())) {
    int number = int(shot.size());
    for (const auto& planned : content.fired.empty() ? view.plan->frames : content.fired)
      if (std::none_of(shot.begin(), shot.end(), [&](const auto& s) { return sameExposure(s, planned); }))
        entries.push_back({planned, -1, ++number});
  }
  if (entries.empty()) return;
  std::stable_sort(entries.begin(), entries.end(),
                   [](const Entry& a, const Entry& b) { return ev100(a.settings) > ev100(b.settings); });
  std::vector<ExposureSettings> all;
  for (const auto& e : entries) all.push_back(e.settings);
  const double middle = middleOf(view, all);
  const std::vector<FrameSet::Member>* members =
      view.activeSet >= 0 ? &view.sets[std::size_t(view.activeSet)].frames : nullptr;
  for (const Entry& e : entries) {
    auto column = columnOf(sensor, e.settings, e.number, middle, view.snrTarget, e.frame >= 0);
    column.frame = e.frame;
    if (e.frame >= 0 && e.frame < int(content.judged.size()))
      column.flawed = !content.judged[std::size_t(e.frame)].flaws.empty();
    if (e.frame >= 0 && members && e.frame < int(members->size()))
      column.aside = !(*members)[std::size_t(e.frame)].used,
      column.file = (*members)[std::size_t(e.frame)].file.filename().string();
    d.columns.push_back(std::move(column));
  }
}

/// Columns and merged frames are matched by their files.
void addGiven(LadderData& d, const CombineReport& report) {
  std::vector<int> columnOfFrame;
  for (const auto& f : report.frames) {
    const auto found = std::find_if(d.columns.begin(), d.columns.end(), [&](const LadderData::Column& c) {
      return c.shot && c.file == f.file.filename().string();
    });
    columnOfFrame.push_back(found == d.columns.end() ? -1 : int(found - d.columns.begin()));
  }
  for (const auto& stop : report.stops) {
    if (stop.frames.empty()) continue;
    const auto most = std::max_element(stop.frames.begin(), stop.frames.end()) - stop.frames.begin();
    if (most >= std::ptrdiff_t(columnOfFrame.size())) continue;
    d.given.push_back({stop.ev100, stop.snr, columnOfFrame[std::size_t(most)], stop.frames[std::size_t(most)]});
  }
}

} // namespace

std::vector<LadderData::Stretch> uncoveredBy(const SensorModel& sensor, const MustKeep& wanted,
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

QString listOf(const LadderData& data) {
  QString out;
  const auto ev = [](double v) { return QLocale().toString(v, 'f', 1); };
  for (const auto& pin : data.pins)
    out += QObject::tr("%1\tEV %2\n").arg(pin.label, pin.atLeast ? QObject::tr("over %1").arg(ev(pin.ev)) : ev(pin.ev));
  for (const auto& c : data.columns)
    out += QObject::tr("Frame %1\t%2\tEV %3 to %4\n").arg(c.number).arg(c.time, ev(c.floor), ev(c.clip));
  for (const auto& gap : data.uncovered) out += QObject::tr("Not covered\tEV %1 to %2\n").arg(ev(gap.from), ev(gap.to));
  for (const Tie& tie : data.ties)
    out += QObject::tr("EV %1\ton paper %2 stops\n").arg(ev(tie.scene), QLocale().toString(tie.paper, 'f', 1));
  return out;
}

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
      if (wanted) d.uncovered = uncoveredBy(sensor, *wanted, recording);
    }
  }
  if (content.legend)
    for (const auto& level : everydayLight())
      d.legend.push_back({QString::fromStdString(phrase(level.name)), level.ev100.value, true, false, 0});
  if (content.combined && content.given) addGiven(d, *content.combined);
  // Before combining, what the frames themselves show; after it, what they gave together.
  if (content.analysis && !(content.scene && content.sceneFirst)) {
    d.glow = content.analysis->histogram.share;
    d.glowStart = content.ev100OfUnit + content.analysis->histogram.start;
    d.glowStep = LightHistogram::kStep;
    if (content.ties) d.paper = content.paper;
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
