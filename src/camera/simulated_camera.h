// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "camera/camera.h"
#include "camera/faults.h"
#include "camera/sensor_simulation.h"
#include "camera/world.h"
#include "exposure/shot_metadata.h"

#include <memory>
#include <mutex>

namespace ml {

struct SimulationOptions {
  std::uint64_t seed = 1;
  double shakePixels = 0;  ///< Standard deviation of the camera's shift between frames, each axis.
  double shakeDegrees = 0; ///< The same for rotation.
  bool lulls = false;      ///< The wind comes and goes: things move for five seconds and rest for three.
  double freeMegabytes = 64000;
  double battery = 1; ///< 0..1
  std::vector<Fault> faults;
  Seconds startClock{0}; ///< So that a camera made anew goes on where the last one stopped.
};

/// A camera in front of a World, with a clock of its own: exposures, timers and writing take simulated time, not the
/// user's.
class SimulatedCamera final : public Camera {
public:
  SimulatedCamera(std::shared_ptr<const World> world, CameraProfile profile, SimulationOptions options = {});

  const CameraProfile& profile() const override { return profile_; }
  DeviceStatus status() const override;
  Result<void> connect() override;
  Result<void> accepts(const ExposureSettings& settings, FrameFormat format) const override;
  void wait(Seconds time) override;
  void useFlash(bool flash) override { flash_ = flash; }
  Result<void> expose(const ExposureSettings& settings, FrameFormat format, const std::filesystem::path& file) override;
  /// One exposure in several files.
  struct Output {
    FrameFormat format = FrameFormat::Dng;
    std::filesystem::path file;
  };
  Result<void> exposeTo(const ExposureSettings& settings, const std::vector<Output>& outputs);
  Result<Image<std::uint8_t>> liveView(const ExposureSettings& settings) override;
  Result<SpotMeasure> spotReading(double x, double y, double radius) override;

  /// An empty card instead of the full one.
  void changeCard();
  void setHandHeld(bool handHeld);
  /// Turns, shifts and focuses before the next look or exposure, where the world has all directions; `focalMm` on a
  /// sensor 36 mm wide. May be called while another thread exposes. Errors: CameraRefused.
  Result<void> point(const Aim& aim, double focalMm);
  void addFault(const Fault& fault) { options_.faults.push_back({fault.kind, fault.frame + frameNumber_}); }
  [[nodiscard]] Seconds clock() const { return clock_; }
  /// Where the camera stood for the frame exposed last; the truth that alignment tests compare with.
  [[nodiscard]] CameraPose lastPose() const { return pose_; }

private:
  [[nodiscard]] const Fault* touching(FaultKind kind) const; ///< Begins with this frame or began before.
  /// Size of a fault that lasts, or is in exactly this frame; 0: there is none.
  [[nodiscard]] double lasting(FaultKind kind) const;
  [[nodiscard]] double passing(FaultKind kind) const;
  [[nodiscard]] ExposureSettings driftedFrom(ExposureSettings settings) const;
  [[nodiscard]] Image<float> sceneNow(Seconds duration) const;
  void disturb(Image<float>& scene) const;
  const Image<float>& finderScene();
  void lookThrough(FNumber aperture, bool exposing);
  [[nodiscard]] ShotMetadata describe(const ExposureSettings& settings) const;
  [[nodiscard]] Result<void> write(const Image<float>& scene, const ExposureSettings& settings, FrameFormat format,
                                   const std::filesystem::path& temporary) const;
  void takeStand();
  void spend(Seconds exposure, double megabytes);

  std::shared_ptr<const World> world_;
  CameraProfile profile_;
  SimulationOptions options_;
  Seconds clock_{0};
  bool connected_ = true, flash_ = false;
  double battery_ = 1, freeMegabytes_ = 0, buffered_ = 0;
  CameraPose pose_;
  int frameNumber_ = 0;
  std::optional<ExposureSettings> last_;
  struct Pointing {
    Aim aim;
    double focalMm = 0;
    friend bool operator==(const Pointing&, const Pointing&) = default;
  };
  std::mutex pointingMutex_;
  std::optional<Pointing> wanted_; ///< Behind the mutex; empty: as the world is shown.
  int pointings_ = 0;              ///< Behind the mutex.
  int turnedIn_ = 0;               ///< In which pointing the head was turned too far; 0: in none.
  std::optional<Pointing> drawn_;  ///< What world_ shows, and with which aperture.
  FNumber drawnAt_{8};
  Image<float> finder_; ///< What the finder saw last; empty after each exposure.
  std::uint64_t liveFrames_ = 0;
};

} // namespace ml
