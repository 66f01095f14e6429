// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "exposure/units.h"
#include <cstddef>
#include <optional>
#include <string>

namespace ml {

/// What a file says about how it was made. Figures are as stored (printed marks), not yet exact.
struct ShotMetadata {
  std::optional<Seconds> time;
  std::optional<FNumber> aperture;
  std::optional<Iso> iso;
  std::optional<Stops> bias; ///< Exposure compensation or bracket offset.
  std::optional<double> focalLengthMm;
  std::optional<double> focalLength35mm; ///< That shows the same angle on 36 x 24 mm, by the diagonal.
  int width = 0, height = 0;             ///< Pixels as stored; 0: not said.
  int orientation = 1;                   ///< Exif orientation, 1..8.
  std::string camera;                    ///< Free text, may be empty.
  std::string takenAt;                   ///< "YYYY:MM:DD HH:MM:SS" or empty; sorts as text.
  int subSecond = 0;                     ///< Milliseconds.
  bool flash = false;                    ///< Fired.
};

/// Of a set in which some frames were lit by a flash: whether these stand apart (a window held by a frame with flash,
/// its room by frames without), or are its own (a flash that fires with every frame, but for one or two).
[[nodiscard]] constexpr bool litApart(std::size_t lit, std::size_t all) {
  return lit > 0 && 2 * lit <= all;
}

} // namespace ml
