// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "capture/photon_transfer.h"
#include "exposure/units.h"

#include <filesystem>
#include <vector>

namespace ml {

/// Sensor figures from raw files in any order: pairs of an evenly lit surface at several times, and a pair with the cap
/// on. Pairs are found by their exposure time; the darkest pair is taken as dark when it stands within a hundredth of
/// saturation above black. Errors: of reading, InvalidArgument with what is missing.
struct SensorReport {
  SensorMeasurement measurement;
  Iso iso;
  int pairs = 0;
};
[[nodiscard]] Result<SensorReport> measureSensorFiles(const std::vector<std::filesystem::path>& files);

} // namespace ml
