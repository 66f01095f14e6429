// SPDX-License-Identifier: GPL-3.0-or-later
// What the search for a response curve is built of, against plain arithmetic; and the frame that one would have
// metered.
#include "capture/frame.h"
#include "pipeline/metered.h"
#include "response/code_cells.h"
#include "response/curve_fit.h"

#include <QTest>
#include <random>

using namespace ml;

namespace {

Frame greyFrame(int width, int height, int code) {
  Frame frame;
  Image<std::uint8_t> codes(width, height, 3);
  codes.fill(std::uint8_t(code));
  frame.codes = Codes(std::move(codes));
  frame.table = srgbTable(255);
  frame.curveAssumed = true;
  return frame;
}

} // namespace

class TestResponseParts : public QObject {
  Q_OBJECT

private slots:
  /// Codes of rendered files are compared as shares of the largest, linear light by its root.
  void scalesGoFromNoneToAll() {
    Frame frame = greyFrame(8, 8, 10);
    const CompareScale rendered(frame);
    QVERIFY(!rendered.linear);
    QCOMPARE(rendered.value[1].size(), std::size_t(256));
    for (int code = 0; code < 256; ++code) QCOMPARE(rendered.value[1][std::size_t(code)], float(code) / 255);
    frame.table = linearTable(4095, 0, 4095);
    frame.curveAssumed = false;
    frame.saturation = {0.5f, 1, 1};
    const CompareScale linear(frame);
    QVERIFY(linear.linear);
    for (const int code : {0, 100, 2000, 4095}) {
      const float light = frame.table.channel(1)[code];
      QCOMPARE(linear.value[1][std::size_t(code)], std::sqrt(std::min(1.f, light)));
      QCOMPARE(linear.value[0][std::size_t(code)], std::sqrt(std::min(1.f, light / 0.5f)));
    }
  }

  /// The smallest blocks of which there are not many more than a quarter of a million.
  void cellsAreAboutAQuarterMillionAtMost() {
    for (const auto& [w, h] : {std::pair{320, 240}, {6000, 4000}, {12000, 9000}, {6000, 400}}) {
      const int pitch = cellPitch(w, h);
      QVERIFY(double(w) * h / ((pitch + 1) * (pitch + 1)) < 260000);
      QVERIFY(pitch <= 4 || double(w) * h / (pitch * pitch) > 240000);
      QVERIFY(pitch >= 2);
    }
  }

  /// By its definition: half the weight lies on either side.
  void weightedMediansHalveTheWeight() {
    std::mt19937 random(5);
    for (int round = 0; round < 200; ++round) {
      std::vector<fit::Weighted> list(1 + random() % 40);
      double total = 0;
      for (auto& w : list) w = {double(int(random() % 50)) - 25, 0.1 + random() % 9}, total += w.weight;
      auto given = list;
      const double median = fit::weightedMedian(given);
      double below = 0, above = 0;
      for (const auto& w : list) below += w.value < median ? w.weight : 0, above += w.value > median ? w.weight : 0;
      QVERIFY2(below <= total / 2 + 1e-9 && above <= total / 2 + 1e-9, qPrintable(QString::number(round)));
    }
    std::vector<fit::Weighted> none;
    QCOMPARE(fit::weightedMedian(none), 0.0);
  }

  /// Cubic B-splines with even knots: their sum is one everywhere, and a straight line of coefficients is a straight
  /// line (de Boor, A Practical Guide to Splines, 1978; from memory).
  void splinesKeepStraightLines() {
    std::vector<double> one(fit::Spline::kSize, 1.0), line;
    for (int i = 0; i < fit::Spline::kSize; ++i) line.push_back((i - 1.0) / fit::Spline::kPieces);
    for (int k = 0; k <= 100; ++k) {
      const double v = k / 100.0;
      QVERIFY(std::abs(fit::Spline::value(one.data(), v) - 1) < 1e-12);
      QVERIFY(std::abs(fit::Spline::value(line.data(), v) - v) < 1e-12);
      const double slope = fit::slopeOf([](double x) { return 3 * x; }, v);
      QVERIFY(std::abs(slope - 3) < 1e-9);
    }
  }

  /// The frame whose median L* is nearest 55; code 131 is L* 54.6 by IEC 61966-2-1 and CIE 15.
  void theMiddlingFrameIsTheMeteredOne() {
    const std::vector<int> codes{20, 60, 131, 190, 250};
    std::vector<Frame> frames;
    for (const int code : codes) frames.push_back(greyFrame(120, 80, code));
    std::vector<PlacedFrame> placed;
    for (std::size_t i = 0; i < frames.size(); ++i) {
      frames[i].settings.time.value = std::exp2(double(i) * 2 - 8);
      placed.push_back({&frames[i], kIdentity3, 0});
    }
    Image<float> radiance(120, 80, 3);
    radiance.fill(0.2f);
    const Metered metered = meteredOf(placed, radiance.view());
    QCOMPARE(metered.frame, 2);
    QVERIFY2(std::abs(metered.lightness - 54.6) < 0.3, qPrintable(QString::number(metered.lightness)));
    std::swap(placed[0], placed[2]);
    QCOMPARE(meteredOf(placed, radiance.view()).frame, 0);
  }

  /// Half of the picture lighter, half darker: the median, not the mean.
  void theMedianDecides() {
    Frame frame = greyFrame(120, 80, 131);
    Image<std::uint8_t> codes(120, 80, 3);
    for (int y = 0; y < 80; ++y)
      for (int x = 0; x < 120; ++x) std::fill_n(codes.at(x, y), 3, std::uint8_t(x < 30 ? 255 : x < 80 ? 131 : 120));
    frame.codes = Codes(std::move(codes));
    Image<float> radiance(120, 80, 3);
    radiance.fill(0.2f);
    const std::vector<PlacedFrame> placed{{&frame, kIdentity3, 0}};
    QVERIFY(std::abs(meteredOf(placed, radiance.view()).lightness - 54.6) < 0.3);
  }
};

QTEST_GUILESS_MAIN(TestResponseParts)
#include "test_response_parts.moc"
