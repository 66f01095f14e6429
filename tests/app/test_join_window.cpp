// SPDX-License-Identifier: GPL-3.0-or-later
// Positions through the real window: dropped, sorted, joined, finished, delivered.
#include "app/sort_sheet.h"
#include "figures.h"
#include "session/radiance_history.h"
#include "support/window.h"

#include <QComboBox>
#include <QListWidget>
#include <QTemporaryDir>

using namespace ml;
using namespace ml::test;
namespace fs = std::filesystem;

class TestJoinWindow : public QObject {
  Q_OBJECT
private slots:
  void initTestCase() { prepareWindows(); }

  void positionsBecomeOnePicture() {
    QTemporaryDir dir;
    const fs::path at = dir.path().toStdString();
    SetPlan plan;
    plan.seed = 12;
    plan.width = 720, plan.height = 480;
    const PositionSet set(plan, at / "card");
    MainWindow window(at / "jobs");
    window.resize(1280, 800);
    window.show();
    window.openPaths({QString::fromStdString((at / "card").string())});
    QVERIFY(settled(window));
    auto* sheet = window.findChild<SortSheet*>();
    QVERIFY(sheet);
    // Three sets, one view; the user may say otherwise and take it back.
    QCOMPARE(sheet->findChild<QPushButton*>("sortMake")->text(), QString("Make one view"));
    QTest::keyClick(sheet->findChild<QWidget*>("sortStrips"), Qt::Key_Down);
    click(sheet->findChild<QPushButton*>("sortPosition"));
    QCOMPARE(sheet->findChild<QPushButton*>("sortMake")->text(), QString("Make 2 views"));
    click(sheet->findChild<QPushButton*>("sortUndo"));
    QCOMPARE(sheet->findChild<QPushButton*>("sortMake")->text(), QString("Make one view"));
    click(sheet->findChild<QPushButton*>("sortMake"));
    QVERIFY(settled(window));
    Workbench& bench = window.workbench();
    QCOMPARE(int(bench.job().views().size()), 1);
    QCOMPARE(int(bench.view().positions().size()), 3);
    bench.goTo(stations::kCombine);
    if (!bench.view().combined) clickNext(window);
    QVERIFY(settled(window));
    QVERIFY2(bench.view().combined.has_value(), qPrintable(verdictOf(window)));
    QVERIFY2(verdictOf(window).contains("3 positions joined"), qPrintable(verdictOf(window)));
    const CombineReport& report = *bench.view().combined->report;
    QCOMPARE(int(report.positions.size()), 3);
    QVERIFY(report.width > 1200);
    // The outlines lie on the picture, one beside the other.
    const PictureMarks marks = bench.combine.marks();
    QCOMPARE(int(marks.outlines.size()), 3);
    QVERIFY(marks.outlines[0].boundingRect().center().x() < marks.outlines[2].boundingRect().center().x());
    auto* list = visible<QListWidget>(window, "combineFrames");
    QVERIFY(list);
    QCOMPARE(list->count(), 3);
    QVERIFY(list->item(0)->toolTip().contains("overlaps a neighbour"));
    // What lies on disk is the picture, and nothing of it is uncovered.
    const auto radiance = readRadiance(radianceNow(bench.view()));
    QVERIFY(radiance.has_value());
    QCOMPARE(radiance->width(), report.width);
    for (int y = 0; y < radiance->height(); y += 5)
      for (int x = 0; x < radiance->width(); x += 5) QVERIFY(radiance->at(x, y)[1] > 0);
    // A position is left out, and comes back with undo.
    const int whole = report.width;
    list->item(2)->setCheckState(Qt::Unchecked);
    QVERIFY(settled(window));
    QVERIFY(bench.view().combined->report->width < whole);
    QCOMPARE(int(bench.view().combined->report->positions.size()), 2);
    bench.desk.job.undoStack().undo();
    QVERIFY(settled(window));
    QCOMPARE(bench.view().combined->report->width, whole);
    // Finish and deliver know nothing of positions.
    bench.goTo(stations::kFinish);
    QVERIFY(settled(window));
    QVERIFY(!bench.finish.picture().isNull());
    bench.goTo(stations::kDeliver);
    QVERIFY(settled(window));
    clickNext(window);
    QVERIFY(settled(window));
    QVERIFY2(!bench.view().delivered.empty(), qPrintable(verdictOf(window)));
    const QImage delivered(
        QString::fromStdString((bench.view().deliveredFolder() / bench.view().delivered[0].file).string()));
    QVERIFY(!delivered.isNull());
  }
};

QTEST_MAIN(TestJoinWindow)
#include "test_join_window.moc"
