// SPDX-License-Identifier: GPL-3.0-or-later
#include <QTest> // first: moc of Qt 6.4 cannot read <compare> on its own

#include "visit/calendar.h"
#include "visit/plan_json.h"
#include "visit/words.h"

#include <cmath>
#include <nlohmann/json.hpp>

using namespace ml;
using std::chrono::minutes;
using std::chrono::seconds;

namespace {

/// Six views of the ferry house, at an invented place on a lake.
Visit ferryHouse() {
  Visit out;
  out.name = "Marl Quay ferry house";
  out.place = {"Marl Quay", 46.8, 9.5, "Europe/Zurich"};
  out.date = *parseDate("2026-10-10");
  out.from = 13 * 60;
  out.to = 20 * 60;
  const auto view = [&](const char* name, const char* kind, LightWant want, double direction) {
    VisitView v;
    v.name = name;
    v.kind = kind;
    v.light = {want, direction, {}};
    out.views.push_back(v);
  };
  view("Reading room", "interior", LightWant::NoSunInWindow, 80);
  view("Boat hall", "interior", LightWant::Any, 0);
  view("Lake front", "exterior", LightWant::SunOnFront, 60);
  view("Jetty at dusk", "dusk", LightWant::AfterSunset, 250);
  view("Net loft", "panorama", LightWant::Daylight, 0);
  view("Stair", "detail", LightWant::Any, 0);
  out.views[1].lamps = Lamps::Both;
  out.views[4].positions = 4;
  return out;
}

} // namespace

class TestVisitPlan : public QObject {
  Q_OBJECT

private slots:
  void sixViewsInTheirLight() {
    const Visit visit = ferryHouse();
    const auto plan = planVisit(visit, {});
    QVERIFY(plan.has_value());
    QCOMPARE(plan->order.size(), std::size_t(6));
    const SunTrack track(visit.place, visit.span());
    Moment before = plan->begin;
    for (const auto& entry : plan->order) {
      const auto& view = visit.views[std::size_t(entry.view)];
      QVERIFY(entry.begin >= before);
      for (Moment t = entry.begin; t <= entry.end; t += seconds{30}) QVERIFY(suits(view.light, track, t));
      QCOMPARE(int(entry.length().count()), secondsFor(view, {}));
      before = entry.end;
    }
    QCOMPARE(plan->order.back().view, 3); // dusk is last
    QVERIFY(plan->order.back().fade > 0.1);
    QVERIFY(QString::fromStdString(verdict(visit, *plan)).startsWith("Six views from "));
    QVERIFY(!fadeWords(visit, plan->order.back()).empty());
    for (const auto& entry : plan->order) QCOMPARE(fadeWords(visit, entry).empty(), std::abs(entry.fade) < 0.02);
  }

  void thoseThatFindNoLightAreToldWhyAndWhatWouldHelp() {
    Visit visit = ferryHouse();
    visit.to = 18 * 60 + 30; // before its twilight
    const auto plan = planVisit(visit, {});
    QCOMPARE(plan->leftOut.size(), std::size_t(1));
    QCOMPARE(plan->leftOut[0].view, 3);
    const QString change = QString::fromStdString(plan->leftOut[0].change);
    QVERIFY2(change.startsWith("Stay ") && change.contains("until 18:5"), qPrintable(change));
    // What it says is enough, and a minute less is not.
    const int until = *parseClock(change.mid(change.indexOf("until ") + 6, 5).toStdString());
    visit.to = until;
    QVERIFY(planVisit(visit, {})->leftOut.empty());
    visit.to = until - 2;
    QVERIFY(!planVisit(visit, {})->leftOut.empty());
  }

  void aLightThatNeverComesSendsToAnotherDay() {
    Visit visit = ferryHouse();
    visit.date = *parseDate("2026-12-21");
    visit.views = {visit.views[2]};
    visit.views[0].light.direction = 180; // a front that faces north
    const auto plan = planVisit(visit, {});
    QCOMPARE(plan->leftOut.size(), std::size_t(1));
    const QString change = QString::fromStdString(plan->leftOut[0].change);
    QVERIFY2(change.startsWith("Go on 2027-"), qPrintable(change));
    visit.date = *parseDate(change.mid(6, 10).toStdString());
    QVERIFY(planVisit(visit, {})->leftOut.empty());
    visit.views[0].light.altitudes = {{80, 90}}; // never here
    QVERIFY(QString::fromStdString(planVisit(visit, {})->leftOut[0].change).startsWith("No other day"));
  }

  void tooMuchForTheTime() {
    Visit visit = ferryHouse();
    visit.views.resize(2);
    visit.to = visit.from + 5; // minutes for two views of four and eight
    const auto plan = planVisit(visit, {});
    QCOMPARE(plan->order.size() + plan->leftOut.size(), std::size_t(2));
    QVERIFY(!plan->leftOut.empty());
    for (const auto& left : plan->leftOut) QVERIFY(left.reason.ends_with('.') && left.change.ends_with('.'));
  }

  void aSlipMovesTheOrder() {
    Visit visit = ferryHouse();
    const auto plan = planVisit(visit, {});
    const int first = plan->order.front().view;
    visit.views[std::size_t(first)].done = true;
    const Moment late = plan->order.back().begin - minutes{12}; // all afternoon went into one view
    const auto again = planVisit(visit, {}, VisitNow{late, first});
    QVERIFY(again->order.size() < 5 && !again->order.empty());
    QVERIFY(again->begin >= late);
    QVERIFY(std::any_of(again->order.begin(), again->order.end(), [](const auto& e) { return e.view == 3; }));
    for (const auto& entry : again->order) QVERIFY(entry.view != first);
  }

  void nowSaysWhatComesNextAndWhetherThereIsTime() {
    Visit visit = ferryHouse();
    const auto plan = planVisit(visit, {});
    const auto& first = plan->order.front();
    const auto before = momentIn(visit, *plan, first.begin - minutes{10});
    QCOMPARE(before.next, 0);
    QCOMPARE(before.untilBegin, seconds{600});
    QVERIFY(before.spare >= before.untilBegin);
    QVERIFY(nowWords(visit, *plan, first.begin - minutes{10}).find("in 10 minutes") != std::string::npos);
    // With all spare time used up everything still fits; a minute more and something falls out.
    const Moment latest = first.begin - minutes{10} + before.spare;
    QVERIFY(planVisit(visit, {}, VisitNow{latest, -1})->leftOut.empty());
    QVERIFY(momentIn(visit, *plan, latest + seconds{1}).spare < seconds{0});
    for (auto& view : visit.views) view.done = true;
    QCOMPARE(momentIn(visit, *plan, latest).next, -1);
    QCOMPARE(nowWords(visit, *plan, latest), std::string("All views are done."));
  }

  void paceOfOnesOwn() {
    const Visit visit = ferryHouse();
    const std::vector<Pace> own{{"interior", 1.5, 40}};
    QCOMPARE(secondsFor(visit.views[0], own), 90);           // a set is in it
    QCOMPARE(secondsFor(visit.views[1], own), 90 + 10 + 60); // lamps off and on
    QCOMPARE(secondsFor(visit.views[0], {}), 180 + 10);
    QVERIFY(paceWords(own[0]).find("40 views") != std::string::npos);
    QCOMPARE(paceFor("a kind nobody heard of", own).minutes, 3.0);
  }

  void filesComeBackAndKeepWhatOthersWrote() {
    Visit visit = ferryHouse();
    visit.ways = {{"Stair", "Boat hall", 1.5}};
    visit.tags = {"timber", "lake"};
    visit.lesson = "Switch the lamps before the tripod stands.";
    visit.views[3].light.altitudes = {{-6, -3}};
    visit.views[3].minutes = 12.5;
    const auto text = toJson(visit);
    auto again = visitFromJson(text, "a file");
    QVERIFY(again.has_value());
    again->extra.clear();
    QVERIFY(*again == visit);
    auto document = nlohmann::json::parse(text);
    document["from_the_future"] = 7;
    const auto kept = visitFromJson(document.dump(), "a file");
    QCOMPARE(nlohmann::json::parse(toJson(*kept))["from_the_future"].get<int>(), 7);
    visit.to = 26 * 60; // beyond midnight
    QCOMPARE(visitFromJson(toJson(visit), "a file")->to, 26 * 60);
  }

  void whatMakesNoSense_data() {
    QTest::addColumn<QString>("field");
    QTest::addColumn<QString>("value");
    QTest::addColumn<QString>("word");
    QTest::newRow("no place") << "place"
                              << "null"
                              << "place";
    QTest::newRow("latitude") << "place"
                              << "{\"latitude\":91,\"longitude\":0}"
                              << "latitude";
    QTest::newRow("text") << "place"
                          << "{\"latitude\":\"47\",\"longitude\":0}"
                          << "latitude";
    QTest::newRow("date") << "date"
                          << "\"2026-13-01\""
                          << "date";
    QTest::newRow("zone") << "time_zone"
                          << "\"Nowhere\""
                          << "time zone";
    QTest::newRow("clock") << "from"
                           << "\"25:00\""
                           << "from";
    QTest::newRow("views") << "views"
                           << "7"
                           << "views";
    QTest::newRow("a view") << "views"
                            << "[7]"
                            << "view 1";
    QTest::newRow("no name") << "views"
                             << "[{}]"
                             << "name";
    QTest::newRow("light") << "views"
                           << "[{\"name\":\"a\",\"light\":\"moon\"}]"
                           << "after-sunset";
    QTest::newRow("direction") << "views"
                               << "[{\"name\":\"a\",\"light\":\"sun-on-front\"}]"
                               << "direction";
    QTest::newRow("positions") << "views"
                               << "[{\"name\":\"a\",\"positions\":0}]"
                               << "positions";
    QTest::newRow("lamps") << "views"
                           << "[{\"name\":\"a\",\"lamps\":\"dim\"}]"
                           << "lamps";
    QTest::newRow("altitudes") << "views"
                               << "[{\"name\":\"a\",\"sun_altitude\":[5,1]}]"
                               << "sun_altitude";
    QTest::newRow("version") << "version"
                             << "2"
                             << "newer";
  }
  void whatMakesNoSense() {
    QFETCH(QString, field);
    QFETCH(QString, value);
    QFETCH(QString, word);
    auto document = nlohmann::json::parse(toJson(ferryHouse()));
    document[field.toStdString()] = nlohmann::json::parse(value.toStdString());
    const auto read = visitFromJson(document.dump(), "plan of mine.json");
    QVERIFY(!read);
    const QString message = QString::fromStdString(read.error().message);
    QVERIFY2(message.contains("plan of mine.json") && message.contains(word) && message.endsWith('.'),
             qPrintable(message));
  }

  // RFC 5545: 3.1 folding, 3.3.11 TEXT, 3.6.1 VEVENT with UID and DTSTAMP, 3.3.5 form 2 of times.
  void calendarAsTheStandardHasIt() {
    Visit visit = ferryHouse();
    visit.views[0].name = "Reading room; east, with the long ledge — über dem See, and its many many words to fold";
    const auto plan = planVisit(visit, {});
    const auto text = QByteArray::fromStdString(toCalendar(visit, *plan, Moment{seconds{1790000000}}));
    QVERIFY(text.startsWith("BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:") && text.endsWith("END:VCALENDAR\r\n"));
    QVERIFY(!QByteArray(text).replace("\r\n", "").contains('\n') &&
            !QByteArray(text).replace("\r\n", "").contains('\r'));
    for (const auto& line : text.split('\n')) {
      QVERIFY(line.size() <= 76); // 75 and the CR
      QVERIFY(QString::fromUtf8(line).toUtf8() == line);
    }
    const QByteArray whole = QByteArray(text).replace("\r\n ", "");
    QCOMPARE(whole.count("BEGIN:VEVENT"), 6);
    for (const char* needed : {"UID:", "DTSTAMP:20260921T141320Z", "DTSTART:", "DTEND:"})
      QCOMPARE(whole.count(needed), 6);
    QVERIFY(whole.contains("SUMMARY:Reading room\\; east\\, with the long ledge — über dem See"));
    QSet<QByteArray> ids;
    for (const auto& line : whole.split('\n'))
      if (line.startsWith("UID:")) ids.insert(line);
    QCOMPARE(ids.size(), 6);
  }

  void cautionsStandWhereTheyBelong() {
    const Visit visit = ferryHouse();
    const auto plan = planVisit(visit, {});
    for (const auto& entry : plan->order) {
      const auto& view = visit.views[std::size_t(entry.view)];
      const auto cautions = cautionsFor(view, entry);
      const auto has = [&](const char* word) {
        return std::any_of(cautions.begin(), cautions.end(),
                           [&](const auto& c) { return c.find(word) != std::string::npos; });
      };
      QCOMPARE(has("dark"), entry.sun.altitude < 0);
      QCOMPARE(has("electrician"), view.lamps != Lamps::Off);
    }
  }

  void reportHasItsShape() {
    const Visit visit = ferryHouse();
    const auto plan = planVisit(visit, {});
    const auto json = toJson(visit, *plan);
    QCOMPARE(json["version"].get<int>(), 1);
    QCOMPARE(json["order"].size(), std::size_t(6));
    QVERIFY(json["sun"]["set"].get<std::string>().starts_with("2026-10-10T16:"));
    QCOMPARE(json["seconds_on_site"].get<long>(), long((plan->end - plan->begin).count()));
  }
};

QTEST_APPLESS_MAIN(TestVisitPlan)
#include "test_visit_plan.moc"
