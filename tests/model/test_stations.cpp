// SPDX-License-Identifier: GPL-3.0-or-later
// The way through a view: stations behind one interface, without a window.
#include "model/workbench.h"
#include "support/scenes.h"
#include "support/wait.h"

#include <QGuiApplication>
#include <QSignalSpy>
#include <QStandardPaths>

using namespace ml;
using test::pathOf;
using test::waitFor;

namespace {

/// A station that nobody has heard of: all that a further one needs.
class Tea final : public StationModel {
public:
  using StationModel::StationModel;
  QString id() const override { return "tea"; }
  QString name() const override { return "Tea"; }
  StationState state() const override { return drunk ? StationState::Done : StationState::Open; }
  QString verdict() const override { return "The kettle is on."; }
  QStringList reasons() const override { return {"It is five o'clock."}; }
  void addTo(LadderContent& content) const override { content.columns = LadderContent::Columns::None; }
  Next next() const override { return {"Drink it", !drunk}; }
  void doNext() override {
    drunk = true;
    emit changed();
    emit goTo(stations::kLight);
  }
  void enter() override { ++entered; }
  bool drunk = false;
  int entered = 0;
};

} // namespace

class TestStations : public QObject {
  Q_OBJECT

private:
  std::unique_ptr<QTemporaryDir> dir_;
  std::unique_ptr<Workbench> bench_;

  [[nodiscard]] bool settled() {
    return waitFor([&] { return bench_->settled(); });
  }
  /// A job from three frames of a still scene; -> its view is open.
  void openFrames() {
    const auto card = pathOf(*dir_) / "card";
    (void)test::shootScene(test::texturedScene(420, 300, 12, 5), test::exposedAt({3, 7, 11}), FrameFormat::Jpeg, card);
    bench_->opening.takeFiles({QString::fromStdString(card.string())}, bench_->desk.jobsFolder);
    QVERIFY(settled());
  }
  void combineAll() {
    bench_->combine.combine({});
    QVERIFY(settled());
    QVERIFY(bench_->view().combined);
  }

private slots:
  void initTestCase() { QStandardPaths::setTestModeEnabled(true); }
  void init() {
    dir_ = std::make_unique<QTemporaryDir>();
    bench_ = std::make_unique<Workbench>(pathOf(*dir_) / "jobs");
  }

  void beforeAJobThereIsNothingToDo() {
    QVERIFY(!bench_->hasView());
    QVERIFY(bench_->verdict().startsWith("Drop a folder"));
    QVERIFY(bench_->picture().isNull());
    for (const auto& s : bench_->path()) bench_->goTo(s->id());
    QCOMPARE(bench_->stationIndex(), 0);
    bench_->undo();
    bench_->redo();
    bench_->selectView(3);
    bench_->light.readSpot(0.5, 0.5);
    bench_->frames.setHandHeld(true);
    bench_->shoot.shoot();
    bench_->shoot.doNext();
    bench_->combine.combine({});
    bench_->finish.remedy();
    bench_->finish.nextStart();
    bench_->deliver.deliver({});
    QVERIFY(settled());
  }

  void aFurtherStationIsOneModel() {
    openFrames();
    auto& tea = static_cast<Tea&>(bench_->add(std::make_unique<Tea>(bench_->desk)));
    QCOMPARE(bench_->path().size(), std::size_t(7));
    QSignalSpy changed(bench_.get(), &Workbench::changed);
    bench_->goTo("tea");
    QCOMPARE(tea.entered, 1);
    QVERIFY(changed.count() > 0);
    QCOMPARE(bench_->verdict(), QString("The kettle is on."));
    QCOMPARE(bench_->reasoning(), QString("It is five o'clock."));
    QVERIFY(bench_->ladder().columns.empty());
    QVERIFY(!bench_->picture().isNull()); // the frame in hand
    bench_->station().doNext();
    QCOMPARE(bench_->station().id(), stations::kLight);
    QVERIFY(tea.state() == StationState::Done);
  }

  void aViewIsEnteredWhereItsWorkGoesOn() {
    openFrames();
    QCOMPARE(bench_->station().id(), stations::kCombine);
    combineAll();
    QVERIFY(bench_->combine.state() == StationState::Done);
    QVERIFY(bench_->deliver.state() == StationState::Open);
    const auto folder = bench_->job().folder();
    bench_ = std::make_unique<Workbench>(pathOf(*dir_) / "jobs");
    QVERIFY(bench_->opening.openJob(folder));
    QVERIFY(settled());
    QCOMPARE(bench_->station().id(), stations::kFinish);
    QVERIFY(!bench_->finished.image().isNull());
    QVERIFY(bench_->finished.judgement());
    const CombineReport& report = *bench_->view().combined->report; // of three frames, shot darkest first
    QVERIFY(bench_->finish.reasons().last().startsWith(
        QString("It is as light as frame %1, ").arg(report.metered.frame + 1)));
    QVERIFY(bench_->opening.openDemo(bench_->desk.jobsFolder));
    QVERIFY(settled());
    QCOMPARE(bench_->station().id(), stations::kLight);
    QVERIFY(!bench_->finished.exists());
  }

  // Views of two jobs may have one name; nobody is told of the second before every station has let the first go.
  void viewsOfOneNameInTwoJobsAreTwo() {
    openFrames();
    combineAll();
    QVERIFY(waitFor([&] { return bench_->finished.judgement() != nullptr; }));
    const std::string name = idOf(bench_->view());
    const auto first = bench_->job().folder();
    int told = 0;
    connect(bench_.get(), &Workbench::changed, this, [&] {
      if (bench_->job().folder() == first) return;
      ++told;
      QVERIFY(bench_->view().combined || !bench_->finished.judgement());
      QVERIFY(!bench_->verdict().isEmpty());
      (void)bench_->reasoning();
      (void)bench_->ladder();
    });
    openFrames();
    QVERIFY(bench_->job().folder() != first);
    QCOMPARE(idOf(bench_->view()), name);
    QVERIFY(told > 0);
    QCOMPARE(bench_->station().id(), stations::kCombine);
  }

  // What was combined is kept: going to another view and back reads nothing anew.
  void combinedPicturesAreKept() {
    openFrames();
    combineAll();
    const auto picture = bench_->finished.combined();
    QVERIFY(picture && picture == bench_->desk.radiances.find(idOf(bench_->view()), bench_->view().radianceStamp));
    CombineOptions two = bench_->combine.options();
    two.unused = {bench_->view().frames.back().filename().string()};
    bench_->combine.combine(two);
    QVERIFY(settled());
    QVERIFY(bench_->finished.combined() != picture);
    bench_->undo();
    QVERIFY(settled());
    QVERIFY(bench_->finished.combined() == picture);
    bench_->undo(); // nothing is combined
    QVERIFY(settled());
    QVERIFY(!bench_->view().combined && !bench_->finished.exists());
    QVERIFY(bench_->finish.verdict().startsWith("Nothing is combined"));
    bench_->redo();
    QVERIFY(settled());
    QVERIFY(bench_->finished.combined() == picture);
    // Forgotten, it is read from its file.
    bench_->desk.radiances.clear();
    bench_->redo();
    QVERIFY(settled());
    bench_->undo();
    QVERIFY(settled());
    QVERIFY(bench_->finished.exists() && bench_->finished.combined() != picture);
    QCOMPARE(bench_->finished.combined()->preview.width(), picture->preview.width());
  }

  // The job that is open, opened again before its last changes were written.
  void openedAgainAJobHasItsLatestChanges() {
    openFrames();
    QVERIFY(bench_->light.typeReading("sky", "14"));
    const auto folder = bench_->job().folder();
    QVERIFY(bench_->opening.openJob(folder));
    QCOMPARE(bench_->view().readings.size(), std::size_t(1));
    QVERIFY(settled());
    QCOMPARE(Job::open(folder)->views()[0].readings.size(), std::size_t(1));
  }

  void aReadingIsOneStepWhereverItStands() {
    openFrames();
    for (const char* value : {"5", "9", "13"}) QVERIFY(bench_->light.typeReading(value, value));
    QVERIFY(!bench_->light.typeReading("x", "no reading"));
    const auto names = [&] {
      QStringList out;
      for (const auto& r : bench_->view().readings) out << QString::fromStdString(r.name) + (r.keepTexture ? "" : "*");
      return out.join(' ');
    };
    bench_->light.removeReading(1);
    bench_->light.renameReading(1, " sky ");
    bench_->light.setKeepTexture(0, false);
    QCOMPARE(names(), QString("5* sky"));
    bench_->undo();
    QCOMPARE(names(), QString("5 sky"));
    bench_->undo();
    QCOMPARE(names(), QString("5 13"));
    bench_->undo();
    QCOMPARE(names(), QString("5 9 13"));
    while (bench_->canUndo()) bench_->undo();
    QCOMPARE(names(), QString());
    while (bench_->canRedo()) bench_->redo();
    QCOMPARE(names(), QString("5* sky"));
  }

  void plansFollowReadingsAndChoicesUnderUndo() {
    QVERIFY(bench_->opening.openDemo(bench_->desk.jobsFolder));
    QVERIFY(settled());
    QVERIFY(!bench_->view().plan);
    QVERIFY(bench_->light.typeReading("sky", "15") && bench_->light.typeReading("corner", "4"));
    const auto planned = bench_->view().plan->frames;
    PlanChoices choices = bench_->frames.choices();
    choices.aperture = FNumber{4};
    choices.own = OwnBracket{7, 3, 30, {200}};
    bench_->frames.choose(choices);
    QCOMPARE(bench_->view().plan->frames.size(), std::size_t(7));
    QVERIFY(bench_->frames.choices() == choices);
    QVERIFY(settled());
    const auto again = Job::open(bench_->job().folder());
    QVERIFY(choicesOf(again->views()[0]) ==
            choices); // aperture and the own bracket are kept, not guessed from the plan
    bench_->undo();
    QVERIFY(bench_->view().plan->frames == planned);
    bench_->undo();
    QVERIFY(!bench_->view().plan);
  }

  void anotherFormatOrCameraPlansAnew() {
    QVERIFY(bench_->opening.openDemo(bench_->desk.jobsFolder));
    QVERIFY(settled());
    QVERIFY(bench_->light.typeReading("sky", "15") && bench_->light.typeReading("corner", "4"));
    const auto raw = bench_->view().plan->camera;
    bench_->frames.setFormat(FrameFormat::Jpeg);
    QVERIFY(raw.hasRaw && !bench_->view().plan->camera.hasRaw);
    PlanChoices choices = bench_->frames.choices();
    for (const auto& p : bench_->desk.profiles.all())
      if (p.id != choices.camera && !p.hasRaw) choices.camera = p.id;
    bench_->undo();
    bench_->frames.choose(choices);
    QCOMPARE(bench_->view().format, FrameFormat::Jpeg); // it has no raw files
    QVERIFY(bench_->desk.camera.camera()->profile() == bench_->view().profile());
    bench_->undo();
    QCOMPARE(bench_->view().format, FrameFormat::Dng);
    QVERIFY(bench_->desk.camera.camera()->profile() == bench_->view().profile());
  }

  void aFinishIsJudgedWhenTheHandRests() {
    openFrames();
    combineAll();
    QSignalSpy judged(&bench_->finished, &FinishedPicture::judged);
    Recipe recipe = bench_->finish.recipe();
    for (int i = 1; i <= 8; ++i) {
      recipe.tone.exposure = 0.1 * i;
      bench_->finish.setRecipe(recipe, 5);
      QVERIFY(!bench_->finished.judgement()); // it was of another picture
    }
    QVERIFY(settled());
    QCOMPARE(judged.count(), 1);
    QVERIFY(bench_->finished.judgement());
  }

  void aFinishGoesToOtherViewsAndComesBack() {
    openFrames();
    combineAll();
    QSignalSpy told(&bench_->desk.notices, &Notices::told);
    bench_->finish.copyToOtherViews();
    QVERIFY(told.last().at(0).toString().startsWith("No other view"));
    QCOMPARE(bench_->desk.job.undoStack().count(), 1); // of combining
  }

  // One view by day and with a lamp on: the second knows the first, and is offered for comparison before all others.
  void lightsOnAndOffAreAPair() {
    const auto card = pathOf(*dir_) / "card";
    const Image<float> day = test::texturedScene(420, 300, 12, 5);
    Image<float> lamp = day.clone();
    for (int y = 0; y < lamp.height(); ++y)
      for (int x = 0; x < lamp.width(); ++x)
        for (int c = 0; c < 3; ++c)
          lamp.at(x, y)[c] *= float(0.15 + 2 / (1 + (x * x + y * y) / 14400.) * (c == 2 ? 0.5 : 1));
    (void)test::shootScene(day.clone(), test::exposedAt({3, 7, 11}), FrameFormat::Jpeg, card / "a");
    (void)test::shootScene(std::move(lamp), test::exposedAt({3, 7, 11}), FrameFormat::Jpeg, card / "b");
    connect(&bench_->opening, &JobOpening::sorted, this,
            [&](const Grouping& grouping, const QString& name, const QString& jobs) {
              bench_->opening.takeSorted(grouping, name.toStdString(), jobs.toStdString());
            });
    bench_->opening.takeFiles({QString::fromStdString(card.string())}, bench_->desk.jobsFolder);
    QVERIFY(settled());
    const auto& views = bench_->desk.job.job().views();
    QCOMPARE(views.size(), 2u);
    QCOMPARE(views[1].otherLightOf, views[0].folder.filename().string());
    QCOMPARE(Job::open(bench_->desk.job.job().folder())->views()[1].otherLightOf, views[1].otherLightOf);
    combineAll();
    bench_->selectView(1);
    QVERIFY(settled());
    combineAll();
    const auto comparands = bench_->finish.compare.comparands();
    QVERIFY(comparands[1].against == Against::OtherView);
    QVERIFY(comparands[1].name.contains("under another light"));
    bench_->goTo(stations::kFinish);
    QVERIFY(settled());
    bench_->finish.compare.with(comparands[1]);
    QVERIFY(settled());
    QVERIFY(!bench_->finish.compare.image().isNull());
  }

  void nothingIsDoneTwiceWhileLongWorkGoesOn() {
    openFrames();
    bench_->combine.combine({});
    QVERIFY(bench_->busy());
    bench_->combine.combine({});
    bench_->selectView(0);
    QVERIFY(!bench_->light.typeReading("x", "12"));
    bench_->undo();
    bench_->finish.copyToOtherViews();
    QVERIFY(settled());
    QCOMPARE(bench_->desk.job.undoStack().count(), 1);
  }

  void combiningThatIsStoppedLeavesTheViewAsItWas() {
    openFrames();
    bench_->combine.combine({});
    bench_->stopWork();
    QVERIFY(settled());
    QVERIFY(!bench_->view().combined);
    QCOMPARE(bench_->desk.job.undoStack().count(), 0);
  }
};

QTEST_MAIN(TestStations)
#include "test_stations.moc"
