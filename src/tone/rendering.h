// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "image/image.h"
#include "tone/curve.h"

#include <limits>
#include <vector>

namespace ml {

/// What is known of a scene beside its radiance.
struct SceneFacts {
  double ev100OfUnit = std::numeric_limits<double>::quiet_NaN(); ///< Tells twilight from day; NaN: unknown.
  std::vector<Tie> metered; ///< How the frame that was metered for this scene shows its light: log2 of radiance to
                            ///< stops before the shoulder, rising. Empty: there is none.
  bool sphere = false;      ///< An equirectangular picture of all directions: left meets right.
  bool plumb = false;       ///< Joined on no plane, with its verticals plumb: nothing is to be set plumb.
  bool asItIs = false; ///< Already placed on paper: a blended picture, a single frame. `metered` says how it is shown.
  SceneFacts(double ev100 = std::numeric_limits<double>::quiet_NaN(), std::vector<Tie> ties = {})
      : ev100OfUnit(ev100), metered(std::move(ties)) {}
};

/// The shoulder of every finished picture: straight up to kShoulderFrom of the display's white, then ever slower, so
/// that light far beyond white still differs. `light` and result are display-linear.
inline constexpr double kShoulderFrom = 0.6;
[[nodiscard]] double shouldered(double light);
[[nodiscard]] double beforeShoulder(double light); ///< Its inverse, of 0..1.

/// Light to paper as one exposure shows it: a curve through ties that goes on at the slope of its ends, then the
/// shoulder.
class Rendering {
public:
  explicit Rendering(std::vector<Tie> ties);
  [[nodiscard]] double straight(double light) const {
    return curve_(light);
  }                                                 ///< Stops below white, before the shoulder.
  [[nodiscard]] double paper(double light) const;   ///< Stops below white, less than 0.
  [[nodiscard]] double slope(double light) const;   ///< Of `paper`.
  [[nodiscard]] double lightAt(double paper) const; ///< Where it lands on a paper tone; paper < 0.

private:
  ToneCurve curve_;
};

/// Our rendering of raw light: `stops` from a mid-grey of 0.18 to stops before the shoulder. Mid-grey lands on
/// mid-grey, the middle rises by 1.18 stops a stop, so that light 2.9 stops above it (ISO 12232: saturation at 78 / 10
/// of it) is all but white; shadows fall a little faster.
[[nodiscard]] std::vector<Tie> standardRendering(double midGrey = 0);

/// Of a picture whose light is the display's already, 1 its white: shown as it is.
[[nodiscard]] std::vector<Tie> shownAlready();

/// Where there is no frame: the standard rendering, exposed so that the median of the picture is as light as one meters
/// for (L* 55).
[[nodiscard]] std::vector<Tie> meteredRendering(const Image<float>& logLight);

/// The same rendering at another exposure, where no frame of a set was metered for most of it: brought to within half a
/// bracket's usual step. `dusk`: a dark place may stay dark.
[[nodiscard]] std::vector<Tie> exposedForTheMiddle(std::vector<Tie> rendering, const Image<float>& logLight, bool dusk);

inline constexpr double kMeteredLightness =
    55; ///< L* of the median of a frame that is metered well (common practice, no source).
[[nodiscard]] double lightnessOf(double paper); ///< L* (CIE 15) of stops below white.
[[nodiscard]] double paperOf(double lightness);

} // namespace ml
