// SPDX-License-Identifier: GPL-3.0-or-later
// A view with two sets, in the real window: a frame of the one is lent to the other, painted from, and taken back.
#include "session/job.h"
#include "support/scenes.h"
#include "support/window.h"

#include "app/picture_view.h"

#include <QComboBox>
#include <QListWidget>
#include <QMenu>
#include <QTemporaryDir>
#include <QToolButton>

using namespace ml;
using namespace ml::test;

class TestLend : public QObject {
  Q_OBJECT
private slots:
  void initTestCase() { prepareWindows(); }

  void aFrameIsLentPaintedFromAndTakenBack() {
    QTemporaryDir dir, day, night;
    const auto ground = texturedScene(420, 320, 5, 3);
    auto lit = ground.clone();
    for (std::size_t i = 0; i < lit.size(); ++i) lit.data()[i] *= 3;
    const auto first = shootScene(ground.clone(), exposedAt({7, 6, 5}), FrameFormat::Jpeg, pathOf(day));
    const auto second = shootScene(std::move(lit), exposedAt({6}), FrameFormat::Jpeg, pathOf(night));
    const std::filesystem::path folder = pathOf(dir) / "job";
    {
      auto job = Job::create(folder, "Two moments");
      QVERIFY(job);
      QVERIFY(job->addView("Room", "", "full-frame-24"));
      View& view = job->views().front();
      view.adoptFrames("Lamps on", second.files);
      view.adoptFrames("Daylight", first.files);
      QVERIFY(job->save() && view.savePlan() && view.saveFrames() && view.saveCombined() && view.saveFinish());
    }
    MainWindow window(pathOf(dir) / "jobs");
    window.show();
    QVERIFY(window.workbench().opening.openJob(folder));
    QVERIFY(settled(window));
    window.workbench().goTo(stations::kCombine);
    clickNext(window);
    QVERIFY(settled(window));
    auto* frames = visible<QListWidget>(window, "combineFrames");
    QCOMPARE(frames->count(), 3);
    auto* lend = visible<QToolButton>(window, "lend");
    QVERIFY(lend && lend->isEnabled());
    emit lend->menu()->aboutToShow();
    QCOMPARE(lend->menu()->actions().size(), 1);
    QVERIFY2(lend->menu()->actions().front()->text().startsWith("Lamps on"),
             qPrintable(lend->menu()->actions().front()->text()));
    lend->menu()->actions().front()->trigger();
    QVERIFY(settled(window));
    QCOMPARE(frames->count(), 4);
    QVERIFY2(frames->item(3)->text().startsWith("4 ") && frames->item(3)->text().contains("Lamps on"),
             qPrintable(frames->item(3)->text()));
    QVERIFY2(verdictOf(window).contains("stands by"), qPrintable(verdictOf(window)));
    // A stroke from it.
    auto* from = visible<QComboBox>(window, "paintFrom");
    QCOMPARE(from->count(), 4);
    QCOMPARE(from->itemText(3), QString("frame 4, Lamps on"));
    click(visible<QPushButton>(window, "paint"));
    from->setCurrentIndex(3);
    emit from->activated(3);
    auto* picture = window.findChild<PictureView*>("picture");
    const QPoint a = picture->widgetPlace(0.7, 0.5).toPoint(), b = picture->widgetPlace(0.8, 0.5).toPoint();
    QTest::mousePress(picture, Qt::LeftButton, {}, a);
    QTest::mouseMove(picture, b);
    QTest::mouseRelease(picture, Qt::LeftButton, {}, b);
    QVERIFY(settled(window));
    const auto places = window.workbench().combine.movedPlaces();
    QVERIFY(std::any_of(places.begin(), places.end(), [](const auto& p) { return p.painted; }));
    QCOMPARE(window.workbench().combine.options().choices.size(), std::size_t(1));
    QCOMPARE(window.workbench().combine.options().choices.front().frame, 3);
    QCOMPARE(stationStates(window.workbench().desk.view()).combine, StationState::Done);
    // It is kept, and lies there again when the job is opened.
    {
      const auto again = Job::open(folder);
      QVERIFY(again && again->views().front().combined);
      QCOMPARE(again->views().front().combined->options.lent.size(), std::size_t(1));
    }
    // Its tick taken away: it goes, with what was painted from it; and undo brings both back.
    frames->item(3)->setCheckState(Qt::Unchecked);
    QVERIFY(settled(window));
    QCOMPARE(frames->count(), 3);
    QVERIFY(window.workbench().combine.options().choices.empty());
    QTest::keyClick(&window, Qt::Key_Z, Qt::ControlModifier);
    QVERIFY(settled(window));
    QCOMPARE(frames->count(), 4);
    QCOMPARE(window.workbench().combine.options().choices.size(), std::size_t(1));
  }
};

QTEST_MAIN(TestLend)
#include "test_lend.moc"
