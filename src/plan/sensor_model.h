// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "plan/camera_profile.h"

#include <vector>

namespace ml {

/// Sensor with photon, read and quantisation noise. A spot that reads E (EV100) in a frame exposed at E gets the
/// mid-tone, `headroom` stops below saturation. ISO above base divides the electrons at saturation.
class SensorModel {
public:
  explicit SensorModel(const CameraProfile& profile) : profile_(profile) {}

  /// Electrons from a spot of `reading` EV100, without regard to clipping.
  [[nodiscard]] double electrons(Stops reading, const ExposureSettings& settings) const;
  /// S / sqrt(S + read^2 + lsb^2 / 12). ISO 12232 names 10 acceptable and 40 excellent.
  [[nodiscard]] double snr(double electrons, Iso iso) const;
  /// Brightest reading this frame records without clipping.
  [[nodiscard]] Stops clipsAt(const ExposureSettings& settings) const;
  /// Darkest reading this frame records with at least `snrTarget`; closed form of snr() solved for S.
  [[nodiscard]] Stops floorAt(const ExposureSettings& settings, double snrTarget) const;
  /// SNR of the merged bracket: squares add over the frames in which the tone is not clipped.
  [[nodiscard]] double mergedSnr(Stops reading, const std::vector<ExposureSettings>& frames) const;

private:
  [[nodiscard]] double saturation(Iso iso) const;
  [[nodiscard]] double fixedVariance(Iso iso) const;
  CameraProfile profile_;
};

} // namespace ml
