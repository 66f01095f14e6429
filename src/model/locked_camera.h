// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "camera/camera.h"

#include <memory>
#include <mutex>

namespace ml {

/// A camera that the finder's thread and the shooting thread may both ask; one call at a time. Only its status never
/// waits: while a frame is exposed it is the one from before.
class LockedCamera final : public Camera {
public:
  explicit LockedCamera(std::shared_ptr<Camera> camera) : camera_(std::move(camera)) {}

  /// For what only the simulated camera can do.
  template <class Work> auto locked(Work work) const {
    const std::lock_guard lock(mutex_);
    struct Note { // also when `work` returns nothing
      const LockedCamera& camera;
      ~Note() { camera.note(); }
    } noteAfterwards{*this};
    return work();
  }

  const CameraProfile& profile() const override { return camera_->profile(); }
  DeviceStatus status() const override {
    if (const std::unique_lock lock(mutex_, std::try_to_lock); lock.owns_lock()) note();
    const std::lock_guard lock(statusMutex_);
    return last_;
  }
  Result<void> connect() override {
    return locked([&] { return camera_->connect(); });
  }
  Result<void> accepts(const ExposureSettings& s, FrameFormat f) const override {
    return locked([&] { return camera_->accepts(s, f); });
  }
  void wait(Seconds t) override {
    locked([&] { camera_->wait(t); });
  }
  void useFlash(bool flash) override {
    locked([&] { camera_->useFlash(flash); });
  }
  Result<void> expose(const ExposureSettings& s, FrameFormat f, const std::filesystem::path& file) override {
    return locked([&] { return camera_->expose(s, f, file); });
  }
  Result<Image<std::uint8_t>> liveView(const ExposureSettings& s) override {
    return locked([&] { return camera_->liveView(s); });
  }
  Result<SpotMeasure> spotReading(double x, double y, double r) override {
    return locked([&] { return camera_->spotReading(x, y, r); });
  }

private:
  void note() const {
    const DeviceStatus now = camera_->status();
    const std::lock_guard lock(statusMutex_);
    last_ = now;
  }

  std::shared_ptr<Camera> camera_;
  mutable std::mutex mutex_, statusMutex_;
  mutable DeviceStatus last_;
};

} // namespace ml
