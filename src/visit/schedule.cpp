// SPDX-License-Identifier: GPL-3.0-or-later
#include "visit/schedule.h"

#include "base/parallel.h"

#include <algorithm>
#include <bitset>
#include <cmath>
#include <limits>
#include <random>
#include <tuple>

namespace ml {
namespace {

/// What is known of a sequence of tasks when its beginning may still be moved: it ends at max(earliest, begin + busy),
/// for any beginning up to `latest`.
struct Label {
  int earliest = 0, busy = 0, latest = 0;
  int parent = -1; ///< Of its pool.
  int task = -1;

  [[nodiscard]] int length() const { return std::max(earliest - latest, busy); }
  [[nodiscard]] bool beats(const Label& other) const {
    return earliest <= other.earliest && busy <= other.busy && latest >= other.latest;
  }
};

/// When a sequence begins that is as short as it can be, and then as early.
int firstBegin(const ScheduleRequest& request, const Label& label) {
  return std::clamp(label.earliest - label.busy, request.from, label.latest);
}

Label beginning(const ScheduleRequest& request) {
  return {request.from, 0, request.to};
}

/// `label` followed by a task that begins inside `begins`; nothing when it comes too late.
std::optional<Label> followed(const Label& label, int parent, int task, int way, int lasts,
                              const std::pair<int, int>& begins, const ScheduleRequest& request) {
  const int last = std::min(begins.second, request.to - lasts);
  const Label next{std::max(label.earliest + way, begins.first) + lasts, label.busy + way + lasts,
                   std::min(label.latest, last - way - label.busy), parent, task};
  if (begins.first > last || label.earliest + way > last || next.latest < request.from) return {};
  return next;
}

int wayTo(const ScheduleRequest& request, int from, int to) {
  return from < 0 ? request.firstWay[std::size_t(to)] : request.ways[std::size_t(from)][std::size_t(to)];
}

/// Labels of which none beats another; pool indices.
void keepBest(std::vector<int>& kept, std::vector<Label>& pool, const Label& label) {
  for (const int other : kept)
    if (pool[std::size_t(other)].beats(label)) return;
  std::erase_if(kept, [&](int other) { return label.beats(pool[std::size_t(other)]); });
  kept.push_back(int(pool.size()));
  pool.push_back(label);
}

/// Every way to go on from `from` with `task`.
void extend(const ScheduleRequest& request, std::vector<Label>& pool, int from, int task, std::vector<int>& into) {
  const auto& t = request.tasks[std::size_t(task)];
  const int way = wayTo(request, pool[std::size_t(from)].task, task);
  for (const auto& begins : t.begins)
    if (const auto next = followed(pool[std::size_t(from)], from, task, way, t.seconds, begins, request))
      keepBest(into, pool, *next);
}

std::vector<int> tasksOf(const std::vector<Label>& pool, int label) {
  std::vector<int> out;
  for (; label >= 0 && pool[std::size_t(label)].task >= 0; label = pool[std::size_t(label)].parent)
    out.push_back(pool[std::size_t(label)].task);
  std::reverse(out.begin(), out.end());
  return out;
}

/// The earliest time from `at` on, and the latest up to it, at which a task may begin.
std::optional<int> beginsFrom(const ScheduleTask& task, int at, int last) {
  for (const auto& [first, end] : task.begins)
    if (const int begin = std::max(first, at); begin <= std::min(end, last)) return begin;
  return {};
}
std::optional<int> beginsUpTo(const ScheduleTask& task, int at) {
  for (auto it = task.begins.rbegin(); it != task.begins.rend(); ++it)
    if (it->first <= at) return std::min(at, it->second);
  return {};
}

/// Those that are asked to be late move towards the next.
void putOff(const ScheduleRequest& request, std::vector<Schedule::Entry>& order) {
  for (std::size_t i = order.size(); i-- > 0;) {
    auto& entry = order[i];
    const auto& task = request.tasks[std::size_t(entry.task)];
    if (!task.late) continue;
    const int end =
        i + 1 < order.size() ? order[i + 1].begin - wayTo(request, entry.task, order[i + 1].task) : request.to;
    if (const auto begin = beginsUpTo(task, end - task.seconds); begin && *begin > entry.begin)
      entry = {entry.task, *begin, *begin + task.seconds};
  }
}

/// Clock times of the sequence that ends in `label`.
Schedule scheduleOf(const ScheduleRequest& request, const std::vector<Label>& pool, int label) {
  Schedule out;
  std::vector<char> done(request.tasks.size());
  if (label >= 0 && pool[std::size_t(label)].task >= 0) {
    const Label& whole = pool[std::size_t(label)];
    out.begin = request.late ? whole.latest : firstBegin(request, whole);
    out.busy = whole.busy;
    out.length = whole.length();
    int now = out.begin, place = -1;
    for (const int task : tasksOf(pool, label)) {
      const auto& t = request.tasks[std::size_t(task)];
      const int begin = beginsFrom(t, now + wayTo(request, place, task), request.to).value_or(now);
      out.order.push_back({task, begin, begin + t.seconds});
      out.worth += t.worth;
      done[std::size_t(task)] = 1;
      now = begin + t.seconds;
      place = task;
    }
    putOff(request, out.order);
  }
  for (std::size_t i = 0; i < done.size(); ++i)
    if (!done[i]) out.leftOut.push_back(int(i));
  return out;
}

Schedule exactSchedule(const ScheduleRequest& request) {
  const int count = int(request.tasks.size());
  std::vector<Label> pool{beginning(request)};
  std::vector<std::vector<int>> labels((std::size_t(1) << count) * std::size_t(std::max(1, count)));
  const auto at = [&](std::size_t set, int last) -> std::vector<int>& {
    return labels[set * std::size_t(count) + std::size_t(last)];
  };
  int best = 0, bestWorth = 0;
  const auto consider = [&](std::size_t set, int label) {
    int worth = 0;
    const std::bitset<32> in(set);
    for (int i = 0; i < count; ++i)
      if (in[std::size_t(i)]) worth += request.tasks[std::size_t(i)].worth;
    const auto rank = [&](const Label& l) {
      return std::tuple(l.length(), l.busy, request.late ? -l.latest : firstBegin(request, l));
    };
    if (worth > bestWorth || (worth == bestWorth && rank(pool[std::size_t(label)]) < rank(pool[std::size_t(best)]))) {
      best = label;
      bestWorth = worth;
    }
  };
  for (int i = 0; i < count; ++i) extend(request, pool, 0, i, at(std::size_t(1) << i, i));
  for (std::size_t set = 1; set < (std::size_t(1) << count); ++set) {
    const std::bitset<32> in(set);
    for (int last = 0; last < count; ++last) {
      if (!in[std::size_t(last)]) continue;
      const auto& here = at(set, last);
      for (const int label : here) {
        consider(set, label);
        for (int next = 0; next < count; ++next)
          if (!in[std::size_t(next)]) extend(request, pool, label, next, at(set | (std::size_t(1) << next), next));
      }
    }
  }
  return scheduleOf(request, pool, best);
}

/// Tries the tasks in an order, again and again, on memory that is kept.
class OrderTrial {
public:
  explicit OrderTrial(const ScheduleRequest& request) : request_(request) {}

  /// One figure to make small; `worthSeconds`: of length that one worth is given up for.
  double cost(const std::vector<int>& order, double worthSeconds) {
    run(order);
    const Label& end = pool_[std::size_t(best_)];
    return -worthSeconds * worth_ + end.length() + 0.1 * end.busy;
  }
  /// That of the order tried last which decides in the end: worth before all.
  [[nodiscard]] double lastCost() const {
    const Label& end = pool_[std::size_t(best_)];
    return -1e7 * worth_ + end.length() + 1e-6 * end.busy;
  }
  Schedule schedule(const std::vector<int>& order) {
    run(order);
    return scheduleOf(request_, pool_, best_);
  }

private:
  void run(const std::vector<int>& order) {
    pool_.assign(1, beginning(request_));
    now_.assign(1, 0);
    worth_ = 0;
    for (const int task : order) {
      next_.clear();
      for (const int label : now_) extend(request_, pool_, label, task, next_);
      if (next_.empty()) continue;
      worth_ += request_.tasks[std::size_t(task)].worth;
      now_.swap(next_);
    }
    best_ = *std::min_element(now_.begin(), now_.end(), [&](int a, int b) {
      const Label &x = pool_[std::size_t(a)], &y = pool_[std::size_t(b)];
      return std::pair(x.length(), x.busy) < std::pair(y.length(), y.busy);
    });
  }

  const ScheduleRequest& request_;
  std::vector<Label> pool_;
  std::vector<int> now_, next_;
  int best_ = 0, worth_ = 0;
};

/// One small change of an order: a task elsewhere, two exchanged, or a stretch turned round.
void change(std::vector<int>& order, std::mt19937& random) {
  const auto place = [&] { return int(random() % order.size()); };
  int a = place(), b = place();
  switch (random() % 4) {
  case 0: std::swap(order[std::size_t(a)], order[std::size_t(b)]); break;
  case 1:
    if (a > b) std::swap(a, b);
    std::reverse(order.begin() + a, order.begin() + b + 1);
    break;
  default: // a short stretch goes elsewhere
    const int length = std::min<int>(1 + int(random() % 3), int(order.size()) - a);
    const std::vector<int> moved(order.begin() + a, order.begin() + a + length);
    order.erase(order.begin() + a, order.begin() + a + length);
    b = order.empty() ? 0 : int(random() % (order.size() + 1));
    order.insert(order.begin() + b, moved.begin(), moved.end());
  }
}

/// Tasks that find no time in `order` are tried at every place of it, until none gains.
void insertLeftOut(OrderTrial& trial, std::vector<int>& order, double cost) {
  for (bool gained = true; gained;) {
    gained = false;
    for (const int task : trial.schedule(order).leftOut)
      for (std::size_t place = 0; place < order.size(); ++place) {
        std::vector<int> tried = order;
        std::erase(tried, task);
        tried.insert(tried.begin() + std::ptrdiff_t(place), task);
        trial.cost(tried, 0);
        if (const double next = trial.lastCost(); next < cost) {
          cost = next;
          order = tried;
          gained = true;
        }
      }
  }
}

int lastBegin(const ScheduleTask& task) {
  return task.begins.empty() ? std::numeric_limits<int>::max() : task.begins.back().second;
}

} // namespace

bool better(const Schedule& a, const Schedule& b) {
  if (a.worth != b.worth) return a.worth > b.worth;
  return std::pair(a.length, a.busy) < std::pair(b.length, b.busy);
}

Schedule inThisOrder(const ScheduleRequest& request, const std::vector<int>& order) {
  return OrderTrial(request).schedule(order);
}

Schedule searchSchedule(const ScheduleRequest& request, int rounds, unsigned seed) {
  std::vector<int> order(request.tasks.size());
  for (std::size_t i = 0; i < order.size(); ++i) order[i] = int(i);
  if (order.empty()) return scheduleOf(request, {}, -1);
  std::sort(order.begin(), order.end(), [&](int a, int b) {
    return std::pair(lastBegin(request.tasks[std::size_t(a)]), a) <
           std::pair(lastBegin(request.tasks[std::size_t(b)]), b);
  });
  OrderTrial trial(request);
  std::mt19937 random(seed);
  std::vector<int> best = order;
  // At first a view is given up for a shorter visit, so that the order can change; then none is.
  constexpr double kFirst = 0.7, kWorth = 3000, kHot = 300, kCold = 3; // seconds of a visit
  const double whole = std::max(kWorth, 2.0 * (request.to - request.from));
  double cost = trial.cost(order, kWorth), bestCost = trial.lastCost();
  std::vector<int> tried;
  for (int round = 0; round < rounds; ++round) {
    const double worth = round < kFirst * rounds ? kWorth : whole;
    if (round == int(kFirst * rounds)) cost = trial.cost(order, worth);
    tried = order;
    change(tried, random);
    const double next = trial.cost(tried, worth);
    const double warmth = kHot * std::pow(kCold / kHot, double(round) / rounds);
    const double chance = double(random()) / double(std::mt19937::max());
    if (next > cost && chance >= std::exp((cost - next) / warmth)) continue;
    order.swap(tried);
    cost = next;
    if (const double last = trial.lastCost(); last < bestCost) {
      bestCost = last;
      best = order;
    }
  }
  insertLeftOut(trial, best, bestCost);
  return trial.schedule(best);
}

Schedule findSchedule(const ScheduleRequest& request) {
  if (int(request.tasks.size()) <= kExactTasks) return exactSchedule(request);
  Schedule one, other; // two searches, at once where there are two cores
  inParallel([&] { one = searchSchedule(request, kSearchRounds, 1); },
             [&] { other = searchSchedule(request, kSearchRounds, 2); });
  return better(other, one) ? other : one;
}

} // namespace ml
