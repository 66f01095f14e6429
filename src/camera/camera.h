#pragma once
#include "base/progress.h"
#include "base/result.h"
#include "exposure/units.h"
#include "image/image.h"
#include "plan/camera_profile.h"
#include "plan/planner.h"

#include <filesystem>
#include <functional>
#include <optional>
#include <string>

namespace ml {

enum class FrameFormat { Dng, Jpeg, Tiff };
[[nodiscard]] std::optional<FrameFormat> frameFormat(const std::string& name);
[[nodiscard]] std::string extensionOf(FrameFormat format);

/// A camera the photographer can drive. Errors: CameraRefused with what to do, CannotWrite.
class Camera {
public:
  virtual ~Camera() = default;
  [[nodiscard]] virtual const CameraProfile& profile() const = 0;
  /// Exposes one frame and leaves it complete at `file`.
  virtual Result<void> expose(const ExposureSettings& settings, FrameFormat format, const std::filesystem::path& file) = 0;
  /// What the finder shows at these settings: 8-bit display picture, not kept.
  virtual Result<Image<std::uint8_t>> liveView(const ExposureSettings& settings) = 0;
  /// Reflected-light spot reading, EV100, at a place given in 0..1 of width and height; radius in 0..1 of the width.
  virtual Result<Stops> spotReading(double x, double y, double radius) = 0;
};

struct ShotFrame {
  int index = 0;
  std::filesystem::path file;
  ExposureSettings settings;
};

/// Shoots the frames of a plan one by one into `folder` as "<prefix><n>.<ext>", n from 1, calling `arrived` after each.
/// A stop between frames keeps what is there and returns Stopped.
Result<std::vector<ShotFrame>> shootBracket(Camera& camera, const std::vector<ExposureSettings>& frames, FrameFormat format,
                                            const std::filesystem::path& folder, const std::string& prefix,
                                            const Progress& progress, const std::function<void(const ShotFrame&)>& arrived);

} // namespace ml
