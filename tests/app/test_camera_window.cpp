// SPDX-License-Identifier: GPL-3.0-or-later
// A real camera in the real window: connected by typing its address, planned, fired, one frame spoiled and shot again,
// the cable pulled, combined.
#include "support/window.h"
#include "tether/wire_bench.h"

#include <QDialog>
#include <QLineEdit>
#include <QMenu>
#include <QTableWidget>
#include <QToolButton>

using namespace ml;
using namespace ml::test;

namespace {

void openDemo(MainWindow& window) {
  window.resize(1280, 800);
  window.show();
  QVERIFY(QTest::qWaitForWindowExposed(&window));
  click(visible<QPushButton>(window, "openDemo"));
  QVERIFY(settled(window));
}

QAction* sourceAction(MainWindow& window, const QString& name) {
  auto* source = window.findChild<QToolButton*>("source");
  emit source->menu()->aboutToShow();
  return source->menu()->findChild<QAction*>(name);
}

void connectTo(MainWindow& window, const std::string& address) {
  window.workbench().goTo(stations::kShoot);
  sourceAction(window, "askAddress")->trigger();
  auto* dialog = window.findChild<QDialog*>("addressDialog");
  QVERIFY(dialog && dialog->isVisible());
  auto* line = dialog->findChild<QLineEdit*>("address");
  line->selectAll();
  QTest::keyClicks(line, QString::fromStdString(address));
  click(dialog->findChild<QPushButton*>("connectAddress"));
  QVERIFY(settled(window));
}

void readTwo(MainWindow& window) {
  window.workbench().goTo(stations::kLight);
  for (const char* reading : {"1 1/3", "15 1/3"}) {
    QTest::keyClicks(visible<QLineEdit>(window, "readingValue"), reading);
    QTest::keyClick(visible<QLineEdit>(window, "readingValue"), Qt::Key_Return);
  }
  QVERIFY(settled(window));
  QVERIFY(window.workbench().view().plan);
}

} // namespace

class TestCameraWindow : public QObject {
  Q_OBJECT

private slots:
  void initTestCase() { prepareWindows(); }

  void theWholePath() {
    const StandInProcess standIn({"--no-brackets", "--fault", "gust@3", "--files", "both", "--times", "2"});
    QTemporaryDir dir;
    MainWindow window((dir.path() + "/jobs").toStdString());
    openDemo(window);
    connectTo(window, standIn.address());
    auto& bench = window.workbench();
    QVERIFY2(bench.desk.camera.wired(), qPrintable(window.findChild<QLabel*>("complaint")->text()));
    QCOMPARE(bench.desk.camera.wiredName(), QString("Stand-in full-frame-24"));
    QVERIFY(window.findChild<QLabel*>("device")->text().contains("Battery 100 %"));
    readTwo(window);

    // Light: this camera shows no finder; its test frame is read like any other.
    bench.light.takeTestFrame();
    QVERIFY(settled(window));
    QVERIFY(bench.light.showsTestFrame());
    bench.light.putTestFrameAway();
    const auto single = QDir(standIn.card()).entryList({"*.DNG"}).size();
    QCOMPARE(single, 1);

    // Shoot: with the half stops that it has; the second frame is spoiled.
    bench.goTo(stations::kShoot);
    QVERIFY2(verdictOf(window).contains("times that Stand-in"), qPrintable(verdictOf(window)));
    const auto frames = bench.shoot.toFire().size();
    QVERIFY(frames >= 2);
    clickNext(window);
    QVERIFY(settled(window));
    QCOMPARE(bench.view().frames.size(), frames);
    for (const auto& file : bench.view().frames) QVERIFY(file.extension() == ".dng" && std::filesystem::exists(file));
    QVERIFY2(verdictOf(window).contains("rame 2"), qPrintable(verdictOf(window))); // the third that it made
    QVERIFY(bench.shoot.check().verdict.action.kind != NextAction::Kind::GoOn);
    clickNext(window);
    QVERIFY(settled(window));
    QVERIFY2(bench.shoot.check().verdict.action.kind == NextAction::Kind::GoOn, qPrintable(verdictOf(window)));

    clickNext(window);
    QVERIFY(bench.station().id() == stations::kCombine);
    clickNext(window);
    QVERIFY(settled(window));
    QVERIFY(std::filesystem::exists(bench.view().radianceFile()));
    // Opened again, the job has the same frames: what lies beside them is none.
    const auto folder = bench.job().folder();
    const auto kept = bench.view().sets.back().frames.size();
    MainWindow again((dir.path() + "/jobs").toStdString());
    again.show();
    again.openPaths({QString::fromStdString(folder.string())});
    QVERIFY(settled(again));
    QCOMPARE(again.workbench().view().sets.back().frames.size(), kept);
  }

  /// One frame is spoiled for certain, and shot again by the one next action.
  void aSpoiledFrame() {
    const StandInProcess standIn({"--no-brackets", "--fault", "auto-iso@2"});
    QTemporaryDir dir;
    MainWindow window((dir.path() + "/jobs").toStdString());
    openDemo(window);
    connectTo(window, standIn.address());
    readTwo(window);
    auto& bench = window.workbench();
    bench.goTo(stations::kShoot);
    clickNext(window);
    QVERIFY(settled(window));
    QVERIFY2(bench.shoot.check().verdict.action.kind != NextAction::Kind::GoOn, qPrintable(verdictOf(window)));
  }

  /// The cable comes off in the middle and nobody mends it in time; then it is mended, and the next action brings what
  /// stayed on the camera.
  void theCableComesOff() {
    const QTemporaryDir card;
    auto standIn = std::make_unique<StandInProcess>(QStringList{"--no-brackets", "--write", "0.2"}, 0, card.path());
    const int port = standIn->port();
    QTemporaryDir dir;
    MainWindow window((dir.path() + "/jobs").toStdString());
    openDemo(window);
    connectTo(window, standIn->address());
    readTwo(window);
    auto& bench = window.workbench();
    bench.desk.camera.setPatience({0.3});
    bench.goTo(stations::kShoot);
    const auto frames = bench.shoot.toFire().size();
    clickNext(window);
    QVERIFY(waitFor([&] { return !bench.view().frames.empty(); }));
    standIn->kill();
    QVERIFY(settled(window));
    QVERIFY(bench.view().frames.size() < frames);
    const QString said = window.findChild<QLabel*>("complaint")->text();
    QVERIFY2(said.contains("connect it again"), qPrintable(said));
    QVERIFY(waitFor([&] { return window.findChild<QLabel*>("device")->text() == "The camera is gone"; }));
    standIn = std::make_unique<StandInProcess>(QStringList{"--no-brackets"}, port, card.path());
    clickNext(window); // shoots what is missing
    QVERIFY(settled(window));
    QCOMPARE(bench.view().frames.size(), frames);
    QSet<QByteArray> seen;
    for (const auto& file : bench.view().frames) seen << bytesOf(QString::fromStdString(file.string()));
    QCOMPARE(seen.size(), qsizetype(frames));
  }

  /// A camera that hangs holds nothing up: the window goes on at once, and closes.
  void nothingWaits() {
    const StandInProcess standIn({"--no-brackets", "--fault", "asleep@1"});
    QTemporaryDir dir;
    auto window = std::make_unique<MainWindow>((dir.path() + "/jobs").toStdString());
    openDemo(*window);
    connectTo(*window, standIn.address());
    readTwo(*window);
    window->workbench().goTo(stations::kShoot);
    clickNext(*window);
    // The event loop turns while the camera says nothing.
    int turns = 0;
    QTimer ticking;
    connect(&ticking, &QTimer::timeout, window.get(), [&] { ++turns; });
    ticking.start(5);
    QVERIFY(waitFor([&] { return turns > 20; }));
    QVERIFY(window->workbench().busy());
    window->workbench().goTo(stations::kLight);
    ticking.stop();
    window.reset();
  }

  void noSuchCamera() {
    QTemporaryDir dir;
    MainWindow window((dir.path() + "/jobs").toStdString());
    openDemo(window);
    connectTo(window, "127.0.0.1:1");
    QVERIFY(!window.workbench().desk.camera.wired());
    QVERIFY(window.findChild<QLabel*>("complaint")->text().contains("does not answer"));
    connectTo(window, "no where");
    QVERIFY(window.findChild<QLabel*>("complaint")->text().contains("no camera's address"));
    // What was used last is offered again; the simulated one is back at once.
    QCOMPARE(window.workbench().desk.camera.lastAddress(), QString("127.0.0.1:1"));
    sourceAction(window, "useSimulated")->trigger();
    QVERIFY(window.workbench().desk.camera.present());
  }
};

QTEST_MAIN(TestCameraWindow)
#include "test_camera_window.moc"
