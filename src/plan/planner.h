// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "base/result.h"
#include "plan/coverage.h"
#include "plan/schools.h"

#include <string>
#include <vector>

namespace ml {

/// What the scene asks for, how sure the photographer wants to be, and what the place allows.
struct PlanRequest {
  Stops low{0};                      ///< Darkest reading that must keep texture, EV100.
  Stops high{0};                     ///< Brightest one.
  FNumber aperture{8};               ///< f/8: the usual middle of the sharp range (common practice, no source).
  std::optional<Iso> iso;            ///< The lowest to use. Empty: the camera's base ISO.
  std::optional<Iso> isoCap;         ///< ISO may rise to this in full stops when that helps; empty: it stays.
  double snrTarget = 10;             ///< ISO 12232: 10 acceptable, 40 excellent.
  Stops highlightMargin{1.0 / 3};    ///< A spot reading averages over texture brighter than itself.
  Stops unsureLow{0}, unsureHigh{0}; ///< What the readings do not know: kept below the darkest and above the brightest.
  std::optional<Seconds> longest;    ///< Longest single time: hand-held, or by what moves.
  std::optional<Seconds> totalTime;  ///< For the whole set, gaps included.
  std::optional<double> cardMegabytes; ///< Space left for one set.
  bool secondRun = true;               ///< A second run with compensation may be planned when one is too short.
  std::string school = "auto";

  [[nodiscard]] MustKeep mustKeep() const { return {low - unsureLow, high, snrTarget, highlightMargin + unsureHigh}; }
  [[nodiscard]] std::optional<std::string> invalidReason() const;
};

/// A reading on a scale of third stops may be off by half of one (arithmetic).
inline constexpr Stops kReadingStep{1.0 / 6};

struct Plan {
  CameraProfile camera;
  PlanRequest request;
  std::string school; ///< The school that was applied.
  int count = 1;      ///< Frames of one run.
  Stops step{0};
  Seconds centre; ///< Time of the middle of the first run, exact.
  int runs = 1;
  Stops compensation{0};                ///< Of the second run against the first; negative: darker.
  bool byHand = false;                  ///< Times are set one by one, not by the camera's bracketing.
  std::vector<ExposureSettings> frames; ///< All runs, shortest first, each exposure once.
  int fired = 1;                        ///< Frames the camera takes, repeats and flash frames included.
  Coverage coverage;
  bool covers = false;

  [[nodiscard]] Iso iso() const { return frames.front().iso; }
  /// Those of `fired` that want a flash, which the camera's bracketing does not fire.
  [[nodiscard]] int flashFrames() const { return byHand ? 0 : fired - runs * count; }
};

/// Time from the first frame's start to the last one's end: exposures and gaps, waiting for the buffer included;
/// seconds.
[[nodiscard]] Seconds setDuration(const CameraProfile& camera, const std::vector<ExposureSettings>& frames, int fired);

/// Smallest bracket that covers low..high: fewest frames fired, then least exposure time, ties to the higher worst SNR.
/// Exact over the camera's counts and steps, all third-stop centres, full stops of ISO up to the cap, and, when no
/// single run covers, a second run of the same shape with any third-stop compensation the camera has. When nothing
/// covers, the highlights are kept first (a clipped window cannot be mended, noise can be lived with), then the most of
/// the rest, and the plan says what is missing. Objective after Hasinoff, Durand, Freeman, CVPR 2010; metering for it
/// after Gallo et al., EG 2012. Errors: InvalidArgument for a bad request or school, or limits that leave no frame at
/// all.
[[nodiscard]] Result<Plan> planBracket(const CameraProfile& camera, const PlanRequest& request);

/// A plan from frames the user chose: the same figures for them.
[[nodiscard]] Plan planOfFrames(const CameraProfile& camera, const PlanRequest& request,
                                std::vector<ExposureSettings> frames);

/// The verdict: one sentence with figures.
[[nodiscard]] std::string verdict(const Plan& plan);
/// "Five frames, two stops apart".
[[nodiscard]] std::string shapeOf(const Plan& plan);

} // namespace ml
