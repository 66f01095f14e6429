// SPDX-License-Identifier: GPL-3.0-or-later
#include <QTest> // first: moc of Qt 6.4 cannot read <compare> on its own

#include "exposure/marks.h"
#include "plan/camera_settings.h"
#include "plan/comparison.h"
#include "plan/shot_list.h"

#include <algorithm>
#include <cmath>

using namespace ml;

namespace {

const CameraProfile& fullFrame() {
  return *findProfile("full-frame-24");
}

PlanRequest room() {
  PlanRequest request;
  request.low = {3};
  request.high = {14.7};
  return request;
}

bool mentions(const std::vector<std::string>& sentences, const char* word) {
  return std::any_of(sentences.begin(), sentences.end(),
                     [&](const std::string& s) { return s.find(word) != std::string::npos; });
}

} // namespace

class TestSituation : public QObject {
  Q_OBJECT

private slots:
  // Worked examples of the textbook formulas (Ray, Applied Photographic Optics, ch. 22; values worked by hand).
  // 50 mm, f/8, c = 0.02884 mm (diagonal 43.267 / 1500): H = 2500 / 0.23076 + 50 = 10,884 mm.
  void hyperfocalAndDepthOfField() {
    const Optics o{50, 36, 24, 6, 0};
    QVERIFY(std::abs(circleOfConfusion(o) - 0.028844) < 1e-5);
    QVERIFY(std::abs(hyperfocal(o, {8}) - 10884) < 2);
    // At 5 m: near = 5000 (H - 50) / (H + 4900) = 3432 mm, far = 5000 (H - 50) / (H - 5000) = 9206 mm.
    const auto [near, far] = depthOfField(o, {8}, 5000);
    QVERIFY(std::abs(near - 3432) < 2);
    QVERIFY(std::abs(far - 9206) < 4);
    // Focused at the hyperfocal distance: half of it to infinity.
    const auto [half, infinity] = depthOfField(o, {8}, hyperfocal(o, {8}));
    QVERIFY(std::abs(half / hyperfocal(o, {8}) - 0.5) < 1e-6);
    QVERIFY(std::isinf(infinity));
  }

  // Born and Wolf: first dark ring at radius 1.22 lambda N; f/8 at 0.55 um gives a diameter of 10.7 um, f/22 29.5 um.
  void airyDisc() {
    QVERIFY(std::abs(airyDiameterUm({8}) - 10.736) < 0.001);
    QVERIFY(std::abs(airyDiameterUm({22}) - 29.524) < 0.001);
  }

  void handHeld_data() {
    QTest::addColumn<double>("focal");
    QTest::addColumn<double>("sensor");
    QTest::addColumn<double>("stabiliser");
    QTest::addColumn<double>("limit");
    QTest::newRow("50 mm full frame: 1/50") << 50.0 << 36.0 << 0.0 << 1 / 50.0;
    QTest::newRow("50 mm on 24 mm: 1/75") << 50.0 << 24.0 << 0.0 << 1 / 75.0;
    QTest::newRow("24 mm, 3 stops: 1/3") << 24.0 << 36.0 << 3.0 << 1 / 3.0;
  }
  void handHeld() { // 1 / (focal x crop) x 2^stabiliser, common practice, no source
    QFETCH(double, focal);
    QFETCH(double, sensor);
    QFETCH(double, stabiliser);
    QFETCH(double, limit);
    const Optics o{focal, sensor, sensor * 2 / 3, 6, stabiliser};
    QVERIFY(std::abs(handHeldLimit(o).value / limit - 1) < 1e-12);
    QCOMPARE(chanceOfSharpHand(o, handHeldLimit(o)), 0.8);
    // Half a stop inside the limit half of what a whole stop gives, which is all there is to have.
    QVERIFY(std::abs(chanceOfSharpHand(o, {handHeldLimit(o).value * std::sqrt(0.5)}) - 0.89) < 1e-9);
    QCOMPARE(chanceOfSharpHand(o, {handHeldLimit(o).value / 2.1}), 0.98);
    QVERIFY(repeatsForSharpHand(o, handHeldLimit(o)) == 2);
    QVERIFY(repeatsForSharpHand(o, {handHeldLimit(o).value * 4}) > 5);
  }

  // v t f / (d p): 1.4 m/s at 14 m through 24 mm on 6 um pixels is 400 px a second.
  void movement() {
    const Optics o{24, 36, 24, 6, 0};
    QVERIFY(std::abs(movementPixels(o, 1.4, 14, {1}) - 400) < 1e-9);
    QVERIFY(std::abs(movementPixels(o, 1.4, 14, longestForMovement(o, 1.4, 14, 2)) - 2) < 1e-9);
  }

  void fieldOfViewOfCommonLenses() { // 2 atan(36 / 2 f): handbook values for 36 mm
    QVERIFY(std::abs(fieldOfView(36, 24) - 73.74) < 0.01);
    QVERIFY(std::abs(fieldOfView(36, 50) - 39.60) < 0.01);
  }

  void panoramaPositions() {
    QCOMPARE(positionsFor(60, 73.7, 0.3), 1);
    QCOMPARE(positionsFor(180, 60, 1 / 3.0), 4); // (180 - 20) / 40
    QCOMPARE(positionsFor(360, 60, 0.5), 12);    // 360 / 30
    QCOMPARE(positionsFor(360, 60, 1 / 3.0), 9);
  }

  void shotListMultiplies() {
    const auto plan = planBracket(fullFrame(), room());
    Situation s;
    s.positions.lensShifts = 3;
    s.positions.focusPlanes = 2;
    const ShotList shifted = shotList(*plan, s); // craft arithmetic: 3 shifts x 3 frames x 2 planes = 18
    QCOMPARE(int(shifted.shots.size()), 3 * 2 * plan->fired);
    QCOMPARE(shifted.count(), 6);
    QVERIFY(std::abs(shifted.megapixels - 48) < 0.1);
    s.positions = {360, 0, 0.5, 1, 1, true};
    const ShotList round = shotList(*plan, s);
    QCOMPARE(round.columns, positionsFor(360, fieldOfView(24, 24), 0.5));
    QCOMPARE(int(round.shots.size()), round.columns * plan->fired);
    QVERIFY(std::abs(round.time.value -
                     round.count() * (2 + setDuration(plan->camera, plan->frames, plan->fired).value)) < 1e-9);
    const std::string csv = toCsv(round);
    QCOMPARE(int(std::count(csv.begin(), csv.end(), '\n')), int(round.shots.size()) + 1);
    for (std::size_t i = 0; i < round.shots.size(); ++i) QCOMPARE(round.shots[i].number, int(i) + 1);
  }

  void secondRunIsListedAsFired() {
    PlanRequest request = room();
    request.low = {2};
    request.high = {15.1};
    const auto plan = planBracket(*findProfile("pocket-jpeg"), request);
    QCOMPARE(plan->runs, 2);
    const ShotList list = shotList(*plan, {});
    QCOMPARE(int(list.shots.size()), plan->fired);
    for (const auto& frame : plan->frames)
      QVERIFY(std::any_of(list.shots.begin(), list.shots.end(), [&](const Shot& s) {
        return std::abs(s.settings.time.value / frame.time.value - 1) < 1e-6;
      }));
  }

  void everySchoolIsCompared() {
    const auto comparison = compareSchools(fullFrame(), room(), {});
    QVERIFY(comparison);
    QVERIFY(comparison->recommended.plan.covers);
    QVERIFY(comparison->alternatives.size() >= schools().size() - 1);
    const SensorModel sensor(fullFrame());
    for (const auto& a : comparison->alternatives) {
      QVERIFY2(!a.plan.covers || a.plan.fired >= comparison->recommended.plan.fired ||
                   a.school.shape == SchoolShape::TwoExposures || a.plan.byHand,
               a.school.id.c_str());
      QVERIFY(!a.difference.empty());
      if (a.plan.frames.size() > 1) {
        double least = 1e9;
        for (std::size_t i = 1; i < a.plan.frames.size(); ++i)
          least =
              std::min(least, sensor.clipsAt(a.plan.frames[i]).value - sensor.floorAt(a.plan.frames[i - 1], 10).value);
        if (a.school.id != "in-camera") QVERIFY(std::abs(least - a.leastOverlap.value) < 1e-9);
      }
    }
    QVERIFY(comparison->oneRaw.find("would not do") != std::string::npos);
    QVERIFY(comparison->extraFrames.find("SNR") != std::string::npos);
    PlanRequest narrow = room();
    narrow.low = {9};
    narrow.high = {13};
    QVERIFY(compareSchools(fullFrame(), narrow, {})->oneRaw.find("would do") != std::string::npos);
  }

  void schoolsKeepTheirShape() {
    PlanRequest request = room();
    const auto planned = [&](const char* id) {
      request.school = id;
      return *planBracket(fullFrame(), request);
    };
    const Plan darker = planned("darker-only");
    const SensorModel sensor(fullFrame());
    QVERIFY(sensor.floorAt(darker.frames.back(), 10) <= request.low);
    QVERIFY(darker.count >= 3 && darker.count <= 5);
    const Plan two = planned("two-exposures");
    QCOMPARE(int(two.frames.size()), 2);
    QVERIFY(two.coverage.spareHigh.value >= -1e-9 && two.coverage.spareHigh.value < 1 / 3.0 + 1e-6);
    QCOMPARE(planned("window-flash").fired, 3);
    const Plan sets = planned("two-sets");
    QCOMPARE(sets.fired, 6);
    QCOMPARE(int(sets.frames.size()), 4); // two of six repeat an exposure
    const Plan run = planned("full-run");
    for (std::size_t i = 1; i < run.frames.size(); ++i)
      QVERIFY(std::abs(run.frames[i].time.value / run.frames[i - 1].time.value - 2) < 1e-9);
    QVERIFY(run.covers);
    const Plan shifted = planned("shifted");
    QVERIFY(std::abs(ev100(shifted.frames[1]).value - ((3 + 14.7) / 2 + 1)) < 0.17); // to the nearest third
    const Plan small = planned("small-steps");
    QVERIFY(small.count >= 5 && small.step.value <= 1.001);
    QVERIFY(!planned("in-camera").camera.hasRaw);
  }

  // Sequences of the field (common practice, no source): centre 1/250, five at one stop; centre 1/5, five at one stop;
  // halving from 1/8000 to 4 s is sixteen frames.
  void fieldSequences() {
    const auto printed = [](Seconds centre) {
      std::string out;
      for (const Stops offset : bracketOffsets(5, {1})) out += print(brighter(centre, offset)) + " ";
      return out;
    };
    QCOMPARE(printed(*parseTime("1/250")), std::string("1/1000 1/500 1/250 1/125 1/60 "));
    QCOMPARE(printed(*parseTime("1/5")), std::string("1/20 1/10 1/5 0.4 s 0.8 s "));
    int frames = 0;
    for (double t = parseTime("1/8000")->value; t <= 4.01; t *= 2) ++frames;
    QCOMPARE(frames, 16);
  }

  void settingsComeInOrder() {
    const auto plan = planBracket(fullFrame(), room());
    std::vector<std::string> names;
    for (const auto& s : cameraSettings(*plan, {})) names.push_back(s.name);
    const std::vector<std::string> expected{"Mode",  "Aperture",     "ISO",          "White balance", "Focus",
                                            "Sharp", "Files",        "Drive",        "Timer",         "Bracket",
                                            "Step",  "Middle frame", "If not manual"};
    QCOMPARE(names, expected);
    for (const auto& s : cameraSettings(*plan, {})) QVERIFY(!s.value.empty());
    // A meter that reads the middle (EV 8.85), compensated as told, lands on the plan's centre to the third of a stop.
    const std::string last = cameraSettings(*plan, {}).back().value;
    const auto comma = last.find(", ") + 2;
    const auto told = parseStops(last.substr(comma, last.find(" EV") - comma));
    QVERIFY(told);
    QVERIFY(std::abs((3 + 14.7) / 2 - told->value - ev100({8}, plan->centre, {100}).value) < 0.17);
  }

  /// Every time that is asked for stands on the camera's ladder: nobody can set 1/91.
  void whatIsToBeSetCanBeSet() {
    for (const auto& school : schools())
      for (const double high : {9.0, 12.3, 14.7, 16.1}) {
        PlanRequest request = room();
        request.high = {high};
        request.school = school.id;
        const auto plan = planBracket(fullFrame(), request);
        if (!plan) continue;
        bool fixedTime = plan->count == 1 && plan->runs == 1;
        for (const auto& s : cameraSettings(*plan, {})) {
          if (s.name == "Mode") QCOMPARE(s.value, std::string("Manual"));
          if (s.name != "Middle frame" && s.name != "First frame" && s.name != "Time") continue;
          const auto time = parseTime(s.value);
          QVERIFY2(time, s.value.c_str());
          QVERIFY2(std::abs(std::log2(time->value / timeAtThirds(nearestThirds(*time)).value)) < 0.04, s.value.c_str());
          // And it is one of the frames.
          QVERIFY2(std::any_of(plan->frames.begin(), plan->frames.end(),
                               [&](const auto& f) { return std::abs(std::log2(f.time.value / time->value)) < 0.05; }),
                   (school.id + ": " + s.value).c_str());
          fixedTime = true;
        }
        QVERIFY2(fixedTime || plan->byHand, school.id.c_str());
      }
  }

  void warningsFollowTheSituation() {
    PlanRequest request = room();
    const auto plan = planBracket(fullFrame(), request);
    QVERIFY(!mentions(planWarnings(*plan, {}), "steady hand"));
    Situation hand;
    hand.handHeld = true;
    hand.focalMm = 400;
    QVERIFY(mentions(planWarnings(*plan, hand), "steady hand"));
    Situation windy;
    windy.movers = {typicalMovers()[1]};
    QVERIFY(mentions(planWarnings(*plan, windy), "Branches"));
    Situation dusk;
    dusk.fadeStopsPerMinute = 20;
    QVERIFY(mentions(planWarnings(*plan, dusk), "light falls"));
    request.aperture = {22};
    QVERIFY(mentions(planWarnings(*planBracket(fullFrame(), request), {}), "diffraction"));
    request.high = {17};
    QVERIFY(mentions(cautions(*planBracket(fullFrame(), request), {}), "sun"));
  }

  void highlightsAtTheEdgeAreWarnedOf() {
    Plan plan = *planBracket(fullFrame(), room());
    for (const auto& [spare, warned] : {std::pair{0.1, true}, {0.0, true}, {0.3, false}}) {
      plan.coverage.spareHigh = {spare};
      QCOMPARE(mentions(planWarnings(plan, {}), "next to no room left"), warned);
    }
  }

  // By hand: five frames of 1 s with gaps of 0.5 s; the buffer holds three, and each further one waits 2 s of writing
  // less the gap.
  void framesBeyondTheBufferCostTime() {
    CameraProfile camera = fullFrame();
    camera.frameGap = {0.5};
    camera.writeTime = {2};
    camera.bufferFrames = 3;
    const std::vector<ExposureSettings> five(5, {{1}, {8}, {100}}), three(3, {{1}, {8}, {100}});
    QCOMPARE(setDuration(camera, five, 5).value, 5 + 4 * 0.5 + 2 * 1.5);
    QCOMPARE(setDuration(camera, three, 3).value, 3 + 2 * 0.5);
    camera.writeTime = {0.2}; // written in the gaps
    QCOMPARE(setDuration(camera, five, 5).value, 5 + 4 * 0.5);
  }

  void limitsComeFromHandAndMovers() {
    Situation s;
    QVERIFY(!longestAllowed(s, fullFrame()));
    s.handHeld = true;
    s.focalMm = 50;
    QVERIFY(std::abs(longestAllowed(s, fullFrame())->value - 16 / 50.0) < 1e-9); // four stops of stabiliser
    s.movers = {{"walkers", "Walkers", 1.4, 14}};
    s.tolerablePixels = 2;
    QVERIFY(longestAllowed(s, fullFrame())->value < 0.01);
  }

  void ownFramesGetTheSameFigures() {
    const auto plan = planBracket(fullFrame(), room());
    auto frames = plan->frames;
    std::reverse(frames.begin(), frames.end());
    const Plan own = planOfFrames(fullFrame(), room(), frames);
    QCOMPARE(own.coverage.worstSnr, plan->coverage.worstSnr);
    QVERIFY(own.covers);
    frames.erase(frames.end() - 1);
    QVERIFY(!planOfFrames(fullFrame(), room(), frames).covers || plan->fired > 2);
  }
};

QTEST_GUILESS_MAIN(TestSituation)
#include "test_situation.moc"
