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
      : shortest(int(std::floor(-3 * std::log2(camera.shortest.value) + 1e-6))), longest(int(std::ceil(-3 * std::log2(longestTime.value) - 1e-6))) {}
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
  const bool count = shape.count == 1 || std::find(camera.counts.begin(), camera.counts.end(), shape.count) != camera.counts.end();
  const bool step = shape.count == 1 || std::any_of(camera.steps.begin(), camera.steps.end(), [&](Stops s) { return std::abs((s - shape.step).value) < 0.01; });
  return count && step;
}

/// Times on the ladder, shortest first, at one aperture and ISO.
std::vector<ExposureSettings> atThirds(const std::vector<int>& thirds, const PlanRequest& request, Iso iso) {
  std::vector<ExposureSettings> frames;
  for (const int k : thirds) frames.push_back({timeAtThirds(k), request.aperture, iso});
  return frames;
}

Candidate byHand(std::vector<ExposureSettings> frames) {
  Candidate c;
  c.count = c.fired = int(frames.size());
  c.step = c.count > 1 ? Stops{std::log2(frames.back().time.value / frames.front().time.value) / (c.count - 1)} : Stops{0};
  c.centre = {std::sqrt(frames.front().time.value * frames.back().time.value)};
  c.byHand = true;
  c.frames = std::move(frames);
  return c;
}

int stepThirds(Stops step) { return int(std::lround(step.value * 3)); }

/// One run of `shape` whose shortest time stands at `first` thirds.
Candidate oneRun(const CameraProfile& camera, const PlanRequest& request, const Shape& shape, int first, Iso iso) {
  std::vector<int> thirds;
  for (int i = 0; i < shape.count; ++i) thirds.push_back(first - i * stepThirds(shape.step));
  Candidate c;
  c.count = c.fired = shape.count;
  c.step = shape.step;
  c.centre = brighter(timeAtThirds(first), {shape.step.value * (shape.count - 1) / 2});
  c.byHand = !offered(camera, shape);
  c.frames = atThirds(thirds, request, iso);
  return c;
}

/// Two runs, the second `shift` thirds longer or, negative, shorter than the first; each exposure once.
Candidate twoRuns(const PlanRequest& request, const Candidate& first, int firstThirds, int shift) {
  std::vector<int> thirds;
  for (int run = 0; run < 2; ++run)
    for (int i = 0; i < first.count; ++i) thirds.push_back(firstThirds - run * shift - i * stepThirds(first.step));
  std::sort(thirds.begin(), thirds.end(), std::greater<>());
  thirds.erase(std::unique(thirds.begin(), thirds.end()), thirds.end());
  Candidate c = first;
  c.runs = 2;
  c.compensation = {shift / 3.0};
  c.fired = 2 * first.count;
  c.frames = atThirds(thirds, request, first.frames.front().iso);
  return c;
}

void runsOf(const CameraProfile& camera, const PlanRequest& request, const Shape& shape, int runs, const std::vector<int>& shifts,
            const std::function<void(Candidate)>& offer) {
  const Ladder ladder(camera, longestOf(camera, request));
  const int reach = stepThirds(shape.step) * (shape.count - 1);
  for (const Iso iso : isosOf(camera, request))
    for (int first = ladder.shortest; first - reach >= ladder.longest; --first) {
      Candidate one = oneRun(camera, request, shape, first, iso);
      if (runs == 1) {
        offer(std::move(one));
        continue;
      }
      for (const int shift : shifts)
        if (first - reach - std::max(0, shift) >= ladder.longest && first - std::min(0, shift) <= ladder.shortest) offer(twoRuns(request, one, first, shift));
    }
}

/// Brightest frame that still keeps `high` with its margin, as thirds; and the shortest that reaches the target at `low`.
int thirdsForHigh(const SensorModel& sensor, const PlanRequest& request, Iso iso) {
  const double clip = sensor.clipsAt({{1}, request.aperture, iso}).value; // of one second
  return int(std::ceil(3 * (request.high.value + request.highlightMargin.value - clip) - 1e-9));
}
int thirdsForLow(const SensorModel& sensor, const PlanRequest& request, Iso iso) {
  const double floor = sensor.floorAt({{1}, request.aperture, iso}, request.snrTarget).value;
  return int(std::floor(3 * (request.low.value - floor) + 1e-9));
}

void placedByReadings(const CameraProfile& camera, const PlanRequest& request, const School& school, const std::function<void(Candidate)>& offer) {
  const SensorModel sensor(camera);
  const Ladder ladder(camera, longestOf(camera, request));
  if (ladder.shortest < ladder.longest) return;
  const Iso iso = request.iso.value_or(camera.baseIso);
  const auto within = [&](int k) { return std::clamp(k, ladder.longest, ladder.shortest); };
  const int dark = within(thirdsForHigh(sensor, request, iso)), bright = within(thirdsForLow(sensor, request, iso));
  if (school.shape == SchoolShape::TwoExposures) {
    Candidate c = byHand(atThirds(bright < dark ? std::vector{dark, bright} : std::vector{dark}, request, iso));
    c.fired += school.extraFrames;
    return offer(std::move(c));
  }
  if (school.shape == SchoolShape::FullRun) {
    const int white = within(int(std::floor(3 * (request.low.value - sensor.clipsAt({{1}, request.aperture, iso}).value))));
    std::vector<int> thirds;
    for (int k = dark; k >= white && thirds.size() < 40; k -= 3) thirds.push_back(k);
    if (thirds.empty()) thirds.push_back(dark);
    return offer(byHand(atThirds(thirds, request, iso)));
  }
  if (school.shape == SchoolShape::ShiftedCentre) {
    const double metered = (request.low.value + request.high.value) / 2;
    const int centre = int(std::lround(3 * (apexTime({1}).value + metered + 1 - ev100(request.aperture, {1}, iso).value)));
    std::vector<int> thirds{centre + 6, centre, centre - 6};
    if (thirds.front() > ladder.shortest || thirds.back() < ladder.longest) return;
    Candidate c = byHand(atThirds(thirds, request, iso));
    c.byHand = !offered(camera, {3, {2}});
    return offer(std::move(c));
  }
  for (const int count : {3, 4, 5}) // darker only: the bright end is fixed, the dark end follows
    for (const int step : {3, 4, 5, 6, 7, 8, 9}) {
      std::vector<int> thirds;
      for (int i = count - 1; i >= 0; --i) thirds.push_back(bright + i * step);
      if (thirds.front() > ladder.shortest) continue;
      Candidate c = byHand(atThirds(thirds, request, iso));
      c.byHand = !offered(camera, {count, {step / 3.0}});
      offer(std::move(c));
    }
}

std::vector<int> shiftsOf(const CameraProfile& camera, const Shape& shape) {
  const int most = std::min(int(std::floor(3 * camera.compensation.value + 1e-9)) * 2, stepThirds(shape.step) * (shape.count - 1) + 36);
  std::vector<int> shifts;
  for (int shift = 1; shift <= most; ++shift) shifts.push_back(shift);
  return shifts;
}

} // namespace

void forEachCandidate(const CameraProfile& camera, const PlanRequest& request, const School& school, int runs,
                      const std::function<void(Candidate)>& offer) {
  switch (school.shape) {
  case SchoolShape::FullRun:
  case SchoolShape::DarkerOnly:
  case SchoolShape::ShiftedCentre:
  case SchoolShape::TwoExposures: return placedByReadings(camera, request, school, offer);
  case SchoolShape::TwoSets: return runsOf(camera, request, {school.count, school.step}, 2, {6}, offer);
  default:
    for (const Shape& shape : shapesOf(camera, school)) runsOf(camera, request, shape, runs, shiftsOf(camera, shape), offer);
  }
}

} // namespace ml
