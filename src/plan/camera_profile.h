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
  std::vector<int> counts;          ///< Frame counts its automatic bracketing offers; 1 is always possible.
  std::vector<Stops> steps;         ///< Steps it offers.
  Seconds shortest{1.0 / 8192};
  Seconds longest{32};
  Iso baseIso{100};
  double fullWell = 50000;          ///< Electrons at saturation, at base ISO.
  double readNoise = 3;             ///< Electrons, standard deviation.
  int bits = 14;
  Stops rawHeadroom{kRawHeadroomStops}; ///< Mid-tone to clipping in raw.
  Stops jpegHeadroom{2.4739};           ///< The same in a rendered JPEG: log2(1 / 0.18) with an sRGB curve.
  int width = 6000, height = 4000;
  double pixelPitchUm = 6;
  double fileMegabytes = 28;

  [[nodiscard]] Stops headroom() const { return hasRaw ? rawHeadroom : jpegHeadroom; }
  [[nodiscard]] std::optional<std::string> invalidReason() const;
};

/// The profiles that ship; the first is the default.
[[nodiscard]] const std::vector<CameraProfile>& shippedProfiles();
[[nodiscard]] const CameraProfile* findProfile(const std::string& id);

} // namespace ml
