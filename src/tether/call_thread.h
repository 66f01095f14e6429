// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "base/progress.h"
#include "base/result.h"

#include <atomic>
#include <chrono>
#include <condition_variable>
#include <deque>
#include <functional>
#include <future>
#include <memory>
#include <mutex>
#include <optional>
#include <thread>

namespace ml {

/// A thread for calls that may never come back. Who calls waits for so long and no longer; a thread whose call hangs is
/// left to itself, and ends when the call does.
class CallThread {
public:
  /// `giveUp`: when it is asked for, whoever waits is told that nothing came.
  explicit CallThread(StopFlag giveUp) : giveUp_(std::move(giveUp)), shared_(std::make_shared<Shared>()) {
    std::thread([shared = shared_] { shared->work(); }).detach();
  }
  ~CallThread() { shared_->end(); }
  CallThread(const CallThread&) = delete;
  CallThread& operator=(const CallThread&) = delete;

  /// What `work` gives, or nothing after `limit`. What `work` holds must outlive the wait: hold it by shared pointers.
  template <class Work> auto call(std::chrono::milliseconds limit, Work work) -> std::optional<decltype(work())> {
    using Value = decltype(work());
    auto task = std::make_shared<std::packaged_task<Value()>>(std::move(work));
    auto value = task->get_future();
    if (!shared_->add([task] { (*task)(); })) return std::nullopt;
    constexpr std::chrono::milliseconds kLook{20};
    const auto until = std::chrono::steady_clock::now() + limit;
    while (std::chrono::steady_clock::now() < until && !giveUp_.requested())
      if (value.wait_for(kLook) == std::future_status::ready) return value.get();
    shared_->hung = true;
    return std::nullopt;
  }
  /// Done after all that was asked before, also after a call that hangs now.
  void post(std::function<void()> work) { (void)shared_->add(std::move(work), true); }
  /// A call did not come back in time; nothing more can be asked.
  [[nodiscard]] bool hung() const { return shared_->hung; }

private:
  /// The library closes what is not its own (2.5.30: standard input, each time a camera in the network is let go) and
  /// leaves connections open that failed: this thread has files of its own, which end with it.
  static void standApart();

  struct Shared {
    std::mutex mutex;
    std::condition_variable wake;
    std::deque<std::function<void()>> waiting;
    bool ended = false;
    std::atomic<bool> hung{false};

    bool add(std::function<void()> task, bool evenSo = false) {
      const std::lock_guard lock(mutex);
      if (ended || (hung && !evenSo)) return false;
      waiting.push_back(std::move(task));
      wake.notify_one();
      return true;
    }
    void end() {
      const std::lock_guard lock(mutex);
      ended = true;
      wake.notify_one();
    }
    void work() {
      standApart();
      for (;;) {
        std::unique_lock lock(mutex);
        wake.wait(lock, [&] { return ended || !waiting.empty(); });
        if (waiting.empty()) return;
        const auto task = std::move(waiting.front());
        waiting.pop_front();
        lock.unlock();
        task();
      }
    }
  };
  StopFlag giveUp_;
  std::shared_ptr<Shared> shared_;
};

} // namespace ml
