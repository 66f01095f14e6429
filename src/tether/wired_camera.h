// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "camera/camera.h"
#include "tether/set_record.h"
#include "tether/wire.h"

namespace ml {

/// A real camera, by USB or network, through libgphoto2. Any thread may call; sets are fired one at a time. What it
/// fires is fetched to the disk while the next exposure runs; a connection that is lost is taken up again for a while,
/// and frames that stayed on the camera are fetched then.
class WiredCamera final : public Camera {
public:
  /// `address` as portOf takes it. `profile`: what is known of the sensor, and the limits while nothing is connected.
  WiredCamera(std::string address, CameraProfile profile);

  [[nodiscard]] const CameraProfile& profile() const override { return profile_; }
  [[nodiscard]] DeviceStatus status() const override;
  Result<void> connect() override;
  [[nodiscard]] Result<void> accepts(const ExposureSettings& settings, FrameFormat format) const override;
  void wait(Seconds time) override;
  Result<void> expose(const ExposureSettings& settings, FrameFormat format, const std::filesystem::path& file) override;
  Result<std::vector<ShotFrame>> fire(const ShootOrder& order, const Progress& progress,
                                      const std::function<void(const ShotFrame&)>& arrived) override;
  Result<Image<std::uint8_t>> liveView(const ExposureSettings& settings) override;
  Result<SpotMeasure> spotReading(double x, double y, double radius) override;

  [[nodiscard]] const std::string& address() const { return address_; }
  /// As read when it was connected, and after each set.
  [[nodiscard]] CameraFacts facts() const;
  /// All that it offers, by the library's names.
  [[nodiscard]] Result<std::map<std::string, WireSetting>> settings();
  /// Asks how the camera is; a connection that was lost is noticed.
  Result<void> refresh();
  /// Nobody waits for it any longer; it is not used again.
  void giveUp() { giveUp_.request(); }
  /// How long a set waits for a camera that is gone.
  void setPatience(Seconds patience) { patience_ = patience; }
  /// What a hand must do before a frame with these settings, "Set the aperture to f/8: it stands at f/5.6."; empty:
  /// nothing.
  [[nodiscard]] std::vector<std::string> handWork(const ExposureSettings& settings) const;

private:
  friend class Firing;
  [[nodiscard]] Result<std::shared_ptr<Wire>> wire() const;
  Result<void> open(); ///< By who holds `using_`.
  void note(const CameraFacts& facts);

  const std::string address_;
  const CameraProfile profile_;
  std::atomic<Seconds> patience_{Seconds{30}};
  const std::chrono::steady_clock::time_point born_ = std::chrono::steady_clock::now();
  const StopFlag giveUp_;
  std::mutex using_;         ///< Held by who talks to the camera for longer than one call.
  mutable std::mutex mutex_; ///< Of all below.
  std::shared_ptr<Wire> wire_;
  CameraFacts facts_;
  std::set<std::string> known_; ///< Files seen on the camera.
  int filesEach_ = 0;           ///< Of one exposure; 0: not learnt yet.
};

} // namespace ml
