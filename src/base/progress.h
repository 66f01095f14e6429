// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <atomic>
#include <functional>
#include <memory>
#include <string>

namespace ml {

/// Shared by the one who asks for a stop and the work that looks whether it should. Copies see the same flag.
class StopFlag {
public:
  void request() const { flag_->store(true, std::memory_order_relaxed); }
  [[nodiscard]] bool requested() const { return flag_->load(std::memory_order_relaxed); }

private:
  std::shared_ptr<std::atomic<bool>> flag_ = std::make_shared<std::atomic<bool>>(false);
};

/// Where long work reports: `report(stage, fraction)` with fraction in 0..1. May be called from any thread.
struct Progress {
  StopFlag stop;
  std::function<void(const std::string& stage, double fraction)> report;

  void at(const std::string& stage, double fraction) const {
    if (report) report(stage, fraction);
  }
  [[nodiscard]] bool stopRequested() const { return stop.requested(); }
  /// For a piece of the work, which takes from `from` to `to` of the whole.
  [[nodiscard]] Progress part(double from, double to) const {
    return {stop, [whole = *this, from, to](const std::string& stage, double fraction) {
              whole.at(stage, from + (to - from) * fraction);
            }};
  }
};

} // namespace ml
