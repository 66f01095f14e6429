// SPDX-License-Identifier: GPL-3.0-or-later
// Background work: only the newest counts, starting never waits, what throws becomes a sentence.
#include "model/lane.h"
#include "support/wait.h"

#include <QSignalSpy>
#include <atomic>
#include <latch>
#include <new>

using namespace ml;
using test::waitFor;

class TestLane : public QObject {
  Q_OBJECT

private slots:
  void whatItReturnsRunsHere() {
    Lane lane;
    QSignalSpy running(&lane, &Lane::runningChanged), progress(&lane, &Lane::progressed);
    const auto here = std::this_thread::get_id();
    std::thread::id worked, applied;
    lane.start([&](const Progress& p) -> std::function<void()> {
      worked = std::this_thread::get_id();
      p.at("half", 0.5);
      return [&] { applied = std::this_thread::get_id(); };
    });
    QVERIFY(lane.running());
    QVERIFY(waitFor([&] { return !lane.running(); }));
    QVERIFY(worked != here);
    QVERIFY(applied == here);
    QCOMPARE(running.count(), 2);
    QCOMPARE(progress.at(0).at(1).toDouble(), 0.5);
  }

  // The first is held until a second and a third were started: starting did not wait for it, and the second is never
  // begun.
  void startingNeverWaitsAndTheNewestCounts() {
    Lane lane;
    std::latch begun(1), go(1);
    std::vector<int> applied;
    std::atomic<int> second{0};
    bool stopSeen = false;
    lane.start([&](const Progress& p) -> std::function<void()> {
      begun.count_down();
      go.wait();
      stopSeen = p.stopRequested();
      return [&] { applied.push_back(1); };
    });
    begun.wait();
    lane.start([&](const Progress&) -> std::function<void()> {
      ++second;
      return [&] { applied.push_back(2); };
    });
    lane.start([&](const Progress&) -> std::function<void()> { return [&] { applied.push_back(3); }; });
    QVERIFY(lane.running());
    go.count_down();
    QVERIFY(waitFor([&] { return !lane.running(); }));
    QVERIFY(stopSeen);
    QCOMPARE(second.load(), 0);
    QCOMPARE(applied, std::vector<int>{3});
  }

  void whatThrowsBecomesASentence() {
    Lane lane;
    QSignalSpy failed(&lane, &Lane::failed);
    lane.start([](const Progress&) -> std::function<void()> { throw std::bad_alloc(); });
    QVERIFY(waitFor([&] { return !lane.running(); }));
    QVERIFY(failed.at(0).at(0).toString().contains("not enough memory"));
    lane.start([](const Progress&) -> std::function<void()> { throw std::runtime_error("the lens fell off"); });
    QVERIFY(waitFor([&] { return !lane.running(); }));
    QVERIFY(failed.at(1).at(0).toString().contains("the lens fell off"));
    bool again = false;
    lane.start([&](const Progress&) -> std::function<void()> { return [&] { again = true; }; });
    QVERIFY(waitFor([&] { return again; }));
  }

  void workThatIsGivenUpBringsNothing() {
    Lane lane;
    bool applied = false, ended = false;
    std::latch begun(1);
    lane.start([&](const Progress& p) -> std::function<void()> {
      begun.count_down();
      while (!p.stopRequested()) std::this_thread::yield();
      ended = true;
      return [&] { applied = true; };
    });
    begun.wait();
    lane.abandon();
    QVERIFY(ended); // nothing of it runs any more
    QVERIFY(!lane.running());
    QCoreApplication::processEvents();
    QVERIFY(!applied);
  }

  void waitingDropsNothing() {
    Lane lane;
    std::atomic<bool> done{false};
    bool applied = false;
    lane.start([&](const Progress&) -> std::function<void()> {
      done = true;
      return [&] { applied = true; };
    });
    lane.wait();
    QVERIFY(done);
    QVERIFY(waitFor([&] { return applied; }));
  }

  void itEndsWithWorkUnderWay() {
    std::atomic<bool> stopped{false};
    {
      Lane lane;
      std::latch begun(1);
      lane.start([&](const Progress& p) -> std::function<void()> {
        begun.count_down();
        while (!p.stopRequested()) std::this_thread::yield();
        stopped = true;
        return {};
      });
      begun.wait();
    }
    QVERIFY(stopped);
  }

  // What follows a piece may be started by what it brings.
  void oneMayFollowTheOther() {
    Lane lane;
    QSignalSpy running(&lane, &Lane::runningChanged);
    int rounds = 0;
    std::function<void()> next = [&] {
      if (++rounds < 20) lane.start([&](const Progress&) { return next; });
    };
    lane.start([&](const Progress&) { return next; });
    QVERIFY(waitFor([&] { return rounds == 20 && !lane.running(); }));
    QCOMPARE(running.last().at(0).toBool(), false);
  }
};

QTEST_GUILESS_MAIN(TestLane)
#include "test_lane.moc"
