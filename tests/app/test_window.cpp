// Drives the real window by clicks and keys, and reads the outcome from the widgets and the files.
#include "app/main_window.h"
#include "codec/jpeg.h"
#include "deliver/deliver.h"
#include "support/scenes.h"
#include "support/window.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDropEvent>
#include <QLabel>
#include <QLineEdit>
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

QString verdictOf(MainWindow& window) { return window.findChild<QLabel*>("verdict")->text(); }

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

class TestWindow : public QObject {
  Q_OBJECT

private slots:
  void initTestCase() {
    prepareWindows();
  }

  void wholePathOfTheDemo() {
    QTemporaryDir dir;
    MainWindow window(test::pathOf(dir));
    window.show();
    QVERIFY(QTest::qWaitForWindowExposed(&window));
    QVERIFY(verdictOf(window).contains("demo"));
    click(visible<QPushButton>(window, "openDemo"));
    QVERIFY(settled(window));
    QCOMPARE(window.findChild<QLabel*>("jobName")->text(), QString("Marl Quay ferry house"));
    auto* picture = window.findChild<PictureView*>("picture");
    QVERIFY(!picture->picture().isNull());

    // Light: two clicks on the picture, one typed reading that may clip.
    QVERIFY(!visible<QPushButton>(window, "next")->isEnabled());
    clickPicture(window, 0.33, 0.235);
    QVERIFY(verdictOf(window).contains("other end"));
    clickPicture(window, 0.165, 0.66);
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
    QVERIFY(window.workbench().station() == Station::Frames);
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
    connect(&window.workbench(), &Workbench::frameArrived, &window, [&](int index) { arrived.push_back(index); });
    clickNext(window);
    QVERIFY(visible<QPushButton>(window, "stop"));
    QVERIFY(settled(window));
    QVERIFY((arrived == std::vector<int>{0, 1, 2}));
    for (const auto& file : window.workbench().view().frames) QVERIFY2(std::filesystem::exists(file), file.c_str());
    click(window.findChild<QToolButton*>("frame0"));
    QVERIFY(test::waitFor([&] { return window.workbench().shownFrame() == 0; }));
    QVERIFY(settled(window));

    // Combine.
    clickNext(window);
    QVERIFY(window.workbench().station() == Station::Combine);
    clickNext(window);
    QVERIFY(settled(window));
    QVERIFY2(verdictOf(window).startsWith("Three frames"), qPrintable(verdictOf(window)));
    QVERIFY(std::filesystem::exists(window.workbench().view().radianceFile()));
    QVERIFY(visible<QLabel>(window, "places")->text().count('\n') == 2);

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
    const int steps = window.workbench().undoStack().count();
    exposure->setFocus();
    const QPoint handle(exposure->width() / 2, exposure->height() / 2);
    QTest::mousePress(exposure, Qt::LeftButton, {}, handle);
    for (int x = 4; x <= 24; x += 4) QTest::mouseMove(exposure, handle + QPoint(x, 0));
    QTest::mouseRelease(exposure, Qt::LeftButton, {}, handle + QPoint(24, 0));
    QVERIFY(window.workbench().view().recipe.tone.exposure > 0);
    QCOMPARE(window.workbench().undoStack().count(), steps + 1);
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
    QVERIFY(window.workbench().states().deliver == StationState::Done);

    // Delivering again overwrites nothing.
    clickNext(window);
    QVERIFY(settled(window));
    QVERIFY(std::filesystem::exists(delivered / "reading-room-2.jpg"));

    // The job opens again as it was.
    const auto recipe = window.workbench().view().recipe;
    const auto folder = window.workbench().job().folder();
    MainWindow again(test::pathOf(dir));
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
    test::shootScene(test::texturedScene(420, 320, 11, 3), test::exposedAt({7, 11, 3}), FrameFormat::Jpeg, test::pathOf(card), sway);
    std::ofstream(test::pathOf(card) / "notes.txt") << "x";
    MainWindow window(test::pathOf(dir));
    window.show();
    dropOn(window, {test::pathOf(card)});
    QVERIFY(settled(window));
    QVERIFY(window.workbench().hasView());
    QVERIFY(window.workbench().station() == Station::Combine);
    QVERIFY(window.findChild<QLabel*>("complaint")->text().contains("notes.txt"));
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
    test::shootScene(test::texturedScene(1500, 1100, 11, 3), test::exposedAt({7, 9, 11, 5, 3}), FrameFormat::Jpeg, test::pathOf(card));
    MainWindow window(test::pathOf(dir));
    window.show();
    dropOn(window, {test::pathOf(card)});
    QVERIFY(settled(window));
    connect(&window.workbench(), &Workbench::progressed, &window, [&](const QString&, double) { window.workbench().stopWork(); });
    clickNext(window);
    QVERIFY(settled(window));
    QVERIFY(!window.workbench().view().combined);
    QVERIFY(!std::filesystem::exists(window.workbench().view().radianceFile()));
    QVERIFY(visible<QPushButton>(window, "next")->isEnabled());
  }

  void wrongReadingIsNotTaken() {
    QTemporaryDir dir;
    MainWindow window(test::pathOf(dir));
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
    MainWindow window(test::pathOf(dir));
    window.show();
    QVERIFY(QTest::qWaitForWindowActive(&window));
    window.setTheme(Theme::dusk());
    const QImage dusk = window.grab().toImage();
    QTest::keyClick(&window, Qt::Key_T, Qt::ControlModifier);
    const QImage paper = window.grab().toImage();
    QVERIFY(dusk.pixelColor(5, 400).lightness() < 60);
    QVERIFY(paper.pixelColor(5, 400).lightness() > 180);
    for (const QColor c : {Theme::dusk().surround, Theme::paper().surround}) QVERIFY(c.red() == c.green() && c.green() == c.blue()); // nothing coloured beside pictures
  }
};

QTEST_MAIN(TestWindow)
#include "test_window.moc"
