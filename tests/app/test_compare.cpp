// SPDX-License-Identifier: GPL-3.0-or-later
// One frame, three or five under one finish: what the view was combined to before is compared with what it is now.
#include <QTest>

#include "app/main_window.h"
#include "support/scenes.h"
#include "support/window.h"

#include <QComboBox>
#include <QListWidget>
#include <QTemporaryDir>
#include <QToolButton>

using namespace ml;
using namespace ml::test;

class TestCompare : public QObject {
  Q_OBJECT

private slots:
  void initTestCase() { prepareWindows(); }

  void threeFramesAndTwoUnderOneFinish() {
    QTemporaryDir dir;
    (void)shootScene(texturedScene(420, 300, 12, 5), exposedAt({3, 7, 11}), FrameFormat::Jpeg, pathOf(dir) / "card");
    MainWindow window(pathOf(dir) / "jobs");
    window.resize(1280, 800);
    window.show();
    Workbench& bench = window.workbench();
    window.openPaths({QString::fromStdString((pathOf(dir) / "card").string())});
    QVERIFY(settled(window));
    clickNext(window);
    QVERIFY(settled(window));
    QVERIFY(bench.view().combined);
    const auto earlier = [&] {
      std::vector<FinishCompare::Comparand> found;
      for (const auto& c : bench.finish.compare.comparands())
        if (c.against == Against::Earlier) found.push_back(c);
      return found;
    };
    QVERIFY(earlier().empty()); // there is nothing to compare with yet
    bench.goTo(stations::kFinish);
    QVERIFY(settled(window));
    const QImage three = bench.picture();

    // The frame that holds the darkest tones is left out, by its tick at Combine.
    bench.goTo(stations::kCombine);
    auto* frames = visible<QListWidget>(window, "combineFrames");
    QVERIFY(frames);
    frames->item(2)->setCheckState(Qt::Unchecked);
    QVERIFY(settled(window));
    QCOMPARE(bench.view().combined->report->frames.size(), std::size_t(2));
    bench.goTo(stations::kFinish);
    QVERIFY(settled(window));
    QVERIFY(bench.picture() != three);

    click(visible<QToolButton>(window, "sideLooks"));
    QCOMPARE(earlier().size(), std::size_t(1));
    auto* against = visible<QComboBox>(window, "against");
    const int row = against->findText(earlier().front().name);
    QVERIFY2(row >= 0 && earlier().front().name.startsWith("3 frames"), qPrintable(earlier().front().name));
    against->setCurrentIndex(row);
    emit against->activated(row);
    QVERIFY(settled(window));
    QVERIFY(bench.finish.compare.image() == three); // the same finish on what three frames gave
    Recipe lighter = bench.view().recipe;
    lighter.tone.exposure = 0.7;
    bench.finish.setRecipe(lighter);
    QVERIFY(settled(window));
    QVERIFY(bench.finish.compare.image() != three); // it takes part in every change

    // Undone, the three are the picture and the two are what it was before.
    bench.desk.job.undoStack().undo();
    bench.desk.job.undoStack().undo();
    QVERIFY(settled(window));
    QCOMPARE(bench.view().combined->report->frames.size(), std::size_t(3));
    QCOMPARE(earlier().size(), std::size_t(1));
    QVERIFY(earlier().front().name.startsWith("2 frames"));
  }
};

QTEST_MAIN(TestCompare)
#include "test_compare.moc"
