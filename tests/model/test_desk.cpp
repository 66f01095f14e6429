// SPDX-License-Identifier: GPL-3.0-or-later
// The parts that stations share, each alone: pictures for the screen, kept radiance, the camera and its finder, the
// words of a plan.
#include "model/judging.h"
#include "model/pictures.h"
#include "model/plan_words.h"
#include "support/bench.h"

#include <QGuiApplication>
#include <QSignalSpy>
#include <QStandardPaths>

using namespace ml;
using test::BenchInAFolder;

namespace {

/// 40 x 20: dark on the left, at `bright` of its mid-tone on the right.
Frame halves(float dark, float bright) {
  Image<float> light(40, 20, 3);
  for (int y = 0; y < 20; ++y)
    for (int x = 0; x < 40; ++x)
      for (int c = 0; c < 3; ++c) light.at(x, y)[c] = x < 20 ? dark : bright;
  return test::linearFrame(light, {{1 / 128.0}, {8}, {100}});
}

} // namespace

class TestDesk : public QObject {
  Q_OBJECT

private slots:
  void initTestCase() { QStandardPaths::setTestModeEnabled(true); }

  // ---- Pictures

  // A mid-tone is 18 % of paper white: sRGB 117.6 (IEC 61966-2-1), as a camera shows what it metered.
  void aFrameIsShownWithItsMidToneAtEighteenPercent() {
    const Frame probe = halves(0.1f, 0.1f);
    const QImage image = displayOf(halves(probe.midTone, probe.midTone * 4));
    QVERIFY2(std::abs(qGreen(image.pixel(5, 10)) - 118) <= 1, qPrintable(QString::number(qGreen(image.pixel(5, 10)))));
    QVERIFY(std::abs(qGreen(image.pixel(35, 10)) - 220) <= 2); // 72 %: two stops above
  }

  void onlyExtremesAreMarked() {
    QImage image(60, 20, QImage::Format_RGB888);
    for (int x = 0; x < 60; ++x)
      for (int y = 0; y < 20; ++y)
        image.setPixelColor(x, y, x < 20 ? Qt::white : x < 40 ? QColor(128, 128, 128) : Qt::black);
    QImage marked = image.copy();
    markExtremes(marked);
    int white = 0, grey = 0, black = 0;
    for (int x = 0; x < 60; ++x)
      for (int y = 0; y < 20; ++y)
        if (marked.pixel(x, y) != image.pixel(x, y)) ++(x < 20 ? white : x < 40 ? grey : black);
    QVERIFY(white > 40 && white < 200 && black > 2 && black < 40);
    QCOMPARE(grey, 0);
  }

  // EV100 = log2(N^2 / t): f/8 at 1/128 s is EV 13, and the mid-tone reads what was set.
  void aSpotReadsItsLight() {
    const Frame probe = halves(0.1f, 0.1f);
    const Frame frame = halves(probe.midTone, probe.midTone / 4);
    const SpotMeasure mid = readSpot(frame, 0.2, 0.5, 0.1), low = readSpot(frame, 0.8, 0.5, 0.1),
                      edge = readSpot(frame, 0.5, 0.5, 0.1);
    QVERIFY(std::abs(mid.ev100.value - 13) < 0.01 && std::abs(low.ev100.value - 11) < 0.02);
    QVERIFY(mid.uncertainty < 0.01 && edge.uncertainty > 0.4); // it lies on a step of two stops
    QVERIFY(!mid.atLeast);
    QVERIFY(readSpot(halves(0.1f, 1.f), 0.8, 0.5, 0.1).atLeast); // clipped: at least as bright
    QVERIFY(std::isfinite(readSpot(frame, 0, 0, 0.001).ev100.value) &&
            std::isfinite(readSpot(frame, 1, 1, 3).ev100.value));
  }

  // ---- Kept radiance

  void theLatestPicturesAreKept() {
    RadianceStore store;
    const auto picture = [] { return std::make_shared<const CombinedPicture>(); };
    for (int i = 0; i < 8; ++i) store.keep("view", std::to_string(i), picture());
    const auto first = store.find("view", "0"); // looked at, so it stays
    QVERIFY(first);
    store.keep("view", "8", picture());
    QVERIFY(store.find("view", "0") == first);
    QVERIFY(!store.find("view", "1")); // the one that was longest unused
    QVERIFY(!store.find("other", "0"));
    const auto anew = picture();
    store.keep("view", "0", anew);
    QVERIFY(store.find("view", "0") == anew);
    QVERIFY(store.firstVisit("view") && !store.firstVisit("view"));
    store.clear();
    QVERIFY(!store.find("view", "0") && store.firstVisit("view"));
  }

  // ---- The camera

  void theFinderFollowsTheReadings() {
    BenchInAFolder f;
    QVERIFY(f.openDemo());
    CameraSession& camera = f.bench.desk.camera;
    QVERIFY(camera.present() && !camera.finder().isNull());
    const double before = ev100(camera.finderSettings(f.bench.view())).value;
    f.bench.light.brightenFinder(2);
    QVERIFY(f.settled());
    QVERIFY(std::abs(ev100(camera.finderSettings(f.bench.view())).value - (before - 2)) < 0.01);
    f.bench.light.brightenFinder(-2);
    QVERIFY(f.bench.light.typeReading("sky", "15.5"));
    QVERIFY(std::abs(ev100(camera.finderSettings(f.bench.view())).value - 12.5) <
            0.01); // three stops below the brightest
    QVERIFY(f.bench.light.typeReading("moon", "-6"));
    QVERIFY(std::abs(ev100(camera.finderSettings(f.bench.view())).value - 12.5) < 0.01);
  }

  void clicksFasterThanTheFinderAreAllRead() {
    BenchInAFolder f;
    QVERIFY(f.openDemo());
    for (int i = 0; i < 6; ++i) f.bench.light.readSpot(0.1 + 0.13 * i, 0.5);
    QVERIFY(f.settled());
    QCOMPARE(f.bench.view().readings.size(), std::size_t(6));
    for (int i = 0; i < 6; ++i) {
      QCOMPARE(*f.bench.view().readings[std::size_t(i)].x, 0.1 + 0.13 * i); // in their order
      QCOMPARE(f.bench.view().readings[std::size_t(i)].name, "Spot " + std::to_string(i + 1));
    }
    QCOMPARE(f.bench.desk.job.undoStack().count(), 6);
  }

  void aTestFrameProposesBothEnds() {
    BenchInAFolder f;
    QVERIFY(f.openDemo());
    QVERIFY(!f.bench.light.proposals());
    f.bench.light.takeTestFrame();
    QVERIFY(f.settled());
    QVERIFY(f.bench.light.showsTestFrame() && f.bench.light.proposals());
    QCOMPARE(f.bench.light.next().words, QString("Take both readings"));
    QVERIFY(f.bench.light.verdict().startsWith("The test frame shows"));
    QVERIFY(!f.bench.ladder().glow.empty()); // its light stands beside the scale
    f.bench.light.doNext();
    QCOMPARE(f.bench.view().readings.size(), std::size_t(2));
    QVERIFY(f.bench.view().readings[0].ev100 > f.bench.view().readings[1].ev100);
    QCOMPARE(f.bench.desk.job.undoStack().count(), 1); // both are one step
    f.bench.undo();
    QVERIFY(f.bench.view().readings.empty());
    f.bench.light.putTestFrameAway();
    QVERIFY(f.settled());
    QVERIFY(!f.bench.light.showsTestFrame() && f.bench.picture() == f.bench.desk.camera.finder());
  }

  void withoutACameraNothingOfItIsAsked() {
    BenchInAFolder f;
    QVERIFY(f.openFrames());
    CameraSession& camera = f.bench.desk.camera;
    QVERIFY(!camera.present() && !camera.status());
    camera.connectCamera();
    camera.changeCard();
    camera.armFault(FaultKind::PasserBy);
    camera.drawFinder(f.bench.view());
    f.bench.light.brightenFinder(1);
    f.bench.shoot.shoot();
    QVERIFY(f.settled());
    f.bench.light.readSpot(0.5, 0.5); // from the frame in hand
    QCOMPARE(f.bench.view().readings.size(), std::size_t(1));
    QCOMPARE(f.bench.light.next().words, QString("On to Combine"));
  }

  // ---- Words and judging

  void aPlanIsExplainedByItsFigures() {
    PlanRequest request;
    request.low = {3};
    request.high = {14.7};
    const Plan plan = *planBracket(*findProfile("full-frame-24"), request);
    QCOMPARE(timesWords(plan.frames).count(", ") + 1, int(plan.frames.size()));
    const QStringList lines = planReasons(plan);
    QCOMPARE(lines.size(), 2);
    QVERIFY(lines[0].contains("EV 3.0 to EV 14.7"));
    QVERIFY(lines[1].contains(QString("SNR %1").arg(request.snrTarget)));
    QVERIFY(smallestWords(plan).contains(QString::fromStdString(plan.camera.name)));
  }

  void framesSetAsideAreNotJudged() {
    BenchInAFolder f;
    QVERIFY(f.openFrames());
    f.bench.goTo(stations::kShoot);
    QVERIFY(f.settled());
    const ShootState& all = f.bench.shoot.check();
    QCOMPARE(all.judged.size(), std::size_t(3));
    View view = f.bench.view();
    view.sets[0].frames[1].used = false;
    const ShootState without = judged(view, all.sketches, true);
    QVERIFY(without.judged[1].flaws.empty() && without.ended);
    QCOMPARE(without.sketches.size(), all.sketches.size());
  }
};

QTEST_MAIN(TestDesk)
#include "test_desk.moc"
