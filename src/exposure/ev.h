// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "exposure/units.h"
#include <vector>

namespace ml {

/// APEX aperture value Av = 2 log2 N and time value Tv = -log2 t. Exif 2.32, annex C.
[[nodiscard]] Stops apexAperture(FNumber n);
[[nodiscard]] Stops apexTime(Seconds t);

/// EV = log2(N^2 / t) = Av + Tv. Needs N, t > 0.
[[nodiscard]] Stops ev(FNumber n, Seconds t);

/// EV at ISO 100 = log2(N^2/t) - log2(S/100). Needs N, t, S > 0. Exif 2.32, annex C (APEX).
[[nodiscard]] Stops ev100(FNumber n, Seconds t, Iso s);
[[nodiscard]] Stops ev100(const ExposureSettings& settings);

/// The time that gives `target` EV100 at this aperture and ISO.
[[nodiscard]] Seconds timeFor(Stops target, FNumber n, Iso s);

/// Luminance of a reflected-light reading: L = K 2^EV100 / 100, K = 12.5; cd/m^2. ISO 2720:1974.
[[nodiscard]] double luminanceOf(Stops ev100);
[[nodiscard]] Stops ev100Of(double luminance);

/// Stops between the metered mid-tone and saturation in a linear raw: log2(78 / 10). ISO 12232:2019: saturation-based
/// speed is 78 / H_sat, and a metered scene of mean luminance gets an exposure of 10 / S lx s.
inline constexpr double kRawHeadroomStops = 2.9634741239748860;

/// Offsets of `count` frames `step` apart about `centre`: centre + step (i - (count - 1) / 2), i = 0 .. count - 1.
[[nodiscard]] std::vector<Stops> bracketOffsets(int count, Stops step, Stops centre = {0});

/// t 2^stops: a positive number of stops is a longer time.
[[nodiscard]] Seconds brighter(Seconds t, Stops stops);

} // namespace ml
