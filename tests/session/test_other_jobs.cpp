// SPDX-License-Identifier: GPL-3.0-or-later
// Jobs that this version did not write: those of earlier ones (tests/data/jobs), of later ones, and of strangers; and
// jobs that another program has open.
#include "base/atomic_file.h"
#include "session/job.h"
#include "session/job_lock.h"
#include "session/plan_choices.h"
#include "support/scenes.h"

#include <QProcess>
#include <QTest>
#include <fstream>
#include <map>
#include <nlohmann/json.hpp>
#include <unistd.h>

using namespace ml;
namespace fs = std::filesystem;
using test::pathOf;

namespace {

std::map<std::string, std::string> contentsOf(const fs::path& folder) {
  std::map<std::string, std::string> out;
  for (const auto& entry : fs::recursive_directory_iterator(folder))
    if (entry.is_regular_file()) out[entry.path().string()] = *readText(entry.path());
  return out;
}

fs::path fixture(const char* name) {
  return fs::path(ML_SOURCE_DIR) / "tests" / "data" / "jobs" / name;
}

void change(const fs::path& file, const std::function<void(nlohmann::json&)>& how) {
  auto document = nlohmann::json::parse(*readText(file));
  how(document);
  std::ofstream(file) << document.dump(1);
}

} // namespace

class TestOtherJobs : public QObject {
  Q_OBJECT

private:
  std::unique_ptr<QTemporaryDir> dir_;
  fs::path job_;

  /// A copy of a kept job, to be spoiled.
  void take(const char* name) {
    dir_ = std::make_unique<QTemporaryDir>();
    job_ = pathOf(*dir_) / "job";
    fs::copy(fixture(name), job_, fs::copy_options::recursive);
  }

private slots:
  // Each was written by the version it is named after, with its own programs; `expected.json` says what its user had.
  void jobsOfEarlierVersionsOpen_data() {
    QTest::addColumn<QString>("name");
    for (const auto& entry : fs::directory_iterator(fixture("")))
      QTest::newRow(entry.path().filename().c_str()) << QString::fromStdString(entry.path().filename().string());
  }
  void jobsOfEarlierVersionsOpen() {
    QFETCH(QString, name);
    take(qPrintable(name));
    const auto expected = nlohmann::json::parse(*readText(job_ / "expected.json"));
    auto job = Job::open(job_);
    QVERIFY2(job.has_value(), job ? "" : job.error().message.c_str());
    QCOMPARE(job->name(), expected["name"].get<std::string>());
    QCOMPARE(job->views().size(), expected["views"].size());
    for (std::size_t i = 0; i < job->views().size(); ++i) {
      View& view = job->views()[i];
      const auto& e = expected["views"][i];
      QCOMPARE(view.name, e["name"].get<std::string>());
      QCOMPARE(view.world, e["world"].get<std::string>());
      QCOMPARE(view.readings.size(), e["readings"].get<std::size_t>());
      QCOMPARE(view.plan ? view.plan->frames.size() : 0, e["planned"].get<std::size_t>());
      QCOMPARE(view.frameNames(), e["frames"].get<std::vector<std::string>>());
      QCOMPARE(view.combined.has_value(), e["combined"].get<bool>());
      QVERIFY(std::abs(view.recipe.tone.exposure - e["exposure"].get<double>()) < 1e-9);
      QCOMPARE(view.delivered.size(), e["delivered"].get<std::size_t>());
      // Written again by this version, nothing that was there is lost.
      for (const auto& saved : {view.savePlan(), view.saveFrames(), view.saveFinish()}) QVERIFY(saved.has_value());
    }
    const auto again = Job::open(job_);
    QVERIFY(again.has_value());
    for (std::size_t i = 0; i < again->views().size(); ++i) {
      QVERIFY(again->views()[i].recipe == job->views()[i].recipe);
      QVERIFY(again->views()[i].readings == job->views()[i].readings);
      QVERIFY(again->views()[i].sets == job->views()[i].sets);
    }
  }

  // Whichever file is newer, nothing of the job is touched: not even what a dead writer left.
  void jobsOfLaterVersionsAreRefusedUntouched_data() {
    QTest::addColumn<QString>("file");
    for (const char* file :
         {"job.json", "visit.json", "deliveries.json", "views/02-boat-hall/plan.json", "views/02-boat-hall/frames.json",
          "views/02-boat-hall/combine.json", "views/02-boat-hall/finish.json", "views/02-boat-hall/journal.json"})
      QTest::newRow(file) << QString(file);
  }
  void jobsOfLaterVersionsAreRefusedUntouched() {
    QFETCH(QString, file);
    take("0.1.0");
    const fs::path newer = job_ / file.toStdString();
    if (!fs::exists(newer)) std::ofstream(newer) << "{}";
    change(newer, [](auto& j) { j["version"] = 2; });
    std::ofstream(job_ / "views/01-reading-room/.plan.part-4194303.json") << "half"; // of a process that is gone
    const auto before = contentsOf(job_);
    const auto job = Job::open(job_);
    QVERIFY(!job);
    QVERIFY2(job.error().message.find(newer.string()) != std::string::npos, job.error().message.c_str());
    QVERIFY2(job.error().message.find("newer version") != std::string::npos, job.error().message.c_str());
    QVERIFY(contentsOf(job_) == before);
  }

  // What no light can be is taken for the darkest and brightest there is: no plan, no drawing walks for ever.
  void readingsBeyondAllLight() {
    take("0.1.0");
    change(job_ / "views/01-reading-room/plan.json", [](auto& j) {
      j["readings"][0]["ev100"] = 1e300;
      j["readings"][0]["place"] = {-1e30, 7};
      j["readings"][1]["ev100"] = -1e300;
      j["readings"][1]["uncertainty_stops"] = 1e300;
    });
    const auto job = Job::open(job_);
    QVERIFY2(job.has_value(), job ? "" : job.error().message.c_str());
    const auto& readings = job->views()[0].readings;
    QCOMPARE(readings[0].ev100.value, 40.0);
    QCOMPARE(*readings[0].x, 0.0);
    QCOMPARE(*readings[0].y, 1.0);
    QCOMPARE(readings[1].ev100.value, -30.0);
    QCOMPARE(readings[1].uncertainty, 10.0);
    const auto plan = planOf(job->views()[0], {});
    QVERIFY(!plan || !*plan || !(*plan)->covers); // 70 stops: said, not found
  }

  // The folder that frames are shot into has the set's name.
  void namesOfSetsCannotLeadOut_data() {
    QTest::addColumn<QString>("name");
    for (const char* name : {"../../../elsewhere", "/tmp", "..", "", "a/b", ".hidden"}) QTest::newRow(name) << name;
  }
  void namesOfSetsCannotLeadOut() {
    QFETCH(QString, name);
    take("0.1.0");
    change(job_ / "views/01-reading-room/frames.json", [&](auto& j) { j["sets"][0]["name"] = name.toStdString(); });
    const auto job = Job::open(job_);
    QVERIFY(!job);
    QVERIFY2(job.error().message.find("frames.json") != std::string::npos, job.error().message.c_str());
  }

  void namesOfViewsCannotLeadOut() {
    take("0.1.0");
    fs::create_directories(pathOf(*dir_) / "outside");
    fs::copy(job_ / "views/01-reading-room/plan.json", pathOf(*dir_) / "outside/plan.json");
    change(job_ / "job.json", [](auto& j) { j["views"] = {"../../outside"}; });
    QVERIFY(!Job::open(job_)); // looked for inside, and not there
  }

  void linksThatLeadOutAreRefused_data() {
    QTest::addColumn<QString>("link");
    for (const char* link : {"delivered", "frames", "history", ""}) QTest::newRow(link) << QString(link);
  }
  void linksThatLeadOutAreRefused() {
    QFETCH(QString, link);
    take("0.1.0");
    const fs::path view = job_ / "views/01-reading-room", at = link.isEmpty() ? view : view / link.toStdString(),
                   outside = pathOf(*dir_) / "outside";
    if (fs::exists(at))
      fs::rename(at, outside);
    else
      fs::create_directories(outside);
    fs::create_directory_symlink(outside, at);
    const auto job = Job::open(job_);
    QVERIFY(!job);
    QVERIFY2(job.error().message.find(at.string()) != std::string::npos, job.error().message.c_str());
  }

  // ---- Who has it open

  void oneProgramAtATime() {
    QTemporaryDir dir;
    const JobLock first(pathOf(dir));
    QVERIFY(first.state() == JobLock::State::Held);
    {
      const JobLock second(pathOf(dir));
      QVERIFY(second.state() == JobLock::State::Elsewhere);
      QVERIFY2(second.holder().find(std::to_string(::getpid())) != std::string::npos, second.holder().c_str());
      QVERIFY(whyOnlyReading(second).find(second.holder()) != std::string::npos);
    }
    QVERIFY(JobLock(pathOf(dir)).state() == JobLock::State::Elsewhere); // the second took nothing from the first
  }

  // flock(1) of util-linux is the other program.
  void aProgramThatDiesLetsGo() {
    QTemporaryDir dir;
    QProcess other;
    other.start("flock", {"--exclusive", QString::fromStdString((pathOf(dir) / ".in-use").string()), "-c",
                          "echo held; exec sleep 1000"});
    QVERIFY(other.waitForReadyRead());
    QVERIFY(JobLock(pathOf(dir)).state() == JobLock::State::Elsewhere);
    other.kill(); // the shell has become `sleep`, which holds the lock with it
    other.waitForFinished();
    QProcess::execute("pkill", {"-f", "sleep 1000"});
    QTRY_VERIFY(JobLock(pathOf(dir)).state() == JobLock::State::Held);
  }

  void aLinkIsNoLock() {
    QTemporaryDir dir;
    const fs::path victim = pathOf(dir) / "victim";
    std::ofstream(victim) << "precious";
    fs::create_directories(pathOf(dir) / "job");
    fs::create_symlink(victim, pathOf(dir) / "job/.in-use");
    QVERIFY(JobLock(pathOf(dir) / "job").state() == JobLock::State::NotWritable);
    QCOMPARE(*readText(victim), std::string("precious"));
  }
};

QTEST_GUILESS_MAIN(TestOtherJobs)
#include "test_other_jobs.moc"
