// SPDX-License-Identifier: GPL-3.0-or-later
#include <QTest> // first: moc of Qt 6.4 cannot read <compare> on its own

#include "logbook/learnt.h"

#include <algorithm>
#include <cmath>
#include <random>

using namespace ml;

namespace {

/// Frames of a hand whose chance to be sharp is known.
std::vector<HandFrame> hand(int count, double middle, double slope, unsigned seed) {
  std::mt19937 random(seed);
  std::uniform_real_distribution<double> stops(middle - 3, middle + 3), chance(0, 1);
  std::vector<HandFrame> out;
  for (int i = 0; i < count; ++i) {
    const double x = stops(random);
    out.push_back({x, chance(random) < 1 / (1 + std::exp(slope * (x - middle)))});
  }
  return out;
}

LogCases::View view(const char* kind, double site, double desk, int number) {
  LogCases::View out;
  out.from = {number, "01-view", "View", "2026-06-21"};
  out.kind = kind;
  out.siteMinutes = site;
  out.deskMinutes = desk;
  out.checked = true;
  return out;
}

const Learnt* find(const std::vector<Learnt>& lessons, const std::string& id) {
  const auto it = std::find_if(lessons.begin(), lessons.end(), [&](const Learnt& l) { return l.id == id; });
  return it == lessons.end() ? nullptr : &*it;
}

} // namespace

class TestLearn : public QObject {
  Q_OBJECT

private slots:
  /// The band is one of 95 %: of 400 hands, made with a known limit, about 380 hold it.
  void knownHandsLieInTheBand_data() {
    QTest::addColumn<int>("count");
    QTest::addColumn<double>("slope");
    QTest::newRow("few") << 40 << 1.5;
    QTest::newRow("many") << 300 << 1.5;
    QTest::newRow("steep") << 100 << 3.0;
    QTest::newRow("slow") << 100 << 0.9;
  }
  void knownHandsLieInTheBand() {
    QFETCH(int, count);
    QFETCH(double, slope);
    const double middle = 3, truth = middle - std::log(kHandChance / (1 - kHandChance)) / slope;
    int inside = 0, made = 0;
    double width = 0;
    for (unsigned seed = 1; seed <= 400; ++seed) {
      const auto curve = fitHand(hand(count, middle, slope, seed));
      if (!curve) continue;
      ++made;
      inside += curve->low <= truth && truth <= curve->high;
      width += curve->high - curve->low;
    }
    QVERIFY(made > 390);
    QVERIFY2(inside > 0.90 * made && inside <= made, qPrintable(QString::number(double(inside) / made)));
    QVERIFY2(width / made < 14 / std::sqrt(count) * std::max(1.0, 1.5 / slope),
             qPrintable(QString::number(width / made)));
  }

  void bandOfTheCurveHoldsTheTruth() {
    int inside = 0, all = 0;
    for (unsigned seed = 1; seed <= 200; ++seed) {
      const auto curve = fitHand(hand(120, 2.5, 1.5, seed));
      for (const double x : {1.0, 2.5, 4.0}) {
        const double logit = 1.5 * (2.5 - x), ours = curve->slope * (curve->middle - x);
        inside += std::abs(logit - ours) <= curve->logitBand(x);
        ++all;
      }
    }
    QVERIFY2(inside > 0.9 * all, qPrintable(QString::number(double(inside) / all)));
  }

  void silentWithoutCases() {
    QVERIFY(!fitHand(hand(kFewestCases - 1, 3, 1.5, 1)));
    QVERIFY(!fitHand(std::vector<HandFrame>(30, {1, true}))); // all sharp: no end is known
    QVERIFY(!fitHand(std::vector<HandFrame>(30, {1, false})));
    std::vector<HandFrame> wrong; // longer is sharper: it was something else
    for (int i = 0; i < 400; ++i) wrong.push_back({double(i % 20) / 4, i % 20 > 9});
    QVERIFY(!fitHand(wrong));
    LogCases cases;
    for (int i = 0; i < kFewestCases - 1; ++i) cases.views.push_back(view("interior", 2, 3, i));
    QVERIFY(learntFrom(cases).empty());
    QVERIFY(ownPace(cases).empty() && !deskPace(cases) && forecast(cases, 38).empty());
  }

  void frameSharpOrNotWithoutOverlapStaysFinite() {
    std::vector<HandFrame> frames;
    for (int i = 0; i < 20; ++i) frames.push_back({double(i) / 4, i < 10});
    const auto curve = fitHand(frames);
    QVERIFY(curve && std::isfinite(curve->stops) && curve->slope < 50);
    QVERIFY(curve->stops > 0.5 && curve->stops < 2.6);
  }

  void stopsBeyondTheRule() {
    QCOMPARE(handStops(1. / 50, 50), 0.0);
    QVERIFY(std::abs(handStops(1. / 4, 32) - 3) < 1e-12);
  }

  void paceAndForecast() {
    LogCases cases;
    for (int i = 0; i < 40; ++i) cases.views.push_back(view("interior", 4 + 0.01 * (i % 10), 3, i));
    for (int i = 0; i < 9; ++i) cases.views.push_back(view("sphere", 8, 3, 100 + i));
    const auto pace = ownPace(cases);
    QCOMPARE(pace.size(), std::size_t(1)); // nine spheres teach nothing yet
    QVERIFY(std::abs(pace[0].minutes - 4.045) < 0.01 && pace[0].cases == 40);
    QVERIFY(QString::fromStdString(forecast(cases, 38)).startsWith("38 views at your pace: 2 h 3"));
    const auto lessons = learntFrom(cases);
    const auto* lesson = find(lessons, "pace-interior");
    QVERIFY(lesson && lesson->cases.size() == 40);
    QVERIFY(lesson->sentence.find("40 views") != std::string::npos);
    QVERIFY(!find(lessons, "pace-sphere"));
    QCOMPARE(find(lessons, "desk")->cases.size(), std::size_t(49));
  }

  void framesFourAndFive() {
    LogCases cases;
    for (int i = 0; i < 100; ++i) {
      auto v = view("interior", 0, 0, i);
      v.combinedOf = 5;
      v.spoke = i < 91 ? 3 : 5;
      cases.views.push_back(v);
    }
    const auto lessons = learntFrom(cases);
    QCOMPARE(find(lessons, "frames")->sentence,
             std::string("Of 100 views combined from more than three frames, in 91 no more than three said anything."));
  }

  void rangesFaultsAndStart() {
    LogCases cases;
    for (int i = 0; i < 30; ++i) {
      auto v = view("kitchen", 0, 0, i);
      v.range = 8 + i % 5;
      v.offsets = {{"warmth", i < 20 ? -0.3 : 0.0}, {"exposure", i == 3 ? 1.0 : 0.0}};
      cases.views.push_back(v);
      if (i < 12) cases.faults.push_back({v.from, "camera-moved", i < 9 ? 17 : 9});
      if (i < 8) cases.faults.push_back({v.from, "soft", 12});
    }
    const auto lessons = learntFrom(cases);
    QVERIFY(find(lessons, "range-kitchen")->sentence.find("10.0 stops") != std::string::npos);
    QVERIFY(find(lessons, "fault-camera-moved")->sentence.find("between 15:00 and 18:00 (9 of 12)") !=
            std::string::npos);
    QVERIFY(!find(lessons, "fault-soft"));
    const auto start = ownStart(cases);
    QCOMPARE(start.size(), std::size_t(1));
    QCOMPARE(start.at("warmth"), -0.3);
  }

  void charts() {
    LogCases cases;
    for (int i = 0; i < 24; ++i) {
      cases.views.push_back(view("interior", 2 + i, 1, i));
      cases.views.back().from.date = i % 2 ? "2026-05-03" : "2026-06-21";
      cases.hand.push_back({cases.views.back().from, {i / 8.0, i < 20}});
    }
    const auto months = paceByMonth(cases);
    QCOMPARE(months.size(), std::size_t(2));
    QCOMPARE(months[0].month, std::string("2026-05"));
    const auto bins = handBins(cases);
    QCOMPARE(bins.size(), std::size_t(3));
    QCOMPARE(bins[2].all, 8);
    QCOMPARE(bins[2].sharp, 4);
  }
};

QTEST_APPLESS_MAIN(TestLearn)
#include "test_learn.moc"
