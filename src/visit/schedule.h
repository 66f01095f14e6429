// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <optional>
#include <utility>
#include <vector>

namespace ml {

/// One thing to do at one place. Times are whole seconds from any zero.
struct ScheduleTask {
  int seconds = 0;
  /// It may begin from first to second, both included; sorted, apart from each other. Empty: it cannot be done.
  std::vector<std::pair<int, int>> begins;
  int worth = 1;     ///< Above 0: against others that would take its time.
  bool late = false; ///< Begins as late as the rest allows, instead of as early.
};

struct ScheduleRequest {
  std::vector<ScheduleTask> tasks;
  std::vector<std::vector<int>> ways; ///< Seconds from one task's place to another's; square.
  std::vector<int> firstWay;          ///< From where one stands at the beginning; as long as tasks.
  int from = 0, to = 0;               ///< All is done between them.
  bool late = false;                  ///< Of those of one length, the schedule that begins last.
};

/// What is done when.
struct Schedule {
  struct Entry {
    int task = 0, begin = 0, end = 0;
    friend bool operator==(const Entry&, const Entry&) = default;
  };
  std::vector<Entry> order;
  std::vector<int> leftOut; ///< Tasks that find no time.
  int begin = 0;            ///< When one sets out for the first.
  int worth = 0;            ///< Of what is done.
  int busy = 0;             ///< Tasks and ways, without waiting; seconds.
  /// From setting out to the end of the last; the views that wait for their time are not moved for this.
  int length = 0;
};

inline constexpr int kExactTasks = 12;

/// The most worth; of those schedules the shortest; of those the one with the least way. Exact up to kExactTasks, by
/// dynamic programming over sets of tasks (Held and Karp, J. SIAM 10, 1962) with, for each set and last task, every
/// pair of earliest end and latest beginning that no other beats; beyond that a search (see searchSchedule). The same
/// request gives the same schedule.
[[nodiscard]] Schedule findSchedule(const ScheduleRequest& request);

/// Simulated annealing over the order in which tasks are tried (Kirkpatrick et al., Science 220, 1983), of `rounds`
/// steps. Any number of tasks.
[[nodiscard]] Schedule searchSchedule(const ScheduleRequest& request, int rounds, unsigned seed = 1);
/// Those of findSchedule: about 0.14 s for 40 tasks; lengths then lay within 1.2 % of the best of three searches of a
/// million rounds.
inline constexpr int kSearchRounds = 150000;

/// All of `order` that finds its time, one after the other.
[[nodiscard]] Schedule inThisOrder(const ScheduleRequest& request, const std::vector<int>& order);

/// Is `a` better than `b`?
[[nodiscard]] bool better(const Schedule& a, const Schedule& b);

} // namespace ml
