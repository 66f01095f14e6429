// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "base/progress.h"
#include <functional>

namespace ml {

/// Rows [begin, end) of band number `index`.
struct Band {
  int begin = 0, end = 0, index = 0;
};

inline constexpr int kBandRows = 32;

[[nodiscard]] int bandCount(int rows, int bandRows = kBandRows);

/// Threads used by forEachBand; 0 (the default) means one for each core.
void setThreadCount(int threads);
[[nodiscard]] int threadCount();

/// While one lives, forEachBand uses only the thread that called it: for work that is one of enough pieces already.
/// Same bits.
class OnThisThread {
public:
  OnThisThread();
  ~OnThisThread();
  OnThisThread(const OnThisThread&) = delete;
  OnThisThread& operator=(const OnThisThread&) = delete;
};

/// Calls `work` once for each band of `bandRows` rows. The bands depend only on `rows`, never on the number of
/// threads, so sums joined in band order give the same bits on any machine. Returns false when stopped early. What
/// `work` throws (std::bad_alloc, say) ends the other bands and is thrown again here, whichever thread it came from.
bool forEachBand(int rows, const StopFlag& stop, const std::function<void(const Band&)>& work,
                 int bandRows = kBandRows);
bool forEachBand(int rows, const std::function<void(const Band&)>& work, int bandRows = kBandRows);

/// Both at once, on two threads where there are two.
void inParallel(const std::function<void()>& one, const std::function<void()>& other);

} // namespace ml
