// SPDX-License-Identifier: GPL-3.0-or-later
#include "plan/comparison.h"

#include "base/phrase.h"
#include "exposure/marks.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace ml {
namespace {

std::string more(int n) {
  if (n == 0) return phrase("As many frames");
  if (std::abs(n) == 1) return n > 0 ? phrase("1 frame more") : phrase("1 frame fewer");
  return n > 0 ? phrase("{} frames more", n) : phrase("{} frames fewer", -n);
}

std::string describeLoss(const Plan& plan) {
  const auto& c = plan.coverage;
  std::string loss;
  const auto add = [&](const std::string& part) { loss += (loss.empty() ? "" : phrase(" and ")) + part; };
  constexpr double kWorthAFigure = 0.05;
  if (c.spareHigh.value < -kWorthAFigure)
    add(phrase("clips the brightest {}", printAmount({-c.spareHigh.value})));
  else if (c.spareHigh.value < -1e-9)
    add(phrase("leaves the highlights a little less than their margin"));
  if (c.spareLow.value < -kWorthAFigure)
    add(phrase("leaves the darkest {} below SNR {:g}", printAmount({-c.spareLow.value}), plan.request.snrTarget));
  else if (c.spareLow.value < -1e-9)
    add(phrase("leaves the darkest tone a little below SNR {:g}", plan.request.snrTarget));
  if (loss.empty() && !plan.covers) add(phrase("falls to SNR {:.0f} near EV {:.1f}", c.worstSnr, c.worstAt.value));
  return loss;
}

std::string differenceOf(const Alternative& other, const Alternative& best) {
  const int frames = other.plan.fired - best.plan.fired;
  const double seconds = other.onSite.value - best.onSite.value;
  std::string cost = more(frames);
  if (std::abs(seconds) >= 0.1)
    cost += seconds > 0 ? phrase(", {:.1f} s longer", seconds) : phrase(", {:.1f} s shorter", -seconds);
  if (const std::string loss = describeLoss(other.plan); !loss.empty()) return cost + "; " + loss + ".";
  return cost +
         phrase("; worst SNR {:.0f} instead of {:.0f}.", other.plan.coverage.worstSnr, best.plan.coverage.worstSnr);
}

std::string reasonFor(const Alternative& best) {
  const Plan& p = best.plan;
  if (!p.covers)
    return phrase("Nothing this camera offers covers the scene; this keeps the highlights first and {}.",
                  describeLoss(p));
  if (p.fired == 1)
    return phrase("One frame holds the whole range; its worst tone has SNR {:.0f}.", p.coverage.worstSnr);
  return phrase("No set of fewer frames covers EV {:.1f} to {:.1f}; this is the quickest of those that do, and "
                "its worst tone has SNR {:.0f}.",
                p.request.low.value, p.request.high.value, p.coverage.worstSnr);
}

std::string oneRawAnswer(const Plan& one, double snrTarget) {
  const auto& c = one.coverage;
  if (one.covers)
    return phrase("One raw would do: at {} it holds everything, with SNR {:.0f} in the darkest reading.",
                  print(one.frames.front().time), c.worstSnr);
  if (c.spareHigh.value < -0.05)
    return phrase("One raw would not do: even its shortest time clips the brightest {}.",
                  printAmount({-c.spareHigh.value}));
  return phrase("One raw would not do: with the highlights held at {}, the darkest {} lie below SNR {:g}; the "
                "darkest reading has SNR {:.1f}.",
                print(one.frames.front().time), printAmount({std::max(0.0, -c.spareLow.value)}), snrTarget, c.worstSnr);
}

double snrAtLow(const Plan& p) {
  return SensorModel(p.camera).mergedSnr(p.request.low, p.frames);
}

std::string extraFramesAnswer(const Plan& three, const Plan& five) {
  const double before = snrAtLow(three), after = snrAtLow(five);
  const auto& c = three.coverage;
  std::string shows;
  if (c.spareHigh.value < -0.05 && five.coverage.spareHigh.value > c.spareHigh.value + 0.05)
    shows = phrase("they show: three frames clip the brightest {}", printAmount({-c.spareHigh.value}));
  else if (before >= 40)
    shows = phrase("they do not show: noise is past seeing already (SNR 40, ISO 12232)");
  else if (before < 10 && after >= 10)
    shows = phrase("they show: the shadows become acceptable (SNR 10, ISO 12232)");
  else if (after > before * 1.5)
    shows = phrase("they show in lifted shadows");
  else
    shows = phrase("they hardly show");
  return phrase("Five frames, two stops, against three: SNR {:.0f} instead of {:.0f} in the darkest reading; {}.",
                after, before, shows);
}

} // namespace

Alternative alternativeOf(const Plan& plan, const School& school, const Situation& situation) {
  Alternative a;
  a.school = school;
  a.plan = plan;
  const Stability stability = stabilityOf(plan, situation);
  a.onSite = {situation.timer.value * plan.runs + stability.duration.value};
  a.megabytes = plan.fired * plan.camera.fileMegabytes;
  for (const auto& m : stability.movements) a.ghostPixels = std::max(a.ghostPixels, m.ghostPixels);
  const SensorModel sensor(plan.camera);
  for (std::size_t i = 1; i < plan.frames.size(); ++i) {
    const Stops shared = overlap(sensor, plan.frames[i - 1], plan.frames[i], plan.request.snrTarget);
    a.leastOverlap = i == 1 ? shared : std::min(a.leastOverlap, shared);
  }
  return a;
}

Result<Comparison> compareSchools(const CameraProfile& camera, PlanRequest request, const Situation& situation) {
  request.school = "auto";
  auto best = planBracket(camera, request);
  if (!best) return passOn(best.error());
  Comparison comparison;
  comparison.recommended = alternativeOf(*best, schools().front(), situation);
  comparison.reason = reasonFor(comparison.recommended);
  comparison.recommended.difference = phrase("Recommended.");
  std::optional<Plan> one, three, five;
  for (const School& school : schools()) {
    if (school.shape == SchoolShape::Free) continue;
    request.school = school.id;
    auto plan = planBracket(camera, request);
    if (!plan) continue;
    if (school.id == "one-frame") one = *plan;
    if (school.id == "three-by-two") three = *plan;
    if (school.id == "five-by-two") five = *plan;
    comparison.alternatives.push_back(alternativeOf(*plan, school, situation));
    comparison.alternatives.back().difference = differenceOf(comparison.alternatives.back(), comparison.recommended);
  }
  if (one) comparison.oneRaw = oneRawAnswer(*one, request.snrTarget);
  if (three && five) comparison.extraFrames = extraFramesAnswer(*three, *five);
  return comparison;
}

} // namespace ml
