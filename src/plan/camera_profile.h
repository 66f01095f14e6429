// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "exposure/ev.h"
#include "exposure/units.h"

#include <optional>
#include <string>
#include <vector>

namespace ml {

/// What a camera can do and how its sensor behaves. The shipped figures are plausible, not measured.
struct CameraProfile {
  std::string id, name;
  bool hasRaw = true;
  std::vector<int> counts;  ///< Frame counts its automatic bracketing offers; 1 is always possible.
  std::vector<Stops> steps; ///< Steps it offers.
  Seconds shortest{1.0 / 8192};
  Seconds longest{32};
  Iso baseIso{100};
  double fullWell = 50000;  ///< Electrons at saturation, at base ISO.
  double readNoise = 3;     ///< Electrons, standard deviation, at base ISO.
  double readNoiseHigh = 0; ///< What is left of it at high ISO (noise before the amplifier); 0: as at base ISO.
  Iso highestIso{12800};
  int bits = 14;
  Stops rawHeadroom{kRawHeadroomStops}; ///< Mid-tone to clipping in raw.
  Stops jpegHeadroom{2.4739};           ///< The same in a rendered JPEG: log2(1 / 0.18) with an sRGB curve.
  int width = 6000, height = 4000;
  double pixelPitchUm = 6;
  double fileMegabytes = 28;
  double sensorWidthMm = 36;
  double stabiliserStops = 0; ///< Lens and body together.
  Seconds frameGap{0.2};      ///< Between frames of a burst.
  int bufferFrames = 30;      ///< Frames taken before the burst waits for the card.
  Seconds writeTime{0.4};     ///< To the card, each frame.
  Stops compensation{5};      ///< Largest exposure compensation, either way.

  /// Electrons of read noise at `iso`: variance high^2 + (base^2 - high^2) (baseIso / iso)^2, the part behind the
  /// amplifier shrinking with gain when counted in electrons.
  [[nodiscard]] double readNoiseAt(Iso iso) const;
  /// Electrons at saturation: full well at base ISO, divided by the gain above it.
  [[nodiscard]] double fullWellAt(Iso iso) const { return fullWell * baseIso.value / iso.value; }

  [[nodiscard]] Stops headroom() const { return hasRaw ? rawHeadroom : jpegHeadroom; }
  [[nodiscard]] std::optional<std::string> invalidReason() const;
  friend bool operator==(const CameraProfile&, const CameraProfile&) = default;
};

/// The profiles that ship; the first is the default.
[[nodiscard]] const std::vector<CameraProfile>& shippedProfiles();
[[nodiscard]] const CameraProfile* findProfile(const std::string& id);

} // namespace ml
