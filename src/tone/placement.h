// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "tone/curve.h"

#include <string>
#include <vector>

namespace ml {

/// What the automatic placement takes a scene for; twilight and night stay a little darker than they were metered.
enum class SceneKind { Interior, Landscape, Twilight, NightLights };
[[nodiscard]] const char*
nameOf(SceneKind kind); ///< As in reports: "interior", "landscape", "twilight", "night lights".

/// How the light of a scene is distributed: shares of the picture at steps of kHistogramStep stops of log2 luminance.
struct LightHistogram {
  static constexpr double kStep = 0.25;
  double start = 0;
  std::vector<float> share; ///< Sums to about 1.
  /// log2 luminance below which `fraction` of the picture lies.
  [[nodiscard]] double below(double fraction) const;
};

/// `middleEv100`: of the scene's median where its absolute level is known; NaN: unknown. `brightAbove`: share of the
/// picture's upper border that is much brighter than its middle: a sky reaches the border, a window seldom does.
[[nodiscard]] SceneKind kindOf(const LightHistogram& histogram, double middleEv100, double brightAbove);

/// What one exposure holds of a scene, in log2 of its light: left alone between `from` and `to`; its darkest and
/// brightest light come to lie on `lowest` and `highest`, which the exposure still shows.
struct HeldRange {
  double lowest = 0, from = 0, to = 0, highest = 0;
};

/// Where even light is brought so that one exposure holds it, log2 to log2: straight within the range; beyond, slopes
/// are spent where the scene has light, between 0.06 and 1 (after Ward Larson, Rushmeier, Piatko, IEEE TVCG 3, 1997),
/// so that the gap between a room and what its window shows is closed before the view itself is. Always rising.
[[nodiscard]] std::vector<Tie> evenTies(const LightHistogram& histogram, const HeldRange& held, double darkest,
                                        double brightest);

/// Moves ties so that the light at each pull lands on its paper tone; what lies between follows smoothly, what lies far
/// stays. Never falling, whatever the pulls ask. `pulls` in any order.
[[nodiscard]] std::vector<Tie> pulled(std::vector<Tie> ties, std::vector<Tie> pulls);

} // namespace ml
