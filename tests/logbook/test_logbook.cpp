// SPDX-License-Identifier: GPL-3.0-or-later
#include <QTest> // first: moc of Qt 6.4 cannot read <compare> on its own

#include "base/atomic_file.h"
#include "logbook/export.h"
#include "logbook/store.h"
#include "support/cli.h"
#include "support/scenes.h"
#include "visit/visit_file.h"

#include <QElapsedTimer>
#include <QFile>
#include <QJsonArray>
#include <QJsonDocument>
#include <QJsonObject>
#include <QTemporaryDir>
#include <csignal>
#include <fmt/format.h>
#include <nlohmann/json.hpp>
#include <random>
#include <sys/wait.h>
#include <unistd.h>

using namespace ml;
namespace fs = std::filesystem;

namespace {

LogEntry visitNumber(int number) {
  static const char* const kKinds[] = {"interior", "kitchen", "exterior", "dusk"};
  LogEntry out;
  out.folder = fmt::format("/jobs/visit-{:05d}", number);
  out.name = fmt::format("House {}", number);
  out.place = number % 7 == 0 ? "Möwenufer" : "Marl Quay";
  out.date = fmt::format("20{:02d}-{:02d}-{:02d}", 20 + number % 7, 1 + number % 12, 1 + number % 28);
  out.tags = {number % 3 ? "timber" : "brick"};
  out.lesson = number % 11 == 0 ? "Close the creaking shutters first." : "";
  LogView view;
  view.folder = "01-room";
  view.name = "Reading room";
  view.kind = kKinds[number % 4];
  view.verdict = number % 5 == 0 ? "Frame 2 moved 9 px; shoot it again." : "All holds.";
  view.spent = {{"light", 30}, {"shoot", 60.0 + number % 50}, {"finish", 90}};
  view.fired = 5;
  view.sets = 1 + (number % 5 == 0);
  view.repeats = number % 5 == 0;
  if (number % 5 == 0) view.faults.push_back({"camera-moved", 10});
  view.frames.push_back({"frame-1.dng", 1. / 8, 24, true, 0.1, {}});
  out.views.push_back(view);
  return out;
}

/// A job as the window writes it, with notes of a hand.
fs::path makeJob(const fs::path& root, const char* name) {
  auto job = Job::create(root / name, name);
  (void)job->addView("Reading room", "", "full-frame-24");
  View& view = job->views()[0];
  view.notes = "Mind the low beam.";
  view.kind = "library";
  view.readings = {{"sky", {14.5}, true, {}, {}, 0, false}, {"rafters", {3}, true, {}, {}, 0, false}};
  view.spent = {{"shoot", 120}, {"finish", 60}};
  view.events = {{1782000000, "shot", "set-01", "Bracket, 3 frames"}, {1782000100, "combined", "", "Three frames"}};
  FrameSet& set = view.startSet("Bracket", {});
  set.frames.push_back({view.folder / "frames/set-01/frame-1.dng", true});
  set.notes = {{"frame-1.dng", 0.25, 24, true, 1.2, {"soft"}}};
  set.answer = "holds";
  view.refreshFrames();
  (void)view.savePlan();
  (void)view.saveFrames();
  (void)view.saveJournal();
  Visit visit;
  visit.name = name;
  visit.place = {"Marl Quay", 46.8, 9.5, "Europe/Zurich"};
  visit.date = *parseDate("2026-06-21");
  visit.tags = {"lake"};
  visit.lesson = "Bring the long cable.";
  VisitView planned;
  planned.name = "Reading room";
  planned.folder = view.folder.filename().string();
  planned.light = {LightWant::NoSunInWindow, 80, {}};
  visit.views = {planned};
  (void)writeVisit(job->folder(), visit);
  return job->folder();
}

} // namespace

class TestLogbook : public QObject {
  Q_OBJECT
  QTemporaryDir dir_;
  fs::path at(const char* name) const { return dir_.filePath(name).toStdString(); }

private slots:
  void aJobBecomesAnEntry() {
    const auto entry = entryOf(makeJob(at("one"), "ferry"));
    QVERIFY(entry.has_value());
    QCOMPARE(entry->date, std::string("2026-06-21"));
    QCOMPARE(entry->place, std::string("Marl Quay"));
    QCOMPARE(entry->lesson, std::string("Bring the long cable."));
    const auto& view = entry->views[0];
    QCOMPARE(view.kind, std::string("library"));
    QCOMPARE(view.light, std::string("no-sun-in-window"));
    QVERIFY(view.hasRange && std::abs(view.range() - 11.5) < 1e-9);
    QCOMPARE(view.siteSeconds(), 120.0);
    QCOMPARE(view.deskSeconds(), 60.0);
    QCOMPARE(view.faults.size(), std::size_t(1));
    QCOMPARE(view.faults[0].hour, 2); // 2026-06-21 00:00 UTC, two hours later there
    QVERIFY(toJson(entryFromJson(toJson(*entry))) == toJson(*entry));
  }

  void putFindChange() {
    auto book = Logbook::open(at("first.sqlite"));
    QVERIFY(book.has_value() && book->isNew() && !book->readOnly());
    for (int i = 1; i <= 40; ++i) QVERIFY(book->put(visitNumber(i)).has_value());
    QCOMPARE(*book->count(), 40);
    QCOMPARE(book->search({.words = "mowen"})->size(), std::size_t(5)); // without its dots, its beginning only
    QCOMPARE(book->search({.words = "SHUTT creak"})->size(), std::size_t(3));
    QCOMPARE(book->search({.words = "\"drop table\" OR *"})->size(), std::size_t(0)); // words, not a language
    QCOMPARE(book->search({.tag = "brick"})->size(), std::size_t(13));
    QCOMPARE(book->search({.kind = "dusk"})->size(), std::size_t(10));
    QCOMPARE(book->search({.withFaults = true})->size(), std::size_t(8));
    QCOMPARE(book->search({.year = "2021"})->size(), std::size_t(6));
    const auto newest = book->search({}), oldest = book->search({.order = LogOrder::Oldest});
    QVERIFY(newest->front().date >= newest->back().date && oldest->front().date <= oldest->back().date);
    QVERIFY(book->search({.order = LogOrder::Longest})->front().siteSeconds >=
            book->search({.order = LogOrder::Longest})->back().siteSeconds);
    const std::int64_t id = newest->front().id;
    auto changed = *book->entry(id);
    changed.lesson = "A quite unheard-of word: zymurgy.";
    QVERIFY(book->put(changed).has_value());
    QCOMPARE(*book->count(), 40);
    QCOMPARE(book->search({.words = "zymurgy"})->front().id, id);
    QCOMPARE(book->cases()->views.size(), std::size_t(40));
    QCOMPARE(book->cases()->hand.size(), std::size_t(40));
    changed.lesson = "Another one."; // words that went are not found
    QVERIFY(book->put(changed).has_value());
    QCOMPARE(book->search({.words = "zymurgy"})->size(), std::size_t(0));
    QCOMPARE(book->cases()->faults.size(), book->search({.withFaults = true})->size());
    QVERIFY(book->entry(987654).error().code == ErrorCode::InvalidArgument);
  }

  void rebuiltWithNothingLostThatAHandWrote() {
    const fs::path jobs = at("jobs");
    for (const char* name : {"a", "b", "c"}) makeJob(jobs, name);
    fs::create_directories(jobs / "no job");
    const fs::path file = at("again.sqlite");
    std::vector<LogEntry> before;
    {
      auto book = Logbook::open(file);
      QVERIFY(book->rebuild({jobs}, {})->empty());
      const auto rows = book->search({.order = LogOrder::Name});
      for (const auto& row : *rows) before.push_back(*book->entry(row.id));
      QCOMPARE(before.size(), std::size_t(3));
    }
    const auto same = [&] {
      auto book = Logbook::open(file);
      if (!book || !book->isNew()) return false;
      if (!book->rebuild({jobs}, {})) return false;
      std::vector<LogEntry> after;
      const auto rows = book->search({.order = LogOrder::Name});
      for (const auto& row : *rows) after.push_back(*book->entry(row.id));
      return toJsonText(after) == toJsonText(before) && book->search({.words = "low beam"})->size() == 3;
    };
    fs::remove(file); // lost
    QVERIFY(same());
    {
      QFile damaged(QString::fromStdString(file.string())); // damaged
      QVERIFY(damaged.open(QIODevice::ReadWrite));
      damaged.write(QByteArray(8192, 'x'));
    }
    QVERIFY(same());
    QVERIFY(fs::exists(file.string() + ".damaged"));
    QVERIFY(writeTextAtomically(file, "").has_value()); // emptied
    QVERIFY(same());
    // A job that cannot be read keeps what was known of it.
    QVERIFY(writeTextAtomically(jobs / "b/views/01-reading-room/plan.json", "{").has_value());
    auto book = Logbook::open(file);
    const auto problems = book->rebuild({jobs}, {});
    QCOMPARE(problems->size(), std::size_t(1));
    QVERIFY(problems->front().find("plan.json") != std::string::npos);
    QCOMPARE(*book->count(), 3);
    Progress stopping;
    stopping.stop.request();
    QVERIFY(book->rebuild({jobs}, stopping).error().code == ErrorCode::Stopped);
  }

  void twentyThousandVisits() {
    auto book = Logbook::open(at("large.sqlite"));
    std::vector<LogEntry> all;
    for (int i = 1; i <= 20000; ++i) all.push_back(visitNumber(i));
    QVERIFY(book->put(all).has_value());
    QCOMPARE(*book->count(), 20000);
    // The limits of a search are the benchmark's; here only that none walks through everything.
    QElapsedTimer clock;
    clock.start();
    QCOMPARE(book->search({.words = "house 1234", .limit = 20000})->size(), std::size_t(11)); // 1234 and 12340 to 12349
    const qint64 byWords = clock.nsecsElapsed();
    clock.restart();
    QCOMPARE(book->cases()->views.size(), std::size_t(20000));
    QVERIFY2(byWords < clock.nsecsElapsed(), "reading all of it took less than a search");
    qInfo("search %.1f ms", double(byWords) / 1e6);
  }

  void readOnly() {
    const fs::path file = at("kept.sqlite");
    {
      auto book = Logbook::open(file);
      QVERIFY(book->put(visitNumber(3)).has_value());
    }
    fs::permissions(file, fs::perms::owner_read | fs::perms::group_read);
    auto book = Logbook::open(file);
    QVERIFY(book.has_value() && book->readOnly());
    QCOMPARE(book->search({.words = "marl"})->size(), std::size_t(1));
    const auto refused = book->put(visitNumber(4));
    QVERIFY(refused.error().code == ErrorCode::CannotWrite && refused.error().message.ends_with('.'));
    QCOMPARE(*book->count(), 1);
  }

  void aSecondWindow() {
    const fs::path file = at("shared.sqlite");
    auto one = Logbook::open(file), other = Logbook::open(file);
    QVERIFY(one && other);
    QVERIFY(one->put(visitNumber(1)).has_value());
    QVERIFY(other->put(visitNumber(2)).has_value());
    QCOMPARE(*one->count(), 2);
    // One that holds it for long: the other waits, says so, and nothing is half there.
    int ready[2], go[2];
    QVERIFY(pipe(ready) == 0 && pipe(go) == 0);
    const pid_t holder = fork();
    if (holder == 0) { // only system calls and SQLite of its own: the parent's connection is not touched
      execl(ML_SQLITE_HOLDER, ML_SQLITE_HOLDER, file.c_str(), std::to_string(ready[1]).c_str(),
            std::to_string(go[0]).c_str(), nullptr);
      _exit(127);
    }
    char byte = 0;
    QCOMPARE(read(ready[0], &byte, 1), ssize_t(1));
    const auto refused = one->put(visitNumber(3));
    QVERIFY(!refused && refused.error().message.find("another window") != std::string::npos);
    QCOMPARE(*one->count(), 2); // and reading goes on
    QCOMPARE(write(go[1], "x", 1), ssize_t(1));
    int status = 0;
    waitpid(holder, &status, 0);
    QCOMPARE(status, 0);
    QVERIFY(one->put(visitNumber(3)).has_value());
  }

  /// 1,000 writers killed at any moment, every second of them after its first word, however slow the machine is: what
  /// one of them said it had written is there, and no entry is half.
  void killedAtAnyMoment() {
    const fs::path file = at("killed.sqlite");
    { QVERIFY(Logbook::open(file).has_value()); }
    std::mt19937 random(7);
    int written = 0;
    for (int round = 0; round < 1000; ++round) {
      int said[2];
      QVERIFY(pipe(said) == 0);
      const pid_t writer = fork();
      if (writer == 0) {
        dup2(said[1], STDOUT_FILENO);
        const std::string first = std::to_string(round * 1000);
        execl(ML_LOG_WRITER, ML_LOG_WRITER, file.c_str(), first.c_str(), nullptr);
        _exit(127);
      }
      close(said[1]);
      char buffer[4096];
      int here = 0;
      if (const bool spoken = round % 2; spoken)
        if (const ssize_t got = read(said[0], buffer, sizeof buffer); got > 0)
          here += int(std::count(buffer, buffer + got, '\n'));
      usleep(useconds_t(random() % 30000)); // no condition to wait for: the moment is meant to be any
      kill(writer, SIGKILL);
      int status = 0;
      waitpid(writer, &status, 0);
      for (ssize_t got; (got = read(said[0], buffer, sizeof buffer)) > 0;)
        here += int(std::count(buffer, buffer + got, '\n'));
      close(said[0]);
      written += here;
      if (round % 50 != 49) continue;
      auto book = Logbook::open(file);
      QVERIFY(book && !book->isNew());
      QVERIFY2(*book->count() >= written, qPrintable(QString("%1 of %2").arg(*book->count()).arg(written)));
      const auto cases = book->cases();
      QCOMPARE(int(cases->views.size()), *book->count());
      QCOMPARE(cases->hand.size(), cases->views.size());
      QCOMPARE(book->search({.words = "reading room", .limit = 100000})->size(), cases->views.size());
    }
    QVERIFY2(written > 300, qPrintable(QString::number(written)));
  }

  void exports() {
    auto entry = visitNumber(11);
    entry.views[0].notes = "He said \"wait\", twice,\nand =left";
    entry.lesson = "=SUM(1)";
    const auto csv = QByteArray::fromStdString(toCsv({entry, visitNumber(5)}));
    QCOMPARE(csv.count("\r\n"), 3);
    QVERIFY(csv.contains("\"He said \"\"wait\"\", twice,\nand =left\""));
    QVERIFY(csv.contains("'=SUM(1)"));
    const auto json = QJsonDocument::fromJson(QByteArray::fromStdString(toJsonText({entry})));
    QCOMPARE(json["version"].toInt(), 1);
    QCOMPARE(json["visits"].toArray().size(), 1);
    const auto text = QString::fromStdString(toMarkdown({entry, visitNumber(5)}));
    QVERIFY(text.contains("# House 11, 20") && text.contains("## Reading room (dusk)"));
    QVERIFY(!text.contains("\nand =left"));
  }

  // The command line plans with the hand that the logbook knows, says so, and without it by the usual rule.
  void ownHandIsPlannedWith() {
    const fs::path file = test::pathOf(dir_) / "hand.sqlite";
    {
      auto book = Logbook::open(file);
      std::vector<LogEntry> entries;
      for (int i = 0; i < 60; ++i) { // sharp up to about two stops beyond 1 / focal length
        entries.push_back(visitNumber(i));
        const double stops = (i % 12) / 2.0 - 1;
        const bool sharp = stops < 2 || i % 5 == 0;
        entries.back().views[0].frames = {{"f.dng", std::exp2(stops) / 24, 24, true, sharp ? 0.1 : 1.5, {}}};
        if (!sharp) entries.back().views[0].frames[0].flaws = {"soft"};
      }
      QVERIFY(book->put(entries).has_value());
    }
    const double stops = handCurve(*Logbook::open(file)->cases())->stops;
    QVERIFY(stops > 0.7 && stops < 2.5);
    const auto longest = [&](const QString& logbook) {
      const auto plan = test::run(
          {"plan", "--low", "3", "--high", "9", "--handheld", "--focal", "50", "--json", "--logbook", logbook});
      double most = 0;
      for (const auto& frame : QJsonDocument::fromJson(plan.out.toUtf8()).object()["frames"].toArray())
        most = std::max(most, frame.toObject()["seconds"].toDouble());
      return std::pair(most, plan.error);
    };
    const auto [usual, silence] = longest("none");
    const auto [own, said] = longest(QString::fromStdString(file.string()));
    QVERIFY(usual <= 1.0 / 50 + 1e-9 && silence.isEmpty());
    QVERIFY(own > usual * 1.2 && own <= std::exp2(stops) / 50 + 1e-9);
    QVERIFY2(said.startsWith("Your own hand holds 1/") && said.contains("60 hand-held frames"), qPrintable(said));
    QCOMPARE(
        test::run({"plan", "--low", "3", "--high", "9", "--handheld", "--focal", "50", "--logbook", "/no/book"}).code,
        3);
  }
};

QTEST_GUILESS_MAIN(TestLogbook)
#include "test_logbook.moc"
