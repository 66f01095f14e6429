// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "finish/recipe.h"

namespace ml {

/// White paint (door frames, skirting, sills, ceilings) as found in a picture.
struct WhiteTrim {
  double warmth = 0, tint = 0; ///< Settings that make it neutral, in stops, as ToneSettings.
  double sure = 0;             ///< 0..1: share of the fields of the picture whose lightest surface has this colour.
  double change = 0;           ///< CIEDE2000 by which a white at L* 85 changes from `now` to there.
  std::vector<Spot2> places;   ///< Up to six, of the picture that was analysed.
};

/// White is the lightest paint of a room, it is in most parts of it, and under one light it has one colour: the
/// lightest smooth surface of each field is asked for its colour, windows, lamps and what is clipped apart, and the
/// largest group that agrees is taken. Empty when fewer than two fifths of the fields agree (skies of landscapes
/// reached 0.39), or when the colour is none that light has (more than 0.8 stops of green or magenta). `now`: the
/// settings in force.
[[nodiscard]] std::optional<WhiteTrim> findWhiteTrim(const ToneAnalysis& analysis, const ToneSettings& now);

/// Warmth and tint (stops, as ToneSettings and Area take them) that make linear colour neutral; each within -4..4.
struct Neutral {
  double warmth = 0, tint = 0;
};
[[nodiscard]] Neutral neutralFor(const std::array<float, 3>& colour);

/// One wall in two pictures of one room, under two lights.
struct WallUnderTwoLights {
  double difference = 0; ///< CIEDE2000 between its two mean colours, at the same lightness.
  double warmer = 0;     ///< b* of the second less that of the first.
  double spread[2] = {}; ///< Standard deviation of its colour (a*, b*) over the wall: several lights on one wall.
  double chroma[2] = {}; ///< Of its mean.
  int truer =
      -1; ///< 0 or 1: the light that gives the wall one colour, and of two alike the more neutral one; -1: as true.
  double share = 0; ///< Of the picture.
};
/// Both display-linear Rec. 709 of the same view and size. Empty when they share no even surface (2 % of the picture
/// and more).
[[nodiscard]] std::optional<WallUnderTwoLights> compareWall(ImageView<const float> first,
                                                            ImageView<const float> second);
/// "Under "lamps on" the wall is 9.1 (CIEDE2000) warmer than under "lamps off", which is truer: one light reaches all
/// of it."
[[nodiscard]] std::string sentence(const WallUnderTwoLights& wall, const std::string& first, const std::string& second);

} // namespace ml
