// SPDX-License-Identifier: GPL-3.0-or-later
#include "plan/fit_times.h"

#include "plan/shot_list.h"

#include <algorithm>
#include <cmath>

namespace ml {
namespace {

constexpr double kSameTime = 0.02; ///< Stops: the same time.
constexpr double kOdd = 0.05;      ///< Stops that a step of another ladder may be longer.

double stopsBetween(Seconds a, Seconds b) {
  return std::log2(b.value / a.value);
}

Seconds nearestTime(const std::vector<Seconds>& times, Seconds wanted) {
  return *std::min_element(times.begin(), times.end(), [&](Seconds a, Seconds b) {
    return std::abs(stopsBetween(a, wanted)) < std::abs(stopsBetween(b, wanted));
  });
}

/// From `first` upwards in the longest steps that are no longer than `step`, until `covers`; empty: it never does.
std::vector<ExposureSettings> chain(const Plan& plan, const std::vector<Seconds>& times, std::size_t first,
                                    double step) {
  constexpr std::size_t kMost = 15;
  std::vector<ExposureSettings> frames;
  for (std::size_t at = first; frames.size() < kMost;) {
    frames.push_back({times[at], plan.frames.front().aperture, plan.iso()});
    if (planOfFrames(plan.camera, plan.request, frames).covers) return frames;
    std::size_t next = at + 1;
    while (next + 1 < times.size() && stopsBetween(times[at], times[next + 1]) <= step + kOdd) ++next;
    if (next >= times.size()) break;
    at = next;
  }
  return {};
}

/// The plan with other frames: still the school it was made by.
Plan withFrames(const Plan& plan, std::vector<ExposureSettings> frames) {
  Plan made = planOfFrames(plan.camera, plan.request, std::move(frames));
  made.school = plan.school;
  return made;
}

} // namespace

FittedPlan fitToTimes(const Plan& plan, std::vector<Seconds> times) {
  std::erase_if(times, [](Seconds t) { return !(t.value > 0); });
  if (times.empty() || plan.frames.empty()) return {plan, false, false};
  std::sort(times.begin(), times.end());
  std::vector<ExposureSettings> frames;
  bool same = true;
  for (ExposureSettings s : plan.frames) {
    const Seconds near = nearestTime(times, s.time);
    same = same && std::abs(stopsBetween(near, s.time)) < kSameTime;
    s.time = near;
    if (frames.empty() || !(frames.back() == s)) frames.push_back(s);
  }
  if (same) return {plan, false, false};
  const Plan near = withFrames(plan, frames);
  if (near.covers || !plan.covers) return {near, true, false};

  const double step = plan.frames.size() > 1 ? stopsBetween(plan.frames[0].time, plan.frames[1].time) : 2;
  std::vector<ExposureSettings> best;
  for (std::size_t first = 0; first < times.size(); ++first) {
    if (times[first] > plan.frames.back().time) break;
    const auto tried = chain(plan, times, first, std::max(step, kOdd));
    // Of as few frames the brighter: less noise.
    if (!tried.empty() && (best.empty() || tried.size() <= best.size())) best = tried;
  }
  return best.empty() ? FittedPlan{near, true, false} : FittedPlan{withFrames(plan, best), true, true};
}

} // namespace ml
