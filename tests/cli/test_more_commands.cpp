// SPDX-License-Identifier: GPL-3.0-or-later
// Visits, logbook and practice by the command line, as other programs use it.
#include "support/cli.h"
#include "support/scenes.h"

#include <QDir>
#include <QFile>
#include <QJsonArray>
#include <QJsonDocument>
#include <QJsonObject>
#include <QTemporaryDir>
#include <QTest>

using namespace ml::test;

namespace {

QJsonObject object(const QString& text) {
  return QJsonDocument::fromJson(text.toUtf8()).object();
}

void write(const QString& file, const QByteArray& text) {
  QFile out(file);
  QVERIFY(out.open(QIODevice::WriteOnly));
  out.write(text);
}

} // namespace

class TestMoreCommands : public QObject {
  Q_OBJECT
  QTemporaryDir dir_;
  QString at(const QString& name) const { return dir_.filePath(name); }

  /// A job folder as the format describes it, written without the product.
  void makeJob(const QString& name, const QString& notes) {
    const QDir job(at("jobs/" + name));
    QVERIFY(job.mkpath("views/01-hall"));
    write(job.filePath("job.json"),
          QByteArray("{\"version\":1,\"name\":\"") + name.toUtf8() + "\",\"views\":[\"01-hall\"]}");
    write(job.filePath("views/01-hall/plan.json"),
          QByteArray("{\"version\":1,\"name\":\"Boat hall\",\"kind\":\"hall\",\"notes\":\"") + notes.toUtf8() + "\"}");
    write(job.filePath("views/01-hall/journal.json"),
          "{\"version\":1,\"seconds\":{\"light\":60,\"shoot\":90,\"finish\":120},\"events\":[{\"at\":1782000000,"
          "\"what\":\"shot\","
          "\"subject\":\"set-01\",\"words\":\"Bracket\"}]}");
    write(
        job.filePath("visit.json"),
        "{\"version\":1,\"name\":\"" + name.toUtf8() +
            "\",\"place\":{\"name\":\"Marl Quay\",\"latitude\":46.8,\"longitude\":9.5},\"time_zone\":\"Europe/Zurich\","
            "\"date\":\"2026-06-21\",\"tags\":[\"lake\"],\"lesson\":\"Bring the long cable.\"}");
  }
  QStringList log(const QStringList& arguments) const {
    return QStringList{"log"} + arguments + QStringList{"--jobs", at("jobs"), "--logbook", at("log.sqlite")};
  }

private slots:
  void initTestCase() {
    write(at("visit.json"), R"({"version":1,"name":"Ferry house","place":{"latitude":46.8,"longitude":9.5},
      "time_zone":"Europe/Zurich","date":"2026-10-10","from":"13:00","to":"20:00","views":[
      {"name":"Reading room","light":"no-sun-in-window","direction":80},
      {"name":"Jetty","kind":"dusk","light":"after-sunset","set_seconds":9},
      {"name":"Lake front","kind":"exterior","light":"sun-on-front","direction":60}]})");
    for (int i = 0; i < 12; ++i) makeJob(QString("house-%1").arg(i), i == 7 ? "Mind the low beam" : "");
  }

  void aVisitIsPlanned() {
    const auto plan =
        run({"visit", "plan", at("visit.json"), "--json", "--ics", at("visit.ics"), "--logbook", at("none")});
    QCOMPARE(plan.code, 0);
    const auto document = object(plan.out);
    QCOMPARE(document["version"].toInt(), 1);
    const auto order = document["order"].toArray();
    QCOMPARE(order.size(), 3);
    QCOMPARE(order.last().toObject()["view"].toString(), QString("Jetty"));
    QVERIFY(order.last().toObject()["set_loses_stops"].toDouble() > 0.02);
    QFile calendar(at("visit.ics"));
    QVERIFY(calendar.open(QIODevice::ReadOnly));
    QCOMPARE(calendar.readAll().count("BEGIN:VEVENT"), 3);
    const auto words = run({"visit", "plan", at("visit.json"), "--logbook", at("none")});
    QVERIFY(words.out.startsWith("Three views from "));
    const auto late = run({"visit", "plan", at("visit.json"), "--now", "19:30", "--logbook", at("none")});
    QCOMPARE(late.code, 1); // something finds no light any more
    QVERIFY(late.error.contains("Lake front"));
  }

  void visitsThatCannotBeRead() {
    QCOMPARE(run({"visit"}).code, 2);
    QCOMPARE(run({"visit", "plan", at("not there.json")}).code, 3);
    write(at("broken.json"), "{\"place\":");
    QCOMPARE(run({"visit", "plan", at("broken.json")}).code, 3);
    write(at("nowhere.json"), R"({"place":{"latitude":99,"longitude":0},"date":"2026-01-01"})");
    const auto wrong = run({"visit", "plan", at("nowhere.json")});
    QCOMPARE(wrong.code, 2);
    QVERIFY(wrong.error.contains("nowhere.json") && wrong.error.contains("latitude"));
    QCOMPARE(run({"visit", "plan", at("visit.json"), "--ics", at("visit.json/x.ics")}).code, 5);
  }

  void theLogbookOfJobsOfOthers() {
    const auto list = run(log({"list", "--json"}));
    QCOMPARE(list.code, 0);
    const auto visits = object(list.out)["visits"].toArray();
    QCOMPARE(visits.size(), 12);
    QCOMPARE(visits[0].toObject()["date"].toString(), QString("2026-06-21"));
    const auto beam = object(run(log({"list", "--json", "--words", "low beam"})).out)["visits"].toArray();
    QCOMPARE(beam.size(), 1);
    QCOMPARE(beam[0].toObject()["name"].toString(), QString("house-7"));
    QCOMPARE(object(run(log({"list", "--json", "--tag", "lake", "--limit", "5"})).out)["visits"].toArray().size(), 5);
    const auto show = run(log({"show", QString::number(beam[0].toObject()["id"].toInt())}));
    QCOMPARE(show.code, 0);
    QVERIFY(show.out.contains("# house-7, 2026-06-21") && show.out.contains("Mind the low beam"));
    QVERIFY(run(log({"show", at("jobs/house-3")})).out.contains("# house-3"));
    QCOMPARE(run(log({"show", "99999"})).code, 2);
    const auto stats = object(run(log({"stats", "--json"})).out);
    QStringList ids;
    for (const auto& lesson : stats["learnt"].toArray()) ids << lesson.toObject()["id"].toString();
    QVERIFY2(ids.contains("pace-hall") && ids.contains("desk"), qPrintable(ids.join(' ')));
    for (const auto& lesson : stats["learnt"].toArray()) QVERIFY(lesson.toObject()["cases"].toArray().size() >= 10);
  }

  void exportsAndRebuild() {
    QCOMPARE(run(log({"export", "--format", "csv", "--out", at("log.csv")})).code, 0);
    QFile csv(at("log.csv"));
    QVERIFY(csv.open(QIODevice::ReadOnly));
    QCOMPARE(csv.readAll().count("\r\n"), 13);
    QCOMPARE(object(run(log({"export"})).out)["visits"].toArray().size(), 12);
    QVERIFY(run(log({"export", "--format", "markdown"})).out.contains("Learnt: Bring the long cable."));
    QCOMPARE(run(log({"export", "--format", "pdf"})).code, 2);
    makeJob("house-12", "");
    QVERIFY(run(log({"rebuild"})).out.startsWith("13 visits"));
    write(at("jobs/house-12/views/01-hall/plan.json"), "{");
    const auto partly = run(log({"rebuild"}));
    QCOMPARE(partly.code, 1);
    QVERIFY(partly.error.contains("plan.json") && partly.out.startsWith("13 visits"));
    write(at("log.sqlite"), QByteArray(5000, 'x')); // damaged: made again by the next who asks
    QCOMPARE(object(run(log({"list", "--json"})).out)["visits"].toArray().size(), 12);
  }

  void ownPaceGoesIntoThePlan() {
    write(at("hall.json"), R"({"place":{"latitude":46.8,"longitude":9.5},"date":"2026-06-21",
      "views":[{"name":"Hall","kind":"hall","set_seconds":0}]})");
    const auto length = [&](const QString& logbook) {
      const auto view =
          object(run({"visit", "plan", at("hall.json"), "--json", "--logbook", logbook}).out)["order"][0].toObject();
      const auto time = [&](const char* field) { return QDateTime::fromString(view[field].toString(), Qt::ISODate); };
      return time("begin").secsTo(time("end"));
    };
    QCOMPARE(length(at("none")), qint64(180)); // as of an interior
    QCOMPARE(length(at("log.sqlite")), qint64(150));
  }

  void practice() {
    const auto list = object(run({"practice", "list", "--json"}).out)["exercises"].toArray();
    QVERIFY(list.size() >= 16);
    const auto task = run({"practice", "run", "read-spot-1", "--out", at("spot"), "--solution"});
    QCOMPARE(task.code, 0);
    QVERIFY(task.out.contains("(practice)"));
    QVERIFY(QFile::exists(at("spot/01.jpg")) && QFile::exists(at("spot/exercise.json")));
    const auto score =
        object(run({"practice", "run", "read-spot-1", "--answers", at("spot/solution.json"), "--json"}).out);
    QCOMPARE(score["points"].toDouble(), 100.0);
    QVERIFY(score["passed"].toBool() && score["practice"].toBool());
    write(at("wrong.json"), "{\"ev100\":[-10,20,20]}");
    QCOMPARE(object(run({"practice", "run", "read-spot-1", "--answers", at("wrong.json"), "--json"}).out)["points"]
                 .toDouble(),
             0.0);
    write(at("nonsense.json"), "{\"ev100\":true}");
    QCOMPARE(run({"practice", "run", "read-spot-1", "--answers", at("nonsense.json")}).code, 2);
    QCOMPARE(run({"practice", "run", "sing"}).code, 2);
    QCOMPARE(run({"practice", "run", "read-spot-1", "--answers", at("not there")}).code, 3);
  }
};

QTEST_GUILESS_MAIN(TestMoreCommands)
#include "test_more_commands.moc"
