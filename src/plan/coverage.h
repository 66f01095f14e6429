// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "plan/sensor_model.h"

#include <vector>

namespace ml {

/// The light that must be recorded, and how well.
struct MustKeep {
  Stops low{0}, high{0}; ///< Darkest and brightest reading that must keep texture, EV100.
  double snrTarget = 10;
  Stops highlightMargin{1.0 / 3};
};

/// The light a bracket records.
struct Coverage {
  Stops low, high;     ///< Darkest reading at the SNR target, brightest below clipping less the margin.
  Stops spareLow;      ///< What is left below the darkest reading; negative: what is missing.
  Stops spareHigh;     ///< What is left above the brightest one; negative: what is missing.
  double worstSnr = 0; ///< Least SNR of the merged bracket over the readings' range.
  Stops worstAt;       ///< Where.
  Stops shortfall{0};  ///< Stops of the readings' range that stay below the SNR target, gaps between frames included.
  [[nodiscard]] bool complete(double snrTarget) const {
    return spareLow.value >= -1e-9 && spareHigh.value >= -1e-9 && worstSnr >= snrTarget * (1 - 1e-9);
  }
};

[[nodiscard]] Coverage coverageOf(const SensorModel& sensor, const MustKeep& wanted,
                                  const std::vector<ExposureSettings>& frames);

/// Coverage::worstSnr alone.
[[nodiscard]] double worstSnr(const SensorModel& sensor, const MustKeep& wanted,
                              const std::vector<ExposureSettings>& frames);

/// SNR of the merged bracket from `from` to `to` EV100 in steps of `step`: what the planner's curve shows.
struct SnrPoint {
  Stops reading;
  double snr = 0; ///< 0: no frame records it below clipping.
};
[[nodiscard]] std::vector<SnrPoint> snrCurve(const SensorModel& sensor, const std::vector<ExposureSettings>& frames,
                                             Stops from, Stops to, double step);

/// Stretch that both of two frames record, from the floor of the shorter to the clipping point of the longer; negative:
/// a gap.
[[nodiscard]] Stops overlap(const SensorModel& sensor, const ExposureSettings& shorter, const ExposureSettings& longer,
                            double snrTarget);

} // namespace ml
