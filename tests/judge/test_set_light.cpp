// SPDX-License-Identifier: GPL-3.0-or-later
#include <filesystem> // first: without it moc 6.4 fails on what <memory> draws in

#include "judge/plain_frames.h"
#include "judge/set_judge.h"
#include "judge/words.h"

#include <QTest>

using namespace ml;
using namespace ml::test;

class TestSetLight : public QObject {
  Q_OBJECT
private slots:
  /// A cloud passes; dusk does not come back, and waiting makes it worse.
  void duskIsNotWaitedFor() {
    VerdictInput in;
    in.frames.resize(3);
    for (int i = 0; i < 3; ++i) {
      in.frames[std::size_t(i)].frame = i;
      in.order.push_back(i);
    }
    in.frames[1].flaws = {Flaw::LightDrifted};
    in.frames[1].light = {-0.5};
    JudgeSetup setup;
    QVERIFY(wordVerdict(in, setup).sentence.find("wait until it is steady") != std::string::npos);
    setup.fading = true; // as the photographer said
    QVERIFY(wordVerdict(in, setup).sentence.find("fewer frames") != std::string::npos);
    setup.fading = false;
    in.frames[2].flaws = {Flaw::LightDrifted}; // or as the frames say: it falls, and falls again
    in.frames[2].light = {-0.9};
    QVERIFY(wordVerdict(in, setup).sentence.find("wait") == std::string::npos);
    QVERIFY(wordVerdict(in, setup).sentence.find("fewer frames") != std::string::npos);
  }

  /// Times are as they are marked; from the third frame on the scene has `step` more light. Far beyond what noise
  /// explains, it must not be taken for outliers.
  void aStepIsSeenHoweverLarge_data() {
    QTest::addColumn<double>("step");
    for (const double step : {0.0, -0.5, -0.8, -1.2, 0.9}) QTest::addRow("%.1f stop", step) << step;
  }
  void aStepIsSeenHoweverLarge() {
    QFETCH(double, step);
    Image<float> light = grain(640, 480);
    for (int y = 0; y < 480; ++y)
      for (int x = 0; x < 640; ++x)
        *light.at(x, y) = float(0.03 * std::exp2(5.0 * ((x / 64) * 7 % 10) / 9)); // even patches over five stops
    JudgeSetup setup;
    setup.support = Support::Tripod;
    std::vector<Frame> frames;
    for (int i = 0; i < 5; ++i) {
      Image<float> now = light.clone();
      if (i >= 2)
        for (std::size_t k = 0; k < now.size(); ++k) now.data()[k] *= float(std::exp2(step));
      const double time = 0.08 * std::exp2(1.5 * i);
      frames.push_back(shot(now, time, 40 + unsigned(i)));
      setup.planned.push_back(frames.back().settings);
    }
    SetJudge judge(setup);
    for (const Frame& frame : frames) judge.add(frame);
    const auto judged = judge.frames();
    for (int i = 0; i < 5; ++i) QCOMPARE(judged[std::size_t(i)].has(Flaw::LightDrifted), step != 0 && i == 2);
    if (step != 0)
      QVERIFY2(std::abs(judged[2].light.value - step) < 0.25 * std::abs(step),
               qPrintable(QString::number(judged[2].light.value)));
  }
};

QTEST_GUILESS_MAIN(TestSetLight)
#include "test_set_light.moc"
