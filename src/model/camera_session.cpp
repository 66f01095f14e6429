// SPDX-License-Identifier: GPL-3.0-or-later
#include "model/camera_session.h"

#include "model/pictures.h"

#include <algorithm>

namespace ml {

void CameraSession::enter(std::shared_ptr<const World> world, const View& view) {
  world_ = std::move(world);
  device_.reset();
  camera_.reset();
  finder_ = {};
  finderStops_ = 0;
  if (!world_) return;
  SimulationOptions options;
  options.seed = std::uint64_t(view.sets.size()) + 1;
  options.lulls = true;
  device_ = std::make_shared<SimulatedCamera>(world_, view.profile(), options);
  device_->setHandHeld(view.situation.handHeld);
  camera_ = std::make_shared<LockedCamera>(device_);
}

void CameraSession::follow(const View& view) {
  if (!camera_) return;
  if (!(camera_->profile() == view.profile())) {
    const QImage finder = finder_;
    const double stops = finderStops_;
    enter(world_, view);
    finder_ = finder, finderStops_ = stops;
    return;
  }
  camera_->locked([&] { device_->setHandHeld(view.situation.handHeld); });
}

void CameraSession::connectCamera() {
  if (!camera_) return;
  notices_.check(camera_->connect());
  emit changed();
}

void CameraSession::changeCard() {
  if (!camera_) return;
  camera_->locked([&] { device_->changeCard(); });
  emit changed();
}

void CameraSession::armFault(FaultKind fault) {
  if (!camera_) return;
  const bool lasting = fault == FaultKind::HandHeld;
  camera_->locked([&] { device_->addFault({fault, lasting ? 0 : 1}); });
  for (const auto& name : faultNames())
    if (name.kind == fault) notices_.tell(tr("Practice: \"%1\" will happen during the next set.").arg(name.name));
}

void CameraSession::brightenFinder(const View& view, double stops) {
  finderStops_ = std::clamp(finderStops_ + stops, -8.0, 10.0);
  drawFinder(view);
}

ExposureSettings CameraSession::finderSettings(const View& view) const {
  const bool fading = world_ && world_->fadeStopsPerMinute() > 0;
  double ev = fading ? 4.5 : 9.5;
  if (!view.readings.empty()) {
    ev = fading ? 1 : 9;
    for (const auto& r : view.readings) ev = std::max(ev, r.ev100.value - 3);
  }
  const CameraProfile profile = view.profile();
  const Seconds time = timeFor({ev - finderStops_}, view.aperture, profile.baseIso);
  return {std::clamp(time, profile.shortest, profile.longest), view.aperture, profile.baseIso};
}

void CameraSession::drawFinder(const View& view) {
  if (!camera_) return;
  works_.preview.start(
      [this, camera = camera_, settings = finderSettings(view)](const Progress&) -> std::function<void()> {
        auto live = camera->liveView(settings);
        if (!live) return [this, e = live.error()] { notices_.fail(e); };
        QImage image = toQImage(*live);
        return [this, camera, image] {
          if (camera != camera_) return;
          finder_ = image;
          emit finderDrawn();
        };
      });
}

} // namespace ml
