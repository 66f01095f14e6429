// SPDX-License-Identifier: GPL-3.0-or-later
// Positions through the real window: dropped, sorted, joined, finished, delivered.
#include "app/look_around_window.h"
#include "app/position_map.h"
#include "app/sort_sheet.h"
#include "figures.h"
#include "model/join_view.h"
#include "session/radiance_history.h"
#include "sphere_sets.h"
#include "support/window.h"

#include <QComboBox>
#include <QDoubleSpinBox>
#include <QListWidget>
#include <QTemporaryDir>
#include <numbers>

using namespace ml;
using namespace ml::test;
namespace fs = std::filesystem;

class TestJoinWindow : public QObject {
  Q_OBJECT

  /// Small and in memory, before the whole is made: the same place in the same light.
  static void theFirstLookIsTheSame(Workbench& bench, const Image<float>& whole) {
    const auto look = lookAtJoined(bench.view(), bench.combine.options(), 360, {});
    QVERIFY2(look.has_value(), look ? "" : look.error().message.c_str());
    const double scale = double(look->radiance.width()) / whole.width();
    QVERIFY2(std::abs(scale - 0.5) < 0.03, qPrintable(QString::number(scale)));
    double sum = 0;
    int count = 0;
    for (int y = 4; y < look->radiance.height() - 4; y += 4)
      for (int x = 4; x < look->radiance.width() - 4; x += 4, ++count) {
        const int u = std::min(int(x / scale), whole.width() - 1), v = std::min(int(y / scale), whole.height() - 1);
        sum += std::abs(std::log2(std::max(1e-6f, look->radiance.at(x, y)[1]) / std::max(1e-6f, whole.at(u, v)[1])));
      }
    QVERIFY2(sum / count < 0.25, qPrintable(QString::number(sum / count))); // sharp edges at half their size
    QCOMPARE(look->facts.plumb, true);
  }

  /// By its angles, and by hand; the others stay, nothing is combined again, and undo takes it back.
  static void onePositionIsTurned(MainWindow& window) {
    Workbench& bench = window.workbench();
    const auto middle = [&](std::size_t position) {
      double x = 0;
      const auto& edge = bench.view().combined->report->positions[position].outline;
      for (const auto& p : edge) x += p[0] / double(edge.size());
      return x * bench.view().combined->report->width;
    };
    const auto kept = [&] {
      std::vector<fs::file_time_type> times;
      for (const auto& entry : fs::directory_iterator(joiningFolder(bench.view())))
        times.push_back(fs::last_write_time(entry.path()));
      std::sort(times.begin(), times.end());
      return times;
    };
    const auto before = kept();
    QCOMPARE(before.size(), std::size_t(3));
    const double apart = middle(1) - middle(0), far = middle(2) - middle(0),
                 pixels = bench.view().combined->report->focal * std::numbers::pi / 180;
    auto* turning = visible<QComboBox>(window, "turning");
    QVERIFY(turning);
    QCOMPARE(turning->count(), 4);
    turning->setFocus();
    QTest::keyClick(turning, Qt::Key_Down);
    QTest::keyClick(turning, Qt::Key_Down);
    QCOMPARE(bench.combine.marks().outlines.size(), std::size_t(1)); // the one that is turned
    auto* yaw = visible<QDoubleSpinBox>(window, "facingYaw");
    yaw->setFocus();
    yaw->selectAll();
    QTest::keyClicks(yaw, "2");
    QTest::keyClick(yaw, Qt::Key_Return);
    QVERIFY(settled(window));
    QVERIFY2(std::abs(middle(1) - middle(0) - apart - 2 * pixels) < 0.6 * pixels,
             qPrintable(QString("%1 of %2").arg(middle(1) - middle(0) - apart).arg(2 * pixels)));
    QVERIFY(std::abs(middle(2) - middle(0) - far) < 0.2 * pixels);
    QVERIFY(kept() == before);
    // The hand puts it back: to the left by what it was turned to the right.
    const double share = 2 * pixels / bench.view().combined->report->width;
    bench.combine.dragBegins({0.5, 0.5});
    bench.combine.drag({0.5 - share / 2, 0.5});
    bench.combine.dragEnds({0.5 - share, 0.5});
    QVERIFY(settled(window));
    QVERIFY(std::abs(middle(1) - middle(0) - apart) < 0.2 * pixels);
    QVERIFY(std::abs(yaw->value()) < 0.15);
    bench.desk.job.undoStack().undo();
    bench.desk.job.undoStack().undo();
    QVERIFY(settled(window));
    QVERIFY(std::abs(middle(1) - middle(0) - apart) < 1e-6);
    QVERIFY(bench.combine.options().joining.turned.empty());
    turning->setFocus();
    QTest::keyClick(turning, Qt::Key_Home);
    QCOMPARE(bench.combine.marks().outlines.size(), std::size_t(3));
  }

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
    theFirstLookIsTheSame(bench, *radiance);
    onePositionIsTurned(window);
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

  /// The net loft: read at two positions, planned, shot at three, one of them turned too far, joined.
  void positionsAreShotOneAfterTheOther() {
    QTemporaryDir dir;
    MainWindow window(dir.filePath("jobs").toStdString());
    window.resize(1280, 800);
    window.show();
    window.openDemo();
    QVERIFY(settled(window));
    Workbench& bench = window.workbench();
    auto* views = visible<QListWidget>(window, "views");
    views->setFocus();
    for (int row = 1; row <= 3; ++row) { // while one is being opened, none else is
      QTest::keyClick(views, Qt::Key_Down);
      QVERIFY(settled(window));
    }
    QCOMPARE(bench.desk.job.viewIndex(), 3);
    QCOMPARE(bench.desk.positions.positions().size(), std::size_t(3));
    // The window straight ahead is read at the middle position, a corner at the first.
    auto* map = visible<PositionMap>(window, "positionMap");
    QTest::mouseClick(map, Qt::LeftButton, {}, map->cell(1).center().toPoint());
    QVERIFY(settled(window));
    clickPicture(window, 0.5, 0.42);
    QVERIFY(settled(window));
    map->setFocus();
    QTest::keyClick(map, Qt::Key_Left);
    QTest::keyClick(map, Qt::Key_Return);
    QVERIFY(settled(window));
    QCOMPARE(bench.desk.positions.at(), 0);
    QVERIFY(!bench.light.marks().readings[0].x); // it lies at another position
    clickPicture(window, 0.3, 0.62);
    QVERIFY(settled(window));
    QCOMPARE(bench.view().readings[0].column, 2);
    QCOMPARE(bench.view().readings[1].column, 1);
    QVERIFY(bench.view().readings[0].ev100 - bench.view().readings[1].ev100 > Stops{5});
    clickNext(window);
    QVERIFY(settled(window));
    clickNext(window);
    QVERIFY(settled(window));
    QVERIFY2(verdictOf(window).startsWith("Position 1 of 3"), qPrintable(verdictOf(window)));
    clickNext(window);
    QVERIFY(settled(window));
    QVERIFY2(verdictOf(window).contains("holds") && verdictOf(window).contains("turn 38 degrees to the right"),
             qPrintable(verdictOf(window)));
    // The head slips at the second: it is said, and the one next action shoots it again.
    bench.desk.camera.armFault(FaultKind::TurnedTooFar);
    clickNext(window);
    QVERIFY(settled(window));
    QVERIFY2(verdictOf(window).contains("position 1") && verdictOf(window).contains("shoot it again"),
             qPrintable(verdictOf(window)));
    QCOMPARE(visible<QPushButton>(window, "next")->text(), QString("Shoot position 2 again"));
    clickNext(window);
    QVERIFY(settled(window));
    QVERIFY2(verdictOf(window).contains("Position 2 of 3") && verdictOf(window).contains("holds"),
             qPrintable(verdictOf(window)));
    clickNext(window);
    QVERIFY(settled(window));
    QVERIFY2(verdictOf(window).endsWith("All positions are on disk."), qPrintable(verdictOf(window)));
    QCOMPARE(bench.view().positions(), (std::vector<int>{0, 2, 3}));
    // A job opened again stands where it stood.
    const auto again = Job::open(bench.job().folder());
    QVERIFY(again.has_value());
    QCOMPARE(viewPositions(again->views()[3])[1].set, 2);
    QVERIFY(again->views()[3].readings == bench.view().readings);
    clickNext(window); // to Combine
    QVERIFY(settled(window));
    clickNext(window);
    QVERIFY(settled(window));
    QVERIFY2(verdictOf(window).startsWith("3 positions joined"), qPrintable(verdictOf(window)));
    // Where the camera was pointed is the truth: the middles of the outlines are as far apart as it was turned.
    const auto& joined = bench.view().combined->report->positions;
    const auto middle = [&](std::size_t i) {
      double x = 0;
      for (const auto& point : joined[i].outline) x += point[0] / double(joined[i].outline.size());
      return x * bench.view().combined->report->width;
    };
    const auto& planned = bench.desk.positions.positions();
    const double focal = 24.0 / 36 * 1152 / (1 - 0.024 / 4); // cylindrical: a radian; focused at 4 m
    for (std::size_t i = 1; i < 3; ++i) {
      const double turned = (planned[i].planned.aim.yaw - planned[i - 1].planned.aim.yaw) * 3.14159265 / 180 * focal;
      QVERIFY2(std::abs(middle(i) - middle(i - 1) - turned) < 1,
               qPrintable(QString("%1 for %2").arg(middle(i) - middle(i - 1)).arg(turned)));
    }
    QVERIFY(bench.view().combined->report->plumb);
    theWholeIsTurnedByTheHand(window);
  }

  /// A card of frames that show all directions: known as such, looked around in.
  void aSphereIsLookedAroundIn() {
    QTemporaryDir dir;
    const fs::path at = dir.path().toStdString();
    shootSphere(RoundRoom(4), at / "card", 512, 40);
    MainWindow window(at / "jobs");
    window.resize(1280, 800);
    window.show();
    window.openPaths({QString::fromStdString((at / "card").string())});
    QVERIFY(settled(window));
    Workbench& bench = window.workbench();
    bench.goTo(stations::kCombine);
    if (!bench.view().combined) clickNext(window);
    QVERIFY(settled(window));
    bench.goTo(stations::kFinish);
    QVERIFY(settled(window));
    click(visible<QPushButton>(window, "lookAroundButton"));
    auto* around = window.findChild<LookAroundWindow*>();
    QVERIFY(around && around->isVisible());
    QVERIFY(waitFor([&] { return around->around().sharp(); }));
    const QImage ahead = around->grab().toImage();
    QTest::keyClick(around, Qt::Key_Right);
    QVERIFY(around->around().gaze().yaw > 5);
    QVERIFY(around->grab().toImage() != ahead);
    QTest::mousePress(around, Qt::LeftButton, {}, {200, 200});
    QTest::mouseMove(around, {200, 260});
    QTest::mouseRelease(around, Qt::LeftButton, {}, {200, 260});
    QVERIFY(around->around().gaze().pitch > 3); // pulled down: looks up
    const double wide = around->around().gaze().wide;
    QTest::keyClick(around, Qt::Key_Plus);
    QVERIFY(around->around().gaze().wide < wide);
    around->close();
  }

private:
  /// Dragged, typed and laid otherwise; each can be taken back.
  void theWholeIsTurnedByTheHand(MainWindow& window) {
    Workbench& bench = window.workbench();
    const auto report = [&] { return bench.view().combined->report; };
    const auto high = [&](std::size_t position) { // of the middle of an outline, pixels
      double y = 0;
      const auto& outline = report()->positions[position].outline;
      for (const auto& point : outline) y += point[1] / double(outline.size());
      return y * report()->height;
    };
    const auto facing = [&] { return bench.combine.options().joining.facing; };
    auto* picture = window.findChild<PictureView*>("picture");
    const QPoint from = picture->widgetPlace(0.5, 0.5).toPoint();
    const double shown = picture->widgetPlace(1, 0).x() - picture->widgetPlace(0, 0).x();
    QTest::mousePress(picture, Qt::LeftButton, {}, from);
    QTest::mouseMove(picture, from + QPoint(0, 15));
    QTest::mouseMove(picture, from + QPoint(0, 30));
    QVERIFY(!bench.combine.marks().outlines.empty());
    QTest::mouseRelease(picture, Qt::LeftButton, {}, from + QPoint(0, 30));
    QVERIFY(settled(window));
    const double pitch = 30 * report()->width / shown / report()->focal * 180 / 3.14159265;
    QVERIFY2(std::abs(facing().pitch - pitch) < 0.3 && std::abs(facing().yaw) < 0.1,
             qPrintable(QString("%1 for %2").arg(facing().pitch).arg(pitch)));
    // Looking up puts what is straight ahead lower.
    auto* up = visible<QDoubleSpinBox>(window, "facingPitch");
    QVERIFY(std::abs(up->value() - facing().pitch) < 0.06);
    up->setFocus();
    up->selectAll();
    QTest::keyClicks(up, "0");
    QTest::keyClick(up, Qt::Key_Return);
    QVERIFY(settled(window));
    QCOMPARE(facing().pitch, 0.0);
    auto* lean = visible<QDoubleSpinBox>(window, "facingRoll");
    lean->setFocus();
    lean->selectAll();
    QTest::keyClicks(lean, "4");
    QTest::keyClick(lean, Qt::Key_Return);
    QVERIFY(settled(window));
    const double leaning = high(2) - high(0);
    QVERIFY2(std::abs(leaning) > 40, qPrintable(QString::number(leaning))); // one side higher than the other
    bench.desk.job.undoStack().undo();
    QVERIFY(settled(window));
    QVERIFY(std::abs(high(2) - high(0)) < 5);
    // What fits no plane is refused with a sentence, and the picture stays.
    auto* lines = visible<QComboBox>(window, "projection");
    lines->setCurrentIndex(lines->findText("Both in degrees"));
    emit lines->activated(lines->currentIndex());
    QVERIFY(settled(window));
    QCOMPARE(int(bench.combine.options().joining.projection), int(Projection::Equirectangular));
    QVERIFY2(verdictOf(window).contains("equirectangular"), qPrintable(verdictOf(window)));
    const auto again = Job::open(bench.job().folder());
    QVERIFY(again.has_value());
    QVERIFY(again->views()[3].combined->options.joining == bench.combine.options().joining);
  }
};

QTEST_MAIN(TestJoinWindow)
#include "test_join_window.moc"
