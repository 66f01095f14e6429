// SPDX-License-Identifier: GPL-3.0-or-later
// Drives the real window by clicks and keys, and reads the outcome from the widgets and the files.
#include "app/main_window.h"
#include "app/sort_sheet.h"
#include "codec/exif.h"
#include "codec/jpeg.h"
#include "deliver/deliver.h"
#include "session/plan_choices.h"
#include "support/scenes.h"
#include "support/window.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDropEvent>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QMimeData>
#include <QPushButton>
#include <QSlider>
#include <QStandardPaths>
#include <QTableWidget>
#include <QTest>
#include <QToolButton>
#include <QUrl>
#include <fstream>

using namespace ml;
using namespace ml::test;

namespace {

void dropOn(MainWindow& window, const std::vector<std::filesystem::path>& paths) {
  QMimeData data;
  QList<QUrl> urls;
  for (const auto& path : paths) urls << QUrl::fromLocalFile(QString::fromStdString(path.string()));
  data.setUrls(urls);
  QDragEnterEvent enter({300, 300}, Qt::CopyAction, &data, Qt::LeftButton, {});
  QCoreApplication::sendEvent(&window, &enter);
  QVERIFY(enter.isAccepted());
  QDropEvent drop(QPointF(300, 300), Qt::CopyAction, &data, Qt::LeftButton, {});
  QCoreApplication::sendEvent(&window, &drop);
}

} // namespace

namespace {

/// Each pixel of a JPEG becomes a block: a large file without the time it takes to shoot one.
void enlarge(const std::filesystem::path& file, int by) {
  const auto small = readJpeg(file);
  const auto metadata = readExif(file);
  QVERIFY(small && metadata);
  Image<std::uint8_t> large(small->pixels.width() * by, small->pixels.height() * by, 3);
  for (int y = 0; y < large.height(); ++y)
    for (int x = 0; x < large.width(); ++x)
      for (int c = 0; c < 3; ++c) large.at(x, y)[c] = std::uint8_t(small->pixels.at(x / by, y / by, c));
  QVERIFY(writeJpeg(file, large.view(), {92, true, {}, false}).has_value());
  QVERIFY(writeExif(file, *metadata).has_value());
}

} // namespace

class TestWindow : public QObject {
  Q_OBJECT

private slots:
  void initTestCase() { prepareWindows(); }

  void wholePathOfTheDemo() {
    QTemporaryDir dir;
    MainWindow window(test::pathOf(dir) / "jobs");
    window.show();
    QVERIFY(QTest::qWaitForWindowExposed(&window));
    QVERIFY(!visible<QLabel>(window, "verdict") &&
            !visible<QWidget>(window, "ladder")); // what is not yet there is not shown
    click(visible<QPushButton>(window, "openDemo"));
    QVERIFY(settled(window));
    QCOMPARE(window.findChild<QLabel*>("jobName")->text(), QString("Marl Quay ferry house"));
    auto* picture = window.findChild<PictureView*>("picture");
    QVERIFY(!picture->picture().isNull());

    // Light: two clicks on the picture, one typed reading that may clip.
    QVERIFY(!visible<QPushButton>(window, "next")->isEnabled());
    clickPicture(window, 0.33, 0.235);
    clickPicture(window, 0.165, 0.66); // faster than the finder answers: both are read, in their order
    QVERIFY(settled(window));
    auto* readings = visible<QTableWidget>(window, "readings");
    QCOMPARE(readings->rowCount(), 2);
    QVERIFY(window.workbench().view().readings[0].ev100 > window.workbench().view().readings[1].ev100);
    QTest::keyClicks(visible<QLineEdit>(window, "readingName"), "lamp");
    QTest::keyClicks(visible<QLineEdit>(window, "readingValue"), "17 1/3");
    QTest::keyClick(visible<QLineEdit>(window, "readingValue"), Qt::Key_Return);
    QCOMPARE(readings->rowCount(), 3);
    const auto before = window.workbench().view().plan->frames;
    click(window.findChild<QCheckBox*>("keep2"));
    QVERIFY(test::waitFor([&] { return !window.workbench().view().readings[2].keepTexture; }));
    QVERIFY(window.workbench().view().plan->frames != before);
    QCOMPARE(window.findChild<LadderWidget*>("ladder")->data().pins.size(), std::size_t(3));

    // Frames: the recommendation, then another way to bracket.
    QVERIFY(settled(window));
    clickNext(window);
    QVERIFY(window.workbench().station().id() == stations::kFrames);
    QCOMPARE(verdictOf(window).toStdString(), verdict(*window.workbench().view().plan));
    auto* school = visible<QComboBox>(window, "school");
    school->setFocus();
    QTest::keyClick(school, Qt::Key_Down);
    QTest::keyClick(school, Qt::Key_Down);
    QVERIFY(window.workbench().view().school == "three-by-two");
    QCOMPARE(window.workbench().view().plan->count, 3);
    QCOMPARE(window.findChild<LadderWidget*>("ladder")->data().columns.size(), std::size_t(3));

    // Shoot: frames arrive one by one.
    QVERIFY(settled(window));
    clickNext(window);
    std::vector<int> arrived;
    connect(&window.workbench().shoot, &ShootModel::frameArrived, &window,
            [&](int index) { arrived.push_back(index); });
    clickNext(window);
    QVERIFY(visible<QPushButton>(window, "stop"));
    QVERIFY(settled(window));
    QVERIFY((arrived == std::vector<int>{0, 1, 2}));
    for (const auto& file : window.workbench().view().frames) QVERIFY2(std::filesystem::exists(file), file.c_str());
    click(window.findChild<QToolButton*>("frame0"));
    QVERIFY(test::waitFor([&] { return window.workbench().shoot.shownFrame() == 0; }));
    QVERIFY(settled(window));

    // Combine.
    clickNext(window);
    QVERIFY(window.workbench().station().id() == stations::kCombine);
    clickNext(window);
    QVERIFY(settled(window));
    QVERIFY2(verdictOf(window).startsWith("Three frames"), qPrintable(verdictOf(window)));
    QVERIFY(std::filesystem::exists(window.workbench().view().radianceFile()));
    QCOMPARE(visible<QListWidget>(window, "combineFrames")->count(), 3);

    // Combine undoes and comes back.
    QTest::keyClick(&window, Qt::Key_Z, Qt::ControlModifier);
    QVERIFY(settled(window));
    QVERIFY(!window.workbench().view().combined);
    QTest::keyClick(&window, Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
    QVERIFY(settled(window));
    QVERIFY(window.workbench().view().combined.has_value());

    // Finish: a dragged slider is one step of undo, and moves the picture.
    clickNext(window);
    QVERIFY(settled(window));
    const QImage natural = picture->picture();
    auto* exposure = visible<QSlider>(window, "exposure");
    const int steps = window.workbench().desk.job.undoStack().count();
    exposure->setFocus();
    const QPoint handle(exposure->width() / 2, exposure->height() / 2);
    QTest::mousePress(exposure, Qt::LeftButton, {}, handle);
    for (int x = 4; x <= 24; x += 4) QTest::mouseMove(exposure, handle + QPoint(x, 0));
    QTest::mouseRelease(exposure, Qt::LeftButton, {}, handle + QPoint(24, 0));
    QVERIFY(window.workbench().view().recipe.tone.exposure > 0);
    QCOMPARE(window.workbench().desk.job.undoStack().count(), steps + 1);
    QVERIFY(settled(window));
    QVERIFY(picture->picture() != natural);
    QTest::keyClick(&window, Qt::Key_Z, Qt::ControlModifier);
    QVERIFY(settled(window));
    QCOMPARE(window.workbench().view().recipe.tone.exposure, 0.0);
    QVERIFY(picture->picture() == natural);

    // Before and after while B is held.
    window.setFocus();
    QTest::keyPress(&window, Qt::Key_B);
    QVERIFY(picture->picture() != natural);
    QTest::keyRelease(&window, Qt::Key_B);
    QVERIFY(picture->picture() == natural);

    // Deliver.
    clickNext(window);
    clickNext(window);
    QVERIFY(settled(window));
    QVERIFY(visible<QLabel>(window, "deliveredFiles")->text().contains("reading-room.jpg"));
    const auto delivered = window.workbench().view().deliveredFolder();
    const auto jpeg = readJpeg(delivered / "reading-room.jpg");
    QVERIFY(jpeg.has_value());
    QVERIFY(jpeg->pixels.width() > 1700);
    QVERIFY(readRadiance(delivered / "reading-room.exr").has_value());
    QVERIFY(window.workbench().deliver.state() == StationState::Done);

    // Everything is there, and nothing is written twice; signed otherwise it is, and overwrites nothing.
    QCOMPARE(visible<QPushButton>(window, "next")->text(), QString("All is delivered"));
    QVERIFY(!visible<QPushButton>(window, "next")->isEnabled());
    visible<QLineEdit>(window, "creator")->setText("Somebody");
    clickNext(window);
    QVERIFY(settled(window));
    QVERIFY(std::filesystem::exists(delivered / "reading-room-2.jpg"));

    // The job opens again as it was.
    const auto recipe = window.workbench().view().recipe;
    const auto folder = window.workbench().job().folder();
    MainWindow again(test::pathOf(dir) / "jobs");
    again.show();
    again.openPaths({QString::fromStdString(folder.string())});
    QVERIFY(settled(again));
    QVERIFY(again.workbench().view().recipe == recipe);
    QCOMPARE(again.workbench().view().frames.size(), std::size_t(3));
    QVERIFY(again.workbench().view().combined.has_value());
    QVERIFY(!again.findChild<PictureView*>("picture")->picture().isNull());
  }

  void droppedFolderBecomesAJobAndAPicture() {
    QTemporaryDir dir, card;
    SimulationOptions sway;
    sway.shakePixels = 3;
    sway.shakeDegrees = 0.1;
    (void)test::shootScene(test::texturedScene(420, 320, 11, 3), test::exposedAt({7, 11, 3}), FrameFormat::Jpeg,
                           test::pathOf(card), sway);
    std::ofstream(test::pathOf(card) / "notes.txt") << "x"; // passed over without a word
    std::ofstream(test::pathOf(card) / "broken.jpg") << "x";
    MainWindow window(test::pathOf(dir) / "jobs");
    window.show();
    dropOn(window, {test::pathOf(card)});
    QVERIFY(settled(window));
    QVERIFY(window.workbench().hasView());
    QVERIFY(window.workbench().station().id() == stations::kCombine);
    QVERIFY(window.findChild<QLabel*>("complaint")->text().contains("broken.jpg"));
    QVERIFY(!window.findChild<QLabel*>("complaint")->text().contains("notes.txt"));
    QTest::keyClick(&window, Qt::Key_Return, Qt::ControlModifier); // the thing to do next: combine
    QVERIFY(settled(window));
    QVERIFY2(verdictOf(window).startsWith("Three frames"), qPrintable(verdictOf(window)));
    QTest::keyClick(&window, Qt::Key_5);
    QVERIFY(settled(window));
    QTest::keyClick(&window, Qt::Key_6);
    QTest::keyClick(&window, Qt::Key_Return, Qt::ControlModifier);
    QVERIFY(settled(window));
    int pictures = 0;
    for (const auto& entry : std::filesystem::directory_iterator(window.workbench().view().deliveredFolder()))
      pictures += entry.path().extension() == ".jpg";
    QCOMPARE(pictures, 1);
  }

  // A card with two sets, a stray frame and a text file: sorted with keys, mouse and undo, then made into views.
  void messyCardIsSortedByHand() {
    QTemporaryDir dir, card, other;
    const auto first = test::shootScene(test::texturedScene(420, 320, 11, 3), test::exposedAt({11, 7, 3}),
                                        FrameFormat::Jpeg, test::pathOf(card));
    const auto second = test::shootScene(test::texturedScene(420, 320, 11, 9), test::exposedAt({11, 7, 3, 5}),
                                         FrameFormat::Jpeg, test::pathOf(other));
    for (std::size_t i = 0; i < second.files.size(); ++i) {
      const auto file = test::pathOf(card) / ("second-" + std::to_string(i) + ".jpg");
      std::filesystem::copy_file(second.files[i], file);
      ShotMetadata later;
      later.takenAt = "2099:01:01 10:00:0" + std::to_string(i);
      QVERIFY(writeExif(file, later).has_value());
    }
    MainWindow window(test::pathOf(dir) / "jobs");
    window.show();
    dropOn(window, {test::pathOf(card)});
    QVERIFY(settled(window));
    auto* sheet = window.findChild<SortSheet*>("sortSheet");
    QVERIFY(sheet && sheet->isVisible());
    QCOMPARE(sheet->grouping().sets.size(), std::size_t(2));
    QVERIFY(sheet->findChild<QLabel*>("sortSummary")->text().contains("2 sets"));
    auto& strips = sheet->strips();
    // Keys: down to the second set, to its last frame, begin a set there; undo it.
    QTest::keyClick(&strips, Qt::Key_Down);
    for (int i = 0; i < 3; ++i) QTest::keyClick(&strips, Qt::Key_Right);
    click(sheet->findChild<QPushButton*>("sortSplit"));
    QCOMPARE(sheet->grouping().sets.size(), std::size_t(3));
    click(sheet->findChild<QPushButton*>("sortUndo"));
    QCOMPARE(sheet->grouping().sets.size(), std::size_t(2));
    // Mouse: a frame dragged from the second set to the first, and back by undo.
    const QPoint from = strips.rectOf({1, 3}).center(), to = strips.rectOf({0, 0}).center();
    QTest::mousePress(strips.viewport(), Qt::LeftButton, {}, from);
    QTest::mouseMove(strips.viewport(), (from + to) / 2);
    QTest::mouseMove(strips.viewport(), to);
    QTest::mouseRelease(strips.viewport(), Qt::LeftButton, {}, to);
    QCOMPARE(sheet->grouping().sets[0].files.size(), std::size_t(4));
    click(sheet->findChild<QPushButton*>("sortUndo"));
    QCOMPARE(sheet->grouping().sets[0].files.size(), std::size_t(3));
    // The stray frame is set aside, taken back, and set aside again.
    QTest::mouseClick(strips.viewport(), Qt::LeftButton, {}, strips.rectOf({1, 3}).center());
    click(sheet->findChild<QPushButton*>("sortAside"));
    QCOMPARE(sheet->grouping().aside.size(), std::size_t(1));
    QTest::mouseClick(strips.viewport(), Qt::LeftButton, {}, strips.rectOf({2, 0}).center());
    QVERIFY(test::waitFor([&] { return sheet->findChild<QPushButton*>("sortAside")->text() == "Take back"; }));
    click(sheet->findChild<QPushButton*>("sortAside"));
    QCOMPARE(sheet->grouping().aside.size(), std::size_t(0));
    click(sheet->findChild<QPushButton*>("sortUndo"));
    QCOMPARE(sheet->grouping().aside.size(), std::size_t(1));
    QCOMPARE(sheet->findChild<QPushButton*>("sortMake")->text(), QString("Make 2 views"));
    click(sheet->findChild<QPushButton*>("sortMake"));
    QVERIFY(settled(window));
    QCOMPARE(window.workbench().job().views().size(), std::size_t(2));
    QCOMPARE(window.workbench().job().views()[1].frames.size(), std::size_t(3));
    // They were combined meanwhile, in the order of the list.
    for (const View& v : window.workbench().job().views())
      QVERIFY2(v.combined && QString::fromStdString(v.combined->verdict).startsWith("Three frames"), v.name.c_str());
    QCOMPARE(visible<QPushButton>(window, "next")->text(), QString("On to Finish"));
  }

  // Somebody stands in one place in each frame: his place is taken from another frame, painted, the scene emptied, and
  // all of it undone.
  void placesAreChosenPaintedAndEmptied() {
    QTemporaryDir dir, card;
    const auto ground = test::texturedScene(420, 320, 5, 3);
    const auto settings = test::exposedAt({7, 6, 5});
    for (int i = 0; i < 3; ++i) {
      auto scene = ground.clone();
      for (int y = 120; y < 210; ++y)
        for (int x = 60 + 100 * i; x < 100 + 100 * i; ++x)
          for (int c = 0; c < 3; ++c) scene.at(x, y)[c] = 0.9f;
      const auto shot =
          test::shootScene(std::move(scene), {settings[std::size_t(i)]}, FrameFormat::Jpeg, test::pathOf(dir));
      std::filesystem::rename(shot.files[0], test::pathOf(card) / ("f" + std::to_string(i) + ".jpg"));
    }
    MainWindow window(test::pathOf(dir) / "jobs");
    window.show();
    dropOn(window, {test::pathOf(card)});
    QVERIFY(settled(window));
    clickNext(window);
    QVERIFY(settled(window));
    window.workbench().goTo(stations::kCombine);
    const auto before = window.workbench().combine.movedPlaces();
    QVERIFY(!before.empty());
    auto* picture = window.findChild<PictureView*>("picture");
    const auto sourceAt = [&](QPointF at) {
      for (const auto& place : window.workbench().combine.movedPlaces())
        if (place.outline.contains(at)) return place.source;
      return -1;
    };
    const QPointF him = before.front().label;
    const int source = sourceAt(him);
    QTest::mouseClick(picture, Qt::LeftButton, {}, picture->widgetPlace(him.x(), him.y()).toPoint());
    QVERIFY(settled(window));
    const int chosen = sourceAt(him);
    QVERIFY(chosen >= 0 && chosen != source);
    QTest::keyClick(&window, Qt::Key_Z, Qt::ControlModifier);
    QVERIFY(settled(window));
    QCOMPARE(sourceAt(him), source);
    // Paint a corner from the second frame.
    click(visible<QPushButton>(window, "paint"));
    QVERIFY(window.workbench().combine.paintFrom() >= 0);
    const QPoint a = picture->widgetPlace(0.8, 0.85).toPoint(), b = picture->widgetPlace(0.9, 0.9).toPoint();
    QTest::mousePress(picture, Qt::LeftButton, {}, a);
    QTest::mouseMove(picture, (a + b) / 2);
    QTest::mouseMove(picture, b);
    QTest::mouseRelease(picture, Qt::LeftButton, {}, b);
    QVERIFY(settled(window));
    const auto painted = window.workbench().combine.movedPlaces();
    QVERIFY(std::any_of(painted.begin(), painted.end(), [](const auto& p) { return p.painted; }));
    click(visible<QPushButton>(window, "paint"));
    click(visible<QCheckBox>(window, "emptyScene"));
    QVERIFY(settled(window));
    QVERIFY(window.workbench().combine.options().emptyScene);
    QCOMPARE(window.workbench().combine.options().choices.size(), std::size_t(1));
    // A frame left out by its tick.
    auto* frames = visible<QListWidget>(window, "combineFrames");
    QCOMPARE(frames->count(), 3);
    frames->item(0)->setCheckState(Qt::Unchecked);
    QVERIFY(settled(window));
    QVERIFY2(verdictOf(window).startsWith("Two frames"), qPrintable(verdictOf(window)));
    for (int i = 0; i < 3; ++i) {
      QTest::keyClick(&window, Qt::Key_Z, Qt::ControlModifier);
      QVERIFY(settled(window));
    }
    QVERIFY(window.workbench().combine.options().choices.empty() &&
            window.workbench().combine.options().unused.empty());
  }

  void whatCannotBeUsedIsSaid() {
    QTemporaryDir dir;
    const auto text = test::pathOf(dir) / "letter.txt";
    std::ofstream(text) << "Dear";
    MainWindow window(test::pathOf(dir) / "jobs");
    window.show();
    dropOn(window, {text});
    QVERIFY(settled(window));
    QVERIFY(!window.workbench().hasView());
    auto* complaint = visible<QLabel>(window, "complaint");
    QVERIFY(complaint && complaint->text().contains("letter.txt"));
    click(visible<QPushButton>(window, "dismiss"));
    QVERIFY(!visible<QLabel>(window, "complaint"));
  }

  void combineStopsWhenAsked() {
    QTemporaryDir dir, card;
    (void)test::shootScene(test::texturedScene(1500, 1100, 11, 3), test::exposedAt({7, 9, 11, 5, 3}), FrameFormat::Jpeg,
                           test::pathOf(card));
    MainWindow window(test::pathOf(dir) / "jobs");
    window.show();
    dropOn(window, {test::pathOf(card)});
    QVERIFY(settled(window));
    connect(&window.workbench().desk.works.longWork, &Lane::progressed, &window,
            [&](const QString&, double) { window.workbench().stopWork(); });
    clickNext(window);
    QVERIFY(settled(window));
    QVERIFY(!window.workbench().view().combined);
    QVERIFY(!std::filesystem::exists(window.workbench().view().radianceFile()));
    QVERIFY(visible<QPushButton>(window, "next")->isEnabled());
  }

  void largeFramesShowAFirstLookWhileTheyAreCombined() {
    QTemporaryDir dir, card;
    for (const auto& file : test::shootScene(test::texturedScene(820, 560, 11, 3), test::exposedAt({7, 11, 3}),
                                             FrameFormat::Jpeg, test::pathOf(card))
                                .files)
      enlarge(file, 4);
    MainWindow window(test::pathOf(dir) / "jobs");
    window.show();
    dropOn(window, {test::pathOf(card)});
    QVERIFY(settled(window));
    const QImage frame = window.workbench().picture();
    QImage look;
    bool recordedYet = true;
    connect(&window.workbench(), &Workbench::pictureChanged, &window, [&] {
      if (!window.workbench().combine.showsFirstLook() || !look.isNull()) return;
      look = window.workbench().picture();
      recordedYet = window.workbench().view().combined.has_value();
    });
    clickNext(window);
    QVERIFY(settled(window));
    QVERIFY(!look.isNull() && !recordedYet);
    QVERIFY(look != frame);
    QVERIFY(!window.workbench().combine.showsFirstLook());
    QVERIFY(window.workbench().view().combined.has_value());
    // It promised what came.
    const QImage came = window.workbench().picture().scaled(64, 44), promised = look.scaled(64, 44);
    int worst = 0;
    for (int y = 4; y < 40; ++y)
      for (int x = 4; x < 60; ++x)
        worst = std::max(worst, std::abs(qGreen(came.pixel(x, y)) - qGreen(promised.pixel(x, y))));
    QVERIFY2(worst < 40, qPrintable(QString::number(worst)));
  }

  /// What is being typed when the window goes is not lost, and finds a workbench that is still there.
  void whatIsBeingTypedIsKept() {
    QTemporaryDir dir;
    std::filesystem::path job;
    {
      MainWindow window(dir.filePath("jobs").toStdString());
      window.show();
      window.openDemo();
      QVERIFY(settled(window));
      Workbench& bench = window.workbench();
      QVERIFY(bench.light.typeReading("sky", "15") && bench.light.typeReading("corner", "5"));
      QVERIFY(settled(window));
      bench.goTo(stations::kFrames);
      QVERIFY(settled(window));
      job = bench.job().folder();
      window.activateWindow();
      auto* snr = visible<QComboBox>(window, "snr");
      QVERIFY(snr);
      snr->lineEdit()->setFocus();
      QVERIFY(test::waitFor([&] { return snr->lineEdit()->hasFocus(); }));
      snr->lineEdit()->selectAll();
      QTest::keyClicks(snr->lineEdit(), "33");
    }
    const auto again = Job::open(job);
    QVERIFY(again.has_value());
    QCOMPARE(choicesOf(again->views().front()).snrTarget, 33.0);
  }

  void wrongReadingIsNotTaken() {
    QTemporaryDir dir;
    MainWindow window(test::pathOf(dir) / "jobs");
    window.show();
    window.openDemo();
    QVERIFY(settled(window));
    QTest::keyClicks(visible<QLineEdit>(window, "readingValue"), "very bright");
    click(visible<QPushButton>(window, "addReading"));
    QCOMPARE(visible<QTableWidget>(window, "readings")->rowCount(), 0);
    visible<QLineEdit>(window, "readingValue")->setText("1/125");
    click(visible<QPushButton>(window, "addReading"));
    QCOMPARE(window.workbench().view().readings[0].ev100.value, 13.0); // f/8, 1/125 s, ISO 100
    click(window.findChild<QToolButton*>("removeReading0"));
    QVERIFY(test::waitFor([&] { return window.workbench().view().readings.empty(); }));
  }

  void bothThemesDraw() {
    QTemporaryDir dir;
    MainWindow window(test::pathOf(dir) / "jobs");
    window.show();
    QVERIFY(QTest::qWaitForWindowActive(&window));
    window.setTheme(Theme::dusk());
    const QImage dusk = window.grab().toImage();
    QTest::keyClick(&window, Qt::Key_T, Qt::ControlModifier);
    const QImage paper = window.grab().toImage();
    QVERIFY(dusk.pixelColor(5, 400).lightness() < 60);
    QVERIFY(paper.pixelColor(5, 400).lightness() > 180);
    for (const QColor c : {Theme::dusk().surround, Theme::paper().surround})
      QVERIFY(c.red() == c.green() && c.green() == c.blue()); // nothing coloured beside pictures
  }
};

QTEST_MAIN(TestWindow)
#include "test_window.moc"
