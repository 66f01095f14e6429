// SPDX-License-Identifier: GPL-3.0-or-later
#include "plan/candidates.h"

#include "exposure/marks.h"

#include <algorithm>
#include <cmath>

namespace ml {
namespace {

struct Shape {
  int count;
  Stops step;
};

Seconds longestOf(const CameraProfile& camera, const PlanRequest& request) {
  return request.longest ? std::min(*request.longest, camera.longest) : camera.longest;
}

std::vector<Iso> isosOf(const CameraProfile& camera, const PlanRequest& request) {
  const Iso first = request.iso.value_or(camera.baseIso);
  std::vector<Iso> isos{first};
  const double cap = std::min(request.isoCap.value_or(first).value, camera.highestIso.value) * 1.001;
  for (double iso = first.value * 2; iso <= cap; iso *= 2) isos.push_back({iso});
  return isos;
}

/// Third-stop ladder indices of the shortest and the longest time.
struct Ladder {
  int shortest, longest;
  Ladder(const CameraProfile& camera, Seconds longestTime)
      : shortest(int(std::floor(-3 * std::log2(camera.shortest.value) + 1e-6))),
        longest(int(std::ceil(-3 * std::log2(longestTime.value) - 1e-6))) {}
};

std::vector<Shape> shapesOf(const CameraProfile& camera, const School& school) {
  std::vector<Shape> shapes;
  const auto each = [&](auto wanted) {
    for (const int count : camera.counts)
      for (const Stops step : camera.steps)
        if (count > 1 && wanted(count, step)) shapes.push_back({count, step});
  };
  switch (school.shape) {
  case SchoolShape::Free:
    shapes.push_back({1, {0}});
    each([](int, Stops) { return true; });
    break;
  case SchoolShape::SmallSteps:
    each([](int count, Stops step) { return count >= 5 && step.value <= 1.001; });
    if (shapes.empty()) shapes = {{5, {1}}, {7, {1}}, {9, {1}}};
    break;
  default: shapes.push_back({school.count, school.step}); break;
  }
  std::stable_sort(shapes.begin(), shapes.end(), [](const Shape& a, const Shape& b) { return a.count < b.count; });
  return shapes;
}

bool offered(const CameraProfile& camera, const Shape& shape) {
  const bool count =
      shape.count == 1 || std::find(camera.counts.begin(), camera.counts.end(), shape.count) != camera.counts.end();
  const bool step = shape.count == 1 || std::any_of(camera.steps.begin(), camera.steps.end(),
                                                    [&](Stops s) { return std::abs((s - shape.step).value) < 0.01; });
  return count && step;
}

int stepThirds(Stops step) {
  return int(std::lround(step.value * 3));
}

constexpr int kTableFrom = -40, kTableTo = 60;
/// timeAtThirds(k) looked up: the search asks for it a million times.
double ladderTime(int k) {
  static const std::vector<double> table = [] {
    std::vector<double> times;
    for (int i = kTableFrom; i <= kTableTo; ++i) times.push_back(timeAtThirds(i).value);
    return times;
  }();
  return k < kTableFrom || k > kTableTo ? timeAtThirds(k).value : table[std::size_t(k - kTableFrom)];
}

void runsOf(const CameraProfile& camera, const PlanRequest& request, const Shape& shape, int runs,
            const std::vector<int>& shifts, std::vector<Candidate>& out) {
  const Ladder ladder(camera, longestOf(camera, request));
  const bool byHand = !offered(camera, shape);
  for (const Iso iso : isosOf(camera, request))
    for (int first = ladder.shortest; first >= ladder.longest; --first) {
      Candidate c{shape.count, stepThirds(shape.step), first, runs, 0, iso, byHand, 0};
      if (runs == 1) {
        if (c.longest() >= ladder.longest) out.push_back(c);
        continue;
      }
      for (const int shift : shifts) {
        c.shift = shift;
        if (c.longest() >= ladder.longest && c.shortest() <= ladder.shortest) out.push_back(c);
      }
    }
}

/// Brightest frame that still keeps `high` with its margin, as thirds; and the shortest that reaches the target at
/// `low`.
int thirdsForHigh(const SensorModel& sensor, const PlanRequest& request, Iso iso) {
  const double clip = sensor.clipsAt({{1}, request.aperture, iso}).value; // of one second
  return int(std::ceil(3 * (request.high.value + request.mustKeep().highlightMargin.value - clip) - 1e-9));
}
int thirdsForLow(const SensorModel& sensor, const PlanRequest& request, Iso iso) {
  const double floor = sensor.floorAt({{1}, request.aperture, iso}, request.snrTarget).value;
  return int(std::floor(3 * (request.mustKeep().low.value - floor) + 1e-9));
}

void placedByReadings(const CameraProfile& camera, const PlanRequest& request, const School& school,
                      std::vector<Candidate>& out) {
  const SensorModel sensor(camera);
  const Ladder ladder(camera, longestOf(camera, request));
  if (ladder.shortest < ladder.longest) return;
  const Iso iso = request.iso.value_or(camera.baseIso);
  const auto within = [&](int k) { return std::clamp(k, ladder.longest, ladder.shortest); };
  const int dark = within(thirdsForHigh(sensor, request, iso)), bright = within(thirdsForLow(sensor, request, iso));
  const auto add = [&](int count, int step, int first) {
    Candidate c{count, step, first, 1, 0, iso, !offered(camera, {count, {step / 3.0}}), school.extraFrames};
    if (c.shortest() <= ladder.shortest && c.longest() >= ladder.longest) out.push_back(c);
  };
  switch (school.shape) {
  case SchoolShape::TwoExposures: return bright < dark ? add(2, dark - bright, dark) : add(1, 0, dark);
  case SchoolShape::FullRun: {
    const int white =
        within(int(std::floor(3 * (request.low.value - sensor.clipsAt({{1}, request.aperture, iso}).value))));
    return add(std::max(1, (dark - white) / 3 + 1), 3, dark);
  }
  case SchoolShape::ShiftedCentre: {
    const double metered = (request.low.value + request.high.value) / 2;
    return add(3, 6, int(std::lround(3 * (metered + 1 - ev100(request.aperture, {1}, iso).value))) + 6);
  }
  default: // darker only: the bright end is fixed, the dark end follows
    for (const int count : {3, 4, 5})
      for (int step = 3; step <= 9; ++step) add(count, step, bright + (count - 1) * step);
  }
}

std::vector<int> shiftsOf(const CameraProfile& camera, const Shape& shape) {
  const int most = std::min(int(std::floor(3 * camera.compensation.value + 1e-9)) * 2,
                            stepThirds(shape.step) * (shape.count - 1) + 36);
  std::vector<int> shifts;
  for (int shift = 1; shift <= most; ++shift) shifts.push_back(shift);
  return shifts;
}

} // namespace

Candidate::Repeats Candidate::repeats() const {
  if (runs < 2) return {};
  if (step == 0) return shift == 0 ? Repeats{0, count} : Repeats{};
  if (shift % step != 0) return {};
  const int places = shift / step; // frame i of the second run has the time of frame i + places of the first
  return {std::max(0, -places), std::min(count, count - places)};
}

double Candidate::exposureSum() const {
  double sum = 0;
  for (int i = 0; i < count; ++i) sum += ladderTime(first - i * step);
  if (runs < 2) return sum;
  const Repeats again = repeats();
  for (int i = 0; i < count; ++i)
    if (!again.has(i)) sum += ladderTime(first - shift - i * step);
  return sum;
}

std::vector<ExposureSettings> Candidate::frames(FNumber aperture) const {
  std::vector<int> thirds;
  for (int i = 0; i < count; ++i) thirds.push_back(first - i * step);
  const Repeats again = repeats();
  for (int i = 0; i < count && runs == 2; ++i)
    if (!again.has(i)) thirds.push_back(first - shift - i * step);
  std::sort(thirds.begin(), thirds.end(), std::greater<>());
  std::vector<ExposureSettings> out;
  for (const int k : thirds) out.push_back({timeAtThirds(k), aperture, iso});
  return out;
}

std::vector<Candidate> candidatesOf(const CameraProfile& camera, const PlanRequest& request, const School& school,
                                    int runs) {
  std::vector<Candidate> out;
  switch (school.shape) {
  case SchoolShape::FullRun:
  case SchoolShape::DarkerOnly:
  case SchoolShape::ShiftedCentre:
  case SchoolShape::TwoExposures: placedByReadings(camera, request, school, out); break;
  case SchoolShape::TwoSets: runsOf(camera, request, {school.count, school.step}, 2, {6}, out); break;
  default:
    for (const Shape& shape : shapesOf(camera, school))
      runsOf(camera, request, shape, runs, shiftsOf(camera, shape), out);
  }
  return out;
}

} // namespace ml
