// SPDX-License-Identifier: GPL-3.0-or-later
// What the filter is made to do, on pictures whose answer is known.
#include "base/parallel.h"
#include "tone/local_laplacian.h"

#include <QTest>
#include <algorithm>
#include <cmath>

using namespace ml;

namespace {

constexpr int kWidth = 320, kHeight = 200;
constexpr float kCentre = kHeight / 2;

/// A third of the contrast of all, and its own contrast of what is near.
LocalTones thirdOfAll(double contrast) {
  LocalTones tones;
  tones.curve = [](double light) { return light / 3; };
  tones.contrast = [contrast](double) { return contrast; };
  tones.from = -6, tones.to = 6;
  return tones;
}

template <class Light> Image<float> pictureOf(const Light& light) {
  Image<float> out(kWidth, kHeight, 1);
  for (int y = 0; y < kHeight; ++y)
    for (int x = 0; x < kWidth; ++x) out.row(y)[x] = float(light(x, y));
  return out;
}

/// Waves of 8 pixels, and a step of `stops` in the middle.
Image<float> wavesBesideAStep(double height, double stops) {
  return pictureOf(
      [=](int x, int) { return height * std::sin(x * 0.7853982) + (x < kWidth / 2 ? -0.5 : 0.5) * stops; });
}

double spread(const Image<float>& in, int from, int to) {
  const float* row = in.row(int(kCentre));
  const auto [least, most] = std::minmax_element(row + from, row + to);
  return double(*most) - *least;
}

} // namespace

class TestLocalLaplacian : public QObject {
  Q_OBJECT

private slots:
  /// Where the contrast of a place is that of the curve, all is the curve.
  void curveAloneIsTheCurve() {
    const Image<float> log = wavesBesideAStep(0.5, 4), placed = localLaplacian(log, thirdOfAll(1.0 / 3));
    for (std::size_t i = 0; i < log.size(); ++i) QVERIFY(std::abs(placed.data()[i] - log.data()[i] / 3) < 2e-4);
  }

  /// What is small keeps the contrast that it is given, and the step beside it that of the curve.
  void smallIsCrispAndLargeFollowsTheCurve() {
    const Image<float> log = wavesBesideAStep(0.1, 6);
    const Image<float> plain = localLaplacian(log, thirdOfAll(1.0 / 3)), crisp = localLaplacian(log, thirdOfAll(2));
    const double wanted = 2 * spread(log, 20, 60), got = spread(crisp, 20, 60);
    QVERIFY2(std::abs(got / wanted - 1) < 0.05, qPrintable(QString("%1 of %2").arg(got).arg(wanted)));
    const auto mean = [](const Image<float>& in, int from) { // of five waves
      double sum = 0;
      for (int x = from; x < from + 40; ++x) sum += in.row(int(kCentre))[x] / 40;
      return sum;
    };
    const double step = mean(crisp, 240) - mean(crisp, 40), ofCurve = mean(plain, 240) - mean(plain, 40);
    QVERIFY2(std::abs(step - ofCurve) < 0.02, qPrintable(QString("%1 of %2").arg(step).arg(ofCurve)));
  }

  /// Beside an edge nothing glows that the judgement of rims (and an eye) would see, where places have three times the
  /// contrast of the curve.
  void evenPlacesStayEvenBesideEdges_data() {
    QTest::addColumn<double>("stops");
    for (const double stops : {2.0, 4.0, 8.0}) QTest::addRow("%g stops", stops) << stops;
  }
  void evenPlacesStayEvenBesideEdges() {
    QFETCH(double, stops);
    const Image<float> placed = localLaplacian(wavesBesideAStep(0, stops), thirdOfAll(1));
    constexpr double kUnseen = 0.22; // stops
    const double dark = spread(placed, 0, kWidth / 2 - 1), bright = spread(placed, kWidth / 2 + 1, kWidth);
    QVERIFY2(dark < kUnseen && bright < kUnseen, qPrintable(QString("%1, %2").arg(dark).arg(bright)));
  }

  void turnedPicturesAreTurned() {
    const Image<float> log = pictureOf([](int x, int y) { return std::sin(x * 0.2) * std::cos(y * 0.13) + x / 100.0; });
    Image<float> turned(kWidth, kHeight, 1);
    for (int y = 0; y < kHeight; ++y)
      for (int x = 0; x < kWidth; ++x) turned.row(y)[x] = log.row(kHeight - 1 - y)[x];
    const Image<float> a = localLaplacian(log, thirdOfAll(1)), b = localLaplacian(turned, thirdOfAll(1));
    double worst = 0;
    for (int y = 40; y < kHeight - 40; ++y)
      for (int x = 40; x < kWidth - 40; ++x)
        worst = std::max(worst, double(std::abs(a.row(y)[x] - b.row(kHeight - 1 - y)[x])));
    QVERIFY2(worst < 0.02, qPrintable(QString::number(worst))); // the grid of even sizes lies half a cell off
  }

  void threadsAndRunsChangeNoBit() {
    const Image<float> log = wavesBesideAStep(0.3, 5), once = localLaplacian(log, thirdOfAll(1.5));
    const OnThisThread alone;
    const Image<float> again = localLaplacian(log, thirdOfAll(1.5));
    QVERIFY(std::equal(once.data(), once.data() + once.size(), again.data()));
  }

  void tinyAndEvenPicturesAreDone() {
    Image<float> one(1, 1, 1), even(kWidth, 3, 1);
    one.fill(2), even.fill(-3);
    QVERIFY(std::abs(*localLaplacian(one, thirdOfAll(2)).data() - 2.f / 3) < 1e-3);
    const Image<float> placed = localLaplacian(even, thirdOfAll(2));
    for (std::size_t i = 0; i < placed.size(); ++i) QVERIFY(std::abs(placed.data()[i] + 1) < 1e-3);
  }
};

QTEST_GUILESS_MAIN(TestLocalLaplacian)
#include "test_local_laplacian.moc"
