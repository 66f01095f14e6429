// SPDX-License-Identifier: GPL-3.0-or-later
// What is told from little: a frame's own edges, and things too small to be called a person on their own.
#include <filesystem> // first: without it moc 6.4 fails on what <memory> draws in

#include "judge/detail.h"
#include "judge/own_edges.h"
#include "judge/set_judge.h"
#include "support/scenes.h"

#include <QTest>
#include <cmath>
#include <random>

using namespace ml;

namespace {

/// Steps of light one beside the other, each an edge that a lens of `sigma` pixels draws (the error function), with
/// noise of a share of the light.
Image<float> edges(double sigma, double noise = 0) {
  Image<float> out(480, 320, 1);
  std::mt19937 random(5);
  std::normal_distribution<double> gauss(0, 1);
  for (int y = 0; y < out.height(); ++y)
    for (int x = 0; x < out.width(); ++x) {
      const auto one = [sigma](int at) {
        return std::erf((at % 40 - 19.6) / (sigma * std::sqrt(2.0))) * ((at / 40) % 2 ? 1 : -1);
      };
      const double light = 0.3 + 0.1 * one(x) + 0.08 * one(y);
      *out.at(x, y) = float(light * (1 + noise * gauss(random)));
    }
  return out;
}

struct Patch {
  int x, y, side;
  float share;
};

/// Four frames two stops apart, with patches of other light in some of them.
std::vector<FrameJudgement> judged(const std::vector<std::vector<Patch>>& patches) {
  SetJudge judge(JudgeSetup{});
  for (std::size_t i = 0; i < patches.size(); ++i) {
    Image<float> light = test::texturedScene(480, 320, 4, 9);
    for (const Patch& p : patches[i])
      for (int y = p.y; y < p.y + p.side; ++y)
        for (int x = p.x; x < p.x + p.side; ++x)
          for (int c = 0; c < 3; ++c) light.at(x, y)[c] *= p.share;
    float most = 0;
    for (int y = 0; y < light.height(); ++y)
      for (int x = 0; x < light.width(); ++x) most = std::max(most, light.at(x, y)[1]);
    for (int y = 0; y < light.height(); ++y)
      for (int x = 0; x < light.width(); ++x)
        for (int c = 0; c < 3; ++c)
          light.at(x, y)[c] = std::min(1.f, light.at(x, y)[c] / most * float(0.2 * std::exp2(i)));
    judge.add(test::linearFrame(light, {{std::exp2(double(i)) / 256}, {8}, {100}}));
  }
  return judge.frames();
}

} // namespace

class TestSmallEvidence : public QObject {
  Q_OBJECT

private slots:
  // A Gaussian edge: the energy of its second derivative over that of its first is 1 / (2 sigma^2), by hand.
  void edgesHaveTheWidthOfTheirLens_data() {
    QTest::addColumn<double>("sigma");
    QTest::addColumn<double>("noise");
    for (const double sigma : {1.5, 2.0, 3.0})
      for (const double noise : {0.0, 0.01}) QTest::addRow("%g, noise %g", sigma, noise) << sigma << noise;
  }
  void edgesHaveTheWidthOfTheirLens() {
    QFETCH(double, sigma);
    QFETCH(double, noise);
    const auto found = edgeFineness(edges(sigma, noise));
    QVERIFY(found.has_value());
    const double expected = -std::log(2 * sigma * sigma);
    QVERIFY2(std::abs(*found - expected) < 0.25, qPrintable(QString("%1 for %2").arg(*found).arg(expected)));
  }

  void withoutEdgesNothingIsSaid() {
    Image<float> flat(480, 320, 1);
    flat.fill(0.3f);
    QVERIFY(!edgeFineness(flat));
    Image<float> cut(480, 320, 1);
    cut.fill(kNoLight);
    QVERIFY(!edgeFineness(cut));
    QVERIFY(!edgeFineness(Image<float>(3, 3, 1)));
  }

  // 25 x 25 pixels are 0.4 % of the picture: somebody far away.
  void oneSmallThingInOneFrameIsSeen_data() {
    QTest::addColumn<int>("frame");
    for (int i = 0; i < 4; ++i) QTest::addRow("frame %d", i + 1) << i;
  }
  void oneSmallThingInOneFrameIsSeen() {
    QFETCH(int, frame);
    std::vector<std::vector<Patch>> patches(4);
    patches[std::size_t(frame)] = {{200, 120, 25, 0.35f}};
    const auto found = judged(patches);
    for (int i = 0; i < 4; ++i) QCOMPARE(found[std::size_t(i)].has(Flaw::ThingMoved), i == frame);
  }

  // Leaves that stand elsewhere in every frame, as small: nothing one could shoot again.
  void smallThingsInAllFramesAreNoFlaw() {
    std::vector<std::vector<Patch>> patches(4);
    for (int i = 0; i < 4; ++i) patches[std::size_t(i)] = {{60 + 90 * i, 80 + 40 * i, 25, 0.35f}};
    for (const auto& frame : judged(patches)) QVERIFY(!frame.has(Flaw::ThingMoved));
  }

  void aStillSetHasNone() {
    for (const auto& frame : judged(std::vector<std::vector<Patch>>(4)))
      QVERIFY(frame.flaws.empty() || !frame.has(Flaw::ThingMoved));
  }
};

QTEST_GUILESS_MAIN(TestSmallEvidence)
#include "test_small_evidence.moc"
