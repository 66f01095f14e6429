// SPDX-License-Identifier: GPL-3.0-or-later
#include "plan/sensor_model.h"

#include <cmath>

namespace ml {

double SensorModel::saturation(Iso iso) const {
  return profile_.fullWellAt(iso);
}

double SensorModel::fixedVariance(Iso iso) const {
  const double lsb = saturation(iso) / std::exp2(profile_.bits);
  const double read = profile_.readNoiseAt(iso);
  return read * read + lsb * lsb / 12;
}

double SensorModel::electrons(Stops reading, const ExposureSettings& settings) const {
  return saturation(settings.iso) * std::exp2((reading - clipsAt(settings)).value);
}

double SensorModel::snr(double electrons, Iso iso) const {
  return electrons / std::sqrt(electrons + fixedVariance(iso));
}

Stops SensorModel::clipsAt(const ExposureSettings& settings) const {
  return ev100(settings) + profile_.headroom();
}

Stops SensorModel::floorAt(const ExposureSettings& settings, double snrTarget) const {
  const double k2 = snrTarget * snrTarget;
  const double needed = (k2 + std::sqrt(k2 * k2 + 4 * k2 * fixedVariance(settings.iso))) / 2;
  return {clipsAt(settings).value + std::log2(needed / saturation(settings.iso))};
}

double SensorModel::mergedSnr(Stops reading, const std::vector<ExposureSettings>& frames) const {
  double sum = 0;
  for (const auto& frame : frames) {
    if (reading > clipsAt(frame)) continue;
    const double one = snr(electrons(reading, frame), frame.iso);
    sum += one * one;
  }
  return std::sqrt(sum);
}

} // namespace ml
