// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "exposure/units.h"

#include <utility>

namespace ml {

/// What lens and sensor do to sharpness. Lengths in millimetres unless named otherwise.
struct Optics {
  double focalMm = 24;
  double sensorWidthMm = 36;
  double sensorHeightMm = 24;
  double pixelPitchUm = 6;
  double stabiliserStops = 0;

  /// Focal length that frames the same on a sensor 36 mm wide.
  [[nodiscard]] double equivalentFocalMm() const { return focalMm * 36 / sensorWidthMm; }
};

/// Circle of confusion: sensor diagonal / 1500 (common practice, no source); 0.029 mm on 36 x 24 mm.
[[nodiscard]] double circleOfConfusion(const Optics& optics);
/// H = f^2 / (N c) + f; millimetres. Any handbook of optics; Ray, Applied Photographic Optics, 2002, ch. 22.
[[nodiscard]] double hyperfocal(const Optics& optics, FNumber n);
/// Near and far limit of depth of field focused at `distanceMm`: s (H - f) / (H + s - 2 f) and s (H - f) / (H - s);
/// infinite from the hyperfocal distance on. Same source.
[[nodiscard]] std::pair<double, double> depthOfField(const Optics& optics, FNumber n, double distanceMm);
/// Diameter of the Airy disc to its first dark ring, 2.44 lambda N, micrometres; green light, 0.55 um. Born and
/// Wolf, 8.5.2.
[[nodiscard]] double airyDiameterUm(FNumber n, double wavelengthUm = 0.55);
/// Longest time a steady hand holds: 1 / (equivalent focal length) s, doubled for each stabiliser stop (common
/// practice, no source).
[[nodiscard]] Seconds handHeldLimit(const Optics& optics);
/// Chance that one frame at `t` is sharp: about 0.8 at the limit, falling by half for each stop beyond it (common
/// practice, no source).
[[nodiscard]] double chanceOfSharpHand(const Optics& optics, Seconds t);
/// Frames to take so that at least one is sharp with 95 % certainty: n with 1 - (1 - p)^n >= 0.95, at most 9.
[[nodiscard]] int repeatsForSharpHand(const Optics& optics, Seconds t);
/// Movement in the picture: v t f / (d p) pixels, thing at `speed` m/s, `distance` m away, moving across the view.
[[nodiscard]] double movementPixels(const Optics& optics, double speed, double distance, Seconds t);
/// Longest time in which that movement stays within `pixels`.
[[nodiscard]] Seconds longestForMovement(const Optics& optics, double speed, double distance, double pixels);
/// Angle of view across `sizeMm` of sensor: 2 atan(size / 2 f), degrees.
[[nodiscard]] double fieldOfView(double sizeMm, double focalMm);

} // namespace ml
