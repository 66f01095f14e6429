// SPDX-License-Identifier: GPL-3.0-or-later
// A visit of three views in the real window, with everything that goes wrong on location; read from the widgets and the
// files.
#include "app/field_card.h"
#include "app/main_window.h"
#include "app/ways_chart.h"
#include "ingest/load_frame.h"
#include "support/scenes.h"
#include "support/window.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDialog>
#include <QDialogButtonBox>
#include <QDoubleSpinBox>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QMenu>
#include <QPushButton>
#include <QSpinBox>
#include <QStandardPaths>
#include <QTableWidget>
#include <QTest>
#include <QTimer>
#include <QToolButton>
#include <fstream>

using namespace ml;
using namespace ml::test;
namespace fs = std::filesystem;

namespace {

QString nextText(MainWindow& window) {
  return visible<QPushButton>(window, "next")->text();
}
QString complaintOf(MainWindow& window) {
  auto* label = visible<QLabel>(window, "complaint");
  return label ? label->text() : QString();
}

void openDemo(MainWindow& window) {
  window.resize(1280, 800);
  window.show();
  QVERIFY(QTest::qWaitForWindowExposed(&window));
  window.openDemo();
  QVERIFY(settled(window));
}

void arm(MainWindow& window, const char* fault) {
  auto* action = window.findChild<QAction*>(QString("fault-") + fault);
  QVERIFY(action);
  action->trigger();
  QVERIFY(complaintOf(window).startsWith("Practice"));
  click(visible<QPushButton>(window, "dismiss"));
}

void chooseView(MainWindow& window, int index) {
  auto* views = visible<QListWidget>(window, "views");
  views->setFocus();
  while (views->currentRow() < index) QTest::keyClick(views, Qt::Key_Down);
  QVERIFY(settled(window));
  QCOMPARE(window.workbench().desk.job.viewIndex(), index);
}

} // namespace

class TestVisit : public QObject {
  Q_OBJECT

private slots:
  void initTestCase() { prepareWindows(); }

  void threeViewsWithFaults() {
    QTemporaryDir dir;
    MainWindow window(test::pathOf(dir) / "jobs");
    openDemo(window);
    Workbench& bench = window.workbench();
    QCOMPARE(visible<QListWidget>(window, "views")->count(), 4);

    // The reading room: two spots, a passer-by in the second frame, one key mends it.
    clickPicture(window, 0.33, 0.235);
    clickPicture(window, 0.165, 0.66);
    QVERIFY(settled(window));
    QVERIFY(window.findChild<QTableWidget*>("readings")->item(0, 1)->text().startsWith("EV 15"));
    clickNext(window);
    auto* snr = visible<QComboBox>(window, "snr");
    snr->setFocus();
    snr->lineEdit()->selectAll();
    QTest::keyClicks(snr, "40");
    QTest::keyClick(snr, Qt::Key_Return);
    QVERIFY(bench.view().snrTarget == 40);
    const auto planned = bench.view().plan->frames.size();
    QVERIFY(planned >= 3);
    clickNext(window);
    arm(window, "passer-by");
    clickNext(window);
    QVERIFY(settled(window));
    QVERIFY2(verdictText(window).startsWith("Something moved in frame 2"), qPrintable(verdictText(window)));
    QVERIFY(window.findChild<QToolButton*>("frame1")->text().contains("!"));
    QVERIFY(window.findChild<LadderWidget*>("ladder")->data().columns[1].flawed);
    QVERIFY(nextText(window).startsWith("Repeat frame 2"));
    QTest::keyClick(&window, Qt::Key_Return, Qt::ControlModifier);
    QVERIFY(settled(window));
    QVERIFY2(bench.shoot.check().verdict.good(), qPrintable(verdictText(window)));
    QCOMPARE(bench.view().frames.size(), planned);             // the better frame took the place of the spoiled one
    QCOMPARE(bench.view().sets[0].frames.size(), planned + 1); // which is kept all the same
    QVERIFY(!bench.view().sets[0].frames[1].used);
    QCOMPARE(nextText(window), QString("On to Combine"));

    // The boat hall: the cable comes off; connect and go on with what is missing.
    chooseView(window, 1);
    QVERIFY(bench.station().id() == stations::kLight);
    click(visible<QToolButton>(window, "testFrame"));
    QVERIFY(settled(window));
    QVERIFY(bench.light.showsTestFrame());
    QCOMPARE(nextText(window), QString("Take both readings"));
    click(visible<QToolButton>(window, "testFrame")); // back to the finder
    QVERIFY(settled(window));
    QTest::keyClicks(visible<QLineEdit>(window, "readingName"), "water");
    QTest::keyClicks(visible<QLineEdit>(window, "readingValue"), "1/125 f/16");
    QTest::keyClick(visible<QLineEdit>(window, "readingValue"), Qt::Key_Return);
    QTest::keyClicks(visible<QLineEdit>(window, "readingValue"), "4 cd/m2");
    QTest::keyClick(visible<QLineEdit>(window, "readingValue"), Qt::Key_Return);
    QCOMPARE(bench.view().readings[0].ev100.value, 15.0);
    QCOMPARE(bench.view().readings[1].ev100.value, 5.0);
    clickNext(window);
    clickNext(window);
    QVERIFY(bench.station().id() == stations::kShoot);
    arm(window, "disconnect");
    clickNext(window);
    QVERIFY(settled(window));
    QVERIFY(complaintOf(window).contains("camera is gone"));
    QVERIFY(visible<QLabel>(window, "device")->text().contains("gone"));
    QVERIFY(verdictText(window).contains("missing"));
    clickNext(window); // takes up the connection and shoots the rest
    QVERIFY(settled(window));
    QVERIFY2(bench.shoot.check().verdict.good(), qPrintable(verdictText(window)));

    // The same set again with automatic ISO left on; the old one stays.
    arm(window, "auto-iso");
    click(visible<QToolButton>(window, "shootAgain"));
    QVERIFY(settled(window));
    QVERIFY2(verdictText(window).contains("ISO"), qPrintable(verdictText(window)));
    QCOMPARE(bench.view().sets.size(), std::size_t(2));
    QCOMPARE(visible<QComboBox>(window, "sets")->count(), 2);

    // The jetty at dusk, with a plan of the photographer's own, hand-held, waiting for a lull.
    chooseView(window, 2);
    bench.light.typeReading("window", "10.5");
    bench.light.typeReading("stones", "1.5");
    clickNext(window);
    QVERIFY(visible<WaysChart>(window, "ways")->ways().size() >= 4);
    visible<QSpinBox>(window, "ownCount")->setFocus();
    visible<QSpinBox>(window, "ownCount")->selectAll();
    QTest::keyClicks(visible<QSpinBox>(window, "ownCount"), "4");
    QTest::keyClick(visible<QSpinBox>(window, "ownCount"), Qt::Key_Return);
    QCOMPARE(bench.view().plan->frames.size(), std::size_t(4));
    QCOMPARE(bench.view().plan->school, std::string("own"));
    clickNext(window);
    visible<QCheckBox>(window, "holdStill")->setChecked(true);
    clickNext(window);
    QVERIFY(settled(window));
    QCOMPARE(bench.view().frames.size(), std::size_t(4));

    // Everything is on disk.
    const auto job = Job::open(bench.job().folder());
    QVERIFY(job);
    for (std::size_t v = 0; v < 3; ++v) {
      QVERIFY(job->views()[v].sets == bench.job().views()[v].sets);
      for (const auto& file : job->views()[v].frames) QVERIFY(loadFrame(file).has_value());
    }
  }

  void framesSheetShowsWhatThePlannerSays() {
    QTemporaryDir dir;
    MainWindow window(test::pathOf(dir) / "jobs");
    openDemo(window);
    Workbench& bench = window.workbench();
    bench.light.typeReading("sky", "15");
    bench.light.typeReading("corner", "4");
    clickNext(window);
    // Four ways side by side; what each leaves uncovered is what its plan says.
    auto* chart = visible<WaysChart>(window, "ways");
    const Comparison& c = *bench.frames.comparison();
    QCOMPARE(chart->ways().front().name.toStdString(), c.recommended.school.name);
    QVERIFY(chart->ways().front().chosen && chart->ways().front().uncovered.empty() == c.recommended.plan.covers);
    QCOMPARE(chart->ways()[1].id, std::string("one-frame"));
    for (const Way& way : chart->ways()) QCOMPARE(way.uncovered.empty(), way.figures->plan.covers);
    // A click takes one, a key another; undo goes back.
    QTest::mouseClick(chart, Qt::LeftButton, {}, chart->lane(2).center().toPoint());
    QCOMPARE(bench.view().school, std::string("three-by-two"));
    chart->setFocus();
    QTest::keyClick(chart, Qt::Key_Right);
    QTest::keyClick(chart, Qt::Key_Return);
    QCOMPARE(bench.view().school, std::string("five-by-two"));
    QTest::keyClick(&window, Qt::Key_Z, Qt::ControlModifier);
    QTest::keyClick(&window, Qt::Key_Z, Qt::ControlModifier);
    QCOMPARE(bench.view().school, std::string("auto"));
    // All of them unfold; those that fire the same frames are one row.
    click(visible<QToolButton>(window, "allWays"));
    auto* table = visible<QTableWidget>(window, "comparison");
    const auto ways = bench.frames.ways();
    QCOMPARE(table->rowCount(), int(ways.size()));
    QVERIFY(ways.size() < bench.frames.comparison()->alternatives.size() + 1);
    std::size_t named = 0;
    for (int r = 0; r < table->rowCount(); ++r) {
      const Way& way = ways[std::size_t(r)];
      named += 1 + std::size_t(way.also.size());
      QCOMPARE(table->item(r, 0)->text(), way.name);
      QCOMPARE(table->item(r, 3)->text().section(' ', 0, 0),
               QString::number(way.figures->plan.coverage.worstSnr, 'f', 0));
      QCOMPARE(table->item(r, 2)->text() == "all", way.figures->plan.covers);
      QCOMPARE(table->item(r, 6)->text(), QString::number(way.figures->megabytes, 'f', 0));
      for (int other = 0; other < r; ++other)
        QVERIFY(way.bars.size() != ways[std::size_t(other)].bars.size() ||
                way.bars.front().clip != ways[std::size_t(other)].bars.front().clip ||
                way.bars.back().clip != ways[std::size_t(other)].bars.back().clip ||
                way.frames != ways[std::size_t(other)].frames);
    }
    QCOMPARE(named, bench.frames.comparison()->alternatives.size() + 1); // none is lost
    // A row is a choice.
    QTest::mouseClick(table->viewport(), Qt::LeftButton, {}, table->visualItemRect(table->item(2, 0)).center());
    QCOMPARE(bench.view().school, ways[2].id);
    QTest::keyClick(&window, Qt::Key_Z, Qt::ControlModifier);
    QCOMPARE(bench.view().school, std::string("auto"));
    // Settings in order; a warning when something moves.
    auto* settings = visible<QTableWidget>(window, "settings");
    QCOMPARE(settings->item(1, 1)->text(), QString("f/8"));
    auto* moving = visible<QComboBox>(window, "moving");
    moving->setFocus();
    QTest::keyClick(moving, Qt::Key_End);
    QVERIFY(!bench.view().situation.movers.empty());
    visible<QCheckBox>(window, "planHandHeld")->click();
    QVERIFY(bench.view().plan->frames.back().time.value <=
            longestAllowed(bench.view().situation, bench.view().profile())->value * 1.001);
    // A panorama multiplies the shots.
    QTimer::singleShot(0, [&] {
      auto* dialog = window.findChild<QDialog*>("positionsDialog");
      QVERIFY(dialog);
      dialog->findChild<QDoubleSpinBox*>("pan")->setValue(180);
      dialog->findChild<QDialogButtonBox*>()->button(QDialogButtonBox::Ok)->click();
    });
    click(visible<QToolButton>(window, "positions"));
    QVERIFY(bench.frames.shots()->columns > 2);
    QVERIFY(visible<QLabel>(window, "shotCount")->text().contains(QString::number(bench.frames.shots()->shots.size())));
  }

  void fieldCardIsWritten() {
    QTemporaryDir dir;
    PlanRequest request;
    request.low = {4};
    request.high = {15};
    FieldCard card;
    card.job = "Visit", card.view = "Hall";
    card.plan = *planBracket(shippedProfiles().front(), request);
    View view;
    view.plan = card.plan;
    view.readings = {{"sky", {15}, true, 0.3, 0.2, 0, false}, {"corner", {4}, true, 0.8, 0.9, 0, false}};
    card.readings = view.readings;
    LadderContent content;
    content.columns = LadderContent::Columns::Planned;
    card.ladder = ladderOf(view, content);
    card.picture = QImage(900, 600, QImage::Format_RGB888);
    card.picture.fill(QColor(120, 60, 20));
    card.situation.positions.panDegrees = 120;
    const auto files = writeFieldFiles(card, test::pathOf(dir));
    QVERIFY2(files.has_value(), files ? "" : files.error().message.c_str());
    QCOMPARE(files->size(), std::size_t(4));
    std::ifstream pdf((*files)[0], std::ios::binary);
    std::string head(5, '\0');
    pdf.read(head.data(), 5);
    QCOMPARE(head, std::string("%PDF-"));
    const QImage phone = fieldCardImage(card);
    QCOMPARE(phone.size(), QSize(1080, 2160));
    int dark = 0; // ink down to the cautions, and none at the very edge
    for (int y = 0; y < phone.height(); ++y)
      for (int x = 0; x < phone.width(); x += 3) dark += phone.pixelColor(x, y).lightness() < 90;
    QVERIFY(dark > 8000);
    // The picture stands on it, with its spots in white; so do the columns of the Ladder, in grey.
    int brown = 0, grey = 0;
    for (int y = 0; y < phone.height(); ++y)
      for (int x = 0; x < phone.width(); ++x) {
        const QColor c = phone.pixelColor(x, y);
        brown += std::abs(c.red() - 120) < 6 && std::abs(c.green() - 60) < 6;
        grey += c.red() == 225 && c.green() == 225;
      }
    QVERIFY(brown > 50000 && grey > 3000);
    for (int y = 0; y < phone.height(); ++y) QVERIFY(phone.pixelColor(1078, y).lightness() > 240);
    for (int x = 0; x < phone.width(); x += 2) QVERIFY(phone.pixelColor(x, 2155).lightness() > 240);
    std::ifstream csv((*files)[2]);
    int lines = 0;
    for (std::string line; std::getline(csv, line);) ++lines;
    QCOMPARE(lines, int(shotList(card.plan, card.situation).shots.size()) + 1);
    QVERIFY(!writeFieldFiles(card, "/proc/none"));
  }

  // Files that some other program writes into a folder are taken one by one, judged and listed.
  void watchedFolderFillsTheSet() {
    QTemporaryDir dir, card, drop;
    const auto shot = test::shootScene(test::texturedScene(420, 320, 11, 3), test::exposedAt({11, 8, 5}),
                                       FrameFormat::Jpeg, test::pathOf(card));
    MainWindow window(test::pathOf(dir) / "jobs");
    openDemo(window);
    Workbench& bench = window.workbench();
    bench.goTo(stations::kShoot);
    QVERIFY(settled(window));
    bench.shoot.watch(drop.path());
    for (std::size_t i = 0; i < shot.files.size(); ++i) {
      fs::copy_file(shot.files[i], test::pathOf(drop) / ("IMG_" + std::to_string(i) + ".jpg"));
      QVERIFY(test::waitFor([&] { return bench.shoot.check().sketches.size() == i + 1; }));
    }
    QVERIFY(settled(window));
    QCOMPARE(bench.view().frames.size(), std::size_t(3));
    QVERIFY(visible<QLabel>(window, "device")->text().contains("Watching"));
    // The same exposures once more are another set.
    fs::copy_file(shot.files[0], test::pathOf(drop) / "IMG_7.jpg");
    QVERIFY(test::waitFor([&] { return bench.view().sets.size() == 2 && bench.shoot.check().sketches.size() == 1; }));
    QVERIFY(settled(window));
    fs::remove_all(test::pathOf(drop));
    QVERIFY(test::waitFor([&] { return complaintOf(window).contains("vanished"); }));
    bench.shoot.stopWatching();
    const auto job = Job::open(bench.job().folder());
    QCOMPARE(job->views()[0].sets[0].frames.size(), std::size_t(3));
    QCOMPARE(job->views()[0].sets[1].frames.size(), std::size_t(1));
    // The next start offers this job.
    MainWindow next(test::pathOf(dir) / "jobs");
    next.show();
    click(visible<QPushButton>(next, "goOn"));
    QVERIFY(settled(next));
    QCOMPARE(next.workbench().job().folder(), bench.job().folder());
  }

  void cameraOfOnesOwn() {
    QTemporaryDir dir;
    MainWindow window(test::pathOf(dir) / "jobs");
    openDemo(window);
    Workbench& bench = window.workbench();
    bench.light.typeReading("sky", "15");
    bench.light.typeReading("corner", "4");
    bench.goTo(stations::kFrames);
    QTimer::singleShot(0, [&] {
      auto* dialog = window.findChild<QDialog*>("profilesDialog");
      QVERIFY(dialog);
      dialog->findChild<QLineEdit*>("profileName")->setText("Test body");
      dialog->findChild<QLineEdit*>("profileWell")->setText("many");
      dialog->findChild<QPushButton*>("keepProfile")->click();
      QVERIFY(dialog->findChild<QLabel*>("profileNote")->text().contains("many"));
      dialog->findChild<QLineEdit*>("profileWell")->setText("20000");
      dialog->findChild<QPushButton*>("keepProfile")->click();
      QVERIFY(dialog->findChild<QLabel*>("profileNote")->text().contains("Kept"));
      dialog->reject();
    });
    auto* camera = visible<QComboBox>(window, "camera");
    camera->setFocus();
    QTest::keyClick(camera, Qt::Key_End); // "Cameras of your own..."
    QVERIFY(camera->findText("Test body") >= 0);
    PlanChoices choices = bench.frames.choices();
    choices.camera = camera->itemData(camera->findText("Test body")).toString().toStdString();
    bench.frames.choose(choices);
    QCOMPARE(bench.view().plan->camera.fullWell, 20000.0);
    QVERIFY(settled(window));
    QCOMPARE(Job::open(bench.job().folder())->views()[0].profile().fullWell, 20000.0);
  }

private:
  static QString verdictText(MainWindow& window) { return window.findChild<QLabel*>("verdict")->text(); }
};

QTEST_MAIN(TestVisit)
#include "test_visit.moc"
