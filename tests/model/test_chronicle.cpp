// SPDX-License-Identifier: GPL-3.0-or-later
// Time and events of a view, the visit's model, and what is written down by itself.
#include "base/atomic_file.h"
#include "model/workbench.h"
#include "support/bench.h"
#include "support/scenes.h"
#include "support/wait.h"
#include "visit/visit_file.h"

#include <QStandardPaths>
#include <QTest>
#include <atomic>
#include <chrono>
#include <thread>

using namespace ml;
using namespace ml::test;

class TestChronicle : public QObject {
  Q_OBJECT

private slots:
  void initTestCase() { QStandardPaths::setTestModeEnabled(true); }

  void timeIsCountedWhereSomebodyWorks() {
    QTemporaryDir dir;
    Desk desk(pathOf(dir) / "jobs");
    std::int64_t now = 1000;
    Chronicle chronicle(desk, [&now] { return now; });
    auto job = Job::create(pathOf(dir) / "jobs/one", "One");
    QVERIFY(job->addView("Room", "", "full-frame-24").has_value());
    QVERIFY(job->addView("Hall", "", "full-frame-24").has_value());
    desk.job.open(std::move(*job));
    const auto spent = [&](int view, const char* station) {
      const auto& all = desk.job.job().views()[std::size_t(view)].spent;
      const auto it = all.find(station);
      return it == all.end() ? 0.0 : it->second;
    };
    chronicle.active(stations::kLight);
    now += 30;
    chronicle.active(stations::kLight);
    QCOMPARE(spent(0, "light"), 30.0);
    now += 61; // a pause is no work
    chronicle.active(stations::kLight);
    chronicle.keep();
    QCOMPARE(spent(0, "light"), 30.0);
    now += 10;
    chronicle.active(stations::kLight);
    now += 5; // to another station: what was counted is kept, the step between is not
    chronicle.active(stations::kShoot);
    QCOMPARE(spent(0, "light"), 40.0);
    now += 8;
    chronicle.active(stations::kShoot);
    desk.job.select(1); // leaving keeps
    QCOMPARE(spent(0, "shoot"), 8.0);
    QCOMPARE(spent(1, "shoot"), 0.0);
    desk.saver.flush();
    const auto again = Job::open(pathOf(dir) / "jobs/one");
    QCOMPARE(again->views()[0].spent.at("light"), 40.0);
  }

  void whatHappensIsWrittenOnce() {
    View view;
    FrameSet& set = view.startSet("Bracket", {});
    QVERIFY(newsOf(view, Aspect::Sets, 5).empty()); // nothing was shot yet
    set.frames.push_back({"/x/frame-1.dng", true});
    auto news = newsOf(view, Aspect::Sets, 5);
    QCOMPARE(news.size(), std::size_t(1));
    QVERIFY(news[0].what == "shot" && news[0].subject == "set-01" && news[0].at == 5);
    view.events = news;
    QVERIFY(newsOf(view, Aspect::Sets, 6).empty());
    set.verdict = "Frame 1 moved.";
    news = newsOf(view, Aspect::Sets, 7);
    QVERIFY(news.size() == 1 && news[0].what == "verdict");
    view.events.insert(view.events.end(), news.begin(), news.end());
    set.verdict = "All holds.";
    QCOMPARE(newsOf(view, Aspect::About, 8).size(), std::size_t(1));
    view.combined = CombineRecord();
    view.radianceStamp = "a";
    QCOMPARE(newsOf(view, Aspect::Combined, 9).size(), std::size_t(1));
    view.delivered.push_back({"room.jpg", "", "", "jpeg", ""});
    QCOMPARE(newsOf(view, Aspect::Delivered, 9)[0].subject, std::string("room.jpg"));
    QVERIFY(newsOf(view, Aspect::Recipe, 9).empty());
  }

  void aVisitThatCannotBeReadIsNotWrittenOver() {
    QTemporaryDir dir;
    const auto folder = pathOf(dir) / "jobs/one";
    {
      auto job = Job::create(folder, "One");
      QVERIFY(job->addView("Room", "", "full-frame-24").has_value());
    }
    QVERIFY(writeTextAtomically(visitFile(folder), "{ of a newer version").has_value());
    Workbench bench(pathOf(dir) / "jobs");
    QStringList said;
    connect(&bench.desk.notices, &Notices::failed, this, [&](const QString& s) { said << s; });
    QVERIFY(bench.opening.openJob(folder));
    QVERIFY(said.join(' ').contains("visit.json"));
    bench.visit.addView("Stair");
    bench.visit.flush();
    QVERIFY(waitFor([&] { return bench.settled(); }));
    QCOMPARE(*readText(visitFile(folder)), std::string("{ of a newer version"));
  }

  void viewsOfTheJobAreViewsOfTheVisit() {
    QTemporaryDir dir;
    Workbench bench(pathOf(dir) / "jobs");
    QVERIFY(bench.opening.openDemo(pathOf(dir) / "jobs"));
    QCOMPARE(bench.visit.visit().views.size(), std::size_t(4));
    QVERIFY(waitFor([&] { return bench.visit.plan() != nullptr; }));
    bench.desk.job.rename("Library");
    QCOMPARE(bench.visit.visit().views[0].name, std::string("Library"));
    const auto namesOnlyWhatIsThere = [&] {
      const auto* plan = bench.visit.plan();
      const int views = int(bench.visit.visit().views.size());
      return !plan ||
             std::all_of(plan->order.begin(), plan->order.end(), [&](const auto& e) { return e.view < views; });
    };
    QObject watching; // goes before what it looks at
    connect(&bench.visit, &VisitModel::changed, &watching, [&] { QVERIFY(namesOnlyWhatIsThere()); });
    QVERIFY(bench.desk.job.remove(1).has_value());
    QVERIFY(namesOnlyWhatIsThere());
    QCOMPARE(bench.visit.visit().views.size(), std::size_t(3));
    bench.visit.addView("  ");
    QCOMPARE(bench.visit.visit().views.size(), std::size_t(3)); // no name, no view
    bench.visit.addView("Stair");
    bench.visit.removeView(0); // of the job: taken out there
    QCOMPARE(bench.visit.visit().views.size(), std::size_t(4));
    bench.visit.undoStack().undo();
    QCOMPARE(bench.visit.visit().views.size(), std::size_t(3));
    QVERIFY(!bench.visit.takePlaceFromFrames()); // no frames say it
    // The newest plan counts, whatever was typed meanwhile.
    for (int i = 0; i < 20; ++i)
      bench.visit.change("day", [&](Visit& v) { v.date = *parseDate("2026-06-" + std::to_string(i + 10)); });
    QVERIFY(waitFor([&] { return !bench.visit.planning(); }));
    QCOMPARE(print(dateAt(bench.visit.plan()->zone, bench.visit.plan()->sun.highest)), std::string("2026-06-29"));
  }

  void theSunTellsHowTheLightFades() {
    QTemporaryDir dir;
    Workbench bench(pathOf(dir) / "jobs");
    QVERIFY(bench.opening.openDemo(pathOf(dir) / "jobs"));
    const auto fade = [&](int view) { return bench.job().views()[std::size_t(view)].situation.fadeStopsPerMinute; };
    const auto plan = [&](LightWant want) {
      bench.visit.change("x", [&](Visit& v) {
        v.place = {"", 46.8, 9.5, "Europe/Zurich"};
        v.date = *parseDate("2026-10-10");
        v.views[2].light.want = want;
      });
      return waitFor([&] { return !bench.visit.planning() && bench.settled(); });
    };
    QVERIFY(plan(LightWant::AfterSunset));
    QVERIFY2(fade(2) > 0.1 && fade(2) < 0.5, qPrintable(QString::number(fade(2))));
    // A plan that comes while views are not to be changed tells it afterwards.
    std::atomic<bool> hold = true;
    bench.desk.works.longWork.start([&](const Progress& progress) -> std::function<void()> {
      while (hold && !progress.stopRequested()) std::this_thread::sleep_for(std::chrono::milliseconds(1));
      return [] {};
    });
    bench.visit.change("x", [](Visit& v) { v.views[2].light.want = LightWant::Daylight; });
    QVERIFY(waitFor([&] { return !bench.visit.planning(); }));
    QVERIFY(fade(2) > 0.1);
    hold = false;
    QVERIFY(waitFor([&] { return bench.settled(); }));
    QVERIFY2(fade(2) < 0.1, qPrintable(QString::number(fade(2))));
    QVERIFY(plan(LightWant::AfterSunset));
    QVERIFY(fade(2) > 0.1);
    QVERIFY(plan(LightWant::Daylight)); // what it told it takes back
    QVERIFY2(fade(2) < 0.1, qPrintable(QString::number(fade(2))));
    bench.desk.job.note(idOf(bench.job().views()[2]), Aspect::Choices,
                        [](View& v) { v.situation.fadeStopsPerMinute = 1; });
    QVERIFY(plan(LightWant::AfterSunset)); // what the photographer says stays
    QCOMPARE(fade(2), 1.0);
  }

  void aViewThatTakesLongerMovesTheOrder() {
    QTemporaryDir dir;
    Workbench bench(pathOf(dir) / "jobs");
    Moment now = momentOf("Europe/Zurich", *parseDate("2026-10-10"), 8 * 60);
    bench.visit.setClock([&now] { return now; });
    QVERIFY(bench.opening.openDemo(pathOf(dir) / "jobs"));
    bench.visit.change("x", [&](Visit& v) {
      v.place = {"", 46.8, 9.5, "Europe/Zurich"};
      v.date = *parseDate("2026-10-10");
    });
    QVERIFY(waitFor([&] { return !bench.visit.planning() && bench.settled(); }));
    const Moment first = bench.visit.plan()->begin;
    bench.visit.tick(); // in time: nothing moves
    QVERIFY(!bench.visit.planning());
    now = bench.visit.plan()->order.front().end + std::chrono::minutes{5};
    bench.visit.tick();
    QVERIFY(waitFor([&] { return !bench.visit.planning() && bench.settled(); }));
    QVERIFY(bench.visit.plan()->begin >= now && bench.visit.plan()->begin > first);
    QCOMPARE(bench.visit.plan()->order.size(), std::size_t(4));
  }

  void theOpenJobIsInTheLogbook() {
    QTemporaryDir dir;
    Workbench bench(pathOf(dir) / "jobs");
    QVERIFY(bench.opening.openDemo(pathOf(dir) / "jobs"));
    QVERIFY(waitFor([&] { return bench.settled(); }));
    bench.desk.job.writeNotes("Mind the low beam.");
    bench.logbook.flush();
    const auto book = Logbook::open(logbookFile(bench.desk.jobsFolder));
    LogQuery query;
    query.words = "beam";
    const auto rows = book->search(query);
    QCOMPARE(rows->size(), std::size_t(1));
    QVERIFY(book->entry(rows->front().id)->views[0].practice); // shot by the simulated camera
    QVERIFY(book->cases()->views.empty());
  }
};

QTEST_MAIN(TestChronicle)
#include "test_chronicle.moc"
