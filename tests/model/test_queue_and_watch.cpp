// SPDX-License-Identifier: GPL-3.0-or-later
// Files to write and frames that come in, without a window; and what is said of a combined set.
#include "base/atomic_file.h"
#include "model/combine_words.h"
#include "model/moved_places.h"
#include "model/workbench.h"
#include "pipeline/place_outline.h"
#include "support/scenes.h"
#include "support/wait.h"

#include <QGuiApplication>
#include <QSignalSpy>
#include <QStandardPaths>
#include <fstream>

using namespace ml;
using test::pathOf;
using test::waitFor;

namespace {

CombineReport threeFrames() {
  CombineReport report;
  report.width = 380, report.height = 280;
  report.crop = {10, 20, 380, 280};
  report.referenceWidth = 400, report.referenceHeight = 320;
  for (int i = 0; i < 3; ++i) {
    CombineReport::Frame f;
    f.file = "/card/f" + std::to_string(i) + ".jpg";
    f.settings = {{1.0 / (256 >> (2 * i))}, {8}, {100}};
    report.frames.push_back(f);
  }
  report.frames[1].shiftX = 3, report.frames[1].shiftY = -4, report.frames[1].degrees = -0.25;
  report.frames[2].clippedShare = 0.99;
  return report;
}

/// A square of `size` cells of 4 pixels whose first cell is (x, y) of the reference's grid.
CombineReport::Place square(int x, int y, int size, int source, std::vector<int> recording) {
  CombineReport::Place p;
  p.cells = {x, y, size, size};
  p.source = source;
  p.recording = std::move(recording);
  for (int i = 0; i < size; ++i) p.rows.push_back({{0, size}});
  return p;
}

} // namespace

class TestQueueAndWatch : public QObject {
  Q_OBJECT

private:
  std::unique_ptr<QTemporaryDir> dir_;
  std::unique_ptr<Workbench> bench_;

  [[nodiscard]] bool settled() {
    return waitFor([&] { return bench_->settled(); });
  }
  void openCombined() {
    const auto card = pathOf(*dir_) / "card";
    (void)test::shootScene(test::texturedScene(420, 300, 12, 5), test::exposedAt({3, 7, 11}), FrameFormat::Jpeg, card);
    bench_->opening.takeFiles({QString::fromStdString(card.string())}, bench_->desk.jobsFolder);
    QVERIFY(settled());
    bench_->combine.combine({});
    QVERIFY(settled());
  }

private slots:
  void initTestCase() { QStandardPaths::setTestModeEnabled(true); }
  void init() {
    dir_ = std::make_unique<QTemporaryDir>();
    bench_ = std::make_unique<Workbench>(pathOf(*dir_) / "jobs");
  }

  // ---- Words

  void eachFrameIsToldHowItLay() {
    const CombineReport report = threeFrames();
    const auto still = frameWords(report, "f0.jpg", false, 7), moved = frameWords(report, "f1.jpg", false, 2),
               white = frameWords(report, "f2.jpg", false, 3);
    QVERIFY(still && moved && white && !frameWords(report, "f3.jpg", false, 4));
    QVERIFY(still->line.startsWith("7 ")); // as it arrived, not as it is exposed
    QVERIFY(still->line.contains("not moved") && still->note.isEmpty());
    QVERIFY2(moved->line.contains("5.0 pixels") && moved->line.contains(QChar(0x2212)),
             qPrintable(moved->line)); // hypot(3, 4), turned by minus
    QVERIFY(moved->details.contains("3.0 pixels across"));
    QVERIFY(white->note.contains("clipped"));
    QCOMPARE(white->merged, 2);
  }

  void theReasonsNameCurveAndLight() {
    CombineReport report = threeFrames();
    report.ev100OfUnit = 3; // 0.125 x 2^3 = 1 cd/m2 (ISO 2720, K = 12.5)
    QCOMPARE(combineReasons(report, {3, 1, 2}).size(), 4);
    for (int i = 0; i < 3; ++i) // in the order of their numbers
      QVERIFY(combineReasons(report, {3, 1, 2})[i].startsWith(QString("Frame %1,").arg(i + 1)));
    QVERIFY(combineReasons(report, {3, 1, 2}).last().contains("for 1 cd/m2"));
    report.response.emplace();
    report.response->disagreementBefore = 0.21, report.response->disagreementAfter = 0.04;
    QVERIFY(combineReasons(report, {3, 1, 2})[3].contains("0.21"));
    report.response->changed = true;
    QVERIFY(combineReasons(report, {3, 1, 2})[3].contains("0.04"));
    report.response->fromEarlierSets = true;
    QVERIFY(combineReasons(report, {3, 1, 2})[3].contains("earlier sets"));
  }

  // ---- Places

  void placesLieWhereTheirCellsDo() {
    CombineReport report = threeFrames();
    report.places = {square(20, 30, 10, 1, {0, 1}), square(2, 5, 3, 0, {0, 1})};
    const auto drawn = movedPlaces(report, {3, 1, 2});
    QCOMPARE(drawn.size(), std::size_t(2)); // as many as the verdict counts
    QCOMPARE(drawn[0].number, 1);
    const QRectF box = drawn[0].outline.boundingRect();
    const double cell = 4 / 380.0; // a line around the cells, within two and a half of them
    QVERIFY2(box.left() < (80 - 10) / 380.0 && box.left() > (80 - 10) / 380.0 - 2.5 * cell,
             qPrintable(QString::number((box.left() - 70 / 380.0) / cell)));
    QVERIFY(box.width() > 10 * cell && box.width() < 15 * cell);
    for (const auto& place : drawn) QVERIFY(place.outline.contains(place.label));
    QVERIFY(movedPlaces(CombineReport{}, {}).empty());
  }

  void outlinesAreSmoothAndCloseSmallGaps() {
    CombineReport report = threeFrames();
    CombineReport::Place torn = square(20, 30, 12, 1, {0, 1});
    for (std::size_t y = 0; y < torn.rows.size(); ++y) // a gap of one cell down the middle
      torn.rows[y] = {{0, 5}, {6, 6}};
    const auto rings = outlineOf(torn, report.crop);
    QCOMPARE(rings.size(), std::size_t(1));
    double longest = 0; // no staircase: from point to point less than a cell
    for (std::size_t i = 0; i < rings[0].size(); ++i) {
      const Spot2 &a = rings[0][i], &b = rings[0][(i + 1) % rings[0].size()];
      longest = std::max(longest, std::hypot((a.x - b.x) * 380, (a.y - b.y) * 280));
    }
    QVERIFY2(longest <= 4 * std::sqrt(2.0) + 1e-6, qPrintable(QString::number(longest)));
    CombineReport::Place dot = square(3, 3, 1, 0, {0, 1});
    QCOMPARE(outlineOf(dot, report.crop).size(), std::size_t(1)); // one cell is still seen
  }

  void aClickTakesThePlaceFromTheNextFrame() {
    CombineReport report = threeFrames();
    report.places = {square(20, 30, 10, 2, {0, 1, 2})};
    const double x = (100 - 10) / 380.0, y = (140 - 20) / 280.0;
    const auto next = [&](const std::vector<SourceChoice>& choices) {
      return withSource(report, choices, x, y, nextFrame(*placeAt(report, x, y)));
    };
    const auto first = next({});
    QVERIFY(first.size() == 1 && first.front().frame == 0); // after the last comes the first
    report.places[0].source = 0;
    const auto second = next(first);
    QVERIFY(second.size() == 1 && second.front().frame == 1); // the same choice, changed
    QVERIFY(!placeAt(report, 0.9, 0.9));                      // nothing moved there
    report.places[0].recording = {0};
    QVERIFY(!placeAt(report, x, y)); // no other frame records it
    const auto point = toReference(report, 0.5, 0.5);
    QVERIFY(std::abs(point.x - 200 / 400.0) < 1e-9 && std::abs(point.y - 160 / 320.0) < 1e-9);
  }

  // ---- Delivering

  void whatIsAskedForIsWrittenOnceAndSaid() {
    openCombined();
    QSignalSpy told(&bench_->desk.notices, &Notices::told);
    DeliverChoices choices;
    choices.targets = {"jpeg"};
    bench_->deliver.choose(choices);
    bench_->goTo(stations::kDeliver);
    QVERIFY(bench_->station().next().possible);
    bench_->station().doNext();
    QVERIFY(bench_->deliver.running());
    QVERIFY(settled());
    QCOMPARE(bench_->view().delivered.size(), std::size_t(1));
    QVERIFY(std::filesystem::exists(bench_->view().deliveredFolder() / bench_->view().delivered[0].file));
    QCOMPARE(told.count(), 0); // the verdict says it
    QVERIFY(bench_->verdict().startsWith("One file lies"));
    QVERIFY(bench_->deliver.state() == StationState::Done);
    choices.allViews = true; // what is there and current is not written again
    bench_->deliver.deliver(choices);
    QVERIFY(settled());
    QVERIFY(told.last().at(0).toString().contains("is there and current"));
    QCOMPARE(Job::open(bench_->job().folder())->views()[0].delivered.size(), std::size_t(1));
    Recipe light = bench_->finish.recipe();
    light.tone.exposure = 0.5;
    bench_->finish.setRecipe(light);
    QVERIFY(bench_->deliver.state() == StationState::OutOfDate);
    choices.targets.clear();
    bench_->deliver.choose(choices);
    QVERIFY(!bench_->deliver.next().possible);
  }

  void aPausedQueueWaitsForAnotherDay() {
    openCombined();
    DeliverChoices choices;
    choices.targets = {"jpeg", "print", "archive"};
    bench_->deliver.deliver(choices);
    bench_->deliver.pause();
    QVERIFY(settled());
    const std::size_t left = bench_->deliver.orders().empty() ? 0 : bench_->deliver.orders()[0].targets.size();
    QVERIFY(left > 0);
    const auto folder = bench_->job().folder();
    bench_ = std::make_unique<Workbench>(pathOf(*dir_) / "jobs");
    QSignalSpy told(&bench_->desk.notices, &Notices::told);
    QVERIFY(bench_->opening.openJob(folder));
    QVERIFY(settled());
    QVERIFY(told.count() > 0 && told.at(0).at(0).toString().contains("still wait"));
    bench_->deliver.goOn();
    QVERIFY(settled());
    QVERIFY(bench_->deliver.orders().empty());
    QCOMPARE(bench_->view().delivered.size(), std::size_t(3));
  }

  void aSheetHoldsEveryCombinedView() {
    openCombined();
    QSignalSpy drawn(&bench_->deliver, &DeliverModel::sheetDrawn);
    bench_->deliver.makeSheet();
    QVERIFY(settled());
    QCOMPARE(drawn.count(), 1);
    const auto pictures = drawn.at(0).at(0).value<std::vector<SheetPicture>>();
    QCOMPARE(pictures.size(), std::size_t(1));
    QCOMPARE(pictures[0].before.size(), pictures[0].after.size());
    QVERIFY(pictures[0].before != pictures[0].after);
  }

  // ---- A watched folder

  void framesOfAWatchedFolderBecomeSets() {
    const auto shot = test::shootScene(test::texturedScene(420, 300, 10, 5), test::exposedAt({4, 7, 10}),
                                       FrameFormat::Jpeg, pathOf(*dir_) / "elsewhere");
    QVERIFY(bench_->opening.openDemo(bench_->desk.jobsFolder));
    QVERIFY(settled());
    const auto watched = pathOf(*dir_) / "tethered";
    std::filesystem::create_directories(watched);
    bench_->shoot.watch("/nowhere/at/all");
    QVERIFY(bench_->shoot.watched().isEmpty());
    bench_->shoot.watch(QString::fromStdString(watched.string()));
    bench_->goTo(stations::kShoot);
    QVERIFY2(bench_->verdict().startsWith("Watching tethered"), qPrintable(bench_->verdict()));
    const auto framesOf = [&](std::size_t set) {
      return set < bench_->view().sets.size() ? bench_->view().sets[set].frames.size() : std::size_t(0);
    };
    for (std::size_t i = 0; i < 3; ++i) {
      std::filesystem::copy(shot.files[i], watched / shot.files[i].filename());
      QVERIFY2(waitFor([&] { return framesOf(0) == i + 1; }), qPrintable(QString::number(framesOf(0))));
    }
    QCOMPARE(bench_->shoot.shot().size(), std::size_t(3));
    QCOMPARE(bench_->shoot.shownFrame(), 2);
    std::filesystem::copy(shot.files[1], watched / "again.jpg"); // an exposure that comes again begins a set
    QVERIFY(waitFor([&] { return framesOf(1) == 1; }));
    QCOMPARE(bench_->view().activeSet, 1);
    std::ofstream(watched / "notes.jpg") << "no frame at all";
    bench_->shoot.stopWatching();
    QVERIFY(settled());
    QVERIFY(bench_->shoot.watched().isEmpty());
    bench_->shoot.selectSet(0);
    QVERIFY(settled());
    QCOMPARE(bench_->shoot.shot().size(), std::size_t(3));
    QCOMPARE(Job::open(bench_->job().folder())->views()[0].sets.size(), std::size_t(2));
  }

  void aFrameThatIsLeftOutStillShowsItself() {
    openCombined();
    bench_->goTo(stations::kShoot);
    QVERIFY(settled());
    bench_->shoot.setFrameUsed(0, false);
    QVERIFY(settled());
    QVERIFY(!bench_->shoot.isUsed(0) && bench_->shoot.isUsed(1));
    QVERIFY(bench_->combine.state() == StationState::OutOfDate);
    bench_->shoot.showFrame(2); // counts what arrived, not what is used
    QVERIFY(settled());
    QCOMPARE(bench_->shoot.shownFrame(), 2);
    QCOMPARE(bench_->desk.frame.frame()->path, bench_->view().sets[0].frames[2].file.string());
    bench_->shoot.showFrame(9);
    QVERIFY(settled());
    QCOMPARE(bench_->shoot.shownFrame(), 2);
  }
};

QTEST_MAIN(TestQueueAndWatch)
#include "test_queue_and_watch.moc"
