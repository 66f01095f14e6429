// SPDX-License-Identifier: GPL-3.0-or-later
// Views, their undo and their files: every change goes through JobModel, and reaches the disk by ViewSaver.
#include "model/view_edit.h"
#include "model/view_saver.h"
#include "support/scenes.h"
#include "support/wait.h"

#include <QGuiApplication>
#include <QSignalSpy>
#include <fstream>

using namespace ml;
using test::pathOf;
using test::waitFor;

class TestJobModel : public QObject {
  Q_OBJECT

private:
  std::unique_ptr<QTemporaryDir> dir_;
  std::unique_ptr<JobModel> job_;

  void expose(double stops, int drag = 0) {
    Recipe after = job_->view().recipe;
    after.tone.exposure = stops;
    job_->edit(
        idOf(job_->view()), Aspect::Recipe, "light", job_->view().recipe, after,
        [](View& v, const Recipe& r) { v.recipe = r; }, drag);
  }
  [[nodiscard]] double exposure(std::size_t view) const { return job_->job().views()[view].recipe.tone.exposure; }
  [[nodiscard]] double exposureOnDisk(std::size_t view) const {
    return Job::open(job_->job().folder())->views()[view].recipe.tone.exposure;
  }

private slots:
  void init() {
    dir_ = std::make_unique<QTemporaryDir>();
    auto job = Job::create(pathOf(*dir_) / "job", "A job");
    QVERIFY(job.has_value());
    for (const char* name : {"Hall", "Kitchen"}) QVERIFY(job->addView(name, "", "full-frame-24").has_value());
    job_ = std::make_unique<JobModel>();
    job_->open(std::move(*job));
  }

  void everyViewKeepsItsUndo() {
    expose(1);
    job_->select(1);
    QVERIFY(!job_->undoStack().canUndo());
    expose(-1);
    job_->select(0);
    QCOMPARE(exposure(0), 1.0);
    job_->undoStack().undo();
    QCOMPARE(exposure(0), 0.0);
    QCOMPARE(exposure(1), -1.0);
    job_->undoStack().redo();
    job_->select(1);
    job_->undoStack().undo();
    QCOMPARE(exposure(0), 1.0);
    QCOMPARE(exposure(1), 0.0);
  }

  void oneDragIsOneStepAndADragBackIsNone() {
    for (int i = 1; i <= 5; ++i) expose(i * 0.1, 7);
    for (int i = 1; i <= 5; ++i) expose(0.5 + i * 0.1, 8);
    QCOMPARE(job_->undoStack().count(), 2);
    job_->undoStack().undo();
    QCOMPARE(exposure(0), 0.5);
    job_->undoStack().undo();
    QCOMPARE(exposure(0), 0.0);
    expose(1, 9);
    expose(0, 9); // back to where it was
    QCOMPARE(job_->undoStack().count(), 0);
  }

  void changesAreToldWithWhatTheyConcern() {
    std::vector<std::pair<std::string, Aspect>> told;
    connect(job_.get(), &JobModel::viewChanged, this,
            [&](const std::string& view, Aspect aspect) { told.emplace_back(view, aspect); });
    expose(1);
    job_->note("02-kitchen", Aspect::Sets, [](View& v) { v.startSet("Bracket", {}); });
    job_->note("99-nowhere", Aspect::Sets, [](View&) { QFAIL("there is no such view"); });
    QCOMPARE(told.size(), std::size_t(2));
    QVERIFY(told[0] == std::pair(std::string("01-hall"), Aspect::Recipe));
    QVERIFY(told[1] == std::pair(std::string("02-kitchen"), Aspect::Sets));
    QCOMPARE(job_->job().views()[1].sets.size(), std::size_t(1));
  }

  // A stack that is taken down says that it changes, and nobody may ask it then.
  void anotherJobTakesTheUndoWithIt() {
    expose(1);
    job_->select(1);
    expose(1);
    connect(job_.get(), &JobModel::undoChanged, this, [this] { (void)job_->undoStack().undoText(); });
    auto other = Job::create(pathOf(*dir_) / "other", "Another");
    QVERIFY(other->addView("Loft", "", "full-frame-24").has_value());
    job_->open(std::move(*other));
    QVERIFY(!job_->undoStack().canUndo());
    QCOMPARE(idOf(job_->view()), std::string("01-loft"));
  }

  void changesReachTheDiskWithoutBeingAsked() {
    Lane lane;
    Notices notices;
    QSignalSpy failed(&notices, &Notices::failed);
    ViewSaver saver(*job_, lane, notices);
    expose(0.75);
    QVERIFY(saver.waiting());
    QCOMPARE(exposureOnDisk(0), 0.0); // not on the interface thread, tick by tick
    QVERIFY(waitFor([&] { return !saver.waiting() && !lane.running(); }));
    QCOMPARE(exposureOnDisk(0), 0.75);
    job_->undoStack().undo();
    QVERIFY(waitFor([&] { return !saver.waiting() && !lane.running(); }));
    QCOMPARE(exposureOnDisk(0), 0.0);
    QCOMPARE(failed.count(), 0);
  }

  void leavingAViewAndClosingWriteAtOnce() {
    Lane lane;
    Notices notices;
    {
      ViewSaver saver(*job_, lane, notices);
      expose(0.5);
      job_->select(1);
      QCOMPARE(exposureOnDisk(0), 0.5);
      expose(-0.5);
    }
    QCOMPARE(exposureOnDisk(1), -0.5);
  }

  void onlyTheFileThatChangedIsWritten() {
    Lane lane;
    Notices notices;
    ViewSaver saver(*job_, lane, notices);
    job_->note("01-hall", Aspect::Readings, [](View& v) {
      v.readings.push_back({"sky", {14}, true, {}, {}, 0, false});
    });
    saver.flush();
    const auto folder = job_->view().folder;
    QVERIFY(!std::filesystem::exists(folder / "finish.json"));
    QVERIFY(!std::filesystem::exists(folder / "frames.json"));
    QCOMPARE(Job::open(job_->job().folder())->views()[0].readings.size(), std::size_t(1));
  }

  void whatCannotBeWrittenIsSaidAndTriedAgain() {
    Lane lane;
    Notices notices;
    QSignalSpy failed(&notices, &Notices::failed);
    ViewSaver saver(*job_, lane, notices);
    const auto folder = job_->view().folder, away = pathOf(*dir_) / "away";
    std::filesystem::rename(folder, away);
    expose(1);
    QVERIFY(waitFor([&] { return failed.count() > 0; }));
    QVERIFY(failed.at(0).at(0).toString().contains("01-hall"));
    std::filesystem::rename(away, folder);
    saver.flush();
    QCOMPARE(exposureOnDisk(0), 1.0);
  }
};

QTEST_MAIN(TestJobModel)
#include "test_job_model.moc"
