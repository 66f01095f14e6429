// SPDX-License-Identifier: GPL-3.0-or-later
#include <filesystem> // first: without it moc 6.4 fails on what <memory> draws in

#include "judge/plain_frames.h"
#include "judge/sharpness.h"

#include <QTest>
#include <cmath>
#include <random>

using namespace ml;
using namespace ml::test;

namespace {

/// A Gaussian blur by its definition, 1 pixel and more; borders repeat.
Image<float> blurred(const Image<float>& in, double sigma) {
  Image<float> out(in.width(), in.height(), 1);
  const int reach = int(3 * sigma) + 1;
  for (int y = 0; y < in.height(); ++y)
    for (int x = 0; x < in.width(); ++x) {
      double sum = 0, weights = 0;
      for (int v = -reach; v <= reach; ++v)
        for (int u = -reach; u <= reach; ++u) {
          const double w = std::exp(-(u * u + v * v) / (2 * sigma * sigma));
          sum += w * *in.at(std::clamp(x + u, 0, in.width() - 1), std::clamp(y + v, 0, in.height() - 1)), weights += w;
        }
      *out.at(x, y) = float(sum / weights);
    }
  return out;
}

std::vector<FrameSharpness> judged(const std::vector<Frame>& frames) {
  static std::vector<std::shared_ptr<const Sketch>> sketches;
  sketches.clear();
  std::vector<ViewMember> view;
  for (const Frame& f : frames) sketches.push_back(sketchOf(f, {}));
  for (const auto& s : sketches) view.push_back({s.get(), {}});
  return sharpnessOf(view, nullptr);
}

} // namespace

class TestSharpness : public QObject {
  Q_OBJECT
private slots:
  /// The darkest frame is nearly all noise; what frames share says all the same which of them is soft.
  void softIsSeenThroughNoise_data() {
    QTest::addColumn<int>("soft");
    for (int i = -1; i < 4; ++i) QTest::addRow("%s", i < 0 ? "none" : qPrintable(QString::number(i))) << i;
  }
  void softIsSeenThroughNoise() {
    QFETCH(int, soft);
    const Image<float> sharp = grain(480, 320), out = blurred(sharp, 1.6);
    std::vector<Frame> frames;
    for (int i = 0; i < 4; ++i)
      frames.push_back(shot(i == soft ? out : sharp, 0.04 * std::exp2(1.5 * i), 10 + unsigned(i)));
    const auto found = judged(frames);
    for (int i = 0; i < 4; ++i) QCOMPARE(found[std::size_t(i)].group, 0);
    for (int i = 0; i < 4; ++i) {
      const double against = found[std::size_t(i)].log - found[std::size_t(soft == 0 ? 1 : 0)].log;
      if (i == soft)
        QVERIFY2(against < -1.5, qPrintable(QString::number(against)));
      else
        QVERIFY2(std::abs(against) < 0.5, qPrintable(QString("frame %1: %2").arg(i).arg(against)));
    }
  }
  /// Frames that show nothing are compared with none.
  void nothingIsSaidOfAWall() {
    Image<float> wall(320, 240, 1);
    wall.fill(0.3f);
    std::vector<Frame> frames;
    for (int i = 0; i < 3; ++i) frames.push_back(shot(wall, 0.3 * std::exp2(0.5 * i), 20 + unsigned(i)));
    for (const auto& f : judged(frames)) QCOMPARE(f.group, -1);
  }
};

QTEST_GUILESS_MAIN(TestSharpness)
#include "test_sharpness.moc"
