// SPDX-License-Identifier: GPL-3.0-or-later
// Orders of visits against a search ten times as long, and a logbook of 20,000 visits: ml_visit_benchmark
#include "logbook/store.h"
#include "visit/schedule.h"

#include <QCoreApplication>
#include <QTemporaryDir>
#include <algorithm>
#include <chrono>
#include <cmath>
#include <cstdio>
#include <ctime>
#include <random>

using namespace ml;

namespace {

struct Clock {
  std::chrono::steady_clock::time_point begun = std::chrono::steady_clock::now();
  std::clock_t processor = std::clock();
  [[nodiscard]] double milliseconds() const {
    return std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - begun).count();
  }
  [[nodiscard]] double processorMilliseconds() const { return 1e3 * double(std::clock() - processor) / CLOCKS_PER_SEC; }
};

/// Views about a house and its garden, a third at any time, the others with one or two windows.
ScheduleRequest visitOf(int views, unsigned seed, double secondsEach) {
  std::mt19937 random(seed);
  const auto upTo = [&](double most) { return double(random()) / 4294967296.0 * most; };
  ScheduleRequest out;
  out.to = int(views * secondsEach);
  std::vector<std::pair<double, double>> stands;
  for (int i = 0; i < views; ++i) {
    stands.emplace_back(upTo(300), upTo(300));
    ScheduleTask task;
    task.seconds = 120 + int(upTo(360));
    int from = 0;
    for (int windows = int(upTo(3)); windows > 0; --windows) {
      const int first = from + int(upTo(out.to / 2.0)), last = first + 600 + int(upTo(out.to / 4.0));
      task.begins.emplace_back(first, last);
      from = last + 60;
    }
    if (task.begins.empty()) task.begins.emplace_back(0, out.to);
    out.tasks.push_back(task);
    out.firstWay.push_back(0);
  }
  for (const auto& a : stands) {
    out.ways.emplace_back();
    for (const auto& b : stands) out.ways.back().push_back(int(std::hypot(a.first - b.first, a.second - b.second)));
  }
  return out;
}

void orders(int views) {
  double worst = 0, slowest = 0;
  int fewer = 0;
  constexpr int kVisits = 12;
  for (unsigned seed = 1; seed <= kVisits; ++seed) {
    const auto request = visitOf(views, seed, seed % 2 ? 420 : 600);
    const Clock clock;
    const auto found = findSchedule(request);
    slowest = std::max(slowest, clock.milliseconds());
    Schedule best = found;
    for (unsigned again = 2; again < 5; ++again)
      if (const auto longer = searchSchedule(request, 1000000, again); better(longer, best)) best = longer;
    if (best.worth != found.worth)
      ++fewer;
    else
      worst = std::max(worst, double(found.length) / best.length - 1);
  }
  std::printf(
      "%d views: slowest %.0f ms; at worst %.2f %% longer than the best of three searches of a million rounds, %d "
      "of %d with fewer views\n",
      views, slowest, 100 * worst, fewer, kVisits);
}

void logbook() {
  const QTemporaryDir dir;
  auto book = Logbook::open(dir.filePath("logbook.sqlite").toStdString());
  std::vector<LogEntry> all;
  static const char* const kWords[] = {"shutter", "timber", "mist", "cable", "lake", "stair", "beam", "lamp"};
  for (int i = 0; i < 20000; ++i) {
    LogEntry entry;
    entry.folder = "/jobs/" + std::to_string(i);
    entry.name = "House " + std::to_string(i);
    entry.date = "2026-06-" + std::to_string(10 + i % 20);
    entry.lesson = std::string("Mind the ") + kWords[i % 8];
    for (int k = 0; k < 4; ++k) {
      LogView view;
      view.name = "Room " + std::to_string(k);
      view.kind = k % 2 ? "interior" : "exterior";
      view.spent = {{"shoot", 100}};
      view.verdict = "All frames hold what they were shot for.";
      entry.views.push_back(view);
    }
    all.push_back(std::move(entry));
  }
  const Clock filling;
  if (!book->put(all)) return;
  std::printf("20,000 visits of four views written in %.1f s (%.1f s of processor)\n", filling.milliseconds() / 1e3,
              filling.processorMilliseconds() / 1e3);
  for (const char* words : {"house 1234", "beam", "mind room hold", "nothing"}) {
    LogQuery query;
    query.words = words;
    const Clock clock;
    const auto rows = book->search(query);
    std::printf("  \"%s\": %zu visits in %.1f ms\n", words, rows->size(), clock.milliseconds());
  }
  const Clock counting;
  const auto learnt = learntFrom(*book->cases());
  std::printf("  everything learnt from %d visits in %.0f ms (%zu sentences)\n", *book->count(),
              counting.milliseconds(), learnt.size());
}

} // namespace

int main(int count, char** arguments) {
  const QCoreApplication application(count, arguments);
  for (const int views : {8, 12, 20, 40}) orders(views);
  logbook();
}
