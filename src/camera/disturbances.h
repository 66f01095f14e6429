// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "camera/sensor_simulation.h"

namespace ml {

/// What faults do to the light that reaches the sensor. Pictures are linear Rec. 709.

/// Out of focus: a blur of about `sigma` pixels (repeated 3x3 binomials, each of variance 1/2).
void defocus(Image<float>& scene, double sigma);
/// Shaken while exposing: the mean of the scene along a path of `pixels` in a direction taken from the seed.
void shake(Image<float>& scene, double pixels, std::uint64_t seed);
/// A figure, `size` times six tenths of the height, standing where the seed says.
void placeFigure(Image<float>& scene, double size, std::uint64_t seed);
/// Colour of a white balance that turned warmer: factors of red, green and blue.
inline constexpr std::array<double, 3> kWarmerBalance{1.22, 1.0, 0.80};

} // namespace ml
