// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "exposure/optics.h"
#include "plan/planner.h"

namespace ml {

/// Something in the view that moves across it.
struct Mover {
  std::string id, name;
  double speed = 1;     ///< m/s; typical figures, common practice, no source (walking pace about 1.4 m/s).
  double distance = 10; ///< m
  friend bool operator==(const Mover&, const Mover&) = default;
};
/// Leaves, branches, water, walkers, boats, clouds.
[[nodiscard]] const std::vector<Mover>& typicalMovers();

/// Several positions, planes of focus or shifts of the lens for one picture.
struct ManyPositions {
  double panDegrees = 0, tiltDegrees = 0; ///< Whole angle to cover; 0: one position. 360: full circle.
  double overlap = 1.0 / 3; ///< Of neighbouring positions; a third to a half (common practice, no source).
  int lensShifts = 1;       ///< 1, or 3: top, middle, bottom.
  int focusPlanes = 1;
  bool portrait = false; ///< Camera turned to portrait.
  friend bool operator==(const ManyPositions&, const ManyPositions&) = default;
};

/// How and where the camera stands.
struct Situation {
  double focalMm = 24;
  double focusDistance = 4; ///< m
  bool handHeld = false;
  /// Stops beyond 1 / focal length that this photographer holds, as their own frames show; empty: as the camera's
  /// stabiliser promises.
  std::optional<double> ownHandStops;
  Seconds timer{2};
  std::vector<Mover> movers;
  double tolerablePixels = 0;    ///< Blur of moving things that is accepted in one frame; 0: no limit.
  double mostSeconds = 0;        ///< For one set, gaps included; 0: no limit.
  double fadeStopsPerMinute = 0; ///< Of the light; dusk about 0.2 to 0.5 (common practice, no source).
  ManyPositions positions;
  friend bool operator==(const Situation&, const Situation&) = default;

  [[nodiscard]] Optics opticsOn(const CameraProfile& camera) const;
};

/// The longest single time the hand and the movers allow; nothing when neither limits.
[[nodiscard]] std::optional<Seconds> longestAllowed(const Situation& situation, const CameraProfile& camera);

/// What moving and fading do to one bracket.
struct Stability {
  struct Movement {
    std::string name;
    double blurPixels = 0;  ///< In the longest frame.
    double ghostPixels = 0; ///< From the first frame's start to the last one's end.
  };
  std::vector<Movement> movements;
  Stops drift{0};         ///< Fall of the light over the set.
  double chanceSharp = 1; ///< Of the longest frame, hand-held.
  int repeats = 1;        ///< Sets to shoot so that one is sharp with 95 %.
  Seconds duration;       ///< Of the set, timer not included.
};
[[nodiscard]] Stability stabilityOf(const Plan& plan, const Situation& situation);

/// Positions of a panorama: ceil((pan - fov overlap) / (fov (1 - overlap))), full circle ceil(360 / (fov (1 -
/// overlap))); craft arithmetic. Degrees; fov > 0, 0 <= overlap < 1.
[[nodiscard]] int positionsFor(double angle, double fieldOfView, double overlap);

} // namespace ml
