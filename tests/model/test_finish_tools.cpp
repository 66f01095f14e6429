// SPDX-License-Identifier: GPL-3.0-or-later
// What a drag on the finished picture makes of the recipe, tool by tool, without a window.
#include "finish/hues.h"
#include "image/colour.h"
#include "model/workbench.h"
#include "support/scenes.h"
#include "support/wait.h"

#include <QGuiApplication>
#include <QSignalSpy>
#include <QStandardPaths>

using namespace ml;
using test::pathOf;
using test::waitFor;

class TestFinishTools : public QObject {
  Q_OBJECT

private:
  QTemporaryDir dir_;
  std::unique_ptr<Workbench> bench_;

  [[nodiscard]] bool settled() {
    return waitFor([&] { return bench_->settled(); });
  }
  void drag(FinishTool tool, QPointF from, QPointF to, int moves = 5) {
    bench_->finish.tools.choose(tool);
    bench_->finish.dragBegins(from);
    for (int i = 1; i < moves; ++i) bench_->finish.drag(from + (to - from) * i / moves);
    bench_->finish.dragEnds(to);
    QVERIFY(settled());
  }
  [[nodiscard]] const Recipe& recipe() const { return bench_->finish.recipe(); }
  [[nodiscard]] int steps() { return bench_->desk.job.undoStack().count(); }

private slots:
  // A picture with a blue cast on its left half and a saturated patch of red in the middle.
  void initTestCase() {
    QStandardPaths::setTestModeEnabled(true);
    Image<float> scene = test::texturedScene(480, 320, 9, 4);
    for (int y = 0; y < 320; ++y)
      for (int x = 0; x < 480; ++x) {
        if (x < 240) scene.at(x, y)[2] *= 1.6f, scene.at(x, y)[0] *= 0.7f;
        if (x > 300 && x < 360 && y > 120 && y < 200)
          scene.at(x, y)[0] *= 3.f, scene.at(x, y)[1] *= 0.5f, scene.at(x, y)[2] *= 0.4f;
      }
    (void)test::shootScene(std::move(scene), test::exposedAt({4, 7, 10}), FrameFormat::Jpeg, pathOf(dir_) / "card");
    bench_ = std::make_unique<Workbench>(pathOf(dir_) / "jobs");
    bench_->opening.takeFiles({QString::fromStdString((pathOf(dir_) / "card").string())}, bench_->desk.jobsFolder);
    QVERIFY(settled());
    bench_->combine.combine({});
    QVERIFY(settled());
    QVERIFY(bench_->view().combined);
    bench_->goTo(stations::kFinish);
    QVERIFY(settled());
  }

  void init() {
    bench_->finish.compare.set(Comparing::Off);
    bench_->finish.setRecipe({});
    bench_->finish.tools.setPage(FinishTools::Page::Other);
    QVERIFY(settled());
  }

  void liftingLightPutsATie() {
    const int before = steps();
    drag(FinishTool::Light, {0.7, 0.6}, {0.7, 0.35}); // a quarter of the height: one stop
    QCOMPARE(steps(), before + 1);
    QCOMPARE(recipe().tone.pulls.size(), std::size_t(1));
    const Tie pull = recipe().tone.pulls[0];
    const ToneCurve plain(placedTies(bench_->finished.combined()->analysis, {}));
    QVERIFY2(std::abs(pull.paper - plain(pull.scene) - 1) < 0.05,
             qPrintable(QString::number(pull.paper - plain(pull.scene))));
    drag(FinishTool::Light, {0.7, 0.6}, {0.7, 0.6}, 1); // a click moves nothing
    QCOMPARE(steps(), before + 1);
    bench_->undo();
    QVERIFY(recipe() == Recipe{});
  }

  void aTieOfTheLadderIsTheSameMove() {
    const double unit = bench_->finished.ev100OfUnit();
    bench_->finish.pullTie(unit - 3, -4, 77);
    bench_->finish.pullTie(unit - 3, -3.5, 77);
    QCOMPARE(recipe().tone.pulls.size(), std::size_t(1));
    QVERIFY(std::abs(recipe().tone.pulls[0].scene + 3) < 1e-9 && std::abs(recipe().tone.pulls[0].paper + 3.5) < 1e-9);
    bench_->finish.pullTie(unit + 2, -0.5, 78); // light of another kind keeps the first
    QCOMPARE(recipe().tone.pulls.size(), std::size_t(2));
  }

  void whiteIsWhatWasClicked() {
    drag(FinishTool::White, {0.25, 0.5}, {0.25, 0.5}, 1);
    QVERIFY2(recipe().tone.warmth > 0.2, qPrintable(QString::number(recipe().tone.warmth))); // the cast was blue
    QVERIFY(bench_->finish.tools.tool() == FinishTool::Light);                               // once, and back
  }

  void aPlaceGetsAWhiteOfItsOwn() {
    drag(FinishTool::PlaceWhite, {0.25, 0.5}, {0.25, 0.5}, 1);
    QVERIFY(recipe().areas.empty()); // there is no place yet
    drag(FinishTool::Oval, {0.25, 0.5}, {0.4, 0.7});
    QCOMPARE(recipe().areas.size(), std::size_t(1));
    drag(FinishTool::PlaceWhite, {0.25, 0.5}, {0.25, 0.5}, 1);
    QVERIFY(recipe().areas[0].warmth > 0.2);
    QCOMPARE(recipe().tone.warmth, 0.0);
  }

  void ovalsAndRampsLieWhereTheyWereDragged() {
    drag(FinishTool::Oval, {0.3, 0.4}, {0.45, 0.6});
    drag(FinishTool::Ramp, {0.2, 0.1}, {0.2, 0.9});
    QCOMPARE(recipe().areas.size(), std::size_t(2));
    const Area &oval = recipe().areas[0], &ramp = recipe().areas[1];
    QVERIFY(oval.shape == AreaShape::Oval && ramp.shape == AreaShape::Ramp);
    QVERIFY(std::abs(oval.a.x - 0.3) < 0.01 && std::abs(oval.a.y - 0.4) < 0.01 && std::abs(oval.b.x - 0.15) < 0.01 &&
            std::abs(oval.b.y - 0.2) < 0.01);
    QVERIFY(std::abs(ramp.a.y - 0.1) < 0.01 && std::abs(ramp.b.y - 0.9) < 0.01);
    QCOMPARE(bench_->finish.tools.selectedArea(), 1); // the latest is in hand
    bench_->finish.tools.setPage(FinishTools::Page::Places);
    QCOMPARE(bench_->finish.marks().outlines.size(), std::size_t(1));
    bench_->finish.tools.selectArea(0);
    bench_->finish.tools.removeArea();
    QCOMPARE(recipe().areas.size(), std::size_t(1));
    QVERIFY(recipe().areas[0].shape == AreaShape::Ramp);
    QCOMPARE(bench_->finish.tools.selectedArea(), 0);
    bench_->finish.tools.removeArea();
    bench_->finish.tools.removeArea(); // nothing is left to remove
    QCOMPARE(bench_->finish.tools.selectedArea(), -1);
  }

  void strokesGoIntoTheBrushInHand() {
    drag(FinishTool::Brush, {0.2, 0.2}, {0.4, 0.2});
    drag(FinishTool::Brush, {0.2, 0.3}, {0.4, 0.3});
    QCOMPARE(recipe().areas.size(), std::size_t(1));
    QCOMPARE(recipe().areas[0].strokes.size(), std::size_t(2));
    QVERIFY(recipe().areas[0].strokes[0].points.size() >= 5);
    QVERIFY(bench_->finish.tools.tool() == FinishTool::Brush); // stays in hand
    bench_->undo();
    QCOMPARE(recipe().areas[0].strokes.size(), std::size_t(1));
  }

  void aColourMovesByItsHue() {
    drag(FinishTool::Colour, {0.69, 0.5}, {0.89, 0.4});
    QCOMPARE(recipe().hues.size(), std::size_t(1));
    const HueMove& move = recipe().hues[0];
    QVERIFY2(std::abs(std::remainder(move.hue - 30, 360.0)) < 40, qPrintable(QString::number(move.hue))); // red
    QVERIFY(std::abs(move.saturation - 0.4) < 0.02 && move.lightness > 0.15);
    drag(FinishTool::Colour, {0.69, 0.5}, {0.59, 0.5}); // the same colour again
    QCOMPARE(recipe().hues.size(), std::size_t(1));
    QVERIFY(std::abs(recipe().hues[0].saturation - 0.2) < 0.03);
  }

  void spotsAreCoveredAsFarAsTheDragReaches() {
    drag(FinishTool::Heal, {0.5, 0.5}, {0.5, 0.5}, 1);
    drag(FinishTool::Heal, {0.6, 0.5}, {0.63, 0.5});
    QCOMPARE(recipe().healings.size(), std::size_t(2));
    QCOMPARE(recipe().healings[0].radius, 0.006);
    QVERIFY(std::abs(recipe().healings[1].radius - 0.03) < 1e-6);
  }

  // What changes the picture's shape waits for the hand: the ground must not move under it.
  void cutsComeWhenTheHandLetsGo() {
    bench_->finish.tools.choose(FinishTool::Crop);
    bench_->finish.dragBegins({0.1, 0.1});
    bench_->finish.drag({0.5, 0.5});
    QVERIFY(recipe() == Recipe{});
    QVERIFY(!bench_->finish.marks().kept.isEmpty());
    bench_->finish.drag({0.6, 0.7});
    bench_->finish.dragEnds({0.6, 0.7});
    QVERIFY(settled());
    QVERIFY(std::abs(recipe().geometry.cropWidth - 0.5) < 0.01 && std::abs(recipe().geometry.cropHeight - 0.6) < 0.01);
    QVERIFY(bench_->finish.marks().kept.isEmpty());
    const CombineReport& report = *bench_->view().combined->report;
    QCOMPARE(bench_->finished.fullSize(), QSize(int(std::lround(report.width * recipe().geometry.cropWidth)),
                                                int(std::lround(report.height * recipe().geometry.cropHeight))));
    bench_->finish.tools.setCropRatio(1);
    const Geometry& g = recipe().geometry;
    QVERIFY(std::abs(g.cropWidth * report.width / (g.cropHeight * report.height) - 1) < 0.01);
  }

  void aLineIsSetLevel() {
    drag(FinishTool::Level, {0.2, 0.5},
         {0.8, 0.5 + 0.6 * 480 / 320 * std::tan(3 * 3.14159265 / 180)}); // three degrees down to the right
    QVERIFY2(std::abs(recipe().geometry.roll - 3) < 0.05, qPrintable(QString::number(recipe().geometry.roll)));
    bench_->undo();
    drag(FinishTool::Level, {0.5, 0.5}, {0.505, 0.5}); // too short to tell
    QVERIFY(recipe() == Recipe{});
  }

  void fourCornersOnALineAreRefused() {
    QSignalSpy told(&bench_->desk.notices, &Notices::told);
    bench_->finish.tools.choose(FinishTool::Corners);
    for (const double x : {0.1, 0.3, 0.5, 0.7}) bench_->finish.dragBegins({x, 0.5}), bench_->finish.dragEnds({x, 0.5});
    QVERIFY(told.count() > 0 && told.last().at(0).toString().contains("lie on a line"));
    QVERIFY(recipe() == Recipe{});
    bench_->finish.tools.choose(FinishTool::Corners);
    for (const QPointF p : {QPointF(0.2, 0.2), {0.8, 0.25}, {0.8, 0.75}})
      bench_->finish.dragBegins(p), bench_->finish.dragEnds(p);
    QCOMPARE(bench_->finish.marks().rings.size(), std::size_t(3));
    bench_->finish.dragBegins({0.2, 0.8}), bench_->finish.dragEnds({0.2, 0.8});
    QVERIFY(settled());
    QVERIFY(recipe().geometry.corners.size() == 4);
  }

  void aDragThatEndsElsewhereChangesNothing() {
    bench_->finish.drag({0.5, 0.5}); // was never begun
    bench_->finish.dragEnds({0.5, 0.5});
    QVERIFY(recipe() == Recipe{});
    bench_->finish.dragBegins({0.5, 0.5});
    bench_->undo(); // in the middle of it
    bench_->finish.drag({0.5, 0.3});
    bench_->finish.dragEnds({0.5, 0.3});
    QVERIFY(settled());
  }

  void startsGoRound() {
    QStringList names;
    QSignalSpy told(&bench_->desk.notices, &Notices::told);
    for (int i = 0; i < 3; ++i) bench_->finish.nextStart(), names << told.last().at(0).toString();
    QCOMPARE(QSet<QString>(names.begin(), names.end()).size(), 3);
    QVERIFY(names[2].contains(QString::fromStdString(looks()[0].name)));
  }

  void aLookOfOnesOwnIsKeptAndUsed() {
    Recipe warm = recipe();
    warm.tone.saturation = 1.3;
    bench_->finish.setRecipe(warm);
    bench_->finish.saveLook("  Warmer wood ");
    bench_->undo();
    const auto all = bench_->finish.allLooks();
    QCOMPARE(all.back().name, std::string("Warmer wood"));
    bench_->finish.chooseLook(all.back().id, 1);
    QVERIFY(std::abs(recipe().tone.saturation - 1.3) < 1e-6);
    bench_->finish.chooseLook("no such look", 1);
    QVERIFY(std::abs(recipe().tone.saturation - 1.3) < 1e-6);
  }

  void theWorstFindingIsMended() {
    Recipe loud = recipe();
    loud.tone.saturation = 1.6;
    loud.tone.exposure = 1.8;
    bench_->finish.setRecipe(loud);
    QVERIFY(settled());
    const Finding* worst = bench_->finished.worstFinding();
    QVERIFY(worst);
    const FindingKind kind = worst->kind;
    QVERIFY(bench_->finish.verdict().endsWith("press M."));
    bench_->finish.remedy();
    QVERIFY(settled());
    QVERIFY(!(recipe() == loud));
    const Finding* next = bench_->finished.worstFinding();
    QVERIFY(!next || next->kind != kind || next->figure < 1e9);
  }

  void comparedWithItselfItIsTheSame() {
    auto& compare = bench_->finish.compare;
    QVERIFY(compare.image().isNull());
    for (const auto& c : compare.comparands())
      if (c.against == Against::Pinned) compare.with(c);
    QVERIFY(settled());
    QVERIFY(compare.image() == bench_->finished.image());
    Recipe light = recipe();
    light.tone.exposure = 0.8;
    bench_->finish.setRecipe(light);
    QVERIFY(settled());
    QVERIFY(compare.image() != bench_->finished.image()); // it stands as it was
    compare.set(Comparing::Off);
    QVERIFY(compare.image().isNull());
  }

  void heldItIsOneExposure() {
    const QImage finish = bench_->picture();
    bench_->finished.hold(true);
    QVERIFY(bench_->picture() == bench_->finished.before() && bench_->picture() != finish);
    bench_->finished.hold(false);
    QVERIFY(bench_->picture() == finish);
  }
};

QTEST_MAIN(TestFinishTools)
#include "test_finish_tools.moc"
