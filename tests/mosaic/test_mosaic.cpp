// SPDX-License-Identifier: GPL-3.0-or-later
// Our demosaicing beside every method of LibRaw 0.20, the reference, on scenes with the blur of a lens; and what must
// hold whatever the picture.
#include "codec/raw_file.h"
#include "mosaic/bayer.h"
#include "mosaic/scenes.h"

#include <QTemporaryDir>
#include <QTest>
#include <cmath>
#include <random>
#include <tiffio.h>

using namespace ml;
using namespace ml::test;

namespace {

BayerMosaic described(const Image<std::uint16_t>& codes, int dx = 0, int dy = 0) {
  BayerMosaic m;
  m.codes = codes.view();
  for (int k = 0; k < 4; ++k) m.colours[std::size_t(k)] = (((k & 1) + dx) & 1) + (((k >> 1) + dy) & 1);
  m.black.fill(512);
  m.white = 15800;
  m.gain = {1, 0.55f, 0.79f};
  return m;
}

double lightOf(std::uint16_t code) {
  return (double(code) - kPedestal) / (65535 - kPedestal);
}

constexpr int kFullCode = 15700; ///< Of white 15800.

/// Within two photosites of a full one: a merge trusts no frame there (merge/tile.cpp).
bool nearFull(const Image<std::uint16_t>& codes, int x, int y) {
  for (int v = y - 2; v <= y + 2; ++v)
    for (int u = x - 2; u <= x + 2; ++u)
      if (*codes.at(u, v) >= kFullCode) return true;
  return false;
}

} // namespace

class TestMosaic : public QObject {
  Q_OBJECT

private slots:
  void betterThanEveryMethodOfTheLibrary_data() {
    QTest::addColumn<double>("well");
    QTest::addColumn<double>("read");
    QTest::newRow("no noise") << 0.0 << 0.0;
    QTest::newRow("base ISO") << 50000.0 << 3.0;
    QTest::newRow("high ISO") << 3000.0 << 3.0;
  }
  /// On the mean over eight scenes: CPSNR, CIEDE2000 at edges, and colour that the scene has not. Better than AHD in
  /// every scene.
  void betterThanEveryMethodOfTheLibrary() {
    QFETCH(double, well);
    QFETCH(double, read);
    const QTemporaryDir folder;
    const std::filesystem::path file = folder.filePath("m.dng").toStdString();
    const int methods[] = {0, 1, 2, 3, 4, 11, 12}; // linear, VNG, PPG, AHD, DCB, DHT, AAHD
    Quality ours, theirs[7];
    for (const MosaicScene& scene : mosaicScenes(360, 240, 0.55)) {
      writeMosaicDng(file, mosaicked(scene.truth, well, read, 0, 0, 3), 0, 0);
      const Quality us = qualityOf(developedByUs(file), scene.truth);
      ours.cpsnr += us.cpsnr, ours.edges += us.edges, ours.coloured += us.coloured;
      for (std::size_t k = 0; k < 7; ++k) {
        const Quality q = qualityOf(developedByLibrary(file, methods[k]), scene.truth);
        theirs[k].cpsnr += q.cpsnr, theirs[k].edges += q.edges, theirs[k].coloured += q.coloured;
        if (methods[k] == 3)
          QVERIFY2(us.edges <= q.edges && us.cpsnr > q.cpsnr, qPrintable(QString("%1: %2 and %3 dB, AHD %4 and %5 dB")
                                                                             .arg(QString::fromStdString(scene.name))
                                                                             .arg(us.edges)
                                                                             .arg(us.cpsnr)
                                                                             .arg(q.edges)
                                                                             .arg(q.cpsnr)));
      }
    }
    for (std::size_t k = 0; k < 7; ++k) {
      const QString figures = QString("method %1: CPSNR %2 against %3, edges %4 against %5, coloured %6 against %7")
                                  .arg(methods[k])
                                  .arg(ours.cpsnr / 8, 0, 'f', 2)
                                  .arg(theirs[k].cpsnr / 8, 0, 'f', 2)
                                  .arg(ours.edges / 8, 0, 'f', 2)
                                  .arg(theirs[k].edges / 8, 0, 'f', 2)
                                  .arg(ours.coloured / 8, 0, 'f', 4)
                                  .arg(theirs[k].coloured / 8, 0, 'f', 4);
      QVERIFY2(ours.cpsnr > theirs[k].cpsnr && ours.edges < theirs[k].edges && ours.coloured <= theirs[k].coloured,
               qPrintable(figures));
    }
  }

  /// A measured photosite comes out as it was measured, in its own colour.
  void measuredLightStays() {
    const auto scene = std::move(mosaicScenes(96, 64, 0.6).back());
    const Image<std::uint16_t> codes = mosaicked(scene.truth, 20000, 3, 0, 0, 5);
    const BayerMosaic m = described(codes);
    const Image<std::uint16_t> out = demosaiced(m);
    for (int y = 0; y < 64; ++y)
      for (int x = 0; x < 96; ++x) {
        const int c = m.colours[std::size_t(2 * (y & 1) + (x & 1))];
        const double light = (double(codes.row(y)[x]) - 512) / (15800 - 512) * double(m.gain[std::size_t(c)]);
        QVERIFY2(std::abs(lightOf(out.at(x, y)[c]) - std::max(light, -0.0046)) < 1.0 / 60000 + 2e-5 * light,
                 qPrintable(QString("%1 %2: %3, not %4").arg(x).arg(y).arg(lightOf(out.at(x, y)[c])).arg(light)));
      }
  }

  /// A frame of a camera on its side: turned as Exif says, with each photosite's own code where its colour says it is.
  void aTurnedFileKeepsItsPhotosites_data() {
    QTest::addColumn<int>("orientation");
    for (const int o : {1, 3, 6, 8}) QTest::newRow(qPrintable(QString::number(o))) << o;
  }
  void aTurnedFileKeepsItsPhotosites() {
    QFETCH(int, orientation);
    QTemporaryDir dir;
    const std::filesystem::path file = dir.filePath("turned.dng").toStdString();
    constexpr int w = 47, h = 34; // one side odd: turned, the pattern begins elsewhere
    Image<std::uint16_t> codes(w, h, 1);
    for (int y = 0; y < h; ++y)
      for (int x = 0; x < w; ++x) codes.row(y)[x] = std::uint16_t(2000 + 60 * x + 90 * y + 400 * ((x & 1) + (y & 1)));
    writeMosaicDng(file, codes, 0, 0);
    TIFF* tiff = TIFFOpen(file.c_str(), "r+");
    QVERIFY(tiff);
    TIFFSetField(tiff, TIFFTAG_ORIENTATION, orientation);
    TIFFRewriteDirectory(tiff);
    TIFFClose(tiff);
    const auto raw = readRaw(file);
    QVERIFY2(raw.has_value(), raw ? "" : raw.error().message.c_str());
    const bool onItsSide = orientation == 6 || orientation == 8;
    QCOMPARE(raw->pixels.width(), onItsSide ? h : w);
    QCOMPARE(raw->pixels.height(), onItsSide ? w : h);
    for (int y = 0; y < raw->pixels.height(); ++y)
      for (int x = 0; x < raw->pixels.width(); ++x) {
        // Exif 2.32: 3 turned by half, 6 the row is the visual right side, 8 the visual left.
        const int u = orientation == 3   ? w - 1 - x
                      : orientation == 6 ? y
                      : orientation == 8 ? w - 1 - y
                                         : x,
                  v = orientation == 3   ? h - 1 - y
                      : orientation == 6 ? h - 1 - x
                      : orientation == 8 ? x
                                         : y;
        const int c = raw->pattern[std::size_t(2 * (y & 1) + (x & 1))];
        QCOMPARE(c, (u & 1) + (v & 1));
        const double light = (codes.row(v)[u] - 512) / double(15800 - 512) * raw->saturation[std::size_t(c)];
        const double expected = kPedestal + light * (65535 - kPedestal);
        const int found = *raw->pixels.at(x, y);
        QVERIFY2(std::abs(found - expected) <= 1,
                 qPrintable(QString("%1 %2: %3, not %4").arg(x).arg(y).arg(found).arg(expected)));
      }
  }

  /// An even grey stays even, to the last column; noise about black has a mean of nothing.
  void evenLightStaysEven() {
    for (const auto& [w, h] : {std::pair{16, 16}, {193, 65}, {200, 131}}) {
      Image<std::uint16_t> codes(w, h, 1);
      BayerMosaic m = described(codes);
      for (int y = 0; y < h; ++y)
        for (int x = 0; x < w; ++x)
          codes.row(y)[x] = std::uint16_t(
              std::lround(512 + 1200 / double(m.gain[std::size_t(m.colours[std::size_t(2 * (y & 1) + (x & 1))])])));
      m.codes = codes.view();
      const Image<std::uint16_t> out = demosaiced(m);
      for (std::size_t i = 0; i < out.size(); ++i)
        QVERIFY(std::abs(lightOf(out.data()[i]) - 1200.0 / (15800 - 512)) < 1e-4);
    }
    const Image<float> dark = [] {
      Image<float> d(256, 256, 3);
      d.fill(0.0002f);
      return d;
    }();
    const Image<std::uint16_t> codes = mosaicked(dark, 40000, 20, 0, 0, 9);
    const Image<std::uint16_t> out = demosaiced(described(codes));
    double sum = 0;
    for (std::size_t i = 1; i < out.size(); i += 3) sum += lightOf(out.data()[i]) / 0.55;
    QVERIFY2(std::abs(sum / (256 * 256) - 0.0002) < 0.00003, qPrintable(QString::number(sum / (256 * 256), 'g', 4)));
  }

  /// Rows whose amplifier read higher are told by photosites that no light reaches; where these say nothing but noise,
  /// next to nothing is changed.
  void rowsAreLevelledByMaskedPhotosites_data() {
    QTest::addColumn<double>("rowNoise");
    QTest::addColumn<int>("masked");
    QTest::newRow("stripes, 32 columns") << 6.0 << 32;
    QTest::newRow("stripes, 12 columns") << 6.0 << 12;
    QTest::newRow("no stripes") << 0.0 << 32;
    QTest::newRow("none masked") << 6.0 << 0;
    QTest::newRow("neither") << 0.0 << 0;
  }
  void rowsAreLevelledByMaskedPhotosites() {
    QFETCH(double, rowNoise);
    QFETCH(int, masked);
    const QTemporaryDir folder;
    const std::filesystem::path file = folder.filePath("m.dng").toStdString();
    constexpr int kWidth = 320, kHeight = 240;
    constexpr double kPhotosite = 4; // codes
    std::mt19937 random(7);
    std::normal_distribution<double> normal;
    Image<std::uint16_t> codes(kWidth + masked, kHeight, 1);
    std::vector<double> rows;
    for (int y = 0; y < kHeight; ++y) {
      rows.push_back(rowNoise * normal(random));
      for (int x = 0; x < codes.width(); ++x) {
        const bool hot = random() % 400 == 0;
        codes.row(y)[x] =
            std::uint16_t(std::lround(512 + (x < masked ? 0 : 300) + rows.back() + kPhotosite * normal(random)) +
                          (hot && x < masked ? 2000 : 0));
      }
    }
    writeMosaicDng(file, codes, masked & 1, 0, masked);
    const auto read = readRaw(file, 0);
    QVERIFY2(read, read ? "" : read.error().message.c_str());
    QCOMPARE(read->pixels.width(), kWidth);
    // What rows of the developed picture differ by, in codes of the file, and what the whole is off by.
    const auto stripesOf = [](const RawImage& image, bool onItsSide, double& off) {
      const Image<std::uint16_t> pixels = demosaiced(image);
      double sum = 0, squares = 0;
      for (int y = 0; y < kHeight; ++y) {
        double mean = 0;
        for (int x = 0; x < kWidth; ++x)
          mean += lightOf((onItsSide ? pixels.at(y, x) : pixels.at(x, y))[1]) / double(image.saturation[1]);
        mean = mean / kWidth * (15800 - 512) - 300;
        sum += mean, squares += mean * mean;
      }
      off = sum / kHeight;
      return std::sqrt(squares / kHeight - off * off);
    };
    double off = 0;
    const double stripes = stripesOf(*read, false, off);
    qInfo("rows differ by %.2f codes", stripes);
    QVERIFY2(std::abs(off) < 1, qPrintable(QString::number(off)));
    TIFF* tiff = TIFFOpen(file.c_str(), "r+");
    TIFFSetField(tiff, TIFFTAG_ORIENTATION, ORIENTATION_RIGHTTOP);
    TIFFRewriteDirectory(tiff);
    TIFFClose(tiff);
    const auto turned = readRaw(file, 0);
    QVERIFY(turned && turned->pixels.width() == kHeight);
    const double columns = stripesOf(*turned, true, off);
    QVERIFY2(std::abs(columns - stripes) < 0.1 && std::abs(off) < 1, qPrintable(QString::number(columns)));
    if (masked == 0)
      QVERIFY2(stripes > 0.6 * rowNoise, qPrintable(QString::number(stripes)));
    else if (rowNoise > 0) // the strip's own noise is left
      QVERIFY2(stripes < 1.3 * kPhotosite / std::sqrt(masked) + 0.1, qPrintable(QString::number(stripes)));
    else
      QVERIFY2(stripes < 0.4, qPrintable(QString::number(stripes)));
  }

  /// The pattern shifted by a photosite with the picture gives the picture shifted; light doubled gives light doubled.
  void shiftsAndExposuresChangeNothingElse() {
    const auto scenes = mosaicScenes(202, 134, 0.6);
    const Image<float>& truth = scenes[0].truth;
    const Image<std::uint16_t> all = mosaicked(truth, 0, 0, 0, 0, 1);
    const Image<std::uint16_t> whole = demosaiced(described(all));
    for (const auto& [dx, dy] : {std::pair{1, 0}, {0, 1}, {1, 1}}) {
      Image<std::uint16_t> part(200, 132, 1);
      for (int y = 0; y < 132; ++y) std::copy_n(all.row(y + dy) + dx, 200, part.row(y));
      const Image<std::uint16_t> shifted = demosaiced(described(part, dx, dy));
      for (int y = 12; y < 120; ++y)
        for (int x = 12; x < 188; ++x)
          for (int c = 0; c < 3; ++c)
            QVERIFY(std::abs(int(shifted.at(x, y)[c]) - int(whole.at(x + dx, y + dy)[c])) <= 1);
    }
    Image<float> half(truth.width(), truth.height(), 3);
    for (std::size_t i = 0; i < half.size(); ++i) half.data()[i] = truth.data()[i] / 2;
    const Image<std::uint16_t> halfCodes = mosaicked(half, 0, 0, 0, 0, 1);
    const Image<std::uint16_t> darker = demosaiced(described(halfCodes));
    double worst = 0, squares = 0;
    int atRims = 0;
    for (int y = 12; y < 120; ++y)
      for (int x = 12; x < 188; ++x)
        for (int c = 0; c < 3; ++c)
          if (const double light = lightOf(whole.at(x, y)[c]); light > 0.05 && light < 0.5) {
            const double off = 2 * lightOf(darker.at(x, y)[c]) / light - 1;
            if (nearFull(all, x, y))
              squares += off * off, ++atRims;
            else
              worst = std::max(worst, std::abs(off));
          }
    QVERIFY2(worst < 0.05, qPrintable(QString::number(worst)));
    QVERIFY(atRims > 1000);
    QVERIFY2(std::sqrt(squares / atRims) < 0.033, qPrintable(QString::number(std::sqrt(squares / atRims))));
  }

  /// Beside a lamp that clips no colour is made up: what is not full is as colourless as the wall. Nearest to it, where
  /// a merge listens to other frames, colours are made up at one photosite in seven at most (one in four before
  /// colours beside full ones were taken from their own side of the edge).
  void noColourComesOutOfAClippedNeighbour() {
    Image<float> wall(160, 120, 3);
    for (int y = 0; y < 120; ++y)
      for (int x = 0; x < 160; ++x) {
        const double r = std::hypot(x - 80.0, (y - 60.0) * 1.3), lamp = 6 / (1 + std::exp((r - 30) / 0.7));
        for (int c = 0; c < 3; ++c) wall.at(x, y)[c] = float((0.12 + lamp) * double(kCameraBalance[std::size_t(c)]));
      }
    const Image<std::uint16_t> codes = mosaicked(wall, 0, 0, 0, 0, 1);
    BayerMosaic m = described(codes);
    m.gain = {1, 0.55f, 0.55f / 0.7f};
    const Image<std::uint16_t> out = demosaiced(m);
    int looked = 0, coloured = 0, rim = 0, dashes = 0;
    for (int y = 8; y < 112; ++y)
      for (int x = 8; x < 152; ++x) {
        double v[3];
        for (int c = 0; c < 3; ++c) v[c] = lightOf(out.at(x, y)[c]);
        if (*codes.at(x, y) >= kFullCode) continue;
        const bool atRim = nearFull(codes, x, y);
        ++(atRim ? rim : looked);
        (atRim ? dashes : coloured) += std::max({v[0], v[1], v[2]}) > 1.25 * std::min({v[0], v[1], v[2]});
      }
    QVERIFY(looked > 5000);
    QVERIFY2(coloured == 0, qPrintable(QString("%1 of %2").arg(coloured).arg(looked)));
    QVERIFY(rim > 300);
    QVERIFY2(7 * dashes < rim, qPrintable(QString("%1 of %2").arg(dashes).arg(rim)));
  }

  /// Bars of a window before light that is full: as a display shows them (all that is brighter than the first full
  /// channel is white) they have no more colour than the truth has, but for a few places: one in 8 at most, of half of
  /// them one in 30 (a third to nine tenths before light was cut alike around what is full).
  void barsBeforeFullLightHaveNoColour_data() {
    QTest::addColumn<double>("width");
    QTest::addColumn<double>("pane");
    QTest::addColumn<int>("oneIn"); // places that may be coloured
    for (const double width : {1.0, 1.6, 2.5, 4.0})
      for (const double pane : {0.9, 1.5, 2.5})
        QTest::addRow("%.1f pixels before %.1f", width, pane)
            << width << pane << (width == 2.5 && pane == 2.5 ? 7 : 16);
  }
  void barsBeforeFullLightHaveNoColour() {
    QFETCH(double, width);
    QFETCH(double, pane);
    QFETCH(int, oneIn);
    constexpr int kSize = 128;
    constexpr double kBlur = 0.55, kEvery = 17.3; // pixels; every phase occurs
    const double wood[3] = {0.05, 0.042, 0.032};
    Image<float> window(kSize, kSize, 3);
    const auto open = [&](double at) { // share of light that passes beside the nearest bar
      const double from = std::abs(at - kEvery * std::round(at / kEvery));
      const auto step = [&](double d) { return 0.5 * std::erfc(-d / (kBlur * std::sqrt(2.0))); };
      return step(from - width / 2) + step(-from - width / 2);
    };
    for (int y = 0; y < kSize; ++y)
      for (int x = 0; x < kSize; ++x) {
        const double through = open(x + 0.37) * open(y + 0.11);
        for (int c = 0; c < 3; ++c)
          window.at(x, y)[c] =
              float((pane * through + wood[c] * (1 - through)) * double(kCameraBalance[std::size_t(c)]));
      }
    const Image<std::uint16_t> codes = mosaicked(window, 0, 0, 0, 0, 1);
    BayerMosaic m = described(codes);
    m.gain = {1, 0.55f, 0.55f / 0.7f};
    const Image<std::uint16_t> out = demosaiced(m);
    const double white = 0.55 * double(kFullPhotosite);
    int looked = 0, coloured = 0;
    for (int y = 8; y < kSize - 8; ++y)
      for (int x = 8; x < kSize - 8; ++x) {
        double v[3], truth[3];
        for (int c = 0; c < 3; ++c) {
          v[c] = std::min(white, lightOf(out.at(x, y)[c]));
          truth[c] = std::min(white, double(window.at(x, y)[c]) * 0.55 / double(kCameraBalance[std::size_t(c)]));
        }
        const auto colour = [](const double* of) {
          return std::max({of[0], of[1], of[2]}) / std::min({of[0], of[1], of[2]});
        };
        if (*std::min_element(truth, truth + 3) >= white) continue;
        ++looked;
        coloured += colour(v) > 1.35 * colour(truth);
      }
    QVERIFY(looked > 500);
    QVERIFY2(oneIn * coloured < looked, qPrintable(QString("%1 of %2").arg(coloured).arg(looked)));
  }

  void badLevelsAndPatternsAreNamed() {
    const QTemporaryDir folder;
    const std::filesystem::path file = folder.filePath("flat.dng").toStdString();
    Image<std::uint16_t> codes(64, 48, 1);
    codes.fill(700);
    writeMosaicDng(file, codes, 0, 0);
    const auto empty = readRaw(file);
    QVERIFY(!empty.has_value());
    QVERIFY(empty.error().message.find("flat.dng") != std::string::npos &&
            empty.error().message.find("all its pixels are the same") != std::string::npos);
    codes.row(3)[5] = 900;
    writeMosaicDng(file, codes, 1, 1);
    const auto whole = readRaw(file), half = readRaw(file, 32);
    QVERIFY(whole.has_value() && half.has_value());
    QCOMPARE(whole->pixels.width(), 64);
    QCOMPARE(half->pixels.width(), 32);
    QCOMPARE(half->black, whole->black);
    QVERIFY(std::abs(int(half->pixels.at(10, 10)[1]) - int(demosaiced(*whole).at(20, 20)[1])) <= 2);
  }
};

QTEST_GUILESS_MAIN(TestMosaic)
#include "test_mosaic.moc"
