// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "merge/merge.h"
#include "zoo/borders.h"
#include "zoo/set.h"

#include <optional>
#include <string>
#include <vector>

/// What the product makes of a set of the zoo, measured against the set's truth.
namespace ml::zoo {

enum class Said { Holds, Not, CannotTell };
struct Judged {
  Said said = Said::Holds;
  std::string sentence;
};
/// Frame by frame as they land, the plan known: as a watched folder or a camera on a cable is judged.
[[nodiscard]] Judged judgedAsItLands(const MadeSet& set, bool handHeld);
/// Files on a card, nothing known beside them.
[[nodiscard]] Judged inspected(const MadeSet& set);

/// Every figure of the judgement, for people.
[[nodiscard]] std::string described(const MadeSet& set, bool handHeld);

struct PlacedFigure {
  int frame = 0;
  double error = 0;   ///< Root mean square over the picture, pixels.
  bool exact = false; ///< Left exactly in place.
  bool leftOut = false, assumed = false;
  double clipped = 0, dark = 0, stops = 0;
  double residual = 0, correlation = 0, informative = 0, shift = 0; ///< As the registration says.
};
[[nodiscard]] std::vector<PlacedFigure> placedFrames(const MadeSet& set);

struct MergedFigure {
  double error = 0, bound = 0; ///< EV, root mean square of all that has signal and is not walked over.
  double walked = 0;           ///< Where movers stood, against the reference's moment.
  double whole = 0;            ///< The same against the one frame's moment that the picture is nearest to.
  double floor = 0;  ///< The same of each place's best frame alone, curve, times and places known: what a camera's
                     ///< sharpening, smearing and coding leave of it.
  int moment = -1;   ///< Which frame's.
  int reference = 0; ///< The frame that the merge took for the reference.
  double noise = 0;  ///< Of one sample of a mid-grey of 0.18, relative: the sensor's.
  std::vector<double>
      curve; ///< The recovered curve less the true one, stops of green, at kCurveCodes; about its middle.
  int regions = 0;
  int leftOut = 0;
  std::string verdict;
  BorderSteps steps; ///< Against the moment that the picture is nearest to; of sets with walkers.
};
inline constexpr int kCurveCodes[] = {5, 10, 20, 40, 70, 100, 140, 180, 215, 245};
/// `bound`: the true curve, times and places, no search for movement. Dng: Cramer and Rao's from the sensor's true
/// figures.
[[nodiscard]] std::optional<MergedFigure> mergedFigure(const MadeSet& set, bool withBound, bool withFloor = false);

/// What was combined, the truth, and where they differ (grey: not at all; a stop is a quarter of the range), side by
/// side as a PNG.
void drawMerge(const MadeSet& set, const std::filesystem::path& png);

} // namespace ml::zoo
