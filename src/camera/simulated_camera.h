#pragma once
#include "camera/camera.h"
#include "camera/sensor_simulation.h"
#include "camera/world.h"
#include "exposure/shot_metadata.h"

#include <memory>

namespace ml {

struct SimulationOptions {
  std::uint64_t seed = 1;
  double shakePixels = 0;      ///< Standard deviation of the camera's shift between frames, each axis.
  double shakeDegrees = 0;     ///< The same for rotation.
  Seconds gap{0.3};            ///< Between the end of one exposure and the start of the next.
};

/// A camera in front of a World, with a clock of its own: exposures take simulated time, not the user's.
class SimulatedCamera final : public Camera {
public:
  SimulatedCamera(std::shared_ptr<const World> world, CameraProfile profile, SimulationOptions options = {});

  const CameraProfile& profile() const override { return profile_; }
  Result<void> expose(const ExposureSettings& settings, FrameFormat format, const std::filesystem::path& file) override;
  Result<Image<std::uint8_t>> liveView(const ExposureSettings& settings) override;
  Result<Stops> spotReading(double x, double y, double radius) override;

  [[nodiscard]] Seconds clock() const { return clock_; }
  /// Where the camera stood for the frame exposed last; the truth that alignment tests compare with.
  [[nodiscard]] CameraPose lastPose() const { return pose_; }

private:
  [[nodiscard]] Image<float> sceneNow(Seconds duration) const;
  const Image<float>& finderScene();
  [[nodiscard]] std::optional<std::string> refusal(const ExposureSettings& settings, FrameFormat format) const;
  [[nodiscard]] ShotMetadata describe(const ExposureSettings& settings) const;
  void takeStand();

  std::shared_ptr<const World> world_;
  CameraProfile profile_;
  SimulationOptions options_;
  Seconds clock_{0};
  CameraPose pose_;
  int frameNumber_ = 0;
  Image<float> finder_; ///< What the finder saw last; empty after each exposure.
};

} // namespace ml
