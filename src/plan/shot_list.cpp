// SPDX-License-Identifier: GPL-3.0-or-later
#include "plan/shot_list.h"

#include "exposure/marks.h"

#include <algorithm>
#include <fmt/format.h>

namespace ml {
namespace {

/// With the number of the run each belongs to.
std::vector<std::pair<int, ExposureSettings>> firedFrames(const Plan& plan) {
  std::vector<std::pair<int, ExposureSettings>> fired;
  int run = 0;
  for (const auto& frames : runsOf(plan)) {
    ++run;
    for (const auto& frame : frames) fired.emplace_back(run, frame);
  }
  for (int i = 0; i < plan.flashFrames(); ++i) fired.emplace_back(run, plan.frames.front());
  return fired;
}

} // namespace

std::vector<std::vector<ExposureSettings>> runsOf(const Plan& plan) {
  if (plan.runs == 1) return {plan.frames};
  std::vector<std::vector<ExposureSettings>> runs(std::size_t(plan.runs));
  for (int run = 0; run < plan.runs; ++run)
    for (const Stops offset : bracketOffsets(plan.count, plan.step, {run * plan.compensation.value}))
      runs[std::size_t(run)].push_back({brighter(plan.centre, offset), plan.request.aperture, plan.iso()});
  return runs;
}

ShotList shotList(const Plan& plan, const Situation& situation) {
  ShotList list;
  static_cast<PositionGrid&>(list) = positionGrid(situation, plan.camera);
  const auto fired = firedFrames(plan);
  for (const PlannedPosition& p : plannedPositions(situation, plan.camera))
    for (std::size_t i = 0; i < fired.size(); ++i)
      list.shots.push_back({int(list.shots.size()) + 1, p.row ? (p.row - 1) / list.shifts + 1 : 1,
                            std::max(1, p.column), p.lensShift, std::max(1, p.plane), fired[i].first, int(i) + 1,
                            fired[i].second});
  list.time = {list.count() *
               (situation.timer.value * plan.runs + setDuration(plan.camera, plan.frames, plan.fired).value)};
  list.megabytes = double(list.shots.size()) * plan.camera.fileMegabytes;
  const double fresh = 1 - situation.positions.overlap;
  list.megapixels = plan.camera.width * 1e-6 * plan.camera.height * (1 + (list.columns - 1) * fresh) *
                    (1 + (list.rows - 1) * fresh) * (1 + (list.shifts - 1) * 0.5);
  return list;
}

std::string toCsv(const ShotList& list) {
  std::string out = "number,row,column,shift,plane,run,frame,time,seconds,f_number,iso\r\n";
  for (const Shot& s : list.shots)
    out += fmt::format("{},{},{},{},{},{},{},{},{:.9g},{:.6g},{:.6g}\r\n", s.number, s.row, s.column, s.lensShift,
                       s.plane, s.run, s.frame, markOf(s.settings.time), s.settings.time.value,
                       s.settings.aperture.value, s.settings.iso.value);
  return out;
}

} // namespace ml
