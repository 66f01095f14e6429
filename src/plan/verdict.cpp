// SPDX-License-Identifier: GPL-3.0-or-later
#include "base/phrase.h"
#include "base/spelled.h"
#include "exposure/marks.h"
#include "plan/planner.h"

#include <cmath>
#include <fmt/format.h>

namespace ml {
namespace {

std::string stepPhrase(Stops step) {
  if (std::abs(step.value - 1) < 0.01) return phrase("one stop apart");
  if (std::abs(step.value - 2) < 0.01) return phrase("two stops apart");
  if (std::abs(step.value - 3) < 0.01) return phrase("three stops apart");
  const std::string amount = print(step).substr(1);
  return step.value > 1 ? phrase("{} stops apart", amount) : phrase("{} stop apart", amount);
}

std::string ends(const Plan& plan) {
  return phrase("from {} to {}", print(plan.frames.front().time), print(plan.frames.back().time));
}

std::string missingLight(const Plan& plan) {
  const auto& c = plan.coverage;
  std::string missing;
  if (c.spareHigh.value < -1e-9) missing = phrase("the brightest {} clip", printAmount({-c.spareHigh.value}));
  if (c.spareLow.value < -1e-9)
    missing +=
        (missing.empty() ? "" : phrase(" and ")) +
        phrase("the darkest {} stay noisier than SNR {:g}", printAmount({-c.spareLow.value}), plan.request.snrTarget);
  if (missing.empty()) missing = phrase("tones near EV {:.1f} reach only SNR {:.0f}", c.worstAt.value, c.worstSnr);
  return missing;
}

/// More exposures reach the highlights; what lies in the noise wants light.
std::string wayOut(const Plan& plan) {
  const auto& c = plan.coverage;
  const bool clips = c.spareHigh.value < -1e-9, dark = c.spareLow.value < -1e-9;
  if (clips && dark)
    return phrase("Shoot a second, darker set for the highlights; for the shadows open the aperture, light the room, "
                  "or accept noise below SNR {:g} there.",
                  plan.request.snrTarget);
  if (clips) return phrase("Shoot a second, darker set, or let the brightest reading clip.");
  if (dark)
    return phrase("Open the aperture, light the room, or accept noise below SNR {:g} there.", plan.request.snrTarget);
  return phrase("Put the frames closer together, or add one between them.");
}

} // namespace

std::string shapeOf(const Plan& plan) {
  if (plan.count == 1 && plan.runs == 2)
    return phrase("Two single frames, {} apart by compensation", printAmount({std::abs(plan.compensation.value)}));
  if (plan.count == 1) return phrase("One frame");
  if (plan.runs == 2)
    return phrase("Two runs of {} frames, {}, the second {} {}", plan.count, stepPhrase(plan.step),
                  printAmount({std::abs(plan.compensation.value)}),
                  plan.compensation.value < 0 ? phrase("darker") : phrase("brighter"));
  return phrase("{} frames, {}", spelled(std::size_t(plan.count)), stepPhrase(plan.step));
}

std::string verdict(const Plan& plan) {
  const auto& c = plan.coverage;
  const bool one = plan.frames.size() == 1;
  std::string what = one ? phrase("One frame at {}", print(plan.frames.front().time))
                         : fmt::format("{}, {}", shapeOf(plan), ends(plan));
  if (plan.iso().value > plan.camera.baseIso.value * 1.01) what += phrase(" at {}", print(plan.iso()));
  if (plan.covers)
    return phrase(
        "{} {} the light from EV {:.1f} to EV {:.1f} with {} of room in the shadows and {} in the highlights.", what,
        one ? phrase("covers") : phrase("cover"), plan.request.low.value, plan.request.high.value,
        printAmount(c.spareLow + plan.request.unsureLow), printAmount(c.spareHigh + plan.request.unsureHigh));
  return one ? phrase("{} is not enough with this camera: {}. {}", what, missingLight(plan), wayOut(plan))
             : phrase("{} are not enough with this camera: {}. {}", what, missingLight(plan), wayOut(plan));
}

} // namespace ml
