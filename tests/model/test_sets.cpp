// SPDX-License-Identifier: GPL-3.0-or-later
// Sets of frames under undo, without a window: what the user said of a set is undone, and nothing that came since is
// lost.
#include <QTest> // first: moc of Qt 6.4 cannot read <compare> on its own

#include "ingest/load_frame.h"
#include "model/workbench.h"
#include "support/scenes.h"
#include "support/wait.h"

#include <QGuiApplication>
#include <QStandardPaths>
#include <QTime>
#include <QUndoStack>

using namespace ml;

class TestSets : public QObject {
  Q_OBJECT

private:
  std::unique_ptr<QTemporaryDir> dir_;
  std::unique_ptr<Workbench> bench_;

  [[nodiscard]] bool settled() {
    return test::waitFor([&] { return bench_->settled() && !bench_->busy(); });
  }
  void shootOnce() {
    bench_->shoot.shoot();
    QVERIFY(settled());
  }
  /// What is shown is what is on disk.
  void compareWithDisk() {
    const auto again = Job::open(bench_->job().folder());
    QVERIFY(again.has_value());
    const View &shown = bench_->view(), &disk = again->views()[std::size_t(bench_->desk.job.viewIndex())];
    QCOMPARE(disk.sets.size(), shown.sets.size());
    for (std::size_t i = 0; i < shown.sets.size(); ++i) {
      QVERIFY2(disk.sets[i].frames == shown.sets[i].frames,
               qPrintable(QString("set %1 has %2 frames on disk and %3 shown")
                              .arg(i)
                              .arg(disk.sets[i].frames.size())
                              .arg(shown.sets[i].frames.size())));
      QCOMPARE(disk.sets[i].label, shown.sets[i].label);
    }
  }

  /// Of "2026:05:14 10:00:07".
  static int secondsOfDay(const std::string& taken) {
    return QTime::fromString(QString::fromStdString(taken.substr(11)), "HH:mm:ss").msecsSinceStartOfDay() / 1000;
  }

private slots:
  void initTestCase() { QStandardPaths::setTestModeEnabled(true); }
  void init() {
    dir_ = std::make_unique<QTemporaryDir>();
    bench_ = std::make_unique<Workbench>(test::pathOf(*dir_));
    QVERIFY(bench_->opening.openDemo(test::pathOf(*dir_)));
    QVERIFY(settled());
    QVERIFY(bench_->light.typeReading("sky", "16"));
    QVERIFY(bench_->light.typeReading("corner", "5"));
    QVERIFY(settled());
    shootOnce();
  }

  /// A plan that holds the window with flash: the set, then one frame more, which is told apart and fills the window.
  void theWindowIsShotWithFlash() {
    bench_->frames.chooseWay("window-flash");
    QVERIFY(settled());
    QVERIFY(bench_->view().plan && bench_->view().plan->flashFrames() == 1);
    shootOnce();
    ShootModel& shoot = bench_->shoot;
    QCOMPARE(shoot.shot().size(), std::size_t(2));
    QVERIFY2(shoot.check().verdict.good(), shoot.check().verdict.sentence.c_str());
    QVERIFY2(shoot.verdict().contains("photosensitive"), qPrintable(shoot.verdict()));
    QCOMPARE(shoot.next().words, QString("Shoot the window with flash"));
    shoot.doNext();
    QVERIFY(settled());
    const View& view = bench_->view();
    const auto& frames = view.sets[std::size_t(view.activeSet)].frames;
    QCOMPARE(frames.size(), std::size_t(3));
    for (std::size_t i = 0; i < 3; ++i) {
      const auto facts = inspectFile(frames[i].file);
      QVERIFY(facts.has_value());
      QCOMPARE(facts->metadata.flash, i == 2);
    }
    QVERIFY2(shoot.check().verdict.good(), shoot.check().verdict.sentence.c_str());
    QVERIFY(shoot.check().judged[2].flaws.empty());
    QCOMPARE(shoot.next().words, QString("On to Combine"));
    shoot.doNext();
    QVERIFY(settled());
    bench_->combine.doNext();
    QVERIFY(settled());
    QVERIFY2(bench_->combine.verdict().contains("lit by flash"), qPrintable(bench_->combine.verdict()));
    QVERIFY(bench_->view().combined && bench_->view().combined->report);
    QCOMPARE(std::count_if(bench_->view().combined->report->frames.begin(),
                           bench_->view().combined->report->frames.end(), [](const auto& f) { return f.flash; }),
             std::ptrdiff_t(1));
    compareWithDisk();
  }

  /// Three sets five minutes apart, by the clocks of their frames; a set that fails ends it.
  void setsAtAnInterval() {
    bench_->interval.begin(5, 3);
    QVERIFY(settled());
    QCOMPARE(bench_->interval.toCome(), 0);
    QCOMPARE(bench_->view().sets.size(), std::size_t(4));
    const auto at = [&](std::size_t set) {
      const auto facts = inspectFile(bench_->view().sets[set].frames.front().file);
      return facts ? secondsOfDay(facts->metadata.takenAt) : -1;
    };
    for (std::size_t i = 2; i < 4; ++i)
      QVERIFY2(std::abs(at(i) - at(i - 1) - 300) <= 1, qPrintable(QString::number(at(i) - at(i - 1))));
    compareWithDisk();
    bench_->desk.camera.armFault(FaultKind::CardFull);
    bench_->interval.begin(5, 3);
    QVERIFY(settled());
    QCOMPARE(bench_->interval.toCome(), 0);
    QCOMPARE(bench_->view().sets.size(), std::size_t(5)); // the one that failed, and no further one
  }

  void leftOutThenShotAgainThenUndone() {
    bench_->shoot.setFrameUsed(1, false);
    QVERIFY(settled());
    QVERIFY(!bench_->view().sets[0].frames[1].used);
    const auto frames = bench_->view().sets[0].frames.size();
    shootOnce();
    QCOMPARE(bench_->view().sets.size(), std::size_t(2));
    bench_->desk.job.undoStack().undo();
    QVERIFY(settled());
    QCOMPARE(bench_->view().sets.size(), std::size_t(2));
    QCOMPARE(bench_->view().sets[0].frames.size(), frames);
    QVERIFY(bench_->view().sets[0].frames[1].used);
    QCOMPARE(bench_->view().frames.size(), bench_->view().sets[1].frames.size());
    compareWithDisk();
    bench_->desk.job.undoStack().redo();
    QVERIFY(settled());
    QVERIFY(!bench_->view().sets[0].frames[1].used);
    compareWithDisk();
  }

  void aRepeatedFrameOutlivesUndoOfAnEarlierStep() {
    bench_->desk.camera.armFault(FaultKind::PasserBy);
    shootOnce();
    bench_->shoot.setFrameUsed(0, false);
    bench_->shoot.setFrameUsed(0, true);
    QVERIFY(settled());
    const auto before = bench_->view().sets.back().frames.size();
    QVERIFY2(bench_->shoot.check().verdict.action.kind == NextAction::Kind::RepeatFrame,
             bench_->shoot.check().verdict.sentence.c_str());
    bench_->shoot.doNext();
    QVERIFY(settled());
    QCOMPARE(bench_->view().sets.back().frames.size(), before + 1);
    bench_->desk.job.undoStack().undo();
    QVERIFY(settled());
    QCOMPARE(bench_->view().sets.back().frames.size(), before + 1);
    QVERIFY(!bench_->view().sets.back().frames[0].used);
    QVERIFY(bench_->view().sets.back().frames.back().used);
    compareWithDisk();
  }

  void theNameOfASetUndoesAlone() {
    const std::string first = bench_->view().sets[0].label;
    bench_->shoot.describeSet("left wall", 0, 2, 0);
    shootOnce();
    bench_->desk.job.undoStack().undo();
    QVERIFY(settled());
    QCOMPARE(bench_->view().sets.size(), std::size_t(2));
    QCOMPARE(bench_->view().sets[0].label, first);
    QCOMPARE(bench_->view().sets[0].column, 0);
    compareWithDisk();
  }
};

QTEST_MAIN(TestSets)
#include "test_sets.moc"
