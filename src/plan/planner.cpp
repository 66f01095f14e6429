// SPDX-License-Identifier: GPL-3.0-or-later
#include "plan/planner.h"

#include "base/phrase.h"
#include "exposure/marks.h"
#include "plan/candidates.h"

#include <algorithm>
#include <cmath>
#include <limits>

namespace ml {
namespace {

constexpr double kSame = 1e-6;

/// A candidate with bounds that cost next to nothing.
struct Prospect {
  Candidate candidate;
  double time = 0;           ///< Sum of exposures.
  double highMissing = 0;    ///< Exact.
  double leastShortfall = 0; ///< No less than this is missing elsewhere.
};

/// The exact optimum over many candidates. They are looked at in the order of the objective, so the first that covers
/// wins, and where none does, the search ends as soon as no bound can beat what was found.
class Search {
public:
  Search(const CameraProfile& camera, const PlanRequest& request)
      : camera_(camera), sensor_(camera), request_(request), wanted_(request.mustKeep()) {}

  void add(const std::vector<Candidate>& candidates) {
    prospects_.reserve(prospects_.size() + candidates.size());
    for (const auto& c : candidates) {
      Prospect p{c, c.exposureSum(), 0, 0};
      if (!allowed(p)) continue;
      const double clip = clipOf(c.shortest(), c.iso);
      p.highMissing = std::max(0.0, wanted_.high.value + wanted_.highlightMargin.value - clip);
      p.leastShortfall =
          std::max(0.0, floorOf(p.time, c.iso) - wanted_.low.value) + std::max(0.0, wanted_.high.value - clip);
      prospects_.push_back(p);
    }
  }

  /// Of those that cover: fewest frames fired, least time, then the higher worst SNR.
  std::optional<Candidate> covering() {
    std::vector<Prospect> heap;
    for (const auto& p : prospects_)
      if (p.highMissing <= 1e-9 && p.leastShortfall <= 1e-9) heap.push_back(p);
    const auto later = [](const Prospect& a, const Prospect& b) {
      return a.candidate.fired() != b.candidate.fired() ? a.candidate.fired() > b.candidate.fired() : a.time > b.time;
    };
    std::make_heap(heap.begin(), heap.end(), later);
    std::optional<Prospect> best;
    double bestSnr = 0;
    for (; !heap.empty(); heap.pop_back()) {
      const Prospect& p = heap.front();
      if (best && (p.candidate.fired() > best->candidate.fired() || p.time > best->time * (1 + kSame))) break;
      const double snr = worstSnr(sensor_, wanted_, p.candidate.frames(request_.aperture));
      if (snr >= wanted_.snrTarget * (1 - 1e-9) && (!best || snr > bestSnr)) {
        best = p;
        bestSnr = snr;
      }
      std::pop_heap(heap.begin(), heap.end(), later);
    }
    return best ? std::optional(best->candidate) : std::nullopt;
  }

  /// When none covers: least missing in the highlights, then least elsewhere, then as above.
  std::optional<Candidate> leastMissing() {
    double least = std::numeric_limits<double>::infinity();
    for (const auto& p : prospects_) least = std::min(least, p.highMissing);
    std::vector<Prospect> heap;
    for (const auto& p : prospects_)
      if (p.highMissing <= least + kSame) heap.push_back(p);
    const auto later = [](const Prospect& a, const Prospect& b) {
      const long ka = std::lround(a.leastShortfall / kSame), kb = std::lround(b.leastShortfall / kSame);
      if (ka != kb) return ka > kb;
      return a.candidate.fired() != b.candidate.fired() ? a.candidate.fired() > b.candidate.fired() : a.time > b.time;
    };
    std::make_heap(heap.begin(), heap.end(), later);
    std::optional<Prospect> best;
    Coverage bestCoverage;
    for (; !heap.empty(); heap.pop_back()) {
      const Prospect& p = heap.front();
      if (best && p.leastShortfall > bestCoverage.shortfall.value + kSame) break;
      const bool cannotMissLess = best && p.leastShortfall > bestCoverage.shortfall.value - kSame;
      if (cannotMissLess && (p.candidate.fired() > best->candidate.fired() || p.time > best->time * (1 + kSame))) break;
      const Coverage coverage = coverageOf(sensor_, wanted_, p.candidate.frames(request_.aperture));
      if (!best || missesLess(p, coverage, *best, bestCoverage)) {
        best = p;
        bestCoverage = coverage;
      }
      std::pop_heap(heap.begin(), heap.end(), later);
    }
    return best ? std::optional(best->candidate) : std::nullopt;
  }

private:
  [[nodiscard]] double clipOf(int thirds, Iso iso) { return ofOneSecond(iso).clip + thirds / 3.0; }
  /// Superadditivity of S^2 / (S + f): all the light in one exposure does at least as well as in several.
  [[nodiscard]] double floorOf(double time, Iso iso) { return ofOneSecond(iso).floor - std::log2(time); }
  [[nodiscard]] bool allowed(const Prospect& p) const {
    const int fired = p.candidate.fired();
    if (request_.cardMegabytes && fired * camera_.fileMegabytes > *request_.cardMegabytes) return false;
    return !request_.totalTime ||
           setDuration(camera_, p.candidate.frames(request_.aperture), fired) <= *request_.totalTime;
  }
  static bool missesLess(const Prospect& a, const Coverage& ca, const Prospect& b, const Coverage& cb) {
    if (std::abs((ca.shortfall - cb.shortfall).value) > kSame) return ca.shortfall < cb.shortfall;
    if (a.candidate.fired() != b.candidate.fired()) return a.candidate.fired() < b.candidate.fired();
    if (std::abs(a.time - b.time) > kSame * b.time) return a.time < b.time;
    return ca.worstSnr > cb.worstSnr;
  }
  struct OneSecond {
    double iso, clip, floor;
  };
  const OneSecond& ofOneSecond(Iso iso) {
    for (const auto& known : seconds_)
      if (known.iso == iso.value) return known;
    const ExposureSettings second{{1}, request_.aperture, iso};
    seconds_.push_back({iso.value, sensor_.clipsAt(second).value, sensor_.floorAt(second, wanted_.snrTarget).value});
    return seconds_.back();
  }

  const CameraProfile& camera_;
  SensorModel sensor_;
  const PlanRequest& request_;
  MustKeep wanted_;
  std::vector<Prospect> prospects_;
  std::vector<OneSecond> seconds_;
};

Plan planOf(const CameraProfile& camera, const PlanRequest& request, const std::string& school, const Candidate& c) {
  Plan plan;
  plan.camera = camera;
  plan.request = request;
  plan.school = school;
  plan.count = c.count;
  plan.step = {c.step / 3.0};
  plan.centre = brighter(timeAtThirds(c.first), {plan.step.value * (c.count - 1) / 2});
  plan.runs = c.runs;
  plan.compensation = {c.shift / 3.0};
  plan.byHand = c.byHand;
  plan.frames = c.frames(request.aperture);
  plan.fired = c.fired();
  plan.coverage = coverageOf(SensorModel(camera), request.mustKeep(), plan.frames);
  plan.covers = plan.coverage.complete(request.snrTarget);
  return plan;
}

/// What remains of a file the camera renders itself.
CameraProfile renderedOnly(CameraProfile camera) {
  camera.hasRaw = false;
  return camera;
}

} // namespace

std::optional<std::string> PlanRequest::invalidReason() const {
  if (!std::isfinite(low.value) || !std::isfinite(high.value)) return phrase("the readings must be numbers");
  if (high < low) return phrase("the brightest reading lies below the darkest");
  if (low.value < -15 || high.value > 30) return phrase("readings lie between EV -15 and EV 30");
  if (!(aperture.value >= 0.5 && aperture.value <= 128)) return phrase("the aperture must lie between f/0.5 and f/128");
  if (iso && !(iso->value >= 6 && iso->value <= 3276800)) return phrase("the ISO must lie between 6 and 3276800");
  if (isoCap && !(isoCap->value >= 6 && isoCap->value <= 3276800))
    return phrase("the highest ISO must lie between 6 and 3276800");
  if (!(snrTarget > 0 && snrTarget <= 1000)) return phrase("the SNR target must be above 0 and at most 1000");
  if (!(highlightMargin.value >= 0 && highlightMargin.value <= 4))
    return phrase("the highlight margin must be 0 to 4 stops");
  if (longest && !(longest->value > 0)) return phrase("the longest time must be above 0 s");
  if (totalTime && !(totalTime->value > 0)) return phrase("the time for the set must be above 0 s");
  if (cardMegabytes && !(*cardMegabytes > 0)) return phrase("there must be some space on the card");
  return {};
}

Seconds setDuration(const CameraProfile& camera, const std::vector<ExposureSettings>& frames, int fired) {
  double exposures = 0;
  for (const auto& frame : frames) exposures += frame.time.value;
  if (!frames.empty() && fired > int(frames.size())) exposures *= double(fired) / double(frames.size());
  const double beyondBuffer =
      std::max(0, fired - camera.bufferFrames) * std::max(0.0, camera.writeTime.value - camera.frameGap.value);
  return {exposures + std::max(0, fired - 1) * camera.frameGap.value + beyondBuffer};
}

Result<Plan> planBracket(const CameraProfile& camera, const PlanRequest& request) {
  if (const auto reason = request.invalidReason())
    return fail(ErrorCode::InvalidArgument, phrase("The plan cannot be made: {}.", *reason));
  if (const auto reason = camera.invalidReason())
    return fail(ErrorCode::InvalidArgument, phrase("The camera \"{}\" cannot be used: {}.", camera.name, *reason));
  const School* school = findSchool(request.school);
  if (!school) {
    std::string ids;
    for (const auto& s : schools()) ids += (ids.empty() ? "" : ", ") + s.id;
    return fail(ErrorCode::InvalidArgument, phrase("There is no school \"{}\"; use one of {}.", request.school, ids));
  }
  const CameraProfile used = school->shape == SchoolShape::InCamera ? renderedOnly(camera) : camera;
  Search search(used, request);
  search.add(candidatesOf(used, request, *school, 1));
  auto best = search.covering();
  if (!best && request.secondRun && school->shape == SchoolShape::Free) {
    search.add(candidatesOf(used, request, *school, 2));
    best = search.covering();
  }
  if (!best) best = search.leastMissing();
  if (!best) {
    const Seconds longest = request.longest ? std::min(*request.longest, camera.longest) : camera.longest;
    const bool limited = request.totalTime || request.cardMegabytes;
    return fail(
        ErrorCode::InvalidArgument,
        limited ? phrase("No bracket of \"{}\" fits the time or the space on the card; allow more of it.", school->name)
                : phrase("No time of \"{}\" fits \"{}\" within {}; allow a longer one.", camera.name, school->name,
                         print(longest)));
  }
  return planOf(used, request, school->id, *best);
}

Plan planOfFrames(const CameraProfile& camera, const PlanRequest& request, std::vector<ExposureSettings> frames) {
  std::sort(frames.begin(), frames.end(), [](const auto& a, const auto& b) { return ev100(a) > ev100(b); });
  Plan plan;
  plan.camera = camera;
  plan.request = request;
  plan.school = "own";
  plan.count = plan.fired = int(frames.size());
  plan.centre = {std::sqrt(frames.front().time.value * frames.back().time.value)};
  if (plan.count > 1) plan.step = {(ev100(frames.front()) - ev100(frames.back())).value / (plan.count - 1)};
  plan.byHand = true;
  plan.frames = std::move(frames);
  plan.coverage = coverageOf(SensorModel(camera), request.mustKeep(), plan.frames);
  plan.covers = plan.coverage.complete(request.snrTarget);
  return plan;
}

} // namespace ml
