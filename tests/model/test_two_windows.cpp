// SPDX-License-Identifier: GPL-3.0-or-later
// Two workbenches on one job: the second is told, may look at everything, changes nothing, and goes on by itself when
// the first is gone.
#include "model/view_edit.h"
#include "support/bench.h"

#include <QGuiApplication>
#include <QSignalSpy>
#include <QStandardPaths>
#include <map>

using namespace ml;
namespace fs = std::filesystem;
using test::BenchInAFolder;
using test::waitFor;

namespace {

/// Name, size and time of all that lies in the job, but pictures kept for the list.
std::map<std::string, std::pair<std::uintmax_t, fs::file_time_type>> filesOf(const fs::path& folder) {
  std::map<std::string, std::pair<std::uintmax_t, fs::file_time_type>> out;
  for (const auto& entry : fs::recursive_directory_iterator(folder))
    if (entry.is_regular_file() && entry.path().filename() != "small.jpg")
      out[entry.path().string()] = {entry.file_size(), entry.last_write_time()};
  return out;
}

} // namespace

class TestTwoWindows : public QObject {
  Q_OBJECT

private slots:
  void initTestCase() { QStandardPaths::setTestModeEnabled(true); }

  void theSecondLooksAndChangesNothing() {
    BenchInAFolder first;
    QVERIFY(first.openFrames() && first.combineAll());
    first.bench.desk.saver.flush();
    const fs::path job = first.bench.job().folder();
    QVERIFY(!first.bench.desk.reading());

    Workbench second(first.bench.desk.jobsFolder);
    QSignalSpy said(&second.desk.notices, &Notices::failed);
    const auto settled = [&] { return waitFor([&] { return second.settled(); }); };
    QVERIFY(second.opening.openJob(job) && settled());
    QVERIFY(second.desk.reading());
    const auto before = filesOf(job);

    // All that can be looked at.
    for (int station = 0; station < int(second.path().size()); ++station) {
      second.goTo(station);
      QVERIFY(settled());
      QVERIFY(!second.verdict().isEmpty());
    }
    second.goTo(stations::kFinish);
    QVERIFY(waitFor([&] { return !second.picture().isNull(); }));

    // Nothing that can be changed.
    Recipe lighter = second.view().recipe;
    lighter.tone.exposure = 1;
    second.finish.setRecipe(lighter);
    QVERIFY(second.view().recipe.tone.exposure == 0);
    QVERIFY(said.count() == 1 && said.last().first().toString().contains(tr("Another window works on this job")));
    second.desk.job.rename("Other");
    second.combine.combine({});
    second.shoot.setFrameUsed(0, false);
    second.deliver.deliver(second.deliver.choices());
    second.views.combine({idOf(second.view())}, {});
    second.visit.flush();
    QVERIFY(!second.desk.job.add("One more", "", "full-frame-24"));
    QVERIFY(!second.desk.job.duplicate(0, "Twice"));
    QVERIFY(!second.canUndo());
    QVERIFY(settled());
    second.desk.saver.flush();
    QVERIFY(second.view().name != "Other" && second.view().frames.size() == 3);
    QVERIFY(filesOf(job) == before);

    // The first works on as ever.
    first.bench.desk.job.rename("Hall");
    first.bench.desk.saver.flush();
    QCOMPARE(Job::open(job)->views()[0].name, std::string("Hall"));
  }

  void itGoesOnWhenTheFirstIsClosed() {
    BenchInAFolder owner;
    auto first = std::make_unique<Workbench>(owner.bench.desk.jobsFolder);
    QVERIFY(first->opening.openDemo(owner.bench.desk.jobsFolder));
    QVERIFY(waitFor([&] { return first->settled(); }));
    QVERIFY(owner.openDemo());
    QVERIFY(owner.bench.desk.reading());
    first->desk.job.rename("Renamed meanwhile");
    first.reset();
    QVERIFY(waitFor([&] { return !owner.bench.desk.reading() && owner.bench.settled(); }));
    QCOMPARE(owner.bench.view().name, std::string("Renamed meanwhile")); // what the other did is read
    owner.bench.desk.job.rename("Mine now");
    owner.bench.desk.saver.flush();
    QCOMPARE(Job::open(owner.bench.job().folder())->views()[0].name, std::string("Mine now"));
  }

  // The same window opens its own job again: it is still its own.
  void aJobOpenedAgainStaysOnesOwn() {
    BenchInAFolder one;
    QVERIFY(one.openDemo());
    QVERIFY(one.openDemo());
    QVERIFY(!one.bench.desk.reading());
    Workbench other(one.bench.desk.jobsFolder);
    QVERIFY(other.opening.openDemo(one.bench.desk.jobsFolder));
    QVERIFY(other.desk.reading());
  }
};

QTEST_MAIN(TestTwoWindows)
#include "test_two_windows.moc"
