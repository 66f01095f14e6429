// SPDX-License-Identifier: GPL-3.0-or-later
// How long the exact plan takes, against looking at every candidate in full; both in one run, over all shipped cameras
// and scenes from easy to hopeless, with ISO allowed up to 1600. Prints the median and the slowest of our times, and
// the ratio.
#include "plan/candidates.h"

#include <algorithm>
#include <chrono>
#include <cstdio>

using namespace ml;

namespace {

template <class Work> double milliseconds(const Work& work) {
  const auto start = std::chrono::steady_clock::now();
  work();
  return std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - start).count();
}

/// Every candidate's coverage, without bounds or order.
double exhaustive(const CameraProfile& camera, const PlanRequest& request, int runs) {
  const SensorModel sensor(camera);
  double best = 0;
  for (int r = 1; r <= runs; ++r)
    for (const auto& c : candidatesOf(camera, request, schools().front(), r))
      best = std::max(best, coverageOf(sensor, request.mustKeep(), c.frames(request.aperture)).worstSnr);
  return best;
}

} // namespace

int main() {
  std::vector<double> ours;
  double ourSum = 0, theirSum = 0;
  for (const auto& camera : shippedProfiles())
    for (const auto& [low, high] :
         {std::pair{8.0, 12.0}, {4.0, 15.0}, {2.0, 16.0}, {-2.0, 14.0}, {-6.0, 19.0}, {3.0, 22.0}}) {
      PlanRequest request;
      request.low = {low};
      request.high = {high};
      request.isoCap = Iso{1600};
      std::optional<Plan> plan;
      ours.push_back(milliseconds([&] { plan = *planBracket(camera, request); }));
      ourSum += ours.back();
      theirSum += milliseconds([&] { (void)exhaustive(camera, request, plan->covers && plan->runs == 1 ? 1 : 2); });
    }
  std::sort(ours.begin(), ours.end());
  std::printf("plan: median %.1f ms, slowest %.1f ms of %zu scenes; looking at everything takes %.0f times as long\n",
              ours[ours.size() / 2], ours.back(), ours.size(), theirSum / ourSum);
  return 0;
}
