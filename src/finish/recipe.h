// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "base/result.h"
#include "tone/natural.h"

#include <array>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace ml {

/// A place of the picture as it was combined, 0..1 across and down.
struct Spot2 {
  double x = 0, y = 0;
  friend bool operator==(const Spot2&, const Spot2&) = default;
};

/// Colours around one hue are moved together; greys are left alone.
struct HueMove {
  double hue = 0;        ///< Degrees, 0 red, 120 green, 240 blue, of linear light.
  double width = 40;     ///< Degrees to each side at which nothing is left of it.
  double saturation = 0; ///< -1..1 added to the gain.
  double lightness = 0;  ///< Stops.
  friend bool operator==(const HueMove&, const HueMove&) = default;
};

enum class AreaShape { Oval, Ramp, Brush, Windows, Sky };
/// Is it found anew from the light of each picture?
[[nodiscard]] constexpr bool isFound(AreaShape shape) {
  return shape == AreaShape::Windows || shape == AreaShape::Sky;
}

/// A part of the picture with light and colour of its own.
struct Area {
  AreaShape shape = AreaShape::Oval;
  Spot2 a{0.5, 0.5}; ///< Oval: centre. Ramp: where it is full.
  Spot2 b{0.2, 0.2}; ///< Oval: half axes (shares of width and height). Ramp: where it is nothing.
  double angle = 0;  ///< Degrees, of an oval.
  struct Stroke {
    std::vector<Spot2> points;
    double radius = 0.03; ///< Share of the width.
    bool erase = false;
    friend bool operator==(const Stroke&, const Stroke&) = default;
  };
  std::vector<Stroke> strokes; ///< Brush.
  double softness = 0.5;       ///< 0 hard .. 1 soft.
  bool inverted = false;
  bool followEdges = true;                   ///< Ends where the picture's own edges lie.
  std::optional<double> above, below;        ///< Only light (log2 of radiance) above or below.
  double exposure = 0, warmth = 0, tint = 0; ///< Stops.
  double saturation = 0, contrast = 0;       ///< Added to the gain.
  friend bool operator==(const Area&, const Area&) = default;
};

/// How the picture is straightened and cut.
struct Geometry {
  bool lens = false;                    ///< As the lens profile of the frame says, where there is one.
  double distortion = 0;                ///< -0.3..0.3; a point at half the longer side moves by this share.
  double vignetting = 0;                ///< Stops added in the corners.
  double redFringe = 0, blueFringe = 0; ///< Thousandths by which a channel is scaled.
  double roll = 0, pitch = 0, yaw = 0;  ///< Degrees by which the camera is turned back.
  double strength = 1;                  ///< Of roll, pitch and yaw.
  std::vector<Spot2> corners;           ///< Four, from the upper left clockwise, that become a rectangle; or none.
  double cropX = 0, cropY = 0, cropWidth = 1, cropHeight = 1; ///< Of the straightened picture.
  friend bool operator==(const Geometry&, const Geometry&) = default;
};

/// A small thing that is covered by what lies beside it.
struct Healing {
  Spot2 at;
  double radius = 0.01; ///< Share of the width.
  friend bool operator==(const Healing&, const Healing&) = default;
};

/// How a radiance picture is finished. Small, stored as JSON beside the view; the same recipe gives the same bits.
struct Recipe {
  std::string look = "natural";
  double strength = 1; ///< 0..1 of the look's difference from natural when it was chosen.
  ToneSettings tone;
  std::vector<HueMove> hues;
  std::vector<Area> areas;
  Geometry geometry;
  std::vector<Healing> healings;
  double foot = 0;          ///< Of a sphere: covered so many degrees from straight down, 0..kWidestFoot.
  double denoise = 0;       ///< 0..1.
  double sharpening = 0.35; ///< Share of the fine detail added again.
  friend bool operator==(const Recipe&, const Recipe&) = default;
  [[nodiscard]] std::optional<std::string> invalidReason() const;
};

struct Look {
  std::string id, name;
  Recipe recipe;
};
/// Our own looks. The first kStarts are starting points: as metered ("natural"), lighter, deeper.
inline constexpr std::size_t kStarts = 3;
[[nodiscard]] const std::vector<Look>& looks();
[[nodiscard]] const Look* findLook(const std::string& id);
/// Balance of window and room as a slider shows it, -1..1 about its middle: 0 as placed, -1 one exposure for all, 1 as
/// far as it goes; and back.
[[nodiscard]] double balanceShown(double balance);
[[nodiscard]] double balanceFrom(double shown);
/// `recipe` with the look's tone and hues at a strength 0..1; what belongs to the picture itself (white point, pulls,
/// areas, geometry, healing, foot) stays.
[[nodiscard]] Recipe withLook(const Recipe& recipe, const Look& look, double strength);
/// For another view of the visit: all but what was set from this picture's own light and shape; those are to be read
/// anew.
[[nodiscard]] Recipe forAnotherView(const Recipe& recipe, const Recipe& other);

/// JSON with a `version`; fields this version does not know are kept by the caller. Errors: InvalidArgument.
[[nodiscard]] std::string toJson(const Recipe& recipe);
[[nodiscard]] Result<Recipe> recipeFromJson(std::string_view text);

} // namespace ml
