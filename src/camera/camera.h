// SPDX-License-Identifier: GPL-3.0-or-later
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
[[nodiscard]] std::string nameOf(FrameFormat format);

/// In which order a camera fires its bracket.
enum class BracketOrder { DarkFirst, MiddleFirst, BrightFirst };
[[nodiscard]] std::vector<ExposureSettings> inOrder(std::vector<ExposureSettings> darkFirst, BracketOrder order);

struct DeviceStatus {
  bool connected = true;
  double battery = 1;       ///< 0..1
  double freeMegabytes = 0; ///< On the card.
  int buffered = 0;         ///< Frames not yet on the card.
  Seconds clock;            ///< Since the camera was switched on.
};

/// A spot of the scene as a meter or a frame sees it.
struct SpotMeasure {
  Stops ev100;
  double uncertainty = 0; ///< Stops, standard deviation of the light inside the spot.
  bool atLeast = false;   ///< Clipped: this bright or brighter.
};

struct ShotFrame {
  int index = 0;
  std::filesystem::path file;
  ExposureSettings settings; ///< As ordered; the time as the file says, where a real camera's file says it.
};

/// What to shoot and where to put it.
struct ShootOrder {
  std::vector<ExposureSettings> frames; ///< In the order they are fired.
  FrameFormat format = FrameFormat::Dng;
  std::filesystem::path folder;
  std::string prefix = "frame-";
  int firstNumber = 1; ///< Files are "<prefix><number>.<ext>".
  Seconds timer{0};
  bool flash = false;
  std::vector<int> numbers{}; ///< Of each frame, where they do not follow one another from firstNumber.
  [[nodiscard]] int numberOf(std::size_t frame) const {
    return frame < numbers.size() ? numbers[frame] : firstNumber + int(frame);
  }
};

/// A camera the photographer can drive. Errors: CameraRefused with what to do, CameraGone, CardFull, CannotWrite.
class Camera {
public:
  virtual ~Camera() = default;
  [[nodiscard]] virtual const CameraProfile& profile() const = 0;
  [[nodiscard]] virtual DeviceStatus status() const = 0;
  /// Takes up the connection, also after it was lost.
  virtual Result<void> connect() = 0;
  /// Would these settings be taken? Refusals say what the camera can do.
  [[nodiscard]] virtual Result<void> accepts(const ExposureSettings& settings, FrameFormat format) const = 0;
  /// From the next frame on, with a flash or without. Here: whatever stands on the camera's shoe does as it was
  /// switched.
  virtual void useFlash(bool) {}
  /// Lets time pass: a self-timer, a pause between sets.
  virtual void wait(Seconds time) = 0;
  /// Exposes one frame and leaves it complete at `file`.
  virtual Result<void> expose(const ExposureSettings& settings, FrameFormat format,
                              const std::filesystem::path& file) = 0;
  /// Exposes all frames of the order and calls `arrived` after each, on the caller's thread. A stop keeps what is there
  /// and returns Stopped; so does an error. Here: one after the other.
  virtual Result<std::vector<ShotFrame>> fire(const ShootOrder& order, const Progress& progress,
                                              const std::function<void(const ShotFrame&)>& arrived);
  /// What the finder shows at these settings: 8-bit display picture, not kept.
  virtual Result<Image<std::uint8_t>> liveView(const ExposureSettings& settings) = 0;
  /// Reflected-light spot reading at a place given in 0..1 of width and height; radius in 0..1 of the width.
  virtual Result<SpotMeasure> spotReading(double x, double y, double radius) = 0;
};

/// Shoots the order, calling `arrived` after each frame. All settings are checked before the first frame; then the
/// timer runs. A stop keeps what is there and returns Stopped; so does an error.
Result<std::vector<ShotFrame>> shootBracket(Camera& camera, const ShootOrder& order, const Progress& progress,
                                            const std::function<void(const ShotFrame&)>& arrived);

} // namespace ml
