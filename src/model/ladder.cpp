#include "model/ladder.h"

#include "exposure/marks.h"

#include <algorithm>
#include <cmath>

namespace ml {
namespace {

constexpr double kExcellentSnr = 40; // ISO 12232

LadderData::Column columnOf(const SensorModel& sensor, const ExposureSettings& frame, int number, double middleEv, double snrTarget,
                            bool shot) {
  LadderData::Column c;
  c.number = number;
  c.time = QString::fromStdString(print(frame.time));
  c.offset = QString::fromStdString(print(Stops{middleEv - ev100(frame).value}));
  c.floor = sensor.floorAt(frame, snrTarget).value;
  c.quiet = sensor.floorAt(frame, kExcellentSnr).value;
  c.clip = sensor.clipsAt(frame).value;
  c.shot = shot;
  return c;
}

/// Parts of [low, high] that the merged bracket records with less than the SNR target, or not at all.
std::vector<LadderData::Stretch> gaps(const SensorModel& sensor, const Plan& plan) {
  constexpr double kStep = 0.05;
  std::vector<LadderData::Stretch> out;
  if (plan.covers) return out;
  for (double ev = plan.request.low.value; ev <= plan.request.high.value + 1e-9; ev += kStep) {
    if (sensor.mergedSnr({ev}, plan.frames) >= plan.request.snrTarget) continue;
    if (!out.empty() && ev - out.back().to < 1.5 * kStep) out.back().to = ev;
    else out.push_back({ev, ev + kStep});
  }
  return out;
}

void fitRange(LadderData& d) {
  double low = 1e9, high = -1e9;
  const auto include = [&](double a, double b) {
    low = std::min(low, a);
    high = std::max(high, b);
  };
  for (const auto& p : d.pins) include(p.ev - 1, p.ev + 1);
  for (const auto& c : d.columns) include(c.floor, c.clip);
  if (!d.glow.empty()) include(d.glowStart, d.glowStart + double(d.glow.size()) * d.glowStep);
  if (low > high) return;
  d.bottom = std::floor(low - 0.5);
  d.top = std::max(std::ceil(high + 0.5), d.bottom + 8);
}

} // namespace

LadderData ladderOf(const View& view, const std::vector<ExposureSettings>& shot, const ToneAnalysis* analysis, double ev100OfUnit,
                    const ToneSettings& settings, bool finishing) {
  LadderData d;
  const auto* shipped = findProfile(view.camera);
  const CameraProfile camera = view.plan ? view.plan->camera : shipped ? *shipped : shippedProfiles().front();
  const SensorModel sensor(camera);
  for (const auto& r : view.readings) d.pins.push_back({QString::fromStdString(r.name), r.ev100.value, r.keepTexture});

  std::vector<ExposureSettings> planned;
  if (view.plan) planned = view.plan->frames;
  const auto& frames = shot.empty() ? planned : shot;
  double middle = 0;
  for (const auto& f : frames) middle += ev100(f).value / double(frames.size());
  for (std::size_t i = 0; i < frames.size(); ++i)
    d.columns.push_back(columnOf(sensor, frames[i], int(i) + 1, middle, view.snrTarget, i < shot.size()));
  if (view.plan && !d.columns.empty()) d.together = {view.plan->coverage.low.value, view.plan->coverage.high.value};
  if (!d.columns.empty() && shot.empty() && view.plan)
    d.uncovered = gaps(sensor, *view.plan);

  if (analysis) {
    d.glow = analysis->histogram;
    d.glowStart = ev100OfUnit + analysis->histogramStart;
    d.glowStep = ToneAnalysis::kHistogramStep;
    if (finishing)
      for (const Tie& tie : placedTies(*analysis, settings)) d.ties.push_back({tie.scene + ev100OfUnit, tie.paper + settings.exposure});
  }
  fitRange(d);
  return d;
}

} // namespace ml
