// SPDX-License-Identifier: GPL-3.0-or-later
#include "plan/coverage.h"

#include <algorithm>
#include <cmath>
#include <limits>

namespace ml {
namespace {

/// Where the merged SNR may jump: it rises with the light, and falls just above each clipping point.
std::vector<double> segmentStarts(const SensorModel& sensor, const MustKeep& wanted,
                                  const std::vector<ExposureSettings>& frames) {
  std::vector<double> starts{wanted.low.value};
  for (const auto& frame : frames) {
    const double above = std::nextafter(sensor.clipsAt(frame).value, std::numeric_limits<double>::infinity());
    if (above > wanted.low.value && above < wanted.high.value) starts.push_back(above);
  }
  std::sort(starts.begin(), starts.end());
  return starts;
}

/// First reading in [from, to] at which the target is met, given that SNR rises throughout; `to` when it is not.
double reached(const SensorModel& sensor, const std::vector<ExposureSettings>& frames, double target, double from,
               double to) {
  if (sensor.mergedSnr({from}, frames) >= target) return from;
  if (sensor.mergedSnr({to}, frames) < target) return to;
  for (int i = 0; i < 34; ++i) {
    const double middle = (from + to) / 2;
    (sensor.mergedSnr({middle}, frames) >= target ? to : from) = middle;
  }
  return to;
}

/// Merging adds a little below the longest frame's own floor: walk down while the target holds.
double mergedFloor(const SensorModel& sensor, const std::vector<ExposureSettings>& frames, double target) {
  double floor = std::numeric_limits<double>::infinity();
  for (const auto& frame : frames) floor = std::min(floor, sensor.floorAt(frame, target).value);
  return reached(sensor, frames, target, floor - 4, floor);
}

} // namespace

Coverage coverageOf(const SensorModel& sensor, const MustKeep& wanted, const std::vector<ExposureSettings>& frames) {
  Coverage c{{0}, {-1e9}, {0}, {0}, 1e9, wanted.low, {0}};
  for (const auto& frame : frames) c.high = std::max(c.high, sensor.clipsAt(frame) - wanted.highlightMargin);
  c.low = {mergedFloor(sensor, frames, wanted.snrTarget)};
  c.spareLow = wanted.low - c.low;
  c.spareHigh = c.high - wanted.high;
  const auto starts = segmentStarts(sensor, wanted, frames);
  for (std::size_t i = 0; i < starts.size(); ++i) {
    const double snr = sensor.mergedSnr({starts[i]}, frames);
    if (snr < c.worstSnr) {
      c.worstSnr = snr;
      c.worstAt = {starts[i]};
    }
    const double end = i + 1 < starts.size() ? std::nextafter(starts[i + 1], starts[i]) : wanted.high.value;
    c.shortfall.value += reached(sensor, frames, wanted.snrTarget, starts[i], end) - starts[i];
  }
  if (const double snr = sensor.mergedSnr(wanted.high, frames); snr < c.worstSnr) {
    c.worstSnr = snr;
    c.worstAt = wanted.high;
  }
  return c;
}

double worstSnr(const SensorModel& sensor, const MustKeep& wanted, const std::vector<ExposureSettings>& frames) {
  double worst = sensor.mergedSnr(wanted.high, frames);
  for (const double start : segmentStarts(sensor, wanted, frames))
    worst = std::min(worst, sensor.mergedSnr({start}, frames));
  return worst;
}

std::vector<SnrPoint> snrCurve(const SensorModel& sensor, const std::vector<ExposureSettings>& frames, Stops from,
                               Stops to, double step) {
  std::vector<SnrPoint> curve;
  for (int i = 0; from.value + i * step <= to.value + 1e-9; ++i) {
    const Stops reading{from.value + i * step};
    curve.push_back({reading, sensor.mergedSnr(reading, frames)});
  }
  return curve;
}

Stops overlap(const SensorModel& sensor, const ExposureSettings& shorter, const ExposureSettings& longer,
              double snrTarget) {
  return sensor.clipsAt(longer) - sensor.floorAt(shorter, snrTarget);
}

} // namespace ml
