// SPDX-License-Identifier: GPL-3.0-or-later
#include <QTest> // first: moc of Qt 6.4 cannot read <compare> on its own

#include "base/phrase.h"
#include "exposure/ev.h"
#include "exposure/marks.h"
#include "exposure/reading.h"

#include <cmath>

using namespace ml;

class TestExposure : public QObject {
  Q_OBJECT

private slots:
  // Exif 2.32, annex C: APEX tables pair engraved (rounded) marks with whole values; exact marks must hit them exactly.
  void apexApertures_data() {
    QTest::addColumn<QString>("mark");
    QTest::addColumn<double>("av");
    const char* const marks[] = {"1", "1.4", "2", "2.8", "4", "5.6", "8", "11", "16", "22", "32"};
    for (int av = 0; av <= 10; ++av) QTest::newRow(marks[av]) << QString("f/%1").arg(marks[av]) << double(av);
  }
  void apexApertures() {
    QFETCH(QString, mark);
    QFETCH(double, av);
    const auto n = parseFNumber(mark.toStdString());
    QVERIFY(n.has_value());
    QVERIFY(std::abs(apexAperture(*n).value - av) < 1e-12);
    QCOMPARE(print(*n), mark.toStdString());
  }

  void apexTimes_data() {
    QTest::addColumn<QString>("mark");
    QTest::addColumn<double>("tv");
    const std::pair<const char*, double> rows[] = {
        {"30 s", -5}, {"15 s", -4}, {"8 s", -3},  {"4 s", -2},    {"2 s", -1},    {"1 s", 0},
        {"0.5 s", 1}, {"1/4", 2},   {"1/8", 3},   {"1/15", 4},    {"1/30", 5},    {"1/60", 6},
        {"1/125", 7}, {"1/250", 8}, {"1/500", 9}, {"1/1000", 10}, {"1/2000", 11}, {"1/8000", 13}};
    for (const auto& [mark, tv] : rows) QTest::newRow(mark) << QString(mark) << tv;
  }
  void apexTimes() {
    QFETCH(QString, mark);
    QFETCH(double, tv);
    const auto t = parseTime(mark.toStdString());
    QVERIFY(t.has_value());
    QVERIFY(std::abs(apexTime(*t).value - tv) < 1e-12);
    QCOMPARE(print(*t), mark.toStdString());
  }

  // Exif 2.32, annex C: Ev = Av + Tv = Bv + Sv; at ISO 100 (Sv 5) the sum of the marks is EV100.
  void evOfSettings_data() {
    QTest::addColumn<QString>("aperture");
    QTest::addColumn<QString>("time");
    QTest::addColumn<QString>("iso");
    QTest::addColumn<double>("expected");
    QTest::newRow("front-lit sun, common practice") << "f/16"
                                                    << "1/125"
                                                    << "100" << 15.0;
    QTest::newRow("Av 5, Tv 6") << "f/5.6"
                                << "1/60"
                                << "100" << 11.0;
    QTest::newRow("one stop of ISO") << "f/5.6"
                                     << "1/60"
                                     << "200" << 10.0;
    QTest::newRow("EV 0: one second at f/1") << "f/1"
                                             << "1 s"
                                             << "100" << 0.0;
    QTest::newRow("night") << "f/2.8"
                           << "8 s"
                           << "800" << -3.0;
    QTest::newRow("thirds") << "f/6.3"
                            << "1/100"
                            << "125" << 5.0 + 1.0 / 3 + 6 + 2.0 / 3 - 1.0 / 3;
  }
  void evOfSettings() {
    QFETCH(QString, aperture);
    QFETCH(QString, time);
    QFETCH(QString, iso);
    QFETCH(double, expected);
    const Stops value =
        ev100(*parseFNumber(aperture.toStdString()), *parseTime(time.toStdString()), *parseIso(iso.toStdString()));
    QVERIFY2(std::abs(value.value - expected) < 1e-9, qPrintable(QString::number(value.value)));
  }

  // ISO 2720:1974: L = K 2^EV / S with K = 12.5 at ISO 100; EV 15 is 4096 cd/m^2.
  void luminance() {
    QCOMPARE(luminanceOf({15}), 4096.0);
    QCOMPARE(luminanceOf({3}), 1.0);
    QVERIFY(std::abs(ev100Of(luminanceOf({7.3})).value - 7.3) < 1e-12);
  }

  // ISO 12232:2019: 78 / 10 between saturation and the metered mean.
  void rawHeadroom() { QVERIFY(std::abs(kRawHeadroomStops - std::log2(78.0 / 10)) < 1e-12); }

  // Sequences seen in the field; common practice, no source.
  void fieldSequences_data() {
    QTest::addColumn<QString>("centre");
    QTest::addColumn<QString>("times");
    QTest::newRow("about 1/250") << "1/250"
                                 << "1/1000 1/500 1/250 1/125 1/60";
    QTest::newRow("about 1/5") << "1/5"
                               << "1/20|1/10|1/5|0.4 s|0.8 s";
  }
  void fieldSequences() {
    QFETCH(QString, centre);
    QFETCH(QString, times);
    QStringList got;
    for (const Stops offset : bracketOffsets(5, {1}))
      got << QString::fromStdString(print(brighter(*parseTime(centre.toStdString()), offset)));
    QCOMPARE(got, times.split(times.contains('|') ? '|' : ' '));
  }

  void halvingFrom8000thTo4sIs16Frames() {
    int frames = 0;
    for (int thirds = kShortestMarkThirds; thirds >= nearestThirds(*parseTime("4 s")); thirds -= 3) ++frames;
    QCOMPARE(frames, 16);
  }

  void offsets() { // arithmetic: five at three stops reach -6 .. +6, three at two -2 .. +2, two at one -1/2 .. +1/2
    QCOMPARE(bracketOffsets(5, {3}).front().value, -6.0);
    QCOMPARE(bracketOffsets(5, {3}).back().value, 6.0);
    QCOMPARE(bracketOffsets(3, {2}).back().value, 2.0);
    QCOMPARE(bracketOffsets(2, {1}).front().value, -0.5);
    QCOMPARE(bracketOffsets(3, {2}, {-1}).front().value, -3.0); // shifted to protect highlights: -3, -1, +1
    QCOMPARE(bracketOffsets(1, {2}).front().value, 0.0);
  }

  void ladderIsExactAndPrintsEveryMarkOnce() {
    const auto marks = shutterMarks();
    QCOMPARE(int(marks.size()), 55);
    QStringList printed;
    for (std::size_t i = 0; i < marks.size(); ++i) {
      if (i > 0) QVERIFY(std::abs(std::log2(marks[i].value / marks[i - 1].value) - 1.0 / 3) < 1e-12);
      printed << QString::fromStdString(print(marks[i]));
      QCOMPARE(parseTime(print(marks[i]))->value, marks[i].value); // printing and parsing lose nothing
    }
    QCOMPARE(printed.removeDuplicates(), 0);
    QCOMPARE(print(marks.front()), std::string("1/8000"));
    QCOMPARE(print(marks.back()), std::string("30 s"));
    QCOMPARE(print(Seconds{64}), std::string("bulb 64 s"));
  }

  void endsOfABracketAreWhatWasStepped() {
    const ExposureSettings a{{0.01}, {8}, {100}};
    const auto ends = [&](ExposureSettings b) {
      const PrintedEnds e = printedEnds(a, b);
      return e.first + " " + e.last;
    };
    QCOMPARE(ends({{0.02}, {8}, {100}}), print(a.time) + " " + print(Seconds{0.02}));
    QCOMPARE(ends({{0.02}, {8}, {400}}), print(a.time) + " " + print(Seconds{0.02}));
    QCOMPARE(ends({{0.01}, {8}, {1600}}), print(Iso{100}) + " " + print(Iso{1600}));
    QCOMPARE(ends({{0.01}, {2}, {100}}), print(FNumber{8}) + " " + print(FNumber{2}));
    QCOMPARE(ends(a), print(a.time) + " " + print(a.time));
  }
  /// The third-stop marks of ISO speeds (ISO 12232:2019, table of exposure indices; from memory).
  void speedsPrintTheirMarks() {
    const int marks[] = {100, 125, 160, 200, 250, 320, 400, 500, 640, 800, 1000, 1250, 1600};
    for (int k = 0; k < 13; ++k) QCOMPARE(print(Iso{100 * std::exp2(k / 3.0)}), "ISO " + std::to_string(marks[k]));
    QCOMPARE(print(Iso{110}), std::string("ISO 110"));
  }

  void printedTimesAreNotTheExactOnes() {
    QCOMPARE(parseTime("1/125")->value, 1.0 / 128);
    QCOMPARE(parseTime("30")->value, 32.0);
    QCOMPARE(exact(Seconds{0.0005}).value, std::exp2(-11));
    QCOMPARE(exact(Seconds{1.0 / 90}).value, 1.0 / 90); // no third-stop mark: kept
  }

  void parsing_data() {
    QTest::addColumn<QString>("text");
    QTest::addColumn<double>("value");
    QTest::newRow("two seconds mark") << "2\"" << 2.0;
    QTest::newRow("2 s") << " 2 s " << 2.0;
    QTest::newRow("0.4") << "0.4" << std::exp2(-4.0 / 3);
    QTest::newRow("1/125 s") << "1/125 s" << 1.0 / 128;
    QTest::newRow("0,4") << "0,4 s" << std::exp2(-4.0 / 3);
    QTest::newRow("literal") << "1/700" << 1.0 / 700;
    for (const char* bad : {"", "s", "1/0", "-1", "0", "1/", "/4", "abc", "1/125/2", "nan", "inf", "1,600", "0,4,2"})
      QTest::newRow(qPrintable(QString("bad ") + bad)) << bad << -1.0;
  }
  void parsing() {
    QFETCH(QString, text);
    QFETCH(double, value);
    const auto t = parseTime(text.toStdString());
    QCOMPARE(t.has_value(), value > 0);
    if (t) QVERIFY(std::abs(t->value / value - 1) < 1e-12);
  }

  // For people with the mark of their language, in files always with a point.
  void decimalMarks() {
    speak({{}, ','});
    QCOMPARE(print(Seconds{std::exp2(-1 / 3.0)}), std::string("0,8 s"));
    QCOMPARE(print(FNumber{std::exp2(2.5)}), std::string("f/5,6"));
    QCOMPARE(print(Stops{1.75}), std::string("+1,8"));
    QCOMPARE(markOf(Seconds{std::exp2(-1 / 3.0)}), std::string("0.8 s"));
    QCOMPARE(markOf(FNumber{std::exp2(2.5)}), std::string("f/5.6"));
    speak({});
    QCOMPARE(print(FNumber{std::exp2(2.5)}), std::string("f/5.6"));
    for (const Seconds t : shutterMarks()) QCOMPARE(parseTime(markOf(t))->value, t.value);
  }

  void stopsText_data() {
    QTest::addColumn<double>("value");
    QTest::addColumn<QString>("text");
    QTest::newRow("one and a third") << 4.0 / 3 << "+1 1/3";
    QTest::newRow("minus two thirds") << -2.0 / 3 << "-2/3";
    QTest::newRow("zero") << 0.0 << "0";
    QTest::newRow("whole") << 2.0 << "+2";
    QTest::newRow("off the thirds") << 1.75 << "+1.8";
    QTest::newRow("minus one and two thirds") << -5.0 / 3 << "-1 2/3";
  }
  void stopsText() {
    QFETCH(double, value);
    QFETCH(QString, text);
    QCOMPARE(QString::fromStdString(print(Stops{value})), text);
    const auto parsed = parseStops(text.toStdString());
    QVERIFY(parsed.has_value());
    QVERIFY(std::abs(parsed->value - value) < 0.051);
  }

  void stopsParsing() {
    QCOMPARE(parseStops("13 1/3 EV")->value, 13 + 1.0 / 3);
    QCOMPARE(parseStops("\u22122")->value, -2.0);
    QCOMPARE(parseStops("-0.5 stops")->value, -0.5);
    QVERIFY(!parseStops("1 4/3"));
    QVERIFY(!parseStops("1 3/3"));
    QVERIFY(!parseStops("--1"));
    QVERIFY(!parseStops("+-1"));
    QVERIFY(!parseStops(""));
  }

  void readingsInEveryForm_data() {
    QTest::addColumn<QString>("text");
    QTest::addColumn<double>("ev");
    QTest::newRow("EV") << "13 1/3" << 13 + 1 / 3.0;
    QTest::newRow("EV named") << "EV 12.5" << 12.5;
    QTest::newRow("negative") << "-2" << -2.0;
    QTest::newRow("third below zero") << "-1/3" << -1 / 3.0;
    QTest::newRow("time at f/8 ISO 100") << "1/125" << 13.0;
    QTest::newRow("time in seconds") << "0.5 s" << 7.0;
    QTest::newRow("time, own aperture") << "1/60 f/4" << 10.0;
    QTest::newRow("time, own aperture and ISO") << "1/60 s, f/4, ISO 400" << 8.0;
    QTest::newRow("ISO written together") << "1/60 f/4 ISO400" << 8.0;
    QTest::newRow("decimal comma") << "EV 12,5" << 12.5;
    QTest::newRow("comma between") << "f/4,1/60" << 10.0;
    QTest::newRow("comma in an aperture") << "1/60 f/4,0" << 10.0;
    QTest::newRow("luminance with a comma") << "0,25 cd/m2" << 1.0;
    QTest::newRow("luminance: ISO 2720, 0.125 x 2^15") << "4096 cd/m2" << 15.0;
    QTest::newRow("luminance, no space") << "0.125cd/m2" << 0.0;
  }
  void readingsInEveryForm() {
    QFETCH(QString, text);
    QFETCH(double, ev);
    const auto read = parseReading(text.toStdString(), {8}, {100});
    QVERIFY(read.has_value());
    QVERIFY2(std::abs(read->value - ev) < 1e-9, qPrintable(QString::number(read->value)));
  }
  void whatIsNoReadingIsRefused() {
    for (const char* text : {"", "EV", "bright", "f/8", "ISO 100", "1/0", "-5 cd/m2", "cd/m2", "99", "-40", "1/125 f/x",
                             "1/125 ISO", "nan", "1e999 cd/m2", "4,096 cd/m2"}) // which may be thousands
      QVERIFY2(!parseReading(text, {8}, {100}), text);
  }

  // American National Standard PH2.7-1986, from memory: front-lit subjects in full sun EV 15, snow and sand one more,
  // hazy sun one less, cloudy bright two less, shade three less; home interiors 5 to 7; a landscape under the full moon
  // -3 to -2.
  void everydayLightFollowsTheTable() {
    const auto at = [](const char* name) {
      for (const auto& level : everydayLight())
        if (std::string(level.name).find(name) != std::string::npos) return level.ev100.value;
      return 1e9;
    };
    QCOMPARE(at("front-lit"), 15.0);
    QCOMPARE(at("snow"), 16.0);
    QCOMPARE(at("hazy"), 14.0);
    QCOMPARE(at("bright cloud"), 13.0);
    QCOMPARE(at("shade"), 12.0);
    QVERIFY(at("home") >= 5 && at("home") <= 7);
    QVERIFY(at("moon") >= -3 && at("moon") <= -2);
    for (std::size_t i = 1; i < everydayLight().size(); ++i)
      QVERIFY(everydayLight()[i].ev100 < everydayLight()[i - 1].ev100);
  }
};

QTEST_GUILESS_MAIN(TestExposure)
#include "test_exposure.moc"
