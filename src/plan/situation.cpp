// SPDX-License-Identifier: GPL-3.0-or-later
#include "plan/situation.h"
#include "base/phrase.h"

#include <algorithm>
#include <cmath>

namespace ml {

const std::vector<Mover>& typicalMovers() {
  static const std::vector<Mover> movers{
      {"leaves", phrase("Leaves in a light breeze"), 0.3, 5},
      {"branches", phrase("Branches in wind"), 0.8, 8},
      {"ripples", phrase("Ripples on water"), 0.6, 20},
      {"waves", phrase("Breaking waves"), 3, 30},
      {"walkers", phrase("Walkers"), 1.4, 15},
      {"boats", phrase("Boats under sail"), 3, 150},
      {"clouds", phrase("Clouds"), 10, 2000},
      {"curtain", phrase("A curtain at a window"), 0.2, 4},
  };
  return movers;
}

Optics Situation::opticsOn(const CameraProfile& camera) const {
  return {focalMm, camera.sensorWidthMm, camera.sensorWidthMm * camera.height / camera.width, camera.pixelPitchUm,
          ownHandStops.value_or(camera.stabiliserStops)};
}

std::optional<Seconds> longestAllowed(const Situation& situation, const CameraProfile& camera) {
  std::optional<Seconds> longest;
  const Optics optics = situation.opticsOn(camera);
  const auto limit = [&](Seconds t) { longest = longest ? std::min(*longest, t) : t; };
  if (situation.handHeld) limit(handHeldLimit(optics));
  if (situation.tolerablePixels > 0)
    for (const auto& mover : situation.movers)
      limit(longestForMovement(optics, mover.speed, mover.distance, situation.tolerablePixels));
  return longest;
}

Stability stabilityOf(const Plan& plan, const Situation& situation) {
  Stability s;
  const Optics optics = situation.opticsOn(plan.camera);
  s.duration = setDuration(plan.camera, plan.frames, plan.fired);
  const Seconds longest = plan.frames.back().time;
  for (const auto& mover : situation.movers)
    s.movements.push_back({mover.name, movementPixels(optics, mover.speed, mover.distance, longest),
                           movementPixels(optics, mover.speed, mover.distance, s.duration)});
  s.drift = {situation.fadeStopsPerMinute * s.duration.value / 60};
  if (situation.handHeld) {
    s.chanceSharp = chanceOfSharpHand(optics, longest);
    s.repeats = repeatsForSharpHand(optics, longest);
  }
  return s;
}

int positionsFor(double angle, double fov, double overlap) {
  if (angle <= fov * (1 + 1e-9)) return 1;
  const double fresh = fov * (1 - overlap);
  return int(std::ceil((angle >= 360 ? 360 : angle - fov * overlap) / fresh - 1e-9));
}

} // namespace ml
