// SPDX-License-Identifier: GPL-3.0-or-later
// Small parts of the merge against a reference library (OpenCV) and against their formulas.
#include <QTest>

#include "capture/frame.h"
#include "image/laplacian.h"
#include "merge/cell_mask.h"
#include "merge/compared_cells.h"
#include "merge/rows.h"
#include "merge/share.h"
#include "merge/tile.h"
#include "merge/variance_curve.h"
#include "support/scenes.h"

#include <cmath>
#include <opencv2/imgproc.hpp>
#include <random>

using namespace ml;

namespace {

Image<float> noise(int width, int height, unsigned seed) {
  std::mt19937 random(seed);
  std::uniform_real_distribution<float> value(-1, 1);
  Image<float> out(width, height, 1);
  for (std::size_t i = 0; i < out.size(); ++i) out.data()[i] = value(random);
  return out;
}

CellMask speckled(int width, int height, double share, unsigned seed) {
  std::mt19937 random(seed);
  std::bernoulli_distribution inside(share);
  CellMask out = emptyMask(width, height);
  for (std::size_t i = 0; i < out.size(); ++i) out.data()[i] = inside(random);
  return out;
}

cv::Mat seenBy(Image<float>& image) {
  return cv::Mat(image.height(), image.width(), CV_32F, image.data());
}
cv::Mat seenBy(CellMask& mask) {
  return cv::Mat(mask.height(), mask.width(), CV_8U, mask.data());
}

} // namespace

class TestParts : public QObject {
  Q_OBJECT

private slots:
  // Burt and Adelson, IEEE Trans. Communications 31, 1983; OpenCV's pyrDown and pyrUp have the same filter.
  void pyramidsAreThoseOfAReferenceLibrary_data() {
    QTest::addColumn<int>("width");
    QTest::addColumn<int>("height");
    QTest::newRow("even") << 64 << 48;
    QTest::newRow("odd") << 61 << 47;
    QTest::newRow("flat") << 200 << 3;
    QTest::newRow("tiny") << 2 << 2;
  }
  void pyramidsAreThoseOfAReferenceLibrary() {
    QFETCH(int, width);
    QFETCH(int, height);
    Image<float> fine = noise(width, height, 7);
    cv::Mat down;
    cv::pyrDown(seenBy(fine), down);
    const int w = halvedSize(width), h = halvedSize(height);
    QVERIFY(down.cols == w && down.rows == h);
    Image<float> coarse(w, h, 1);
    std::vector<float> scratch;
    for (int y = 0; y < h; ++y) {
      halveRow(std::as_const(fine).view(), y, scratch, coarse.row(y));
      for (int x = 0; x < w; ++x)
        QVERIFY2(std::abs(*coarse.at(x, y) - down.at<float>(y, x)) < 2e-6, qPrintable(QString("%1 %2").arg(x).arg(y)));
    }
    cv::Mat up;
    cv::pyrUp(down, up, cv::Size(width, height));
    std::vector<float> doubled(static_cast<std::size_t>(width));
    for (int y = 0; y < height; ++y) {
      doubleRow(std::as_const(coarse).view(), y, width, scratch, doubled.data());
      for (int x = 0; x < width; ++x)
        QVERIFY2(std::abs(doubled[std::size_t(x)] - up.at<float>(y, x)) < 4e-6,
                 qPrintable(QString("%1 %2").arg(x).arg(y)));
    }
  }

  void detailIsAddedByItsWeight() {
    const float fine[] = {1, 2, 3, 4, 5}, smooth[] = {0, 1, 1, 2, 2}, weight[] = {1, 0.5f, 0, 2, 1};
    float sum[] = {10, 10, 10, 10, 10};
    addDetail(fine, smooth, weight, 5, sum);
    for (int i = 0; i < 5; ++i) QCOMPARE(sum[i], 10 + weight[i] * (fine[i] - smooth[i]));
    addDetail(fine, nullptr, weight, 5, sum);
    for (int i = 0; i < 5; ++i) QCOMPARE(sum[i], 10 + weight[i] * (fine[i] - smooth[i]) + weight[i] * fine[i]);
  }

  void regionsAreThoseOfAReferenceLibrary_data() {
    QTest::addColumn<double>("share");
    for (const double share : {0.0, 0.1, 0.35, 0.6, 1.0}) QTest::newRow(qPrintable(QString::number(share))) << share;
  }
  void regionsAreThoseOfAReferenceLibrary() {
    QFETCH(double, share);
    CellMask mask = speckled(73, 41, share, 3);
    auto found = components(mask);
    cv::Mat labels, statistics, centres;
    const int count = cv::connectedComponentsWithStats(seenBy(mask), labels, statistics, centres, 8) - 1;
    QCOMPARE(int(found.size()), count);
    std::vector<std::size_t> sizes, theirs;
    for (const auto& region : found) {
      sizes.push_back(region.size());
      const int label = labels.at<int>(region.front() / 73, region.front() % 73);
      for (const int at : region) QCOMPARE(labels.at<int>(at / 73, at % 73), label);
    }
    for (int i = 1; i <= count; ++i) theirs.push_back(std::size_t(statistics.at<int>(i, cv::CC_STAT_AREA)));
    std::sort(sizes.begin(), sizes.end());
    std::sort(theirs.begin(), theirs.end());
    QVERIFY(sizes == theirs);
    // Specks go, everything else stays.
    CellMask cleaned = mask.clone();
    dropSpecks(cleaned, 4);
    for (const auto& region : found)
      for (const int at : region) QCOMPARE(int(cleaned.data()[at]), region.size() >= 4 ? 1 : 0);
  }

  void grownMasksAreThoseOfAReferenceLibrary() {
    for (const int radius : {0, 1, 3, 20}) {
      CellMask mask = speckled(50, 37, 0.02, unsigned(radius) + 1);
      cv::Mat theirs;
      cv::dilate(seenBy(mask), theirs, cv::Mat::ones(2 * radius + 1, 2 * radius + 1, CV_8U));
      const CellMask grown = dilated(mask, radius);
      for (int y = 0; y < 37; ++y)
        for (int x = 0; x < 50; ++x) QCOMPARE(*grown.at(x, y), theirs.at<std::uint8_t>(y, x));
    }
    CellMask a = speckled(20, 20, 0.3, 1), b = speckled(20, 20, 0.3, 2);
    const CellMask before = a.clone();
    unite(a, b);
    for (std::size_t i = 0; i < a.size(); ++i) QCOMPARE(int(a.data()[i]), int(before.data()[i] || b.data()[i]));
  }

  void sharesRiseSmoothlyAroundAMask() {
    CellMask mask = emptyMask(60, 60);
    for (int y = 28; y < 32; ++y)
      for (int x = 28; x < 32; ++x) *mask.at(x, y) = 1;
    const Image<float> share = softShare(mask, 5);
    QCOMPARE(*share.at(30, 30), 0.f);
    QCOMPARE(*share.at(30, 24), 0.f); // grown by five
    QCOMPARE(*share.at(2, 30), 1.f);
    for (int x = 31; x < 59; ++x) {
      QVERIFY(*share.at(x + 1, 30) >= *share.at(x, 30));
      QVERIFY2(*share.at(x + 1, 30) - *share.at(x, 30) <= 0.25f,
               qPrintable(QString("%1: %2 %3").arg(x).arg(*share.at(x, 30)).arg(*share.at(x + 1, 30)))); // no step
    }
  }

  void sharesAreReadBilinearly() {
    const Image<float> cells = [] {
      Image<float> out = noise(9, 7, 5);
      for (std::size_t i = 0; i < out.size(); ++i) out.data()[i] = 0.5f + 0.5f * out.data()[i];
      return out;
    }();
    constexpr int kCell = 4;
    float row[20];
    for (int y = 0; y < 28; ++y)
      for (const int x0 : {0, 3, 16}) {
        QVERIFY(!shareRow(cells, kCell, x0, y, 20, row));
        for (int i = 0; i < 20; ++i) {
          const double u = std::clamp((x0 + i + 0.5) / kCell - 0.5, 0.0, 8.0),
                       v = std::clamp((y + 0.5) / kCell - 0.5, 0.0, 6.0);
          const int cx = std::min(7, int(u)), cy = std::min(5, int(v));
          const double fx = u - cx, fy = v - cy;
          const double expected = (1 - fy) * ((1 - fx) * *cells.at(cx, cy) + fx * *cells.at(cx + 1, cy)) +
                                  fy * ((1 - fx) * *cells.at(cx, cy + 1) + fx * *cells.at(cx + 1, cy + 1));
          QVERIFY2(std::abs(row[i] - expected) < 1e-5,
                   qPrintable(QString("%1 %2: %3 %4").arg(x0 + i).arg(y).arg(row[i]).arg(expected)));
        }
      }
    Image<float> all(9, 7, 1);
    all.fill(1);
    QVERIFY(shareRow(all, kCell, 0, 5, 20, row));
  }

  // EMVA 1288: the variance of a linear sensor is a line over its signal.
  void varianceOfALinearSensorIsALine() {
    Image<float> grey(8, 8, 3);
    grey.fill(0.18f);
    Frame frame = test::linearFrame(grey, {{1.0 / 64}, {8}, {100}});
    frame.codeError = 0;
    frame.noise = frame.sensor;
    const VarianceCurve curve = varianceCurve(frame);
    QVERIFY(curve.floor > 0 && curve.photon > 0 && curve.bend >= 0);
    for (const double level : {0.001, 0.01, 0.1, 0.5, 0.9}) {
      const double expected = sampleVariance(frame, level);
      QVERIFY2(std::abs(curve.at(float(level)) / expected - 1) < 0.1,
               qPrintable(QString("%1: %2 %3").arg(level).arg(curve.at(float(level))).arg(expected)));
    }
    QCOMPARE(curve.at(-1), curve.floor); // what lies below black is as noisy as black
  }

  /// Of a sample just below clipping nothing is left where a darker frame that records well shows more than half as
  /// much again; scales are 1 over the exposures.
  void nearClippingADarkerFrameIsBelieved() {
    const float light[] = {0.96f, 0.96f, 0.96f, 0.5f, 0.96f}, darker[] = {0.37f, 0.35f, 0.37f, 0.37f, 0.1f},
                sure[] = {1, 1, 0.9f, 1, 1};
    float use[] = {0.4f, 0.4f, 0.4f, 1, 0.4f};
    rows::doubt(light, 1, darker, 4, sure, 5, use); // 0.37 * 4 is 1.54 times 0.96, 0.35 * 4 is 1.46 times
    const float wanted[] = {0, 0.4f, 0.4f, 1, 0.4f};
    for (int i = 0; i < 5; ++i) QCOMPARE(use[i], wanted[i]);
  }

  /// A rendered frame whose red and blue clip before a sky: who stands there in a darker frame is as light, but not as
  /// blue. What clipped channels lack may be missing in the others, too, and is not taken for somebody.
  void clippedChannelsOfARenderedFrameSayAtLeast() {
    const auto cellsOf = [](float red, float green, float blue, std::uint8_t clipped) {
      PlacedCells cells;
      for (Image<float>* map :
           {&cells.radiance, &cells.sigma, &cells.range, &cells.chroma, &cells.chromaRange, &cells.red, &cells.green}) {
        *map = Image<float>(1, 1, 1);
        map->fill(0);
      }
      cells.recorded = Image<std::uint8_t>(1, 1, 1), cells.clipped = Image<std::uint8_t>(1, 1, 1);
      const float all = red + green + blue;
      *cells.radiance.at(0, 0) = all / 3, *cells.red.at(0, 0) = red / all, *cells.green.at(0, 0) = green / all;
      *cells.sigma.at(0, 0) = 0.005f;
      *cells.recorded.at(0, 0) = clipped == 0, *cells.clipped.at(0, 0) = clipped;
      cells.mixed = true;
      return cells;
    };
    const Sensitivity s = sensitivityOf(MotionMode::Auto);
    const PlacedCells sky = cellsOf(1, 0.72f, 1, 5), lamp = cellsOf(1, 0.9f, 0.5f, 1);
    const auto maySee = [&](const PlacedCells& clipped, float red, float green, float blue) {
      return within(clipped, 0, 0, reading(cellsOf(red, green, blue, 0), 0, 0), s);
    };
    QVERIFY(maySee(sky, 1.23f, 0.82f, 1.19f)); // the sky
    QVERIFY(!maySee(sky, 1.1f, 0.95f, 0.4f));  // a head, as light as the sky
    QVERIFY(maySee(lamp, 6, 1.5f, 0.3f));      // a red lamp, six times beyond clipping
    QVERIFY(!maySee(lamp, 0.5f, 0.5f, 0.5f));
  }

  void trustFallsOnlyNearClipping() {
    QCOMPARE(trustOf(0), 1.f);
    QCOMPARE(trustOf(0.9f), 1.f);
    QCOMPARE(trustOf(1), 0.f);
    QCOMPARE(trustOf(2), 0.f);
    for (float level = 0.9f; level < 1; level += 0.01f) QVERIFY(trustOf(level + 0.01f) <= trustOf(level));
    const float pixel[] = {0.2f, 0.6f, 0.1f}, inverse[] = {1, 0.5f, 4};
    QCOMPARE(clipLevel(pixel, inverse), 0.4f);
  }
};

QTEST_GUILESS_MAIN(TestParts)
#include "test_parts.moc"
