// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "camera/simulated_camera.h"
#include "ptp/packet.h"
#include "standin/card.h"
#include "standin/options.h"
#include "standin/settings.h"

#include <chrono>
#include <condition_variable>
#include <deque>
#include <functional>
#include <memory>
#include <mutex>
#include <thread>

namespace ml {

/// A simulated camera as one on the wire shows itself: it answers requests of the protocol, exposes in real time on a
/// thread of its own, and tells what came of it. For any number of threads.
class StandIn {
public:
  StandIn(std::shared_ptr<const World> world, StandInOptions options);
  ~StandIn();
  StandIn(const StandIn&) = delete;
  StandIn& operator=(const StandIn&) = delete;

  /// What the connection does besides answering.
  enum class Mischief { None, Drop, CutInTheMiddle, Hang };
  struct Reply {
    ptp::Answer answer;
    Mischief mischief = Mischief::None;
  };
  [[nodiscard]] Reply answer(const ptp::Request& request);
  /// Who hears of what happens; nothing: nobody. `drop`: the connection goes.
  struct Listener {
    std::function<void(std::uint16_t code, std::uint32_t parameter)> event;
    std::function<void()> drop;
  };
  void connected(Listener listener);
  void disconnected();
  /// Somebody puts in an empty card and a full battery.
  void mend();
  [[nodiscard]] const StandInOptions& options() const { return options_; }

private:
  struct Capture {
    std::vector<ExposureSettings> frames;
    std::uint32_t transaction = 0;
    std::chrono::steady_clock::time_point began;
  };
  using Answered = std::uint16_t;
  [[nodiscard]] ptp::Bytes deviceInfo() const;
  Answered trigger(const ptp::Request& request);
  Answered endBulb();
  [[nodiscard]] std::vector<ExposureSettings> framesNow() const;
  [[nodiscard]] Reply sendFile(std::uint32_t handle);
  [[nodiscard]] bool strikes(WireFaultKind kind) const;
  [[nodiscard]] bool touches(WireFaultKind kind) const;
  void work(const std::stop_token& stop);
  void capture(const Capture& order, const std::stop_token& stop);
  bool exposeOne(const ExposureSettings& settings, const Capture& order, const std::stop_token& stop);
  void sleepUntil(std::chrono::steady_clock::time_point moment, const std::stop_token& stop);
  void tell(std::uint16_t code, std::uint32_t parameter);

  const StandInOptions options_;
  mutable std::mutex mutex_; ///< Of all below; exposing itself is done outside it.
  std::condition_variable_any wake_;
  SimulatedCamera camera_; ///< Used by the capture thread only.
  CardFiles card_;
  SettingsTable settings_;
  Listener listener_;
  std::deque<Capture> orders_;
  bool busy_ = false, open_ = false, asleep_ = false, mended_ = false, changeCard_ = false;
  std::optional<Capture> bulb_;
  int frame_ = 0, refusals_ = 0;
  std::vector<int> halfSent_; ///< Frames whose sending was cut.
  std::map<std::uint32_t, int> frameOf_;
  std::jthread thread_; ///< Last: ends first.
};

} // namespace ml
