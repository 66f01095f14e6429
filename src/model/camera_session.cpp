// SPDX-License-Identifier: GPL-3.0-or-later
#include "model/camera_session.h"

#include "model/pictures.h"

#include <algorithm>
#include <utility>

namespace ml {

void CameraSession::enter(std::shared_ptr<const World> world, const View& view) {
  world_ = std::move(world);
  device_.reset();
  camera_.reset();
  finder_ = {};
  finderStops_ = 0;
  pointing_.reset();
  if (!world_) return emit entered();
  SimulationOptions options;
  options.seed = std::uint64_t(view.sets.size()) + 1;
  options.lulls = true;
  device_ = std::make_shared<SimulatedCamera>(world_, view.profile(), options);
  device_->setHandHeld(view.situation.handHeld);
  camera_ = std::make_shared<LockedCamera>(device_);
  emit entered();
}

void CameraSession::pointAnew() {
  if (device_ && pointing_) (void)device_->point(pointing_->first, pointing_->second); // it has all directions
}

/// The camera takes it up with its next look: nobody waits here.
void CameraSession::point(const Aim& aim, const View& view) {
  if (!device_ || !world_->hasAllDirections()) return;
  const std::pair pointing{aim, view.situation.focalMm * 36 / view.profile().sensorWidthMm};
  if (pointing_ == pointing) return;
  pointing_ = pointing;
  pointAnew();
  finder_ = {};
  if (!wired_ && !works_.longWork.running()) drawFinder(view);
}

void CameraSession::follow(const View& view) {
  if (!camera_) return; // a real one is what it is
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
  if (!present()) return;
  works_.wiring.start([this, camera = camera()](const Progress&) -> std::function<void()> {
    const auto connected = camera->connect();
    return [this, connected] {
      wasConnected_ = connected.has_value();
      notices_.check(connected);
      emit changed();
    };
  });
}

// ---- A real camera

CameraSession::CameraSession(Works& works, Notices& notices, QObject* parent)
    : QObject(parent), works_(works), notices_(notices) {
  constexpr int kEveryMs = 5000;
  howItIs_.setInterval(kEveryMs);
  connect(&howItIs_, &QTimer::timeout, this, &CameraSession::askHowItIs);
}

void CameraSession::useWired(const QString& address, const View& view) {
  if (const auto port = portOf(address.trimmed().toStdString()); !port) return notices_.fail(port.error());
  if (connecting_) connecting_->giveUp();
  connecting_ = std::make_shared<WiredCamera>(address.trimmed().toStdString(), view.profile());
  connecting_->setPatience(patience_);
  lastAddress_ = address.trimmed();
  works_.wiring.start([this, camera = connecting_](const Progress&) -> std::function<void()> {
    const auto connected = camera->connect();
    return [this, camera, connected] {
      if (connecting_ != camera) return;
      connecting_.reset();
      if (!notices_.check(connected)) return;
      if (wired_) wired_->giveUp();
      wired_ = camera;
      wasConnected_ = true;
      finder_ = {};
      howItIs_.start();
      notices_.tell(tr("%1 is connected. Tell people near a moving slider or a flash that it will be fired from afar.")
                        .arg(wiredName()));
      emit changed();
      emit finderDrawn();
    };
  });
}

void CameraSession::setPatience(Seconds patience) {
  patience_ = patience;
  if (wired_) wired_->setPatience(patience);
}

void CameraSession::useSimulated() {
  howItIs_.stop();
  if (wired_) wired_->giveUp();
  wired_.reset();
  finder_ = {};
  emit changed();
  emit finderDrawn();
}

QString CameraSession::wiredName() const {
  if (!wired_) return {};
  const QString model = QString::fromStdString(wired_->facts().model);
  return model.isEmpty() ? QString::fromStdString(wired_->address()) : model;
}

void CameraSession::look() {
  if (works_.wiring.running()) return;
  works_.wiring.start([this](const Progress&) -> std::function<void()> {
    const auto found = findCameras();
    return [this, found] {
      if (!found) return notices_.fail(found.error());
      found_ = *found;
      emit foundChanged();
    };
  });
}

std::vector<Seconds> CameraSession::timesFor(const std::vector<ExposureSettings>& frames) const {
  return wired_ ? wired_->facts().timesFor(frames) : std::vector<Seconds>{};
}

/// Battery, card, and whether it is there at all. Not while something is asked of it: that tells by itself.
void CameraSession::askHowItIs() {
  if (!wired_ || works_.wiring.running() || works_.longWork.running() || !wired_->status().connected) {
    if (wired_ && std::exchange(wasConnected_, wired_->status().connected) != wired_->status().connected)
      emit changed();
    return;
  }
  works_.wiring.start([this, camera = wired_](const Progress&) -> std::function<void()> {
    (void)camera->refresh(); // what it finds is the camera's status
    return [this] { emit changed(); };
  });
}

void CameraSession::giveUp() {
  howItIs_.stop();
  for (const auto& camera : {wired_, connecting_})
    if (camera) camera->giveUp();
}

void CameraSession::changeCard() {
  if (!camera_ || wired_) return;
  camera_->locked([&] { device_->changeCard(); });
  emit changed();
}

void CameraSession::armFault(FaultKind fault) {
  if (!camera_ || wired_) return;
  const bool lasting = fault == FaultKind::HandHeld || fault == FaultKind::TurnedTooFar;
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
  if (!present() || (wired_ && !wired_->facts().preview)) return;
  works_.preview.start([this, asked = camera(), real = wired_ != nullptr,
                        settings = finderSettings(view)](const Progress&) -> std::function<void()> {
    auto live = asked->liveView(settings);
    // Many real cameras show no finder; that is no mistake, a test frame stands in for it.
    if (!live && real) return [this] { emit changed(); };
    if (!live) return [this, e = live.error()] { notices_.fail(e); };
    QImage image = toQImage(*live);
    return [this, asked, image] {
      if (asked != camera()) return;
      finder_ = image;
      emit finderDrawn();
    };
  });
}

} // namespace ml
