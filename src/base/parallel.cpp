// SPDX-License-Identifier: GPL-3.0-or-later
#include "base/parallel.h"

#include <algorithm>
#include <exception>
#include <thread>
#include <vector>

namespace ml {
namespace {
std::atomic<int> requestedThreads{0};
thread_local int alone = 0;
} // namespace

OnThisThread::OnThisThread() {
  ++alone;
}
OnThisThread::~OnThisThread() {
  --alone;
}

void setThreadCount(int threads) {
  requestedThreads = std::max(0, threads);
}

int threadCount() {
  const int asked = requestedThreads;
  return asked > 0 ? asked : std::max(1, static_cast<int>(std::thread::hardware_concurrency()));
}

int bandCount(int rows, int bandRows) {
  return (std::max(rows, 0) + bandRows - 1) / bandRows;
}

bool forEachBand(int rows, const StopFlag& stop, const std::function<void(const Band&)>& work, int bandRows) {
  const int bands = bandCount(rows, bandRows);
  std::atomic<int> next{0};
  std::atomic<bool> broken{false};
  std::exception_ptr first; // written by the one that broke it, read when all have ended
  const auto run = [&] {
    try {
      for (int i = next++; i < bands && !stop.requested() && !broken; i = next++)
        work({i * bandRows, std::min(rows, (i + 1) * bandRows), i});
    } catch (...) {
      if (!broken.exchange(true)) first = std::current_exception();
    }
  };
  std::vector<std::thread> others;
  for (int i = 1; i < std::min(alone > 0 ? 1 : threadCount(), bands); ++i) others.emplace_back(run);
  run();
  for (auto& thread : others) thread.join();
  if (first) std::rethrow_exception(first);
  return !stop.requested();
}

void inParallel(const std::function<void()>& one, const std::function<void()>& other) {
  forEachBand(
      2, StopFlag{}, [&](const Band& band) { (band.begin == 0 ? one : other)(); }, 1);
}

bool forEachBand(int rows, const std::function<void(const Band&)>& work, int bandRows) {
  return forEachBand(rows, StopFlag{}, work, bandRows);
}

} // namespace ml
