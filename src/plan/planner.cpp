#include "plan/planner.h"

#include "exposure/marks.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <limits>

namespace ml {
namespace {

struct Candidate {
  int count = 1;
  Stops step{0};
  Seconds centre;
  std::vector<ExposureSettings> frames;
  Coverage coverage;
  double totalTime = 0;
};

std::vector<ExposureSettings> framesOf(const PlanRequest& request, Iso iso, int count, Stops step, Seconds centre) {
  std::vector<ExposureSettings> frames;
  for (const Stops offset : bracketOffsets(count, step))
    frames.push_back({brighter(centre, offset), request.aperture, iso});
  return frames;
}

/// Points between low and high where the merged SNR can be least: the ends, and just above each clipping point.
std::vector<Stops> criticalReadings(const SensorModel& sensor, const PlanRequest& request,
                                    const std::vector<ExposureSettings>& frames) {
  std::vector<Stops> points{request.low, request.high};
  for (const auto& frame : frames) {
    const double above = std::nextafter(sensor.clipsAt(frame).value, std::numeric_limits<double>::infinity());
    if (above > request.low.value && above < request.high.value) points.push_back({above});
  }
  return points;
}

/// How much is missing at the bright end, at the dark end, then how many frames and how long.
bool better(const Candidate& a, const Candidate& b, double snrTarget) {
  const bool ca = a.coverage.complete(snrTarget), cb = b.coverage.complete(snrTarget);
  if (ca != cb) return ca;
  constexpr double kSame = 1e-6;
  if (!ca) {
    const auto missing = [](Stops spare) { return std::max(0.0, -spare.value); };
    const double ha = missing(a.coverage.spareHigh), hb = missing(b.coverage.spareHigh);
    if (std::abs(ha - hb) > kSame) return ha < hb;
    const double la = missing(a.coverage.spareLow), lb = missing(b.coverage.spareLow);
    if (std::abs(la - lb) > kSame) return la < lb;
  }
  if (a.count != b.count) return a.count < b.count;
  if (std::abs(a.totalTime - b.totalTime) > kSame * b.totalTime) return a.totalTime < b.totalTime;
  return a.coverage.worstSnr > b.coverage.worstSnr;
}

struct Choice {
  int count;
  Stops step;
};

std::vector<Choice> choicesOf(const CameraProfile& camera, const School& school) {
  if (school.count == 1) return {{1, {0}}};
  if (school.count > 1) return {{school.count, school.step}};
  std::vector<Choice> all{{1, {0}}};
  for (const int count : camera.counts)
    if (count > 1)
      for (const Stops step : camera.steps) all.push_back({count, step});
  return all;
}

/// Centres that put every frame on the third-stop ladder; of an even count the centre itself may fall between marks.
std::vector<Seconds> centresOf(const CameraProfile& camera, Seconds longest, const Choice& choice) {
  const double reach = choice.step.value * (choice.count - 1) / 2;
  std::vector<Seconds> centres;
  const double first = -std::log2(camera.shortest.value), last = -std::log2(longest.value);
  for (int k = int(std::floor(3 * first + 1e-6)); k / 3.0 - 2 * reach >= last - 1e-6; --k)
    centres.push_back(brighter(timeAtThirds(k), {reach}));
  return centres;
}

std::string spelled(int count) {
  static const char* const words[] = {"No", "One", "Two", "Three", "Four", "Five", "Six", "Seven", "Eight", "Nine"};
  return count < 10 ? words[count] : std::to_string(count);
}

std::string stepPhrase(Stops step) {
  if (std::abs(step.value - 1) < 0.01) return "one stop apart";
  if (std::abs(step.value - 2) < 0.01) return "two stops apart";
  if (std::abs(step.value - 3) < 0.01) return "three stops apart";
  return print(step).substr(1) + " stop" + (step.value > 1 ? "s" : "") + " apart";
}

} // namespace

std::optional<std::string> PlanRequest::invalidReason() const {
  if (!std::isfinite(low.value) || !std::isfinite(high.value)) return "the readings must be numbers";
  if (high < low) return "the brightest reading lies below the darkest";
  if (low.value < -15 || high.value > 30) return "readings lie between EV -15 and EV 30";
  if (!(aperture.value >= 0.5 && aperture.value <= 128)) return "the aperture must lie between f/0.5 and f/128";
  if (iso && !(iso->value >= 6 && iso->value <= 3276800)) return "the ISO must lie between 6 and 3276800";
  if (!(snrTarget > 0 && snrTarget <= 1000)) return "the SNR target must be above 0 and at most 1000";
  if (longest && !(longest->value > 0)) return "the longest time must be above 0 s";
  return {};
}

const std::vector<School>& schools() {
  static const std::vector<School> all{
      {"auto", "The smallest that covers", 0, {0}},       {"one-frame", "One frame", 1, {0}},
      {"three-by-two", "Three frames, two stops", 3, {2}}, {"five-by-two", "Five frames, two stops", 5, {2}},
      {"five-by-one", "Five frames, one stop", 5, {1}},    {"seven-by-one", "Seven frames, one stop", 7, {1}},
      {"nine-by-one", "Nine frames, one stop", 9, {1}},
  };
  return all;
}

Coverage coverageOf(const CameraProfile& camera, const PlanRequest& request,
                    const std::vector<ExposureSettings>& frames) {
  const SensorModel sensor(camera);
  Coverage c{{1e9}, {-1e9}, {0}, {0}, 1e9, request.low};
  for (const auto& frame : frames) c.high = std::max(c.high, sensor.clipsAt(frame) - request.highlightMargin);
  for (const auto& frame : frames) c.low = std::min(c.low, sensor.floorAt(frame, request.snrTarget));
  // Merging adds a little below the longest frame's own floor: walk down while the target holds (bisection).
  double below = c.low.value - 3, above = c.low.value;
  for (int i = 0; i < 40; ++i) {
    const double middle = (below + above) / 2;
    (sensor.mergedSnr({middle}, frames) >= request.snrTarget ? above : below) = middle;
  }
  c.low = {above};
  c.spareLow = request.low - c.low;
  c.spareHigh = c.high - request.high;
  for (const Stops reading : criticalReadings(sensor, request, frames)) {
    const double snr = sensor.mergedSnr(reading, frames);
    if (snr < c.worstSnr) {
      c.worstSnr = snr;
      c.worstAt = reading;
    }
  }
  return c;
}

Result<Plan> planBracket(const CameraProfile& camera, const PlanRequest& request) {
  if (const auto reason = request.invalidReason()) return fail(ErrorCode::InvalidArgument, "The plan cannot be made: " + *reason + ".");
  if (const auto reason = camera.invalidReason())
    return fail(ErrorCode::InvalidArgument, "The camera \"" + camera.name + "\" cannot be used: " + *reason + ".");
  const auto school = std::find_if(schools().begin(), schools().end(), [&](const School& s) { return s.id == request.school; });
  if (school == schools().end())
    return fail(ErrorCode::InvalidArgument, "There is no school \"" + request.school + "\"; use auto, one-frame, three-by-two, "
                                            "five-by-two, five-by-one, seven-by-one or nine-by-one.");
  const Iso iso = request.iso.value_or(camera.baseIso);
  const Seconds longest = request.longest ? std::min(*request.longest, camera.longest) : camera.longest;
  std::optional<Candidate> best;
  for (const Choice& choice : choicesOf(camera, *school))
    for (const Seconds centre : centresOf(camera, longest, choice)) {
      Candidate c{choice.count, choice.step, centre, framesOf(request, iso, choice.count, choice.step, centre), {}, 0};
      for (const auto& frame : c.frames) c.totalTime += frame.time.value;
      c.coverage = coverageOf(camera, request, c.frames);
      if (!best || better(c, *best, request.snrTarget)) best = std::move(c);
    }
  if (!best)
    return fail(ErrorCode::InvalidArgument, "No time of \"" + camera.name + "\" is short enough for the limit of " + print(longest) +
                                            "; allow a longer one.");
  return Plan{camera, request, school->id, best->count, best->step, best->centre, best->frames, best->coverage,
              best->coverage.complete(request.snrTarget)};
}

std::string verdict(const Plan& plan) {
  const auto& c = plan.coverage;
  const std::string what =
      plan.count == 1 ? fmt::format("One frame at {}", print(plan.frames.front().time))
                      : fmt::format("{} frames, {}, from {} to {}", spelled(plan.count), stepPhrase(plan.step),
                                    print(plan.frames.front().time), print(plan.frames.back().time));
  const bool one = plan.count == 1;
  if (plan.covers)
    return fmt::format("{} {} the light from EV {:.1f} to EV {:.1f} with {} to spare in the shadows and {} in the highlights.",
                       what, one ? "covers" : "cover", plan.request.low.value, plan.request.high.value,
                       printAmount(c.spareLow), printAmount(c.spareHigh));
  std::string missing;
  if (c.spareHigh.value < -1e-9) missing = fmt::format("the brightest {} clip", printAmount({-c.spareHigh.value}));
  if (c.spareLow.value < -1e-9)
    missing += (missing.empty() ? "" : " and ") +
               fmt::format("the darkest {} stay noisier than SNR {:g}", printAmount({-c.spareLow.value}), plan.request.snrTarget);
  if (missing.empty())
    missing = fmt::format("tones near EV {:.1f} reach only SNR {:.0f}", c.worstAt.value, c.worstSnr);
  return fmt::format("{} {} not enough with this camera: {}. Keep a second set for it, or let a reading clip.", what,
                     one ? "is" : "are", missing);
}

} // namespace ml
