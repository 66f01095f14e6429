// SPDX-License-Identifier: GPL-3.0-or-later
// A visit of three views in the real window, from frames to delivered files: tools on the picture, the Ladder, areas,
// looks, judgement.
#include "app/main_window.h"
#include "app/sort_sheet.h"
#include "codec/avif_file.h"
#include "codec/jpeg.h"
#include "support/scenes.h"
#include "support/window.h"

#include <QCheckBox>
#include <QComboBox>
#include <QInputDialog>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QSignalSpy>
#include <QSlider>
#include <QStandardPaths>
#include <QTemporaryDir>
#include <QTest>
#include <QTimer>
#include <QToolButton>

using namespace ml;
using namespace ml::test;
namespace fs = std::filesystem;

namespace {

/// A room: warm walls, a bright window, a white board, plumb boards that lean by `pitch` degrees.
Image<float> room(double pitch) {
  Image<float> wall(480, 320, 3);
  for (int y = 0; y < 320; ++y)
    for (int x = 0; x < 480; ++x) {
      const bool window = x > 190 && x < 300 && y > 80 && y<190, board = x> 40 && x < 110 && y > 100 && y < 170;
      const float boards =
          std::exp2(0.5f * std::tanh(12 * std::sin(float(x) * 0.13f))) * (1 + 0.1f * std::sin(float(y) * 0.4f));
      const float light = window ? 6.f : board ? 0.25f : 0.06f * boards;
      const float warm[3] = {1.35f, 1.f, 0.6f};
      for (int c = 0; c < 3; ++c) wall.at(x, y)[c] = light * (window ? 1 : warm[c]);
    }
  Geometry held;
  held.pitch = pitch;
  return std::move(*shaped(wall.view(), ShapeMap(held, 480, 320), {}));
}

void drag(MainWindow& window, QPointF from, QPointF to) {
  auto* picture = window.findChild<PictureView*>("picture");
  const auto at = [&](QPointF p) { return picture->widgetPlace(p.x(), p.y()).toPoint(); };
  QTest::mousePress(picture, Qt::LeftButton, {}, at(from));
  for (const double t : {0.3, 0.7, 1.0}) QTest::mouseMove(picture, at(from + t * (to - from)));
  QTest::mouseRelease(picture, Qt::LeftButton, {}, at(to));
  QVERIFY(settled(window));
}

void choosePage(MainWindow& window, const char* side) {
  click(visible<QToolButton>(window, side));
}

void slide(MainWindow& window, const char* name, int steps) {
  auto* slider = visible<QSlider>(window, name);
  QVERIFY(slider);
  slider->setFocus();
  for (int i = 0; i < std::abs(steps); ++i) QTest::keyClick(slider, steps > 0 ? Qt::Key_Right : Qt::Key_Left);
  QVERIFY(settled(window));
}

double greyAt(MainWindow& window, double x, double y) {
  const QImage image = window.workbench().picture();
  return qGray(image.pixel(int(x * image.width()), int(y * image.height())));
}

void chooseView(MainWindow& window, int index) {
  auto* views = visible<QListWidget>(window, "views");
  views->setFocus();
  while (window.workbench().desk.job.viewIndex() != index) {
    views->setFocus();
    QTest::keyClick(views, window.workbench().desk.job.viewIndex() < index ? Qt::Key_Down : Qt::Key_Up);
    QVERIFY(settled(window));
  }
  QCOMPARE(window.workbench().desk.job.viewIndex(), index);
}

} // namespace

class TestFinishing : public QObject {
  Q_OBJECT

private slots:
  void initTestCase() { prepareWindows(); }

  void aVisitFromFramesToDeliveredFiles() {
    QTemporaryDir dir;
    MainWindow window(test::pathOf(dir) / "jobs");
    window.resize(1280, 800);
    window.show();
    QVERIFY(QTest::qWaitForWindowExposed(&window));
    Workbench& bench = window.workbench();
    for (const int i : {1, 2, 3})
      (void)test::shootScene(room(i == 1 ? 7 : 0), test::exposedAt({4, 7, 10}), FrameFormat::Jpeg,
                             test::pathOf(dir) / "card" / ("view" + std::to_string(i)));
    QStringList folders;
    for (const int i : {1, 2, 3})
      folders << QString::fromStdString((test::pathOf(dir) / "card" / ("view" + std::to_string(i))).string());
    window.openPaths(folders);
    QVERIFY(waitFor([&] { return window.findChild<SortSheet*>() != nullptr; }));
    auto* sheet = window.findChild<SortSheet*>();
    QCOMPARE(sheet->grouping().sets.size(), std::size_t(3));
    sheet->accept();
    QVERIFY(settled(window));
    QCOMPARE(bench.job().views().size(), std::size_t(3));
    for (const int i : {2, 1, 0}) {
      chooseView(window, i);
      bench.goTo(stations::kCombine);
      clickNext(window);
      QVERIFY(settled(window));
      QVERIFY(bench.view().combined);
    }
    window.activateWindow();
    QVERIFY(QTest::qWaitForWindowActive(&window));
    QTest::keyClick(&window, Qt::Key_5);
    QVERIFY(settled(window));
    QCOMPARE(bench.station().id(), stations::kFinish);

    // The first leans: the judgement says so, one key mends it, undo takes it back.
    QVERIFY2(visible<QLabel>(window, "verdict")->text().contains("Verticals lean"),
             qPrintable(visible<QLabel>(window, "verdict")->text()));
    QVERIFY(visible<QPushButton>(window, "remedy"));
    QTest::keyClick(&window, Qt::Key_M);
    QVERIFY(settled(window));
    QVERIFY(std::abs(bench.view().recipe.geometry.pitch) > 3);
    QVERIFY2(!visible<QLabel>(window, "verdict")->text().contains("Verticals lean"),
             qPrintable(visible<QLabel>(window, "verdict")->text()));
    bench.desk.job.undoStack().undo();
    QVERIFY(settled(window));
    QCOMPARE(bench.view().recipe.geometry.pitch, 0.0);
    bench.desk.job.undoStack().redo();
    QVERIFY(settled(window));

    // Dragging the wall up makes it lighter, and is one step of undo.
    const double before = greyAt(window, 0.8, 0.7);
    const int steps = bench.desk.job.undoStack().count();
    drag(window, {0.8, 0.7}, {0.8, 0.45});
    QVERIFY2(greyAt(window, 0.8, 0.7) > before + 15,
             qPrintable(QString("%1 to %2").arg(before).arg(greyAt(window, 0.8, 0.7))));
    QCOMPARE(bench.desk.job.undoStack().count(), steps + 1);
    QCOMPARE(bench.view().recipe.tone.pulls.size(), std::size_t(1));

    // So does a tie of the Ladder.
    auto* ladder = window.findChild<LadderWidget*>("ladder");
    const auto ties = ladder->data().ties;
    QVERIFY(ties.size() > 4);
    const auto yOf = [&](double paper) { return 44 + -paper / 8 * (ladder->height() - 44 - 52); };
    const Tie tie = ties[ties.size() / 2];
    QTest::mousePress(ladder, Qt::LeftButton, {}, QPoint(ladder->width() - 66, int(yOf(tie.paper))));
    QTest::mouseMove(ladder, QPoint(ladder->width() - 66, int(yOf(tie.paper - 1))));
    QTest::mouseRelease(ladder, Qt::LeftButton, {}, QPoint(ladder->width() - 66, int(yOf(tie.paper - 1))));
    QVERIFY(settled(window));
    const ToneCurve curve(ladder->data().ties);
    QVERIFY2(std::abs(curve(tie.scene) - (tie.paper - 1)) < 0.15,
             qPrintable(QString("%1 %2").arg(curve(tie.scene)).arg(tie.paper - 1)));

    // The white board becomes white.
    choosePage(window, "sideColour");
    click(visible<QPushButton>(window, "toolWhite"));
    clickPicture(window, 0.155, 0.42);
    QVERIFY(settled(window));
    QVERIFY2(bench.view().recipe.tone.warmth < -0.6, qPrintable(QString::number(bench.view().recipe.tone.warmth)));
    const QImage white = bench.picture();
    const QRgb board = white.pixel(int(0.155 * white.width()), int(0.42 * white.height()));
    QVERIFY2(std::abs(qRed(board) - qBlue(board)) < 8,
             qPrintable(QString("%1 %2 %3").arg(qRed(board)).arg(qGreen(board)).arg(qBlue(board))));

    // An oval is drawn, changed, inverted and removed; windows are found.
    choosePage(window, "sidePlaces");
    click(visible<QPushButton>(window, "toolOval"));
    drag(window, {0.8, 0.75}, {0.9, 0.9});
    QCOMPARE(bench.view().recipe.areas.size(), std::size_t(1));
    slide(window, "areaExposure", 5);
    QVERIFY(bench.view().recipe.areas[0].exposure > 0.5);
    // Limited to light it does not hold, the place changes nothing; the limit taken back, it does again.
    const double withPlace = greyAt(window, 0.8, 0.7);
    slide(window, "areaAbove", 190);
    QVERIFY(bench.view().recipe.areas[0].above.has_value());
    QVERIFY(visible<QLabel>(window, "areaAboveFigure")->text().startsWith("EV"));
    const double limited = greyAt(window, 0.8, 0.7);
    slide(window, "areaAbove", -400);
    QVERIFY(!bench.view().recipe.areas[0].above);
    QCOMPARE(visible<QLabel>(window, "areaAboveFigure")->text(), QString("all"));
    QVERIFY(std::abs(greyAt(window, 0.8, 0.7) - withPlace) < 1.5);
    QVERIFY2(std::abs(limited - withPlace) > 2, qPrintable(QString("%1 and %2").arg(limited).arg(withPlace)));
    click(visible<QPushButton>(window, "addWindows"));
    QVERIFY(settled(window));
    QCOMPARE(visible<QComboBox>(window, "area")->count(), 2);
    click(visible<QCheckBox>(window, "areaInverted"));
    QVERIFY(bench.view().recipe.areas[1].inverted);
    bench.desk.job.undoStack().undo();
    bench.finish.tools.selectArea(0);
    click(visible<QPushButton>(window, "removeArea"));
    QVERIFY(settled(window));
    QCOMPARE(bench.view().recipe.areas.size(), std::size_t(1));
    QCOMPARE(int(bench.view().recipe.areas[0].shape), int(AreaShape::Windows));

    // A spot is covered, noise goes, the picture is cut.
    choosePage(window, "sideMend");
    click(visible<QPushButton>(window, "toolHeal"));
    clickPicture(window, 0.6, 0.8);
    QVERIFY(settled(window));
    QCOMPARE(bench.view().recipe.healings.size(), std::size_t(1));
    slide(window, "denoise", 3);
    choosePage(window, "sideShape");
    const double rolled = bench.view().recipe.geometry.roll;
    click(visible<QPushButton>(window, "toolLevel"));
    drag(window, {0.2, 0.5}, {0.8, 0.52});
    const QImage seen = bench.picture();
    const double drawn = std::atan2(0.02 * seen.height(), 0.6 * seen.width()) * 180 / 3.14159265;
    QVERIFY2(std::abs(bench.view().recipe.geometry.roll - rolled - drawn) < 0.3,
             qPrintable(QString("%1 %2").arg(bench.view().recipe.geometry.roll - rolled).arg(drawn)));
    bench.desk.job.undoStack().undo();
    QVERIFY(settled(window));
    click(visible<QPushButton>(window, "toolCrop"));
    drag(window, {0.1, 0.1}, {0.9, 0.9});
    QVERIFY2(std::abs(bench.view().recipe.geometry.cropWidth - 0.8) < 0.02,
             qPrintable(QString::number(bench.view().recipe.geometry.cropWidth)));
    QCOMPARE(bench.finished.fullSize().width(),
             int(std::lround(bench.view().combined->report->width * bench.view().recipe.geometry.cropWidth)));

    // A cut of 1 : 1, then free again by a drag; lines to compose by; four corners of something that leans.
    choosePage(window, "sideShape");
    const Recipe uncut = bench.view().recipe;
    auto* ratio = visible<QComboBox>(window, "cropRatio");
    ratio->setCurrentIndex(ratio->findData(1.0));
    emit ratio->activated(ratio->currentIndex());
    QVERIFY(settled(window));
    QVERIFY(std::abs(bench.finished.fullSize().width() - bench.finished.fullSize().height()) <= 1);
    auto* guide = visible<QComboBox>(window, "cropGuide");
    guide->setCurrentIndex(1);
    emit guide->activated(1);
    QVERIFY(!bench.finish.marks().guides.isEmpty());
    guide->setCurrentIndex(0);
    emit guide->activated(0);
    QVERIFY(bench.finish.marks().guides.isEmpty());
    click(visible<QPushButton>(window, "toolCrop"));
    drag(window, {0.1, 0.1}, {0.6, 0.9});
    QVERIFY(std::abs(bench.finished.fullSize().width() - bench.finished.fullSize().height()) <= 1); // still square
    QVERIFY(bench.finished.fullSize().width() < 200);
    bench.finish.tools.setCropRatio(0);
    bench.finish.setRecipe(uncut);
    QVERIFY(settled(window));
    click(visible<QPushButton>(window, "toolCorners"));
    for (const QPointF& p : {QPointF(0.8, 0.2), QPointF(0.2, 0.25), QPointF(0.85, 0.85), QPointF(0.15, 0.8)})
      clickPicture(window, p.x(), p.y());
    QVERIFY(settled(window));
    QCOMPARE(bench.view().recipe.geometry.corners.size(), std::size_t(4));
    QVERIFY(bench.view().recipe.geometry.corners[0].x < 0.5 && bench.view().recipe.geometry.corners[0].y < 0.5);
    QCOMPARE(bench.finish.tools.tool(), FinishTool::Light);
    bench.finish.setRecipe(uncut);
    QVERIFY(settled(window));

    // Compared with a published operator, and with this finish as it stands.
    choosePage(window, "sideLooks");
    auto* against = visible<QComboBox>(window, "against");
    const auto compareWith = [&](Against what) {
      const auto all = bench.finish.compare.comparands();
      for (std::size_t i = 0; i < all.size(); ++i)
        if (all[i].against == what) {
          against->setCurrentIndex(int(i));
          emit against->activated(int(i));
        }
      QVERIFY(settled(window));
    };
    compareWith(Against::Reinhard);
    QVERIFY(bench.finish.compare.how() == Comparing::Beside && !bench.finish.compare.image().isNull());
    QVERIFY(bench.finish.compare.image() != bench.picture());
    compareWith(Against::Pinned);
    QVERIFY(bench.finish.compare.image() == bench.picture());
    Recipe brighter = bench.view().recipe;
    brighter.tone.exposure += 0.5;
    bench.finish.setRecipe(brighter);
    QVERIFY(settled(window));
    QVERIFY(!bench.finish.compare.image().isNull() &&
            bench.finish.compare.image() != bench.picture()); // the pinned one stays
    bench.finish.setRecipe(uncut);
    QVERIFY(settled(window));
    bench.finish.compare.set(Comparing::Off);
    QVERIFY(bench.finish.compare.image().isNull());
    bench.finish.compare.with(bench.finish.compare.comparands().front());
    bench.finish.compare.set(Comparing::Off);

    // A look at half strength, kept under a name of one's own.
    choosePage(window, "sideLooks");
    auto* look = visible<QComboBox>(window, "look");
    look->setCurrentIndex(look->findData("open"));
    emit look->activated(look->currentIndex());
    QVERIFY(settled(window));
    QVERIFY(std::abs(bench.view().recipe.tone.exposure - 0.15) < 1e-9);
    visible<QSlider>(window, "lookStrength")->setValue(50);
    QVERIFY(settled(window));
    QVERIFY(std::abs(bench.view().recipe.tone.exposure - 0.075) < 1e-9);
    QTimer::singleShot(0, &window, [] {
      auto* dialog = qobject_cast<QInputDialog*>(QApplication::activeModalWidget());
      QVERIFY(dialog);
      dialog->setTextValue("Quay rooms");
      dialog->accept();
    });
    click(visible<QPushButton>(window, "keepLook"));
    QVERIFY(fs::exists(test::pathOf(dir) / "looks" / "Quay-rooms.json"));
    QVERIFY(look->findText("Quay rooms") >= 0);

    // Compared behind a divider; looked at in full size.
    bench.finish.compare.set(Comparing::Divider);
    QVERIFY(!bench.finish.compare.image().isNull());
    QCOMPARE(bench.finish.compare.image().size(), bench.picture().size());
    bench.finish.compare.set(Comparing::Off);
    QSignalSpy detail(&bench.finish, &FinishModel::detailDrawn);
    window.activateWindow();
    QVERIFY(QTest::qWaitForWindowActive(&window));
    QTest::keyClick(&window, Qt::Key_P);
    QVERIFY(window.findChild<PictureView*>("picture")->actualSize());
    QVERIFY(waitFor([&] { return detail.count() > 0; }));
    QVERIFY(settled(window));
    QVERIFY(!detail.last()[0].value<QImage>().isNull());
    QTest::keyClick(&window, Qt::Key_P);

    // The others take it over, each with its own white point and shape.
    const Recipe finished = bench.view().recipe;
    click(visible<QPushButton>(window, "copyFinish"));
    for (const int i : {1, 2}) {
      const Recipe& r = bench.job().views()[std::size_t(i)].recipe;
      QCOMPARE(r.tone.exposure, finished.tone.exposure);
      QCOMPARE(r.tone.warmth, 0.0);
      QCOMPARE(r.geometry.pitch, 0.0);
      QVERIFY(r.tone.pulls.empty());
      QCOMPARE(r.areas.size(), std::size_t(1));
    }

    // The whole visit is delivered, then only what is missing.
    QTest::keyClick(&window, Qt::Key_6);
    QVERIFY(settled(window));
    click(visible<QCheckBox>(window, "allViews"));
    click(visible<QCheckBox>(window, "webJpeg"));
    click(visible<QCheckBox>(window, "hdrAvif"));
    auto* creator = visible<QLineEdit>(window, "creator");
    creator->setText("A photographer");
    clickNext(window);
    QVERIFY(settled(window));
    for (const View& v : bench.job().views()) {
      QVERIFY2(v.delivered.size() == 4, qPrintable(window.findChild<QLabel*>("complaint")->text() + verdictOf(window)));
      for (const auto& d : v.delivered) QVERIFY2(fs::exists(v.deliveredFolder() / d.file), d.file.c_str());
    }
    const View& first = bench.job().views()[0];
    const auto jpeg = readJpeg(first.deliveredFolder() / first.delivered[0].file);
    QVERIFY(jpeg && jpeg->pixels.width() == bench.finished.fullSize().width());
    QCOMPARE(visible<QPushButton>(window, "next")->text(), QString("All is delivered")); // and no second copy
    QVERIFY(!visible<QPushButton>(window, "next")->isEnabled());
    fs::remove(first.deliveredFolder() / first.delivered[1].file);
    QTest::keyClick(&window, Qt::Key_5);
    QTest::keyClick(&window, Qt::Key_6);
    clickNext(window);
    QVERIFY(settled(window));
    QCOMPARE(bench.job().views()[0].delivered.size(), std::size_t(5));
    QCOMPARE(bench.job().views()[1].delivered.size(), std::size_t(4));
    QVERIFY(!visible<QPushButton>(window, "next")->isEnabled());

    // A sheet of the visit, as PDF.
    click(visible<QPushButton>(window, "makeSheet"));
    QVERIFY(settled(window));
    const fs::path pdf = bench.job().folder() / "sheet.pdf";
    QVERIFY(fs::exists(pdf) && fs::file_size(pdf) > 20000);

    // Reopened, all is as it was.
    MainWindow again(test::pathOf(dir) / "jobs");
    again.openPaths({QString::fromStdString(bench.job().folder().string())});
    QVERIFY(waitFor([&] { return again.workbench().hasView() && again.workbench().settled(); }));
    QVERIFY(again.workbench().view().recipe == finished);
  }
};

QTEST_MAIN(TestFinishing)
#include "test_finishing.moc"
