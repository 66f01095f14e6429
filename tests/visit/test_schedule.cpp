// SPDX-License-Identifier: GPL-3.0-or-later
#include <QTest> // first: moc of Qt 6.4 cannot read <compare> on its own

#include "visit/schedule.h"

#include <algorithm>
#include <cmath>
#include <random>

using namespace ml;

namespace {

/// What trying all orders and all beginnings finds: most worth, least length, least time busy.
struct Found {
  int worth = 0, length = 0, busy = 0;
};

Found tryAll(const ScheduleRequest& request) {
  Found best;
  const int count = int(request.tasks.size());
  std::vector<int> order(request.tasks.size());
  for (int i = 0; i < count; ++i) order[std::size_t(i)] = i;
  do {
    for (int begin = request.from; begin <= request.to; ++begin)
      for (int skipped = 0; skipped < (1 << count); ++skipped) {
        int now = begin, worth = 0, busy = 0, place = -1;
        bool possible = true;
        for (const int task : order) {
          if (skipped & (1 << task)) continue;
          const auto& t = request.tasks[std::size_t(task)];
          const int way =
              place < 0 ? request.firstWay[std::size_t(task)] : request.ways[std::size_t(place)][std::size_t(task)];
          int at = now + way;
          const auto fits = [&](int when) {
            return std::any_of(t.begins.begin(), t.begins.end(),
                               [&](auto b) { return b.first <= when && when <= b.second; });
          };
          while (at <= request.to && !fits(at)) ++at;
          if (at + t.seconds > request.to) {
            possible = false;
            break;
          }
          now = at + t.seconds;
          busy += way + t.seconds;
          worth += t.worth;
          place = task;
        }
        if (!possible || place < 0) continue;
        const int length = now - begin;
        if (worth > best.worth || (worth == best.worth && std::pair(length, busy) < std::pair(best.length, best.busy)))
          best = {worth, length, busy};
      }
  } while (std::next_permutation(order.begin(), order.end()));
  return best;
}

/// Tasks about a place of `size` seconds across, each with up to three windows.
ScheduleRequest puzzle(int count, unsigned seed, int span, double size) {
  std::mt19937 random(seed);
  const auto upTo = [&](double most) { return double(random()) / 4294967296.0 * most; };
  ScheduleRequest out;
  out.to = span;
  std::vector<std::pair<double, double>> places;
  for (int i = 0; i < count; ++i) {
    places.emplace_back(upTo(size), upTo(size));
    ScheduleTask task;
    task.seconds = 1 + int(upTo(1.4 * span / count));
    task.worth = 1 + int(upTo(3));
    task.late = upTo(1) < 0.3;
    const int windows = int(upTo(4));
    int from = 0;
    for (int w = 0; w < windows; ++w) {
      const int first = from + int(upTo(span / 2.)), last = first + int(upTo(span / 3.)); // also beyond the end
      task.begins.emplace_back(first, last);
      from = last + 2;
    }
    if (windows == 0) task.begins.emplace_back(0, std::max(0, span - task.seconds));
    out.tasks.push_back(task);
    out.firstWay.push_back(int(upTo(size / 4)));
  }
  for (const auto& a : places) {
    out.ways.emplace_back();
    for (const auto& b : places) out.ways.back().push_back(int(std::hypot(a.first - b.first, a.second - b.second)));
  }
  return out;
}

/// Does the schedule keep all that was asked?
QString broken(const ScheduleRequest& request, const Schedule& schedule) {
  int now = schedule.begin, place = -1, worth = 0;
  std::vector<int> seen(request.tasks.size());
  for (const auto& entry : schedule.order) {
    const auto& task = request.tasks[std::size_t(entry.task)];
    const int way = place < 0 ? request.firstWay[std::size_t(entry.task)]
                              : request.ways[std::size_t(place)][std::size_t(entry.task)];
    if (entry.begin < now + way) return "comes before one can be there";
    if (entry.end != entry.begin + task.seconds) return "length";
    if (std::none_of(task.begins.begin(), task.begins.end(),
                     [&](auto b) { return b.first <= entry.begin && entry.begin <= b.second; }))
      return "outside its windows";
    if (entry.end > request.to) return "too late";
    now = entry.end;
    place = entry.task;
    worth += task.worth;
    ++seen[std::size_t(entry.task)];
  }
  for (const int task : schedule.leftOut) ++seen[std::size_t(task)];
  if (std::any_of(seen.begin(), seen.end(), [](int n) { return n != 1; })) return "a task is not there once";
  if (schedule.begin < request.from || worth != schedule.worth) return "beginning or worth";
  return {};
}

} // namespace

class TestSchedule : public QObject {
  Q_OBJECT

private slots:
  void exactAgainstTryingAll() {
    int full = 0, waits = 0;
    for (unsigned seed = 1; seed <= 150; ++seed) {
      const int count = 2 + int(seed % 4);
      const auto request = puzzle(count, seed, 50, 12);
      const auto found = findSchedule(request);
      QCOMPARE(broken(request, found), QString());
      const auto best = tryAll(request);
      QCOMPARE(found.worth, best.worth);
      QCOMPARE(found.length, best.length);
      QCOMPARE(found.busy, best.busy);
      full += found.leftOut.empty();
      waits += found.length > found.busy;
    }
    QVERIFY2(full > 5 && full < 145 && waits > 5,
             qPrintable(QString("%1 %2").arg(full).arg(waits))); // both kinds are among them
  }

  void earlyAndLate() {
    ScheduleRequest request;
    request.to = 100;
    request.tasks = {{10, {{20, 60}}, 1, false}, {10, {{0, 90}}, 1, false}};
    request.ways = {{0, 5}, {5, 0}};
    request.firstWay = {0, 0};
    QCOMPARE(findSchedule(request).begin, 5);
    QCOMPARE(findSchedule(request).length, 25);
    request.late = true;
    QCOMPARE(findSchedule(request).length, 25);
    QCOMPARE(findSchedule(request).begin, 60); // the first at its latest, then the other
    request.late = false;
    request.tasks[0].late = true; // alone puts itself off
    const auto found = findSchedule(request);
    QCOMPARE(found.order.back().task == 0 ? found.order.back().begin : found.order.front().begin, 60);
  }

  void searchIsNearlyExactAndKeepsTheRules() {
    for (unsigned seed = 1; seed <= 12; ++seed) {
      const auto request = puzzle(9, seed, 4000, 500);
      const auto exact = findSchedule(request), search = searchSchedule(request, kSearchRounds);
      QCOMPARE(broken(request, search), QString());
      QVERIFY(!better(search, exact));
      QCOMPARE(search.worth, exact.worth);
      QVERIFY(search.length <= 1.02 * exact.length);
    }
    for (unsigned seed = 1; seed <= 3; ++seed) {
      const auto request = puzzle(40, seed, 16000, 300);
      const auto found = findSchedule(request);
      QCOMPARE(broken(request, found), QString());
      const auto longer = searchSchedule(request, 5 * kSearchRounds, seed + 7);
      QVERIFY2(found.worth >= longer.worth - longer.worth / 50,
               qPrintable(QString::number(longer.worth - found.worth)));
      if (found.worth == longer.worth) QVERIFY(found.length <= 1.02 * longer.length);
    }
  }

  void theSameRequestGivesTheSame() {
    const auto request = puzzle(30, 5, 9000, 300);
    QVERIFY(searchSchedule(request, 3000).order == searchSchedule(request, 3000).order);
  }

  void nothingToDo() {
    QVERIFY(findSchedule({}).order.empty());
    ScheduleRequest request;
    request.to = 10;
    request.tasks = {{20, {}, 1, false}};
    request.ways = {{0}};
    request.firstWay = {0};
    QCOMPARE(findSchedule(request).leftOut, std::vector<int>{0});
    for (int i = 0; i < 20; ++i) { // and of many
      request.tasks.push_back(request.tasks.front());
      request.firstWay.push_back(0);
    }
    request.ways.assign(21, std::vector<int>(21, 0));
    QCOMPARE(findSchedule(request).leftOut.size(), std::size_t(21));
  }
};

QTEST_APPLESS_MAIN(TestSchedule)
#include "test_schedule.moc"
