// SPDX-License-Identifier: GPL-3.0-or-later
// What the Light Ladder shows, without a window.
#include <QTest> // first: moc of Qt 6.4 cannot read <compare> on its own

#include "model/ladder.h"
#include "session/shooting.h"

using namespace ml;

namespace {

View room() {
  View view;
  view.world = "reading_room";
  view.snrTarget = 40;
  view.readings = {{"sky", {15}, true, 0.3, 0.2, 0.2, false},
                   {"corner", {5}, true, 0.1, 0.7, 0.1, false},
                   {"lamp", {16}, false, {}, {}, 0, true}};
  PlanRequest request;
  request.low = {5};
  request.high = {15};
  request.snrTarget = 40;
  view.plan = *planBracket(shippedProfiles().front(), request);
  return view;
}

/// What a station asks for.
enum class Station { Light, Frames, Shoot, Combine };
LadderContent at(Station station) {
  using Columns = LadderContent::Columns;
  LadderContent content;
  content.legend = station == Station::Light;
  content.columns = station == Station::Light    ? Columns::None
                    : station == Station::Frames ? Columns::Planned
                                                 : Columns::Shot;
  content.given = station == Station::Combine;
  return content;
}

} // namespace

class TestLadder : public QObject {
  Q_OBJECT

private slots:
  void lightShowsReadingsAndEverydayLevels() {
    const LadderData d = ladderOf(room(), at(Station::Light));
    QCOMPARE(d.pins.size(), std::size_t(3));
    QVERIFY(!d.pins[2].keepTexture && d.pins[2].atLeast);
    QVERIFY(d.wanted && d.wanted->from == 5 && d.wanted->to == 15);
    QVERIFY(d.columns.empty());
    QVERIFY(d.legend.size() > 8);
  }

  void framesShowsThePlanWhateverWasShot() {
    LadderContent content = at(Station::Frames);
    content.shot = {{{1 / 30.0}, {8}, {100}}};
    const View view = room();
    const LadderData d = ladderOf(view, content);
    QCOMPARE(d.columns.size(), view.plan->frames.size());
    const SensorModel sensor(view.plan->camera);
    for (std::size_t i = 0; i < d.columns.size(); ++i) {
      QVERIFY(!d.columns[i].shot);
      QCOMPARE(d.columns[i].clip, sensor.clipsAt(view.plan->frames[i]).value);
      QCOMPARE(d.columns[i].floor, sensor.floorAt(view.plan->frames[i], 40).value);
      QVERIFY(d.columns[i].floor < d.columns[i].quiet + 1e-9 && d.columns[i].quiet < d.columns[i].clip);
    }
    QVERIFY(d.uncovered.empty());
    QVERIFY(std::abs(d.together->from - view.plan->coverage.low.value) < 1e-9);
  }

  // Column by column: what is there is filled, what is still to come stays planned, and what is not covered yet is
  // shown.
  void shootFillsThePlan() {
    const View view = room();
    QVERIFY(view.plan->frames.size() >= 3);
    LadderContent content = at(Station::Shoot);
    content.shot = {view.plan->frames[0]};
    const LadderData first = ladderOf(view, content);
    QCOMPARE(first.columns.size(), view.plan->frames.size());
    QVERIFY(first.columns[0].shot && first.columns[0].frame == 0);
    QVERIFY(!first.columns[1].shot && first.columns[1].frame == -1);
    QVERIFY(!first.uncovered.empty());
    content.shot = view.plan->frames;
    QVERIFY(ladderOf(view, content).uncovered.empty());
  }

  void flawsAndFramesSetAsideAreMarked() {
    View view = room();
    view.startSet("Bracket", view.plan->frames);
    for (std::size_t i = 0; i < view.plan->frames.size(); ++i)
      view.sets[0].frames.push_back({"/f" + std::to_string(i) + ".jpg", i != 2});
    LadderContent content = at(Station::Shoot);
    content.shot = view.plan->frames;
    content.judged.resize(content.shot.size());
    content.judged[1].flaws = {Flaw::Soft};
    const LadderData d = ladderOf(view, content);
    QVERIFY(!d.columns[0].flawed && d.columns[1].flawed);
    QVERIFY(d.columns[2].aside && !d.columns[1].aside);
    QVERIFY(!d.uncovered.empty()); // without the frame that was left out
  }

  void theScaleIsTheSameAtEveryStation() {
    const View view = room();
    SceneDistribution scene{-2, std::vector<float>(60, 1 / 60.f), 0, 0};
    LadderContent content = at(Station::Light);
    content.scene = &scene;
    content.shot = view.plan->frames;
    const LadderData light = ladderOf(view, content);
    for (const Station station : {Station::Frames, Station::Shoot, Station::Combine}) {
      LadderContent there = at(station);
      there.scene = &scene;
      there.shot = view.plan->frames;
      const LadderData other = ladderOf(view, there);
      QCOMPARE(other.top, light.top);
      QCOMPARE(other.bottom, light.bottom);
    }
    QVERIFY(light.bottom <= -2 && light.top >= 16);
    QCOMPARE(light.glow.size(), std::size_t(60));
  }

  void judgementIsAskedWithWhatWasRead() {
    const View view = room();
    const JudgeSetup setup = judgeSetupOf(view);
    QCOMPARE(setup.zones.size(), std::size_t(2)); // the typed lamp has no place
    QVERIFY(setup.wanted && setup.wanted->high.value == 15 && setup.wanted->snrTarget == 40);
    QVERIFY(setup.curveKnown && setup.support == Support::Tripod);
  }
};

QTEST_GUILESS_MAIN(TestLadder)
#include "test_ladder.moc"
