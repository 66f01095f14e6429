// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "camera/world.h"
#include "plan/camera_profile.h"

#include <array>
#include <cstdint>

namespace ml {

/// How the camera stands for one frame, relative to where it was set up. Pixels and radians about the picture's centre.
struct CameraPose {
  double dx = 0, dy = 0, angle = 0;
};

/// Colour of the simulated sensor: balanced camera colour = kRec709ToSensor * linear Rec. 709 (rows sum to 1), and the
/// raw value of white in each channel.
inline constexpr std::array<double, 9> kRec709ToSensor{0.66, 0.29, 0.05, 0.13, 0.78, 0.09, 0.05, 0.22, 0.73};
inline constexpr std::array<double, 3> kSensorNeutral{0.54, 1.0, 0.68};
inline constexpr int kSensorBlack = 512;

/// 3x3 binomial of three channels, variance 1/2 each way; borders repeat, negative light becomes none.
[[nodiscard]] Image<float> binomialBlur(const Image<float>& sharp);

/// The part of the world the sensor sees: a border is kept free so that the camera may move. Catmull-Rom
/// interpolation within what lies around (no lens draws a black line along a bright edge), then the blur of a good lens
/// and its low-pass filter (3x3 binomial, 0.7 px), without which fine bright detail would break into colours on the
/// mosaic.
[[nodiscard]] Image<float> seenBy(const Image<float>& world, const CameraPose& pose);
[[nodiscard]] int seenWidth(int worldWidth);
[[nodiscard]] int seenHeight(int worldHeight);

/// Photon (Poisson) and read (normal) noise, clipping, quantisation; RGGB mosaic with black level kSensorBlack.
/// `scene` is linear Rec. 709 in cd/m^2. Reproducible for a seed, whatever the number of threads.
[[nodiscard]] Image<std::uint16_t> exposeMosaic(const Image<float>& scene, const CameraProfile& camera,
                                                const ExposureSettings& settings, std::uint64_t seed);

/// The same sensor through the camera's own rendering: sRGB curve, codes 0..maxCode.
[[nodiscard]] Image<std::uint16_t> exposeRendered(const Image<float>& scene, const CameraProfile& profile,
                                                  const ExposureSettings& settings, std::uint64_t seed, int maxCode);

} // namespace ml
