// SPDX-License-Identifier: GPL-3.0-or-later
#include <QTest> // first: moc of Qt 6.4 cannot read <compare> on its own

#include "visit/light_want.h"

#include <cmath>
#include <fstream>
#include <sstream>

using namespace ml;
using std::chrono::seconds;

namespace {

Moment at(long long unixTime) {
  return Moment{seconds{unixTime}};
}

double secondsApart(Moment a, Moment b) {
  return std::abs(double((a - b).count()));
}

year_month_day day(const char* text) {
  return *parseDate(text);
}

} // namespace

class TestSun : public QObject {
  Q_OBJECT

private slots:
  // Reda and Andreas, Solar Position Algorithm, NREL/TP-560-34302 (2004), table A5.1: 2003-10-17 12:30:30, UTC - 7 h.
  // Their zenith of 50.11162 has 0.0163 of refraction in it (their eq. 42), ours has none.
  void workedExampleOfTheSolarPositionAlgorithm() {
    const Place place{"", 39.742476, -105.1786, "UTC"};
    const auto sun = sunAt(place, at(1066419030));
    QVERIFY2(std::abs(sun.azimuth - 194.34024) < 0.01, qPrintable(QString::number(sun.azimuth)));
    QVERIFY2(std::abs(90 - sun.altitude - (50.11162 + 0.0163)) < 0.01, qPrintable(QString::number(sun.altitude)));
    // Its sunrise 6:12:43 and sunset 17:20:19, an hour behind the clocks of that day.
    const auto events = sunDay({"", 39.742476, -105.1786, "America/Denver"}, day("2003-10-17"));
    QVERIFY(secondsApart(*events.horizon.rises, at(1066396363)) < 30);
    // Theirs is that of the day in UTC: the evening before.
    const auto before = sunDay({"", 39.742476, -105.1786, "America/Denver"}, day("2003-10-16"));
    QVERIFY(secondsApart(*before.horizon.sets, at(1066350019)) < 30);
  }

  // tests/data/sun/almanac.tsv: PyEphem 4.1.4, which shares nothing with libnova. 40 places and dates, poles, date line
  // and days on which clocks change among them.
  void almanacOfAnotherLibrary() {
    std::ifstream in(std::string(ML_SOURCE_DIR) + "/tests/data/sun/almanac.tsv");
    int rows = 0, events = 0;
    double worstAngle = 0, worstTime = 0;
    for (std::string line; std::getline(in, line);) {
      if (line.starts_with("#")) continue;
      std::vector<std::string> cells;
      std::istringstream fields(line);
      for (std::string cell; std::getline(fields, cell, '\t');) cells.push_back(cell);
      QCOMPARE(cells.size(), std::size_t(15));
      const Place place{cells[0], std::stod(cells[1]), std::stod(cells[2]), cells[3]};
      const auto sun = sunAt(place, at(std::stoll(cells[5])));
      const double altitude = std::stod(cells[7]), azimuth = std::stod(cells[6]);
      worstAngle = std::max({worstAngle, std::abs(sun.altitude - altitude),
                             bearingBetween(sun.azimuth, azimuth) * std::cos(altitude * M_PI / 180)});
      const auto found = sunDay(place, day(cells[4].c_str()));
      const std::optional<Moment> ours[] = {
          found.horizon.rises,      found.horizon.sets,      found.civil.rises,           found.civil.sets,
          found.astronomical.rises, found.astronomical.sets, std::optional(found.highest)};
      const bool pole = std::abs(place.latitude) > 89;
      for (std::size_t i = 0; i < 7; ++i) {
        const std::string& theirs = cells[8 + i];
        if (pole) continue; // it creeps along the horizon there: a day has no moment of rising to compare
        QVERIFY2(ours[i].has_value() == (theirs != "-"), qPrintable(QString::fromStdString(line)));
        if (!ours[i]) continue;
        worstTime = std::max(worstTime, secondsApart(*ours[i], at(std::stoll(theirs))));
        ++events;
      }
      ++rows;
    }
    QCOMPARE(rows, 40);
    QVERIFY(events > 180);
    QVERIFY2(worstAngle < 0.02, qPrintable(QString::number(worstAngle)));
    QVERIFY2(worstTime < 120, qPrintable(QString::number(worstTime)));
    qInfo("worst angle %.4f degrees, worst time %.0f s", worstAngle, worstTime);
  }

  void polesHaveOneDayAndOneNight() {
    const Place north{"", 90, 0, "UTC"};
    QVERIFY(sunDay(north, day("2026-06-21")).neverSets);
    QVERIFY(sunDay(north, day("2026-12-21")).neverRises);
    QVERIFY(std::abs(sunDay(north, day("2026-06-21")).highestAltitude - 23.44) < 0.02); // obliquity of the ecliptic
  }

  // Equinoxes and solstices of 2026 to the minute, U.S. Naval Observatory, "Earth's Seasons" (from memory). At the pole
  // the sun stands as high as its declination: nothing at an equinox, most at a solstice.
  void seasonsOfThePublishedAlmanac() {
    const Place pole{"", 90, 0, "UTC"};
    for (const auto& [date, minutes] : {std::pair{"2026-03-20", 14 * 60 + 46}, {"2026-09-23", 0 * 60 + 5}}) {
      const double altitude = sunAt(pole, momentOf("UTC", day(date), minutes)).altitude;
      QVERIFY2(std::abs(altitude) < 0.012, qPrintable(QString::number(altitude))); // 0.016 degrees an hour
    }
    for (const auto& [date, minutes, sign] :
         {std::tuple{"2026-06-21", 8 * 60 + 25, 1}, {"2026-12-21", 20 * 60 + 50, -1}}) {
      const Moment solstice = momentOf("UTC", day(date), minutes);
      const auto at = [&](int hours) { return sign * sunAt(pole, solstice + std::chrono::hours{hours}).altitude; };
      QVERIFY(at(0) > at(-36) && at(0) > at(36));
      QVERIFY(std::abs(at(0) - 23.436) < 0.005); // obliquity of the ecliptic of date
    }
  }

  void trackIsTheSun() {
    const Place place{"", 60, 25, "UTC"};
    const SunTrack track(place, {at(1782000000), at(1782000000 + 86400)});
    for (int i = 0; i <= 86400; i += 617) {
      const auto sun = sunAt(place, at(1782000000 + i)), ours = track.at(at(1782000000 + i));
      QVERIFY(std::abs(sun.altitude - ours.altitude) < 0.001);
      QVERIFY(bearingBetween(sun.azimuth, ours.azimuth) < 0.002);
    }
  }

  // Light at the ends of the twilights: 3.4, 0.008 and 0.0006 lux, the zenith sun 129 klux (Seidelmann 1992, table
  // 9.31; RCA Electro-Optics Handbook EOH-11, 1974, gives the same within a fifth; from memory).
  void daylightOfPublishedTables() {
    for (const auto& [altitude, lux] :
         {std::pair{90.0, 129e3}, {0.0, 759.0}, {-6.0, 3.4}, {-12.0, 0.008}, {-18.0, 0.00065}})
      QVERIFY2(std::abs(std::log2(skyLight(altitude) / lux)) < 0.3, qPrintable(QString::number(skyLight(altitude))));
    for (const double edge : {20.0, 5.0, -0.8, -5.0, -12.0}) // the pieces meet
      QVERIFY(std::abs(std::log2(skyLight(edge + 1e-6) / skyLight(edge - 1e-6))) < 0.1);
    for (double a = -17.9; a < 89; a += 0.1) QVERIFY(skyLight(a + 0.1) > skyLight(a) * 0.97);
    QCOMPARE(skyLight(-40), skyLight(-18));
  }

  void duskFadesByWhatThePhotographersSay() { // 0.2 to 0.5 stop a minute (common practice, no source)
    const Place place{"", 47, 11, "UTC"};
    const auto events = sunDay(place, day("2026-10-10"));
    const SunTrack track(place, events.day);
    const double fade = fadeAt(track, *events.civil.sets);
    QVERIFY2(fade > 0.15 && fade < 0.5, qPrintable(QString::number(fade)));
    QVERIFY(fadeAt(track, *events.civil.rises) < -0.15);
    QVERIFY(std::abs(fadeAt(track, events.highest)) < 0.01);
    QVERIFY(std::abs(fadeBetween(track, *events.civil.sets, *events.civil.sets + seconds{60}) - fade) < 0.02);
  }

  void windowsAreWhereTheWishHolds() {
    const Place place{"", 47, 11, "Europe/Vienna"};
    const Span whole = dayOf(place.timeZone, day("2026-06-21"));
    const SunTrack track(place, whole);
    for (const LightWant want : lightWants())
      for (const double direction : {0.0, 90.0, 200.0, 300.0}) {
        const LightWish wish{want, direction, {}};
        const auto windows = windowsOf(wish, track, whole);
        for (std::size_t i = 0; i < windows.size(); ++i) {
          QVERIFY(!windows[i].empty());
          if (i > 0) QVERIFY(windows[i].from > windows[i - 1].to);
          QVERIFY(suits(wish, track, windows[i].from + (windows[i].to - windows[i].from) / 2));
          if (windows[i].from > whole.from) QVERIFY(!suits(wish, track, windows[i].from - seconds{2}));
          if (windows[i].to < whole.to) QVERIFY(!suits(wish, track, windows[i].to + seconds{2}));
        }
        int minutes = 0, good = 0; // no window is missed
        for (Moment t = whole.from; t < whole.to; t += seconds{60}) good += suits(wish, track, t);
        for (const auto& window : windows) minutes += int((window.to - window.from).count() / 60);
        QVERIFY2(std::abs(minutes - good) <= 4, qPrintable(QString("%1 %2").arg(minutes).arg(good)));
      }
  }

  void frontsAndWindowsFaceTheRightWay() {
    const Place place{"", 47, 11, "UTC"};
    const Span whole = dayOf("UTC", day("2026-03-20"));
    const SunTrack track(place, whole);
    // Looking north one sees fronts that face south: sun on them around noon. Looking south, never at this time of year
    // nearer than the side.
    const auto north = windowsOf({LightWant::SunOnFront, 0, {}}, track, whole);
    QCOMPARE(north.size(), std::size_t(1));
    QVERIFY(north[0].from < sunDay(place, day("2026-03-20")).highest &&
            north[0].to > sunDay(place, day("2026-03-20")).highest);
    QVERIFY(windowsOf({LightWant::SunOnFront, 180, {}}, track, whole).empty());
    // A window towards the west is free of sun in the morning.
    const auto west = windowsOf({LightWant::NoSunInWindow, 270, {}}, track, whole);
    QCOMPARE(west.size(), std::size_t(1));
    QVERIFY(secondsApart(west[0].to, sunDay(place, day("2026-03-20")).highest) < 120);
  }

  void clocksThatChange() {
    const std::string zone = "Europe/Vienna";
    QCOMPARE(int((dayOf(zone, day("2026-03-29")).to - dayOf(zone, day("2026-03-29")).from).count()), 23 * 3600);
    QCOMPARE(int((dayOf(zone, day("2026-10-25")).to - dayOf(zone, day("2026-10-25")).from).count()), 25 * 3600);
    const Moment change = momentOf(zone, day("2026-03-29"), 2 * 60 + 30); // never on the clock there
    QCOMPARE(change, at(1774746000));                                     // 01:00 UTC, the change itself
    QCOMPARE(clockAt(zone, change), std::string("03:00"));
    QCOMPARE(momentOf(zone, day("2026-10-25"), 2 * 60 + 30), at(1792888200)); // the first of two
    QCOMPARE(clockAt(zone, at(1792888200)), std::string("02:30"));
    QCOMPARE(clockAt(zone, at(1792888200 + 3600)), std::string("02:30"));
    QCOMPARE(print(dateAt("Pacific/Apia", at(1782000000))), std::string("2026-06-21"));
    QCOMPARE(print(dateAt("Pacific/Honolulu", at(1782000000))), std::string("2026-06-20"));
  }

  void whatPeopleType_data() {
    QTest::addColumn<QString>("text");
    QTest::addColumn<double>("most");
    QTest::addColumn<double>("value"); // 1000: nothing
    QTest::newRow("plain") << "47.5" << 90. << 47.5;
    QTest::newRow("minus") << "-105.18" << 180. << -105.18;
    QTest::newRow("true minus") << "−12" << 90. << -12.;
    QTest::newRow("letter") << "12 30 W" << 180. << -12.5;
    QTest::newRow("signs") << "12° 30' 36\" S" << 90. << -12.51;
    QTest::newRow("north") << "47.5 N" << 90. << 47.5;
    QTest::newRow("zero west") << "0 30 w" << 180. << -0.5;
    QTest::newRow("too much") << "91" << 90. << 1000.;
    QTest::newRow("both") << "-12 S" << 90. << 1000.;
    QTest::newRow("sixty") << "12 60" << 90. << 1000.;
    QTest::newRow("word") << "north" << 90. << 1000.;
    QTest::newRow("nan") << "nan" << 90. << 1000.;
    QTest::newRow("empty") << "" << 90. << 1000.;
  }
  void whatPeopleType() {
    QFETCH(QString, text);
    QFETCH(double, most);
    QFETCH(double, value);
    QVERIFY(std::abs(parseAngle(text.toStdString(), most).value_or(1000) - value) < 1e-9);
  }

  void datesClocksAndZones() {
    QVERIFY(!parseDate("2026-02-30") && !parseDate("2026-6") && !parseDate("2026-06-21x") && !parseDate("1-1-1"));
    QVERIFY(parseClock("24:00") == 1440 && parseClock("7:05") == 425);
    for (const char* wrong : {"24:01", "7:5", "12:60", ":30", "1230", "aa:bb", "123:00"}) QVERIFY(!parseClock(wrong));
    QVERIFY(checkZone("UTC") && checkZone("America/Denver"));
    QVERIFY(checkZone("Nowhere/At_All").error().code == ErrorCode::InvalidArgument);
    QVERIFY(timeZones().size() > 300);
  }
};

QTEST_APPLESS_MAIN(TestSun)
#include "test_sun.moc"
