// SPDX-License-Identifier: GPL-3.0-or-later
// Colour of raw files with two illuminants (DNG specification 1.4, chapter 6), against published white points, a
// published matrix, and a file written by libtiff.
#include "ingest/load_frame.h"
#include "mosaic/dng_colour.h"
#include "mosaic/scenes.h"

#include <QTemporaryDir>
#include <QTest>
#include <cmath>
#include <tiffio.h>

using namespace ml;

namespace {

using Triple = std::array<double, 3>;

constexpr Triple kWhiteOfA{1.09850, 1, 0.35585}, kWhiteOfD50{0.96422, 1, 0.82521},
    kWhiteOfD65{0.95047, 1, 1.08883}; ///< ASTM E308, 2 degrees.
constexpr Matrix3 kCamera{0.62, 0.21, -0.08, -0.35, 1.21, 0.16, -0.04, 0.18, 0.71};

bool near(const Triple& a, const Triple& b, double within) {
  for (std::size_t c = 0; c < 3; ++c)
    if (std::abs(a[c] - b[c]) > within) return false;
  return true;
}
QByteArray said(const Triple& a, const Triple& b) {
  return QString("%1 %2 %3, not %4 %5 %6").arg(a[0]).arg(a[1]).arg(a[2]).arg(b[0]).arg(b[1]).arg(b[2]).toUtf8();
}

/// What the balanced camera shows of a surface, as Rec. 709.
Triple shown(const Matrix3& toRec709, const Triple& camera, const Triple& neutral) {
  return ml::apply(toRec709, {camera[0] / neutral[0], camera[1] / neutral[1], camera[2] / neutral[2]});
}

} // namespace

class TestDngColour : public QObject {
  Q_OBJECT
private slots:
  /// Illuminants A and D65 (CIE 15:2004), and the range of the formula.
  void temperatures() {
    QVERIFY(std::abs(temperatureOf(0.44757, 0.40745) - 2856) < 5);
    QVERIFY(std::abs(temperatureOf(0.31272, 0.32903) - 6504) < 10);
    QVERIFY(std::abs(temperatureOf(0.34567, 0.35850) - 5003) < 10);
    QCOMPARE(*temperatureOf(17), 2856.0);
    QCOMPARE(*temperatureOf(21), 6504.0);
    QVERIFY(!temperatureOf(0) && !temperatureOf(255));
  }

  /// A camera that sees as the eye does needs only the adaptation: under D50, the matrix from XYZ of D50 to sRGB that
  /// Lindbloom publishes (Bradford's adaptation).
  void eyeLikeCameraUnderD50() {
    constexpr Matrix3 kPublished{3.1338561, -1.6168667, -0.4906146, -0.9787684, 1.9161415,
                                 0.0334540, 0.0719453,  -0.2289914, 1.4052427};
    const Triple neutral = ml::apply(kCamera, kWhiteOfD50);
    const auto found =
        balancedToRec709({{{17, kCamera, {}, kIdentity3}, {21, kCamera, {}, kIdentity3}}}, {1, 1, 1}, neutral);
    QVERIFY(found.has_value());
    for (const Triple& patch : {Triple{0.2, 0.12, 0.05}, Triple{0.1, 0.2, 0.08}, Triple{0.12, 0.1, 0.3}, kWhiteOfD50}) {
      const Triple is = shown(*found, ml::apply(kCamera, patch), neutral), was = ml::apply(kPublished, patch);
      QVERIFY2(near(is, was, 0.003), said(is, was));
    }
  }

  /// Half way between two illuminants in the inverse of temperature, half way between their matrices; at them and
  /// beyond, theirs.
  void betweenTwoLights_data() {
    QTest::addColumn<int>("way");
    QTest::newRow("colour matrices") << 0;
    QTest::newRow("forward matrices") << 1;
  }
  void betweenTwoLights() {
    QFETCH(int, way);
    Matrix3 other = kCamera;
    other[0] += 0.12, other[4] -= 0.1, other[8] += 0.2;
    const Matrix3 forwardA{0.60, 0.25, 0.1142, 0.28, 0.72, 0.0, 0.02, 0.03, 0.7749},
        forwardB{0.50, 0.33, 0.1342, 0.22, 0.80, -0.02, 0.01, 0.06, 0.7549};
    std::array<IlluminantColour, 2> lights{{{17, kCamera, {}, kIdentity3}, {21, other, {}, kIdentity3}}};
    if (way == 1) lights[0].forward = forwardA, lights[1].forward = forwardB;
    const double kelvin = 1 / (0.5 / 2856 + 0.5 / 6504); // 3969 K
    // A chromaticity of about that temperature on the locus (Kim et al., the cubic of most handbooks; from memory).
    const double t = 1e3 / kelvin, x = -0.2661239 * t * t * t - 0.2343589 * t * t + 0.8776956 * t + 0.179910,
                 y = -0.9549476 * x * x * x - 1.37418593 * x * x + 2.09137015 * x - 0.16748867;
    const Triple white{x / y, 1, (1 - x - y) / y};
    Matrix3 middle{};
    for (std::size_t i = 0; i < 9; ++i) middle[i] = (kCamera[i] + other[i]) / 2;
    const Triple neutral = ml::apply(middle, white);
    const auto between = balancedToRec709(lights, {1, 1, 1}, neutral);
    std::array<IlluminantColour, 2> same = lights;
    same[0].fromXyz = same[1].fromXyz = middle;
    if (way == 1)
      for (std::size_t i = 0; i < 9; ++i)
        (*same[0].forward)[i] = (*same[1].forward)[i] = (forwardA[i] + forwardB[i]) / 2;
    const auto expected = balancedToRec709(same, {1, 1, 1}, neutral);
    QVERIFY(between && expected);
    for (std::size_t i = 0; i < 9; ++i)
      QVERIFY2(std::abs((*between)[i] - (*expected)[i]) < 0.01, qPrintable(QString::number(i)));
    // Warmer than the warmest: the warmest's own.
    const Triple candle = ml::apply(kCamera, {1.25, 1, 0.12});
    same[0].fromXyz = same[1].fromXyz = kCamera;
    if (way == 1) same[0].forward = same[1].forward = forwardA;
    const auto warm = balancedToRec709(lights, {1, 1, 1}, candle), alone = balancedToRec709(same, {1, 1, 1}, candle);
    QVERIFY(warm && alone);
    for (std::size_t i = 0; i < 9; ++i) QVERIFY(std::abs((*warm)[i] - (*alone)[i]) < 1e-9);
  }

  /// White stays white, and what says nothing is refused.
  void whiteAndNonsense() {
    const std::array<IlluminantColour, 2> lights{{{17, kCamera, {}, kIdentity3}, {21, kCamera, {}, kIdentity3}}};
    const auto found = balancedToRec709(lights, {1, 1, 1}, ml::apply(kCamera, kWhiteOfA));
    QVERIFY(found.has_value());
    QVERIFY(near(ml::apply(*found, {1, 1, 1}), {1, 1, 1}, 1e-9));
    auto unknown = lights;
    unknown[1].illuminant = 255;
    QVERIFY(!balancedToRec709(unknown, {1, 1, 1}, kWhiteOfD65));
    auto flat = lights;
    flat[0].fromXyz = flat[1].fromXyz = {1, 1, 1, 1, 1, 1, 1, 1, 1};
    QVERIFY(!balancedToRec709(flat, {1, 1, 1}, kWhiteOfD65));
    QVERIFY(!balancedToRec709(lights, {1, 1, 1}, {0, 1, 1}));
    QVERIFY(!balancedToRec709(lights, {0, 1, 1}, kWhiteOfD65));
  }

  /// Of a file: the same camera with and without a second matrix, which lamp light is read by.
  void aFileWithTwoIlluminants() {
    QTemporaryDir dir;
    Image<float> grey(64, 64, 3);
    for (std::size_t i = 0; i < grey.size(); ++i) grey.data()[i] = 0.5f * test::kCameraBalance[i % 3];
    const auto codes = test::mosaicked(grey, 0, 0, 0, 0, 1);
    const std::filesystem::path one = dir.filePath("one.dng").toStdString(),
                                two = dir.filePath("two.dng").toStdString();
    test::writeMosaicDng(one, codes, 0, 0);
    test::writeMosaicDng(two, codes, 0, 0);
    TIFF* tiff = TIFFOpen(two.c_str(), "r+");
    QVERIFY(tiff);
    float matrix[9];
    for (std::size_t i = 0; i < 9; ++i) matrix[i] = float(kCamera[i]);
    TIFFSetField(tiff, TIFFTAG_CALIBRATIONILLUMINANT1, 21);
    TIFFSetField(tiff, TIFFTAG_COLORMATRIX1, 9, matrix);
    TIFFSetField(tiff, TIFFTAG_CALIBRATIONILLUMINANT2, 17);
    matrix[0] += 0.15f, matrix[8] += 0.1f;
    TIFFSetField(tiff, TIFFTAG_COLORMATRIX2, 9, matrix);
    TIFFRewriteDirectory(tiff);
    TIFFClose(tiff);
    const auto plain = loadFrame(one, Unsaid::Allowed), both = loadFrame(two, Unsaid::Allowed);
    QVERIFY(plain && both);
    Matrix3 second = kCamera;
    second[0] += 0.15, second[8] += 0.1;
    const Triple neutral{test::kCameraBalance[0], test::kCameraBalance[1], test::kCameraBalance[2]};
    const auto expected =
        balancedToRec709({{{21, kCamera, {}, kIdentity3}, {17, second, {}, kIdentity3}}}, {1, 1, 1}, neutral);
    QVERIFY(expected.has_value());
    double apart = 0;
    for (std::size_t i = 0; i < 9; ++i) {
      QVERIFY2(std::abs(both->toRec709[i] - (*expected)[i]) < 1e-3, qPrintable(QString::number(both->toRec709[i])));
      apart = std::max(apart, std::abs(both->toRec709[i] - plain->toRec709[i]));
    }
    QVERIFY(apart > 0.05);
  }
};

QTEST_GUILESS_MAIN(TestDngColour)
#include "test_dng_colour.moc"
