#include "plan/planner.h"

#include "plan/candidates.h"
#include "exposure/marks.h"

#include <algorithm>
#include <cmath>

namespace ml {
namespace {

constexpr double kSame = 1e-6;

struct Scored {
  const Candidate* candidate = nullptr;
  double highMissing = 0, shortfall = 0, time = 0;
  Coverage coverage;
  bool covers = false;
};

double exposureTime(const Candidate& c) {
  double sum = 0;
  for (const auto& frame : c.frames) sum += frame.time.value;
  return sum;
}

/// Fewest frames, then least time, then the higher worst SNR; before that, what is missing.
bool better(const Scored& a, const Scored& b) {
  if (a.covers != b.covers) return a.covers;
  if (!a.covers) {
    if (std::abs(a.highMissing - b.highMissing) > kSame) return a.highMissing < b.highMissing;
    if (std::abs(a.shortfall - b.shortfall) > kSame) return a.shortfall < b.shortfall;
  }
  if (a.candidate->fired != b.candidate->fired) return a.candidate->fired < b.candidate->fired;
  if (std::abs(a.time - b.time) > kSame * b.time) return a.time < b.time;
  return a.coverage.worstSnr > b.coverage.worstSnr;
}

/// The best of many candidates; those that cannot win are passed over by bounds that cost next to nothing.
class Search {
public:
  Search(const CameraProfile& camera, const PlanRequest& request) : camera_(camera), sensor_(camera), request_(request), wanted_(request.mustKeep()) {}

  void offer(Candidate candidate) {
    if (!allowed(candidate)) return;
    Scored scored;
    scored.time = exposureTime(candidate);
    const double clip = sensor_.clipsAt(candidate.frames.front()).value;
    scored.highMissing = std::max(0.0, wanted_.high.value + wanted_.highlightMargin.value - clip);
    const double darkest = leastShortfall(candidate);
    if (best_ && hopeless(candidate, scored, darkest)) return;
    scored.coverage = coverageOf(sensor_, wanted_, candidate.frames);
    scored.shortfall = scored.coverage.shortfall.value;
    scored.covers = scored.coverage.complete(wanted_.snrTarget);
    scored.candidate = &candidate;
    if (best_) best_->candidate = &kept_;
    if (best_ && !better(scored, *best_)) return;
    kept_ = std::move(candidate);
    scored.candidate = &kept_;
    best_ = scored;
  }

  [[nodiscard]] bool covered() const { return best_ && best_->covers; }
  [[nodiscard]] const std::optional<Scored>& best() const { return best_; }
  [[nodiscard]] const Candidate& kept() const { return kept_; }

private:
  [[nodiscard]] bool allowed(const Candidate& c) const {
    if (request_.cardMegabytes && c.fired * camera_.fileMegabytes > *request_.cardMegabytes) return false;
    return !request_.totalTime || setDuration(camera_, c.frames, c.fired) <= *request_.totalTime;
  }
  /// No frame gathers more than the longest, so n of them reach the target at best where one reaches target / sqrt(n).
  [[nodiscard]] double leastShortfall(const Candidate& c) const {
    const double floor = sensor_.floorAt(c.frames.back(), wanted_.snrTarget / std::sqrt(double(c.frames.size()))).value;
    return std::max(0.0, floor - wanted_.low.value);
  }
  [[nodiscard]] bool hopeless(const Candidate& c, const Scored& scored, double darkest) const {
    if (best_->covers) {
      if (scored.highMissing > kSame || darkest > kSame) return true;
      if (c.fired != kept_.fired) return c.fired > kept_.fired;
      return scored.time > best_->time * (1 + kSame);
    }
    if (scored.highMissing > best_->highMissing + kSame) return true;
    return scored.highMissing > best_->highMissing - kSame && darkest > best_->shortfall + kSame;
  }

  const CameraProfile& camera_;
  SensorModel sensor_;
  const PlanRequest& request_;
  MustKeep wanted_;
  Candidate kept_;
  std::optional<Scored> best_;
};

Plan planOf(const CameraProfile& camera, const PlanRequest& request, const std::string& school, const Candidate& c, const Coverage& coverage) {
  Plan plan;
  plan.camera = camera;
  plan.request = request;
  plan.school = school;
  plan.count = c.count;
  plan.step = c.step;
  plan.centre = c.centre;
  plan.runs = c.runs;
  plan.compensation = c.compensation;
  plan.byHand = c.byHand;
  plan.frames = c.frames;
  plan.fired = c.fired;
  plan.coverage = coverage;
  plan.covers = coverage.complete(request.snrTarget);
  return plan;
}

/// What remains of a file the camera renders itself.
CameraProfile renderedOnly(CameraProfile camera) {
  camera.hasRaw = false;
  return camera;
}

} // namespace

std::optional<std::string> PlanRequest::invalidReason() const {
  if (!std::isfinite(low.value) || !std::isfinite(high.value)) return "the readings must be numbers";
  if (high < low) return "the brightest reading lies below the darkest";
  if (low.value < -15 || high.value > 30) return "readings lie between EV -15 and EV 30";
  if (!(aperture.value >= 0.5 && aperture.value <= 128)) return "the aperture must lie between f/0.5 and f/128";
  if (iso && !(iso->value >= 6 && iso->value <= 3276800)) return "the ISO must lie between 6 and 3276800";
  if (isoCap && !(isoCap->value >= 6 && isoCap->value <= 3276800)) return "the highest ISO must lie between 6 and 3276800";
  if (!(snrTarget > 0 && snrTarget <= 1000)) return "the SNR target must be above 0 and at most 1000";
  if (!(highlightMargin.value >= 0 && highlightMargin.value <= 4)) return "the highlight margin must be 0 to 4 stops";
  if (longest && !(longest->value > 0)) return "the longest time must be above 0 s";
  if (totalTime && !(totalTime->value > 0)) return "the time for the set must be above 0 s";
  if (cardMegabytes && !(*cardMegabytes > 0)) return "there must be some space on the card";
  return {};
}

Seconds setDuration(const CameraProfile& camera, const std::vector<ExposureSettings>& frames, int fired) {
  double exposures = 0;
  for (const auto& frame : frames) exposures += frame.time.value;
  if (!frames.empty() && fired > int(frames.size())) exposures *= double(fired) / double(frames.size());
  const double beyondBuffer = std::max(0, fired - camera.bufferFrames) * std::max(0.0, camera.writeTime.value - camera.frameGap.value);
  return {exposures + std::max(0, fired - 1) * camera.frameGap.value + beyondBuffer};
}

Result<Plan> planBracket(const CameraProfile& camera, const PlanRequest& request) {
  if (const auto reason = request.invalidReason()) return fail(ErrorCode::InvalidArgument, "The plan cannot be made: " + *reason + ".");
  if (const auto reason = camera.invalidReason())
    return fail(ErrorCode::InvalidArgument, "The camera \"" + camera.name + "\" cannot be used: " + *reason + ".");
  const School* school = findSchool(request.school);
  if (!school) {
    std::string ids;
    for (const auto& s : schools()) ids += (ids.empty() ? "" : ", ") + s.id;
    return fail(ErrorCode::InvalidArgument, "There is no school \"" + request.school + "\"; use one of " + ids + ".");
  }
  const CameraProfile used = school->shape == SchoolShape::InCamera ? renderedOnly(camera) : camera;
  Search search(used, request);
  const auto offer = [&](Candidate c) { search.offer(std::move(c)); };
  forEachCandidate(used, request, *school, 1, offer);
  if (!search.covered() && request.secondRun && school->shape == SchoolShape::Free) forEachCandidate(used, request, *school, 2, offer);
  if (!search.best()) {
    const Seconds longest = request.longest ? std::min(*request.longest, camera.longest) : camera.longest;
    const bool limited = request.totalTime || request.cardMegabytes;
    return fail(ErrorCode::InvalidArgument,
                limited ? "No bracket of \"" + school->name + "\" fits the time or the space on the card; allow more of it."
                        : "No time of \"" + camera.name + "\" fits \"" + school->name + "\" within " + print(longest) + "; allow a longer one.");
  }
  return planOf(used, request, school->id, search.kept(), search.best()->coverage);
}

Plan planOfFrames(const CameraProfile& camera, const PlanRequest& request, std::vector<ExposureSettings> frames) {
  std::sort(frames.begin(), frames.end(), [](const auto& a, const auto& b) { return ev100(a) > ev100(b); });
  Candidate c;
  c.count = c.fired = int(frames.size());
  c.centre = {std::sqrt(frames.front().time.value * frames.back().time.value)};
  c.step = c.count > 1 ? Stops{(ev100(frames.front()) - ev100(frames.back())).value / (c.count - 1)} : Stops{0};
  c.byHand = true;
  c.frames = std::move(frames);
  return planOf(camera, request, "own", c, coverageOf(SensorModel(camera), request.mustKeep(), c.frames));
}

} // namespace ml
