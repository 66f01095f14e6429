// SPDX-License-Identifier: GPL-3.0-or-later
#include "exposure/marks.h"
#include "plan/planner.h"

#include <cmath>
#include <fmt/format.h>

namespace ml {
namespace {

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

std::string ends(const Plan& plan) {
  return fmt::format("from {} to {}", print(plan.frames.front().time), print(plan.frames.back().time));
}

std::string missingLight(const Plan& plan) {
  const auto& c = plan.coverage;
  std::string missing;
  if (c.spareHigh.value < -1e-9) missing = fmt::format("the brightest {} clip", printAmount({-c.spareHigh.value}));
  if (c.spareLow.value < -1e-9)
    missing += (missing.empty() ? "" : " and ") + fmt::format("the darkest {} stay noisier than SNR {:g}",
                                                              printAmount({-c.spareLow.value}), plan.request.snrTarget);
  if (missing.empty()) missing = fmt::format("tones near EV {:.1f} reach only SNR {:.0f}", c.worstAt.value, c.worstSnr);
  return missing;
}

/// More exposures reach the highlights; what lies in the noise wants light.
std::string wayOut(const Plan& plan) {
  const auto& c = plan.coverage;
  const bool clips = c.spareHigh.value < -1e-9, dark = c.spareLow.value < -1e-9;
  std::string dim =
      fmt::format("open the aperture, light the room, or accept noise below SNR {:g} there", plan.request.snrTarget);
  if (clips && dark) return "Shoot a second, darker set for the highlights; for the shadows " + dim + ".";
  if (clips) return "Shoot a second, darker set, or let the brightest reading clip.";
  dim[0] = 'O';
  if (dark) return dim + ".";
  return "Put the frames closer together, or add one between them.";
}

} // namespace

std::string shapeOf(const Plan& plan) {
  if (plan.count == 1 && plan.runs == 2)
    return fmt::format("Two single frames, {} apart by compensation", printAmount({std::abs(plan.compensation.value)}));
  if (plan.count == 1) return "One frame";
  if (plan.runs == 2)
    return fmt::format("Two runs of {} frames, {}, the second {} {}", plan.count, stepPhrase(plan.step),
                       printAmount({std::abs(plan.compensation.value)}),
                       plan.compensation.value < 0 ? "darker" : "brighter");
  return fmt::format("{} frames, {}", spelled(plan.count), stepPhrase(plan.step));
}

std::string verdict(const Plan& plan) {
  const auto& c = plan.coverage;
  const bool one = plan.frames.size() == 1;
  std::string what = one ? fmt::format("One frame at {}", print(plan.frames.front().time))
                         : fmt::format("{}, {}", shapeOf(plan), ends(plan));
  if (plan.iso().value > plan.camera.baseIso.value * 1.01) what += fmt::format(" at {}", print(plan.iso()));
  if (plan.covers)
    return fmt::format(
        "{} {} the light from EV {:.1f} to EV {:.1f} with {} of room in the shadows and {} in the highlights.", what,
        one ? "covers" : "cover", plan.request.low.value, plan.request.high.value,
        printAmount(c.spareLow + plan.request.unsureLow), printAmount(c.spareHigh + plan.request.unsureHigh));
  return fmt::format("{} {} not enough with this camera: {}. {}", what, one ? "is" : "are", missingLight(plan),
                     wayOut(plan));
}

} // namespace ml
