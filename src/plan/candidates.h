#pragma once
#include "plan/planner.h"

#include <functional>

namespace ml {

/// One bracket the planner may choose.
struct Candidate {
  int count = 1;
  Stops step{0};
  Seconds centre;
  int runs = 1;
  Stops compensation{0};
  bool byHand = false;
  int fired = 1;
  std::vector<ExposureSettings> frames; ///< Shortest first, each exposure once.
};

/// Every bracket of `school` that this camera can shoot within the request's longest time, in `runs` runs: each count, step,
/// third-stop centre, ISO and compensation. The order is from few frames to many.
void forEachCandidate(const CameraProfile& camera, const PlanRequest& request, const School& school, int runs,
                      const std::function<void(Candidate)>& offer);

} // namespace ml
