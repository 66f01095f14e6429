// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "plan/planner.h"

#include <vector>

namespace ml {

/// One bracket the planner may choose, in third stops of the shutter ladder (larger is shorter).
struct Candidate {
  int count = 1;
  int step = 0;  ///< Between frames.
  int first = 0; ///< Shortest time of the first run.
  int runs = 1;
  int shift = 0; ///< The second run's times are this much longer; negative: shorter.
  Iso iso;
  bool byHand = false;
  int extraFrames = 0;

  [[nodiscard]] int fired() const { return runs * count + extraFrames; }
  [[nodiscard]] int shortest() const { return first + (runs == 2 && shift < 0 ? -shift : 0); }
  [[nodiscard]] int longest() const { return first - step * (count - 1) - (runs == 2 && shift > 0 ? shift : 0); }
  /// Frames of the second run, from `begin` to before `end`, that have the time of one of the first.
  struct Repeats {
    int begin = 0, end = 0;
    [[nodiscard]] bool has(int frame) const { return frame >= begin && frame < end; }
  };
  [[nodiscard]] Repeats repeats() const;
  /// Sum of exposure times, each exposure once; seconds.
  [[nodiscard]] double exposureSum() const;
  /// Shortest first, each exposure once.
  [[nodiscard]] std::vector<ExposureSettings> frames(FNumber aperture) const;
};

/// Every bracket of `school` that this camera can shoot within the request's longest time, in `runs` runs: each count,
/// step, third-stop centre, ISO and compensation.
[[nodiscard]] std::vector<Candidate> candidatesOf(const CameraProfile& camera, const PlanRequest& request,
                                                  const School& school, int runs);

} // namespace ml
