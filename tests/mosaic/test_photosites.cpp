// SPDX-License-Identifier: GPL-3.0-or-later
// Frames that stay mosaics: what is read of their photosites must be what the light behind them was, whatever colour a
// place begins with, and what is developed of them must not depend on the rectangle that was asked for.
#include "align/pyramid.h"
#include "capture/developed.h"
#include "judge/detail.h"
#include "merge/photosite_cells.h"
#include "mosaic/bayer.h"

#include <QTest>
#include <array>
#include <cmath>
#include <functional>
#include <random>

using namespace ml;

namespace {

using Light = std::function<double(double x, double y)>;
constexpr std::array<std::array<int, 4>, 4> kPatterns{{{0, 1, 1, 2}, {1, 0, 2, 1}, {1, 2, 0, 1}, {2, 1, 1, 0}}};

/// Balanced light, each channel `tint` times as strong.
Frame mosaicOf(int width, int height, const std::array<int, 4>& pattern, const Light& light,
               const std::array<double, 3>& tint = {1, 1, 1}) {
  Frame f;
  f.pattern = pattern;
  f.table = linearTable(65535, kPedestal, 65535);
  f.saturation = {1, 0.55f, 0.8f};
  f.midTone = 0.1f;
  f.settings = {{0.01}, {8}, {100}};
  Image<std::uint16_t> codes(width, height, 1);
  for (int y = 0; y < height; ++y)
    for (int x = 0; x < width; ++x) {
      const std::size_t c = std::size_t(pattern[std::size_t(2 * (y & 1) + (x & 1))]);
      const double most = f.saturation[c];
      *codes.at(x, y) = std::uint16_t(std::lround(kPedestal + kLightRange * std::min(tint[c] * light(x, y), most)));
    }
  f.codes = Codes(std::move(codes));
  return f;
}

double slope(double x, double y) {
  return 0.1 + 0.0011 * x + 0.0017 * y;
}

double waves(double x, double y) {
  return 0.2 + 0.1 * std::sin(0.31 * x + 0.2 * y) * std::cos(0.23 * y);
}

} // namespace

class TestPhotosites : public QObject {
  Q_OBJECT

private slots:
  void aFrameIsKeptInOneChannel() {
    const Frame f = mosaicOf(64, 48, kPatterns[0], slope);
    QVERIFY(f.isMosaic());
    QCOMPARE(f.codes.size(), std::size_t(64 * 48));
    const Frame whole = developed(f);
    QVERIFY(!whole.isMosaic());
    QCOMPARE(whole.codes.size(), std::size_t(3 * 64 * 48));
    QCOMPARE(whole.settings.time.value, f.settings.time.value);
  }

  /// An even slope is what it is in each colour, at every place and in every pattern; a photosite's own colour is
  /// exact.
  void aSlopeIsReadAsItIs() {
    for (const auto& pattern : kPatterns) {
      constexpr std::array<double, 3> kTint{1.3, 1, 0.6};
      const Frame f = mosaicOf(40, 30, pattern, slope, kTint);
      const PhotositeCells cells(f, {65000, 36000, 52000});
      for (int y = 1; y < 29; ++y)
        for (int x = 1; x < 39; ++x) {
          float rgb[3];
          f.linearAt(x, y, rgb);
          for (int c = 0; c < 3; ++c) QVERIFY(std::abs(rgb[c] - kTint[std::size_t(c)] * slope(x, y)) < 2e-5);
        }
      for (int y = 0; y + PhotositeCells::kSide <= 30; ++y)
        for (int x = 0; x + PhotositeCells::kSide <= 40; ++x) {
          const BlockLight block = cells.at(x, y);
          // At the border photosites are mirrored, and the slope with them.
          const double off =
              x == 0 || y == 0 || x + PhotositeCells::kSide == 40 || y + PhotositeCells::kSide == 30 ? 2e-3 : 3e-5;
          const float found[] = {block.red, block.green, block.blue};
          for (std::size_t c = 0; c < 3; ++c) {
            const double light = kTint[c] * slope(x + 2, y + 2);
            QVERIFY2(std::abs(found[c] - light) < off,
                     qPrintable(QString("%1 %2: %3, not %4").arg(x).arg(y).arg(found[c]).arg(light)));
          }
          QCOMPARE(int(block.clipped), 0);
        }
    }
  }

  void whatClipsIsSaidByItsColour() {
    for (int full = 0; full < 3; ++full) {
      Frame f = mosaicOf(32, 24, kPatterns[1], [](double, double) { return 0.2; });
      Image<std::uint16_t> codes(32, 24, 1);
      int count = 0;
      for (int y = 0; y < 24; ++y)
        for (int x = 0; x < 32; ++x) {
          const bool here = f.colourAt(x, y) == full && x >= 8 && x < 10 && y >= 8 && y < 10;
          *codes.at(x, y) = here ? 65535 : *f.codes.photosites().at(x, y);
          count += here;
        }
      QVERIFY(count > 0);
      f.codes = Codes(std::move(codes));
      const PhotositeCells cells(f, {65000, 36000, 52000});
      QCOMPARE(int(cells.at(7, 7).clipped), 1 << full);
      QCOMPARE(int(cells.at(10, 10).clipped), 0); // it lies beside
      QVERIFY(std::abs(clippedShare(f) - 1.0 / (16 * 12)) < 1e-9);
    }
  }

  void whatIsDevelopedDoesNotDependOnTheRectangle() {
    const Frame f = mosaicOf(450, 170, kPatterns[3], waves);
    const Image<std::uint16_t> whole = developed(photositesOf(f));
    std::mt19937 random(5);
    for (int k = 0; k < 12; ++k) {
      const auto upTo = [&](int most) { return int(random() % unsigned(most)); };
      Roi part{upTo(440), upTo(160), 0, 0};
      part.width = 1 + upTo(450 - part.x), part.height = 1 + upTo(170 - part.y);
      const Frame cut = developed(f, part);
      QCOMPARE(cut.width(), part.width);
      for (int y = 0; y < part.height; ++y)
        for (int x = 0; x < part.width; ++x)
          for (int c = 0; c < 3; ++c)
            QVERIFY(std::abs(int(cut.codes.at(x, y, c)) - int(whole.at(part.x + x, part.y + y)[c])) <= 1);
    }
  }

  /// Larger frames are aligned and judged by blocks of photosites: the same light as of developed pixels.
  void blocksShowWhatDevelopedPixelsDo() {
    const Frame f = mosaicOf(2400, 1600, kPatterns[0], [](double x, double y) { return waves(x / 6, y / 6); });
    const LightPyramid of = buildPyramid(f), as = buildPyramid(developed(f));
    QCOMPARE(of.scale, 2);
    QCOMPARE(of.levels.front().width(), as.levels.front().width());
    for (std::size_t i = 0; i < of.levels.front().size(); ++i) // the brightest of a block, against that of its pixels
      QVERIFY(std::abs(of.levels.front().data()[i] - as.levels.front().data()[i]) < 0.012);
    const Detail a = detailOf(f), b = detailOf(developed(f));
    QCOMPARE(a.scale, 2);
    QCOMPARE(a.roots.width(), b.roots.width());
    for (int y = 1; y < a.roots.height() - 1; ++y)
      for (int x = 1; x < a.roots.width() - 1; ++x)
        QVERIFY(std::abs(int(*a.roots.at(x, y)) - int(*b.roots.at(x, y))) < 400); // of 65,534
  }
};

QTEST_GUILESS_MAIN(TestPhotosites)
#include "test_photosites.moc"
