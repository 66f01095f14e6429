// SPDX-License-Identifier: GPL-3.0-or-later
#include "base/atomic_file.h"
#include "session/job.h"
#include "session/locations.h"
#include "session/plan_choices.h"
#include "support/scenes.h"

#include <QTest>
#include <fstream>
#include <nlohmann/json.hpp>

using namespace ml;

namespace {

View filled(View view) {
  view.readings = {{"sky", {14.25}, true, 0.3, 0.2}, {"corner", {2.5}, true, {}, {}}, {"lamp", {17}, false, {}, {}}};
  PlanRequest request;
  request.low = {2.5};
  request.high = {14.25};
  view.plan = *planBracket(*findProfile("crop-20"), request);
  view.camera = "crop-20";
  view.format = FrameFormat::Jpeg;
  view.sets = {{"set-01",
                "Bracket",
                0,
                0,
                0,
                {},
                {{view.framesFolder() / "set-01/frame-1.jpg", true}, {"/elsewhere/b.jpg", true}},
                "held",
                "holds"}};
  view.notes = "Lamps on";
  view.leftOut = view.framesSeen = true;
  view.finishSeen = "17";
  view.activeSet = 0;
  view.refreshFrames();
  CombineRecord record;
  record.frames = view.frameNames();
  record.ev100OfUnit = 9.5;
  record.verdict = "Two frames";
  view.combined = record;
  view.radianceStamp = "17";
  view.recipe.tone.exposure = 0.5;
  view.delivered = {{"a.jpg", toJson(view.recipe), "17", "", "named so"}};
  return view;
}

void saveAll(const View& view) {
  QVERIFY(view.savePlan().has_value());
  QVERIFY(view.saveFrames().has_value());
  QVERIFY(view.saveCombined().has_value());
  QVERIFY(view.saveFinish().has_value());
  std::ofstream(view.radianceFile()) << "stands for the picture";
}

} // namespace

class TestSession : public QObject {
  Q_OBJECT

private slots:
  void choicesGoIntoAViewAndComeOutWhole() {
    PlanChoices choices;
    choices.camera = "sphere-two-lens", choices.school = "two-stops", choices.aperture = FNumber{5.6};
    choices.snrTarget = 20, choices.isoCap = Iso{400};
    choices.situation.focalMm = 35, choices.situation.handHeld = true, choices.situation.mostSeconds = 9;
    choices.own = OwnBracket{5, 3, 12, Iso{200}};
    View view;
    QVERIFY(!(choicesOf(view) == choices));
    putChoices(view, choices);
    QVERIFY(choicesOf(view) == choices);
  }

  void spaceIsAskedForBeforeLongWrites() {
    QTemporaryDir dir;
    QVERIFY(checkSpace(test::pathOf(dir) / "not" / "yet" / "there", 1e3).has_value());
    const auto none = checkSpace(test::pathOf(dir), 1e18);
    QVERIFY(!none && none.error().code == ErrorCode::CannotWrite);
    QVERIFY2(none.error().message.find("1000000000.0 GB") != std::string::npos, none.error().message.c_str());
  }

  void jobReopensWhole() {
    QTemporaryDir dir;
    auto job = Job::create(test::pathOf(dir) / "visit", "A visit");
    QVERIFY(job.has_value());
    QVERIFY(job->addView("Reading room", "reading_room", "crop-20").has_value());
    QVERIFY(job->addView("Boat hall", "", "crop-20").has_value());
    const View view = job->views()[0] = filled(job->views()[0]);
    saveAll(view);
    const auto again = Job::open(test::pathOf(dir) / "visit");
    QVERIFY2(again.has_value(), again ? "" : again.error().message.c_str());
    QCOMPARE(again->name(), std::string("A visit"));
    QCOMPARE(again->views().size(), std::size_t(2));
    const View& back = again->views()[0];
    QVERIFY(back.readings == view.readings);
    QCOMPARE(back.name, view.name);
    QCOMPARE(back.world, view.world);
    QCOMPARE(back.plan->count, view.plan->count);
    QVERIFY(back.plan->frames == view.plan->frames);
    QVERIFY(back.plan->covers == view.plan->covers);
    QVERIFY(back.frames == view.frames);
    QVERIFY(back.format == view.format);
    QCOMPARE(back.combined->verdict, view.combined->verdict);
    QCOMPARE(back.radianceStamp, view.radianceStamp);
    QVERIFY(back.recipe == view.recipe);
    QCOMPARE(back.delivered.size(), std::size_t(1));
  }

  void framesInsideTheJobMoveWithIt() {
    QTemporaryDir dir;
    auto job = Job::create(test::pathOf(dir) / "a", "A");
    QVERIFY(job->addView("One", "", "crop-20").has_value());
    saveAll(job->views()[0] = filled(job->views()[0]));
    std::filesystem::rename(test::pathOf(dir) / "a", test::pathOf(dir) / "b");
    const auto again = Job::open(test::pathOf(dir) / "b");
    QVERIFY(again->views()[0].frames[0].string().find((test::pathOf(dir) / "b").string()) == 0);
    QCOMPARE(again->views()[0].frames[1].string(), std::string("/elsewhere/b.jpg"));
  }

  void unknownFieldsAreKept() {
    QTemporaryDir dir;
    auto job = Job::create(test::pathOf(dir) / "a", "A");
    QVERIFY(job->addView("One", "", "crop-20").has_value());
    const auto plan = job->views()[0].folder / "plan.json";
    auto document = nlohmann::json::parse(*readText(plan));
    document["weather"] = "fog";
    QVERIFY(writeTextAtomically(plan, document.dump()).has_value());
    const auto again = Job::open(test::pathOf(dir) / "a");
    QVERIFY(again->views()[0].savePlan().has_value());
    QCOMPARE(nlohmann::json::parse(*readText(plan))["weather"].get<std::string>(), std::string("fog"));
  }

  void damagedFilesAreNamed_data() {
    QTest::addColumn<QString>("name");
    QTest::addColumn<QString>("text");
    for (const char* name : {"plan.json", "frames.json", "combine.json", "finish.json"})
      for (const char* text :
           {"{", "[]", "{\"version\": 1, \"readings\": [{}], \"frames\": [3], \"recipe\": 4, \"stamp\": 5}",
            "{\"version\": 2}"})
        QTest::addRow("%s %s", name, text) << QString(name) << QString(text);
  }
  void damagedFilesAreNamed() {
    QFETCH(QString, name);
    QFETCH(QString, text);
    QTemporaryDir dir;
    auto job = Job::create(test::pathOf(dir) / "a", "A");
    QVERIFY(job->addView("One", "", "crop-20").has_value());
    saveAll(job->views()[0] = filled(job->views()[0]));
    QVERIFY(writeTextAtomically(job->views()[0].folder / name.toStdString(), text.toStdString()).has_value());
    const auto again = Job::open(test::pathOf(dir) / "a");
    QVERIFY(!again);
    QVERIFY(!again.error().message.empty());
  }

  void oneJobToAFolder() {
    QTemporaryDir dir;
    QVERIFY(Job::create(test::pathOf(dir) / "a", "A").has_value());
    QCOMPARE(int(Job::create(test::pathOf(dir) / "a", "B").error().code), int(ErrorCode::CannotWrite));
    QCOMPARE(int(Job::open(test::pathOf(dir) / "none").error().code), int(ErrorCode::FileMissing));
  }

  void stationsFollowWhatWasDone() {
    View view;
    view.world = "reading_room";
    QVERIFY(stationStates(view).light == StationState::Open);
    view.readings.resize(1);
    QVERIFY(stationStates(view).light == StationState::Open);
    view.readings.resize(2);
    QVERIFY(stationStates(view).light == StationState::Done);
    view.readings.clear();
    view = filled(view);
    QVERIFY(stationStates(view).light == StationState::Done);
    QVERIFY(stationStates(view).combine == StationState::Done);
    QVERIFY(stationStates(view).deliver == StationState::Done);
    View combinedAnew = view;
    combinedAnew.radianceStamp = "18";
    QVERIFY(stationStates(combinedAnew).deliver == StationState::OutOfDate);
    view.recipe.tone.exposure = 1;
    QVERIFY(stationStates(view).deliver == StationState::OutOfDate);
    view.frames.push_back("/elsewhere/c.jpg");
    QVERIFY(stationStates(view).combine == StationState::OutOfDate);
  }
};

QTEST_GUILESS_MAIN(TestSession)
#include "test_session.moc"
