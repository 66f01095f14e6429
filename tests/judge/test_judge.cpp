// SPDX-License-Identifier: GPL-3.0-or-later
#include "camera/simulated_camera.h"
#include "exposure/marks.h"
#include "ingest/load_frame.h"
#include "judge/scene_reading.h"
#include "judge/set_judge.h"
#include "session/locations.h"
#include "support/scenes.h"

#include <QTest>
#include <map>
#include <random>

using namespace ml;

namespace {

/// A ferry house view at a third of its size: small enough for hundreds of frames.
struct Place {
  std::shared_ptr<const World> world;
  MustKeep wanted;
  Plan plan;
};

const Place& place(const std::string& id, FrameFormat format = FrameFormat::Dng) {
  static std::map<std::string, Place> places;
  const std::string key = id + nameOf(format);
  auto found = places.find(key);
  if (found != places.end()) return found->second;
  auto loaded = World::load(*findWorld(id));
  if (!loaded) qFatal("%s", loaded.error().message.c_str());
  Place p;
  p.world = std::make_shared<World>(loaded->shrunk(3));
  PlanRequest request;
  request.low = {id == "jetty_dusk" ? -1.0 : 5.0};
  request.high = {id == "jetty_dusk" ? 11.0 : 15.0}; // at dusk the lit windows are brightest
  request.snrTarget = 40;
  p.wanted = request.mustKeep();
  CameraProfile camera = shippedProfiles().front();
  camera.hasRaw = format == FrameFormat::Dng; // a rendered file clips earlier: the plan knows
  p.plan = *planBracket(camera, request);
  return places.emplace(key, std::move(p)).first->second;
}

struct Judged {
  std::vector<FrameJudgement> frames;
  SetVerdict verdict;
};

Judged shootAndJudge(const Place& p, FrameFormat format, SimulationOptions options,
                     const std::filesystem::path& folder) {
  SimulatedCamera camera(p.world, p.plan.camera, std::move(options));
  JudgeSetup setup;
  setup.planned = p.plan.frames;
  setup.camera = p.plan.camera;
  setup.wanted = p.wanted;
  setup.curveKnown = true;
  SetJudge judge(setup);
  for (std::size_t i = 0; i < p.plan.frames.size(); ++i) {
    const auto file = folder / ("frame" + std::to_string(i) + extensionOf(format));
    if (!camera.expose(p.plan.frames[i], format, file)) break;
    judge.add(*loadFrame(file));
  }
  return {judge.frames(), judge.verdict(true)};
}

} // namespace

class TestJudge : public QObject {
  Q_OBJECT

private slots:
  // Seeded sets, half sound and half with one fault each: misses under 2 %, false alarms under 2 %. Each fault twice
  // by default (so none of either); ML_SETS=240 runs the whole campaign, which `scripts/accuracy` keeps.
  void ratesOverSeededSets() {
    QTemporaryDir dir;
    const std::vector<FaultKind> faults{FaultKind::NudgedTripod,  FaultKind::Gust,
                                        FaultKind::PasserBy,      FaultKind::IsoDrift,
                                        FaultKind::ApertureDrift, FaultKind::WhiteBalanceDrift,
                                        FaultKind::FocusDrift,    FaultKind::BracketingReset,
                                        FaultKind::Cloud,         FaultKind::Disconnect,
                                        FaultKind::CardFull};
    const std::vector<std::string> worlds{"reading_room", "boat_hall", "jetty_dusk"};
    int sound = 0, alarms = 0, spoiled = 0, misses = 0, cannot = 0;
    const int sets = std::max(44, qEnvironmentVariableIntValue("ML_SETS"));
    for (int i = 0; i < sets; ++i) {
      const FrameFormat format = i % 4 < 2 ? FrameFormat::Dng : FrameFormat::Jpeg;
      const Place& p = place(worlds[std::size_t(i / 2 % 3)], format);
      SimulationOptions options;
      options.seed = std::uint64_t(1000 + i);
      options.startClock = {1.7 * i};
      const bool clean = i % 2 == 0;
      const FaultKind fault = faults[std::size_t(i / 2) % faults.size()];
      if (!clean) options.faults = {{fault, 1 + (i / 7) % std::max(1, int(p.plan.frames.size()) - 1)}};
      const Judged judged = shootAndJudge(p, format, options, test::pathOf(dir));
      const QString which = QString("set %1, %2, %3: %4")
                                .arg(i)
                                .arg(QString::fromStdString(worlds[std::size_t(i / 2 % 3)]),
                                     clean ? "clean" : idOf(fault), QString::fromStdString(judged.verdict.sentence));
      (clean ? sound : spoiled)++;
      cannot += judged.verdict.answer == Answer::CannotTell;
      if (clean && judged.verdict.answer == Answer::DoesNotHold) {
        ++alarms;
        qWarning("false alarm: %s", qPrintable(which));
      }
      if (!clean && judged.verdict.good()) {
        ++misses;
        qWarning("missed: %s", qPrintable(which));
      }
    }
    qInfo("%d sound sets, %d false alarms; %d spoiled sets, %d missed; %d cannot be told", sound, alarms, spoiled,
          misses, cannot);
    QVERIFY2(alarms < 0.02 * sound, qPrintable(QString("%1 false alarms").arg(alarms)));
    QVERIFY2(misses < 0.02 * spoiled, qPrintable(QString("%1 misses").arg(misses)));
    QVERIFY2(cannot <= 0.1 * (sound + spoiled), qPrintable(QString("%1 cannot be told").arg(cannot)));
  }

  void eachFaultIsCalledByItsName_data() {
    QTest::addColumn<int>("fault");
    QTest::addColumn<int>("flaw");
    QTest::newRow("nudge") << int(FaultKind::NudgedTripod) << int(Flaw::CameraMoved);
    QTest::newRow("gust") << int(FaultKind::Gust) << int(Flaw::Soft);
    QTest::newRow("passer-by") << int(FaultKind::PasserBy) << int(Flaw::ThingMoved);
    QTest::newRow("ISO") << int(FaultKind::IsoDrift) << int(Flaw::SettingsDrifted);
    QTest::newRow("aperture") << int(FaultKind::ApertureDrift) << int(Flaw::SettingsDrifted);
    QTest::newRow("balance") << int(FaultKind::WhiteBalanceDrift) << int(Flaw::ColourDrifted);
    QTest::newRow("focus") << int(FaultKind::FocusDrift) << int(Flaw::Soft);
    QTest::newRow("bracket") << int(FaultKind::BracketingReset) << int(Flaw::WrongTime);
    QTest::newRow("cloud") << int(FaultKind::Cloud) << int(Flaw::LightDrifted);
  }
  void eachFaultIsCalledByItsName() {
    QFETCH(int, fault);
    QFETCH(int, flaw);
    QTemporaryDir dir;
    SimulationOptions options;
    options.seed = 4;
    // The first frame is short enough for lamps on mains: a cloud after it may be their flicker, one after the second
    // is a cloud.
    const int since = FaultKind(fault) == FaultKind::Cloud ? 2 : 1;
    options.faults = {{FaultKind(fault), since}};
    const Judged judged = shootAndJudge(place("reading_room"), FrameFormat::Dng, options, test::pathOf(dir));
    QVERIFY2(judged.frames[std::size_t(since)].has(Flaw(flaw)), judged.verdict.sentence.c_str());
    QVERIFY(!judged.verdict.good());
    QVERIFY(!judged.verdict.action.label.empty());
  }

  // The figures, not only the alarm: a cloud takes two fifths of a stop, a nudge moves what it moved.
  void figuresAreRight() {
    QTemporaryDir dir;
    SimulationOptions options;
    options.seed = 9;
    options.faults = {{FaultKind::Cloud, 1}};
    const auto cloudy = shootAndJudge(place("boat_hall"), FrameFormat::Dng, options, test::pathOf(dir));
    QVERIFY2(std::abs(cloudy.frames[1].light.value + 0.4) < 0.03,
             qPrintable(QString::number(cloudy.frames[1].light.value)));
    options.faults = {{FaultKind::NudgedTripod, 1}};
    const Place& p = place("boat_hall");
    SimulatedCamera camera(p.world, p.plan.camera, options);
    QVERIFY(camera.expose(p.plan.frames[0], FrameFormat::Dng, test::pathOf(dir) / "a.dng"));
    QVERIFY(camera.expose(p.plan.frames[1], FrameFormat::Dng, test::pathOf(dir) / "b.dng"));
    const CameraPose pose = camera.lastPose();
    const auto m = measurePair(*sketchOf(*loadFrame(test::pathOf(dir) / "a.dng"), {}),
                               *sketchOf(*loadFrame(test::pathOf(dir) / "b.dng"), {}));
    QVERIFY(m.place.placed);
    QVERIFY2(std::abs(std::hypot(m.place.shiftX, m.place.shiftY) - std::hypot(pose.dx, pose.dy)) < 0.25,
             qPrintable(QString("%1 against %2")
                            .arg(std::hypot(m.place.shiftX, m.place.shiftY))
                            .arg(std::hypot(pose.dx, pose.dy))));
  }

  void clippedHighlightsAskForADarkerFrame() {
    QTemporaryDir dir;
    Place p = place("reading_room");
    for (auto& frame : p.plan.frames) frame.time.value *= 16;
    const auto judged = shootAndJudge(p, FrameFormat::Dng, {}, test::pathOf(dir));
    QVERIFY(judged.frames[0].has(Flaw::HighlightsClipped));
    QVERIFY(judged.verdict.action.kind == NextAction::Kind::ShootDarker);
    const auto& asked = judged.verdict.action.frames;
    QCOMPARE(asked.size(), std::size_t(2)); // four stops: a frame between, or there would be a gap
    // What it asks for is what the reading needs: the last frame's clipping point lies above the brightest reading, and
    // with the frames that are there the whole range is covered.
    const SensorModel sensor(p.plan.camera);
    QVERIFY(sensor.clipsAt(asked.back()).value >= p.wanted.high.value + p.wanted.highlightMargin.value - 0.02);
    std::vector<ExposureSettings> all = p.plan.frames;
    all.insert(all.end(), asked.begin(), asked.end());
    std::sort(all.begin(), all.end(), [](const auto& a, const auto& b) { return a.time < b.time; });
    QVERIFY(coverageOf(sensor, p.wanted, all).complete(p.wanted.snrTarget));
    for (const auto& frame : asked) QVERIFY(judged.verdict.sentence.find(print(frame.time)) != std::string::npos);
  }

  void noisyShadowsAskForABrighterFrame() {
    QTemporaryDir dir;
    Place p = place("reading_room");
    p.plan.frames.pop_back();
    const auto judged = shootAndJudge(p, FrameFormat::Dng, {}, test::pathOf(dir));
    QVERIFY2(judged.verdict.action.kind == NextAction::Kind::ShootBrighter, judged.verdict.sentence.c_str());
  }

  void missingFramesAreAskedFor() {
    QTemporaryDir dir;
    SimulationOptions options;
    options.faults = {{FaultKind::CardFull, 1}};
    const Place& p = place("reading_room", FrameFormat::Jpeg);
    const auto judged = shootAndJudge(p, FrameFormat::Jpeg, options, test::pathOf(dir));
    QVERIFY(judged.verdict.action.kind == NextAction::Kind::ShootMissing);
    QCOMPARE(judged.verdict.action.frames.size(), p.plan.frames.size() - 1);
  }

  // "Leave it out; the rest still cover the scene": only when they do.
  void softFrameIsLeftOutWhenTheRestCover() {
    QTemporaryDir dir;
    Place p = place("reading_room");
    std::vector<ExposureSettings> frames;
    for (int i = 0; i < 7; ++i) frames.push_back({timeAtThirds(25 - 4 * i), {8}, {100}});
    p.plan.frames = frames;
    p.wanted.snrTarget = 10;
    SimulationOptions options;
    options.faults = {{FaultKind::FocusDrift, 3}};
    const auto judged = shootAndJudge(p, FrameFormat::Dng, options, test::pathOf(dir));
    QVERIFY2(judged.verdict.action.kind == NextAction::Kind::LeaveOut, judged.verdict.sentence.c_str());
    QCOMPARE(judged.verdict.action.replaces, std::vector<int>{3});
    QVERIFY(judged.verdict.sentence.find("rest still cover") != std::string::npos);
  }

  void framesOfAnotherSizeAreNotOfThisSet() {
    QTemporaryDir dir;
    const auto a = test::shootScene(test::texturedScene(400, 300, 8, 1), test::exposedAt({9}), FrameFormat::Jpeg,
                                    test::pathOf(dir));
    SetJudge judge(JudgeSetup{});
    judge.add(a.frames[0]);
    const auto b = test::shootScene(test::texturedScene(500, 300, 8, 1), test::exposedAt({7}), FrameFormat::Jpeg,
                                    test::pathOf(dir));
    judge.add(b.frames[0]);
    QVERIFY(judge.frames()[1].has(Flaw::NotAlike));
  }

  // Dark corners are no fault of a set whose bright frame is still to come.
  void whatIsMissingIsNoNoise() {
    QTemporaryDir dir;
    const Place& p = place("reading_room");
    SimulatedCamera camera(p.world, p.plan.camera, {});
    JudgeSetup setup;
    setup.planned = p.plan.frames;
    setup.camera = p.plan.camera;
    setup.wanted = p.plan.request.mustKeep();
    SetJudge judge(setup), alone([&] {
      JudgeSetup unplanned = setup;
      unplanned.planned.clear();
      return unplanned;
    }());
    const auto file = test::pathOf(dir) / "dark.dng";
    QVERIFY(camera.expose(p.plan.frames.front(), FrameFormat::Dng, file)); // the darkest
    for (SetJudge* j : {&judge, &alone}) j->add(*loadFrame(file));
    QVERIFY(!judge.frames()[0].has(Flaw::ShadowsNoisy));
    QVERIFY(alone.frames()[0].has(Flaw::ShadowsNoisy)); // as all there is, it is
  }

  void setAsideIsNotJudged() {
    QTemporaryDir dir;
    SimulationOptions options;
    options.faults = {{FaultKind::PasserBy, 1}};
    const Place& p = place("reading_room");
    SimulatedCamera camera(p.world, p.plan.camera, options);
    JudgeSetup setup;
    setup.planned = p.plan.frames;
    setup.camera = p.plan.camera;
    SetJudge judge(setup);
    auto frames = p.plan.frames;
    frames.push_back(frames[1]); // the repeat
    for (std::size_t i = 0; i < frames.size(); ++i) {
      const auto file = test::pathOf(dir) / ("f" + std::to_string(i) + ".dng");
      QVERIFY(camera.expose(frames[i], FrameFormat::Dng, file));
      judge.add(*loadFrame(file));
    }
    judge.setAside(1);
    QVERIFY2(judge.verdict(true).good(), judge.verdict(true).sentence.c_str());
    QVERIFY(judge.frames()[1].flaws.empty());
  }

  // A flat scene of known luminance lies in the bin of its EV100 (ISO 2720: L = 0.125 x 2^EV).
  void distributionLiesWhereTheLightIs() {
    QTemporaryDir dir;
    Image<float> scene(360, 240, 3);
    for (int y = 0; y < 240; ++y)
      for (int x = 0; x < 360; ++x)
        for (int c = 0; c < 3; ++c) scene.at(x, y)[c] = float(luminanceOf({x < 120 ? 6.1 : 11.1}));
    const auto shot = test::shootScene(std::move(scene), test::exposedAt({11, 6}), FrameFormat::Dng, test::pathOf(dir));
    const auto d = distributionOf({sketchOf(shot.frames[0], {}), sketchOf(shot.frames[1], {})});
    double low = 0, high = 0;
    for (std::size_t i = 0; i < d.share.size(); ++i) {
      const double ev = d.start + double(i) * SceneDistribution::kStep;
      if (std::abs(ev - 6) < 0.3) low += d.share[i];
      if (std::abs(ev - 11) < 0.3) high += d.share[i];
    }
    QVERIFY2(std::abs(low - 1 / 3.0) < 0.03, qPrintable(QString::number(low)));
    QVERIFY2(std::abs(high - 2 / 3.0) < 0.03, qPrintable(QString::number(high)));
    const auto zones = proposeZones(*sketchOf(shot.frames[0], {}));
    QVERIFY(zones);
    QVERIFY(zones->brightest.x > 0.33 && zones->darkest.x < 0.36);
    QVERIFY(std::abs(zones->brightest.ev100.value - 11.1) < 0.15);
    QVERIFY(std::abs(zones->darkest.ev100.value - 6.1) < 0.3);
    QVERIFY(!zones->brightest.atLeast);
    QVERIFY(proposeZones(*sketchOf(shot.frames[1], {}))->brightest.atLeast);
  }

  // A hand before the lens is a sign between sets; a frame of the set, however dark, bright or soft, is not.
  void aHandBeforeTheLensSeparates() {
    QTemporaryDir dir;
    const Place& p = place("reading_room");
    std::vector<std::shared_ptr<const Sketch>> frames;
    SimulationOptions options;
    options.faults = {{FaultKind::FocusDrift, 1}};
    SimulatedCamera camera(p.world, p.plan.camera, options);
    for (const auto& settings : p.plan.frames) {
      QVERIFY(camera.expose(settings, FrameFormat::Jpeg, test::pathOf(dir) / "f.jpg"));
      frames.push_back(sketchOf(*loadFrame(test::pathOf(dir) / "f.jpg"), {}));
    }
    for (std::size_t i = 1; i < frames.size(); ++i) QVERIFY(!isSeparator(*frames[i], frames[i - 1].get()));
    Image<float> hand(p.world->width(), p.world->height(), 3);
    for (int y = 0; y < hand.height(); ++y)
      for (int x = 0; x < hand.width(); ++x)
        for (int c = 0; c < 3; ++c)
          hand.at(x, y)[c] = float((3 + std::sin(x / 90.0) + std::sin(y / 70.0)) * (c == 0   ? 40
                                                                                    : c == 1 ? 25
                                                                                             : 18)); // out of focus
    SimulatedCamera covered(std::make_shared<World>(World::still(std::move(hand), 1)), p.plan.camera);
    QVERIFY(covered.expose(p.plan.frames[1], FrameFormat::Jpeg, test::pathOf(dir) / "hand.jpg"));
    const auto sketch = sketchOf(*loadFrame(test::pathOf(dir) / "hand.jpg"), {});
    QVERIFY(isSeparator(*sketch, frames.back().get()));
    QVERIFY(!isSeparator(*sketch, nullptr));
  }

  // Much that is darker than anything that was read: an offer beside the verdict, no alarm.
  void muchBelowTheDarkestReadingIsOffered() {
    QTemporaryDir dir;
    Image<float> room(480, 320, 3);
    std::mt19937 random(5);
    for (int y = 0; y < 320; ++y)
      for (int x = 0; x < 480; ++x) {
        const double ev = x < 130 ? -0.5 : x < 300 ? 6 : 10;                      // a quarter of it dark
        const float light = float(luminanceOf({ev + (x / 7 + y / 9) % 2 * 0.8})); // tiles
        for (int c = 0; c < 3; ++c) room.at(x, y)[c] = light;
      }
    const auto shot =
        test::shootScene(std::move(room), test::exposedAt({11, 9, 7}), FrameFormat::Dng, test::pathOf(dir));
    JudgeSetup setup;
    setup.camera = shippedProfiles().front();
    setup.wanted = MustKeep{{5}, {10}, 10, {1.0 / 3}};
    SetJudge judge(setup);
    for (const auto& frame : shot.frames) judge.add(frame);
    const auto verdict = judge.verdict(true);
    QVERIFY2(verdict.answer == Answer::Holds, verdict.sentence.c_str());
    QVERIFY2(verdict.offer.find("of the picture is darker than your darkest reading") != std::string::npos,
             verdict.sentence.c_str());
    QVERIFY(verdict.sentence.find(verdict.offer) != std::string::npos);
    setup.wanted->low = {-1}; // it was read: then it is no offer but what was asked for
    SetJudge asked(setup);
    for (const auto& frame : shot.frames) asked.add(frame);
    QVERIFY(asked.verdict(true).offer.empty());
  }

  void aLullIsSeen() {
    const Place& p = place("jetty_dusk");
    SimulationOptions options;
    options.lulls = true;
    SimulatedCamera camera(p.world, p.plan.camera, options);
    const ExposureSettings finder = p.plan.frames[1];
    const auto look = [&] { return std::move(*camera.liveView(finder)); };
    // Five seconds of wind, three of rest.
    const auto a = look();
    camera.wait({1});
    const auto b = look();
    QVERIFY(changedShare(a.view(), b.view()) > kStillShare);
    camera.wait({4.5}); // at 5.5 s
    const auto c = look();
    camera.wait({1});
    const auto d = look();
    QVERIFY2(changedShare(c.view(), d.view()) < kStillShare,
             qPrintable(QString::number(changedShare(c.view(), d.view()))));
  }
};

QTEST_GUILESS_MAIN(TestJudge)
#include "test_judge.moc"
