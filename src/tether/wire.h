// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "base/progress.h"
#include "tether/call_thread.h"
#include "tether/camera_values.h"
#include "tether/connection.h"

#include <set>

namespace ml {

/// What a camera says of itself, and what it can be set to.
struct CameraFacts {
  std::string model, lens;
  std::optional<double> battery; ///< 0..1
  std::optional<double> freeMegabytes;
  std::vector<ListedValue> times, apertures, isos; ///< Empty: it has no such list.
  std::string timeName, apertureName, isoName;     ///< Names of the settings; empty: only a hand sets it.
  std::optional<double> aperture, iso;             ///< As they stand now; nothing: the camera does not say.
  std::string bulbWord;                            ///< Of the list of times; empty: no bulb by wire.
  std::string bulbSwitch;                          ///< What opens and closes the shutter then.
  std::vector<int> bracketCounts;                  ///< Frames it can fire by itself; empty: it cannot.
  std::vector<double> bracketSteps;                ///< Stops.
  bool preview = false;

  /// All times of its list, and of `frames` those beyond it when it has bulb.
  [[nodiscard]] std::vector<Seconds> timesFor(const std::vector<ExposureSettings>& frames) const;
};

/// An open camera whose calls are made on a thread of its own and given up after a limit. Any thread may call; one at a
/// time. Errors: of Connection; CameraGone also when the limit has passed, and for every call after that.
class Wire {
public:
  /// `giveUp`: asked for, no call is waited for any longer.
  static Result<std::shared_ptr<Wire>> open(const std::string& port, const std::string& model, const StopFlag& giveUp);

  [[nodiscard]] bool lost() const { return lost_; }
  [[nodiscard]] Result<CameraFacts> facts();
  [[nodiscard]] Result<std::map<std::string, WireSetting>> settings();
  /// Sets it and reads it back; tries again for `patience`, for a camera may be busy. Errors: CameraRefused with what
  /// it took instead.
  Result<void> set(const std::string& name, const std::string& value, const Progress& progress,
                   std::chrono::seconds patience = std::chrono::seconds(8));
  /// A switch that cannot be read back.
  Result<void> turn(const std::string& name, bool on);
  /// Tries again while the camera is busy, for `patience`.
  Result<void> trigger(std::chrono::milliseconds patience, const Progress& progress);
  Result<CameraEvent> event();
  Result<void> fetch(const CameraFileName& file, const std::filesystem::path& target);
  [[nodiscard]] Result<std::vector<CameraFileName>> files();
  [[nodiscard]] std::optional<double> freeMegabytes();
  [[nodiscard]] Result<std::vector<unsigned char>> preview();

private:
  explicit Wire(const StopFlag& giveUp) : thread_(giveUp) {}
  template <class Value>
  Result<Value> ask(std::chrono::milliseconds limit, std::function<Result<Value>(Connection&)> work);
  CallThread thread_;
  std::shared_ptr<std::unique_ptr<Connection>> connection_ = std::make_shared<std::unique_ptr<Connection>>();
  std::atomic<bool> lost_{false};
};

} // namespace ml
