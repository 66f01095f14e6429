// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "tether/landing.h"
#include "tether/wired_camera.h"

#include <deque>

namespace ml {

/// One set on its way from a real camera to the disk. The shutter and the wire are worked by a thread of their own;
/// what has arrived is told on the caller's.
class Firing {
public:
  Firing(WiredCamera& camera, const ShootOrder& order) : camera_(camera), order_(order), landing_(order) {}
  Result<std::vector<ShotFrame>> run(const Progress& progress, const std::function<void(const ShotFrame&)>& arrived);

private:
  using Clock = std::chrono::steady_clock;
  /// One release of the shutter, and what comes of it.
  struct Exposure {
    std::vector<std::size_t> frames;   ///< Of the order: one, or all of a bracket that the camera fires by itself.
    std::vector<CameraFileName> files; ///< Announced and not fetched.
    std::size_t announced = 0;
    bool complete = false;
    Clock::time_point ends, lastNews;
  };

  Result<void> shootAll(const Progress& progress);
  Result<void> attempt(const Progress& progress);
  Result<void> reconnect(const Error& why, const Progress& progress);
  Result<void> askHand(const Progress& progress) const;
  Result<void> checkHand(const ShotFrame& frame) const;

  [[nodiscard]] std::optional<double> ownStep(const std::vector<std::size_t>& frames) const;
  Result<void> fireBracket(const std::vector<std::size_t>& frames, double step, const Progress& progress);
  Result<void> fireFrame(std::size_t frame, const Progress& progress);
  Result<void> fireBulb(Exposure& exposure, const Progress& progress);
  Result<void> bracketOf(std::size_t frames, const Progress& progress);
  Result<void> release(const Progress& progress);
  Result<void> apply(const ExposureSettings& settings, const Progress& progress);
  Result<void> setTo(const std::string& name, const std::vector<ListedValue>& list, double wanted,
                     const Progress& progress);

  Result<void> await(Exposure& exposure, const Progress& progress);
  [[nodiscard]] bool done(const Exposure& exposure) const;
  Result<bool> hear(Exposure& exposure);
  Result<void> hearEarlier();
  Result<void> lookForSilent(const Progress& progress);

  Result<void> fetchAll(Exposure& exposure);
  Result<void> fetchWaiting(bool all);
  Result<void> fetchLeft(const Progress& progress);
  Result<Landing::Brought> bring(const CameraFileName& file);
  Result<void> land(std::vector<Landing::Brought> files, const std::vector<std::size_t>& expected);

  WiredCamera& camera_;
  const ShootOrder& order_;
  Landing landing_;
  bool begun_ = false, fired_ = false;
  std::shared_ptr<Wire> wire_;
  CameraFacts facts_;
  std::deque<Exposure> waiting_;             ///< Over, and not fetched yet.
  std::map<std::string, std::string> nowAt_; ///< What the camera was set to.
  double fetchSeconds_ = 0;                  ///< Of one exposure's files, as measured last; 0: not yet.

  std::mutex mutex_; ///< Of what has arrived and is not told yet.
  std::condition_variable told_;
  std::deque<ShotFrame> arrived_;
  bool over_ = false;
};

} // namespace ml
