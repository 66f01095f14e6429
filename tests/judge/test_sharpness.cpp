#include <filesystem> // first: without it moc 6.4 fails on what <memory> draws in

#include "judge/sharpness.h"

#include <QTest>
#include <cmath>
#include <random>

using namespace ml;

namespace {

/// Grain of the finest sort with some edges, the same from run to run: what a blur takes away first.
Image<float> grain(int w, int h) {
  std::mt19937 random(7);
  std::normal_distribution<float> normal(0, 0.12f);
  Image<float> out(w, h, 1);
  for (int y = 0; y < h; ++y)
    for (int x = 0; x < w; ++x) *out.at(x, y) = ((x / 40 + y / 56) % 2 ? 0.5f : 0.2f) * std::exp(normal(random));
  return out;
}

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

/// A linear frame of 16 bits with noise of photons and of reading, each frame its own.
Frame shot(const Image<float>& light, double exposure, unsigned seed) {
  constexpr double kFullWell = 4000, kRead = 6;
  std::mt19937 random(seed);
  std::normal_distribution<double> normal;
  Frame f;
  std::vector<float> table;
  for (int i = 0; i < 65536; ++i) table.push_back(float(i) / 65535);
  f.table = CodeTable(std::move(table));
  f.settings = {{exposure}, {8}, {100}};
  Image<std::uint16_t> codes(light.width(), light.height(), 3);
  for (int y = 0; y < light.height(); ++y)
    for (int x = 0; x < light.width(); ++x)
      for (int c = 0; c < 3; ++c) {
        const double electrons = *light.at(x, y) * exposure * kFullWell, read = electrons + std::sqrt(electrons + kRead * kRead) * normal(random);
        codes.at(x, y)[c] = std::uint16_t(std::clamp(65535 * read / kFullWell, 0.0, 65535.0));
      }
  f.codes = std::move(codes);
  return f;
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
    for (int i = 0; i < 4; ++i) frames.push_back(shot(i == soft ? out : sharp, 0.04 * std::exp2(1.5 * i), 10 + unsigned(i)));
    const auto found = judged(frames);
    for (int i = 0; i < 4; ++i) QCOMPARE(found[std::size_t(i)].group, 0);
    for (int i = 0; i < 4; ++i) {
      const double against = found[std::size_t(i)].log - found[std::size_t(soft == 0 ? 1 : 0)].log;
      if (i == soft) QVERIFY2(against < -1.5, qPrintable(QString::number(against)));
      else QVERIFY2(std::abs(against) < 0.5, qPrintable(QString("frame %1: %2").arg(i).arg(against)));
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
