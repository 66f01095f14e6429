// SPDX-License-Identifier: GPL-3.0-or-later
#include "capture/frame.h"
#include "image/bytes.h"
#include "image/colour.h"
#include "image/colour_difference.h"
#include "image/half.h"
#include "image/look_around.h"
#include "image/mend_light.h"
#include "image/metrics.h"
#include "image/resample.h"

#include <QTest>
#include <cmath>

using namespace ml;

class TestImage : public QObject {
  Q_OBJECT

private slots:
  /// Rounding to n codes has the variance of an even spread over one code, slope^2 / 12 (Widrow and Kollar,
  /// Quantization Noise, 2008, ch. 5), here by rounding light itself.
  void roundedCodesHaveTheNoiseOfRounding() {
    const CodeTable table = srgbTable(255);
    const NoiseModel noise = noiseOf(table, 1e9, 0);
    for (const double light : {0.02, 0.1, 0.3, 0.7}) {
      double squares = 0;
      constexpr int kDraws = 4001;
      for (int k = 0; k < kDraws; ++k) {
        const double x = light * (0.97 + 0.06 * k / (kDraws - 1));
        const double off = double(table.channel(1)[std::lround(255 * srgbEncode(x))]) - x;
        squares += off * off / kDraws;
      }
      const double ratio = noise.variance(light) / squares; // affine, so only near
      QVERIFY2(ratio > 0.4 && ratio < 2.5, qPrintable(QString("%1 at %2").arg(ratio).arg(light)));
    }
  }

  // IEC 61966-2-1:1999, the transfer function evaluated by hand at both branches and their border.
  void srgb_data() {
    QTest::addColumn<double>("linear");
    QTest::addColumn<double>("encoded");
    QTest::newRow("black") << 0.0 << 0.0;
    QTest::newRow("linear branch") << 0.001 << 0.01292;
    QTest::newRow("border") << 0.0031308 << 0.0404499;
    QTest::newRow("mid-grey") << 0.18 << 0.461356;
    QTest::newRow("half") << 0.5 << 0.735357;
    QTest::newRow("white") << 1.0 << 1.0;
  }
  void srgb() {
    QFETCH(double, linear);
    QFETCH(double, encoded);
    QVERIFY(std::abs(srgbEncode(linear) - encoded) < 1e-6);
    QVERIFY(std::abs(srgbDecode(srgbEncode(linear)) - linear) < 1e-7);
    QCOMPARE(srgbEncode(-linear), -srgbEncode(linear));
  }
  void eightBitCodesRoundTrip() {
    for (int code = 0; code < 256; ++code) QCOMPARE(int(std::lround(srgbEncode(srgbDecode(code / 255.0)) * 255)), code);
  }

  // IEC 61966-2-1: white of equal parts is D65, X 0.9505, Y 1, Z 1.0890 (rounded matrix).
  void everyDeepCodeBecomesItsNearestByte() {
    Image<std::uint16_t> codes(256, 256, 3);
    for (std::size_t i = 0; i < codes.size(); ++i) codes.data()[i] = std::uint16_t(i / 3);
    const Image<std::uint8_t> bytes = bytesOf(std::as_const(codes).view());
    for (std::size_t i = 0; i < codes.size(); ++i)
      QCOMPARE(int(bytes.data()[i]), int(std::lround(codes.data()[i] / 257.0)));
  }

  void whiteIsD65() {
    const auto xyz = ml::apply(kRec709ToXyz, {1, 1, 1});
    QVERIFY(std::abs(xyz[0] - 0.9505) < 1e-9);
    QVERIFY(std::abs(xyz[1] - 1.0) < 1e-9);
    QVERIFY(std::abs(xyz[2] - 1.0890) < 1e-9);
  }
  void inverseUndoes() {
    const Matrix3 product = multiply(kRec709ToXyz, inverse(kRec709ToXyz));
    for (int i = 0; i < 9; ++i) QVERIFY(std::abs(product[i] - kIdentity3[i]) < 1e-12);
  }

  void shrinkKeepsTheMean() {
    Image<float> image(37, 23, 2);
    for (std::size_t i = 0; i < image.size(); ++i) image.data()[i] = float((i * 7919) % 101);
    const Image<float> small = shrinkTo(image.view(), 10, 7);
    const auto mean = [](const Image<float>& m, int c) {
      double sum = 0;
      for (std::size_t i = c; i < m.size(); i += 2) sum += m.data()[i];
      return sum / (double(m.size()) / 2);
    };
    for (int c = 0; c < 2; ++c) QVERIFY(std::abs(mean(image, c) - mean(small, c)) < 1e-3);
    const Image<float> same = shrinkTo(image.view(), 37, 23);
    for (std::size_t i = 0; i < image.size(); ++i) QVERIFY(std::abs(same.data()[i] - image.data()[i]) < 1e-3);
  }

  void cubicWeightsReproduceQuadratics() { // Keys, IEEE TASSP 29, 1981: third-order accuracy
    for (const float f : {0.f, 0.25f, 0.6f, 0.99f}) {
      float w[4];
      cubicWeights(f, w);
      const auto quadratic = [](float x) { return 2 + 3 * x - 0.7f * x * x; };
      float sum = 0;
      for (int i = 0; i < 4; ++i) sum += w[i] * quadratic(float(i - 1));
      QVERIFY(std::abs(sum - quadratic(f)) < 1e-5f);
    }
  }

  void logErrorIgnoresOneScale() {
    Image<float> a(8, 8, 3), b(8, 8, 3);
    for (std::size_t i = 0; i < a.size(); ++i) {
      a.data()[i] = 1 + float(i);
      b.data()[i] = 5 * a.data()[i];
    }
    QVERIFY(logRadianceError(a.view(), b.view(), 0) < 1e-6);
    for (std::size_t i = 0; i < b.size(); i += 2) b.data()[i] *= 2; // half the samples a stop up: RMS is half a stop
    QVERIFY(std::abs(logRadianceError(a.view(), b.view(), 0) - 0.5) < 1e-6);
  }

  // IEEE 754-2008, table 3.5: binary16 has 5 bits of exponent (bias 15) and 10 of fraction.
  void halvesAreWhatTheStandardSays() {
    std::vector<std::uint16_t> codes;
    for (int code = 0; code < 65536; ++code)
      if ((code >> 10 & 31) != 31) codes.push_back(std::uint16_t(code));
    std::vector<float> light(codes.size());
    std::vector<std::uint16_t> back(codes.size());
    fromHalf(codes.data(), int(codes.size()), light.data());
    toHalf(light.data(), int(codes.size()), back.data());
    for (std::size_t i = 0; i < codes.size(); ++i) {
      const int exponent = codes[i] >> 10 & 31, fraction = codes[i] & 1023;
      const double value = exponent ? std::ldexp(1024 + fraction, exponent - 25) : std::ldexp(fraction, -24);
      QCOMPARE(double(light[i]), codes[i] & 0x8000 ? -value : value);
      QCOMPARE(back[i], codes[i]);
    }
    const float between[4] = {1 + 0.49f / 1024, 1 + 0.51f / 1024, 1e9f, -1e-9f};
    std::uint16_t nearest[4];
    toHalf(between, 4, nearest);
    QCOMPARE(nearest[0], std::uint16_t(0x3c00));
    QCOMPARE(nearest[1], std::uint16_t(0x3c01));
    QCOMPARE(nearest[2], std::uint16_t(0x7bff)); // the largest
    QCOMPARE(nearest[3], std::uint16_t(0x8000));
  }

  // CIE 15:2004 with the white of IEC 61966-2-1; the primaries' values are those of many tables (from memory).
  void primariesInLab() {
    const struct {
      float rgb[3];
      double lab[3];
    } known[] = {{{1, 0, 0}, {53.24, 80.09, 67.20}},
                 {{0, 1, 0}, {87.73, -86.18, 83.18}},
                 {{0, 0, 1}, {32.30, 79.19, -107.86}},
                 {{1, 1, 1}, {100, 0, 0}},
                 {{0.18f, 0.18f, 0.18f}, {49.50, 0, 0}}};
    for (const auto& k : known) {
      const auto lab = labOf(k.rgb);
      for (std::size_t c = 0; c < 3; ++c)
        QVERIFY2(std::abs(lab[c] - k.lab[c]) < 0.05, qPrintable(QString("%1 for %2").arg(lab[c]).arg(k.lab[c])));
    }
  }

  /// A sphere whose red says the longitude and whose green the latitude: what is looked at stands in the middle, and
  /// the edges lie half the angle of view beside it.
  void aLookIntoASphereIsStraight() {
    constexpr int kWidth = 1440, kHeight = 720;
    Image<std::uint8_t> sphere(kWidth, kHeight, 3);
    for (int y = 0; y < kHeight; ++y)
      for (int x = 0; x < kWidth; ++x) {
        sphere.at(x, y)[0] = std::uint8_t(std::lround(255 * (x + 0.5) / kWidth));
        sphere.at(x, y)[1] = std::uint8_t(std::lround(255 * (y + 0.5) / kHeight));
        sphere.at(x, y)[2] = 0;
      }
    const auto longitude = [](const std::uint8_t* p) { return p[0] / 255.0 * 360 - 180; };
    const auto latitude = [](const std::uint8_t* p) { return 90 - p[1] / 255.0 * 180; };
    for (const double pitch : {0.0, 35.0, -50.0}) {
      const auto seen = lookInto(std::as_const(sphere).view(), {40, pitch, 60}, 301, 301);
      QVERIFY(std::abs(longitude(seen.at(150, 150)) - 40) < 1.5);
      QVERIFY(std::abs(latitude(seen.at(150, 150)) - pitch) < 1);
      QVERIFY(std::abs(latitude(seen.at(150, 0)) - pitch - 30) < 1);
      QVERIFY(std::abs(latitude(seen.at(150, 300)) - pitch + 30) < 1);
      if (pitch != 0) continue;
      QVERIFY(std::abs(longitude(seen.at(0, 150)) - 10) < 1.5);
      QVERIFY(std::abs(longitude(seen.at(300, 150)) - 70) < 1.5);
    }
  }

  void infiniteLightIsTheBrightestOfItsChannel() {
    Image<float> light(3, 1, 3);
    const float given[9] = {2, 7, 1, INFINITY, INFINITY, INFINITY, 5, 3, 4};
    std::copy_n(given, 9, light.data());
    QCOMPARE(mendLight(light), std::size_t(3));
    QCOMPARE(light.at(1, 0)[0], 5.f);
    QCOMPARE(light.at(1, 0)[1], 7.f);
    QCOMPARE(light.at(1, 0)[2], 4.f);
  }

  /// RGGB: a photosite's own colour is its own code, the others are means of those that touch it, at edges as well.
  void colourOfAPhotosite() {
    Image<std::uint16_t> sites(4, 4, 1);
    for (int i = 0; i < 16; ++i) sites.data()[i] = std::uint16_t(100 * (i + 1) + i * i);
    std::vector<float> same(4096);
    for (std::size_t i = 0; i < same.size(); ++i) same[i] = float(i);
    const auto code = [&](int x, int y) { return float(*sites.at(x, y)); };
    const float green = (code(1, 2) + code(3, 2) + code(2, 1) + code(2, 3)) / 4,
                blue = (code(1, 1) + code(3, 1) + code(1, 3) + code(3, 3)) / 4;
    const float corner[3] = {code(0, 0), (code(1, 0) + code(0, 1)) / 2, code(1, 1)},
                inner[3] = {code(2, 2), green, blue};
    Frame frame;
    frame.codes = Codes(std::move(sites));
    frame.table = CodeTable(std::move(same));
    frame.pattern = {0, 1, 1, 2};
    float rgb[3];
    frame.linearAt(0, 0, rgb);
    for (int c = 0; c < 3; ++c) QCOMPARE(rgb[c], corner[c]);
    frame.linearAt(2, 2, rgb);
    for (int c = 0; c < 3; ++c) QCOMPARE(rgb[c], inner[c]);
  }

  void equalExposuresKeepTheOrderOfTheirNames() {
    BracketSet set;
    for (const auto& [name, seconds] : {std::pair{"b", 0.5}, {"c", 0.1}, {"a", 0.5}}) {
      Frame frame;
      frame.path = name;
      frame.settings.time = Seconds{seconds};
      set.frames.push_back(std::move(frame));
    }
    set.sortByExposure();
    QCOMPARE(set.frames[0].path + set.frames[1].path + set.frames[2].path, std::string("cab"));
  }

  void quantiles() {
    std::vector<float> values;
    for (int i = 0; i <= 100; ++i) values.push_back(float(100 - i));
    QCOMPARE(quantile(values.data(), values.size(), 0), 0.f);
    QCOMPARE(quantile(values.data(), values.size(), 0.25), 25.f);
    QCOMPARE(quantile(values.data(), values.size(), 1), 100.f);
  }
};

QTEST_GUILESS_MAIN(TestImage)
#include "test_image.moc"
