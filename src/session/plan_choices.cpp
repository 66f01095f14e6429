// SPDX-License-Identifier: GPL-3.0-or-later
#include "session/plan_choices.h"

#include "exposure/marks.h"
#include "plan/planner.h"
#include "session/shooting.h"

namespace ml {
namespace {

std::vector<ExposureSettings> framesOf(const OwnBracket& own, FNumber aperture) {
  std::vector<ExposureSettings> frames;
  for (int i = 0; i < own.count; ++i) frames.push_back({timeAtThirds(own.first - i * own.step), aperture, own.iso});
  return frames;
}

} // namespace

PlanChoices choicesOf(const View& v) {
  return {v.camera, v.school, v.aperture, v.snrTarget, v.isoCap, v.situation, v.own};
}

void putChoices(View& v, const PlanChoices& choices) {
  v.camera = choices.camera;
  v.school = choices.school;
  v.aperture = choices.aperture;
  v.snrTarget = choices.snrTarget;
  v.isoCap = choices.isoCap;
  v.situation = choices.situation;
  v.own = choices.own;
}

CameraProfile cameraForPlan(const View& view) {
  CameraProfile camera = view.profile();
  if (view.format != FrameFormat::Dng) camera.hasRaw = false;
  return camera;
}

std::optional<PlanRequest> planRequestOf(const View& view, std::optional<double> cardMegabytes) {
  const auto wanted = mustKeepOf(view);
  if (!wanted) return {};
  PlanRequest request;
  request.low = wanted->low;
  request.high = wanted->high;
  std::tie(request.unsureLow, request.unsureHigh) = unsureOf(view);
  request.aperture = view.aperture;
  request.snrTarget = view.snrTarget;
  request.school = view.school;
  request.isoCap = view.isoCap;
  request.longest = longestAllowed(view.situation, view.profile());
  if (view.situation.mostSeconds > 0) request.totalTime = Seconds{view.situation.mostSeconds};
  request.cardMegabytes = cardMegabytes;
  return request;
}

Result<std::optional<Plan>> planOf(const View& view, std::optional<double> cardMegabytes) {
  const auto request = planRequestOf(view, cardMegabytes);
  if (!request) return std::optional<Plan>{};
  const CameraProfile camera = cameraForPlan(view);
  if (view.own) return std::optional(planOfFrames(camera, *request, framesOf(*view.own, view.aperture)));
  auto plan = planBracket(camera, *request);
  if (!plan) return passOn(plan.error());
  return std::optional(std::move(*plan));
}

} // namespace ml
