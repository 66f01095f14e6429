// SPDX-License-Identifier: GPL-3.0-or-later
#include <QTest>

#include "image/colour.h"
#include "image/fast_math.h"
#include "support/scenes.h"
#include "tone/base_layer.h"
#include "tone/natural.h"

#include <cmath>
#include <random>

using namespace ml;

namespace {

Image<float> noisy(double light, double relative, int size, unsigned seed) {
  Image<float> out(size, size, 3);
  std::mt19937 random(seed);
  std::normal_distribution<float> normal;
  for (std::size_t i = 0; i < out.size(); i += 3) {
    const float v = float(light * (1 + relative * normal(random)));
    out.data()[i] = out.data()[i + 1] = out.data()[i + 2] = v;
  }
  return out;
}

double shareOf(const LightHistogram& h) {
  double sum = 0;
  for (const float s : h.share) sum += s;
  return sum;
}

} // namespace

class TestOperators : public QObject {
  Q_OBJECT

private slots:
  void fastMathIsCloseEnough() {
    for (double x = 1e-12; x < 1e12; x *= 1.0137)
      QVERIFY(std::abs(fastLog2(float(x)) - std::log2(double(float(x)))) <
              4e-7 * std::max(1.0, std::abs(std::log2(x))));
    for (double x = -59; x < 59; x += 0.0317)
      QVERIFY(std::abs(fastExp2(float(x)) / std::exp2(double(float(x))) - 1) < 4e-7 * std::max(1.0, std::abs(x)));
    for (int i = 0; i <= 65535; ++i) QVERIFY(std::abs(fastSrgbCode(float(srgbDecode(i / 65535.0))) - i) < 0.25);
    for (int i = -720; i <= 720; ++i)
      for (const double size : {1e-6, 1.0, 3e5}) {
        const auto x = float(size * std::cos(i * 0.00436)), y = float(size * std::sin(i * 0.00436));
        QVERIFY(std::abs(fastAtan2(y, x) - std::atan2(y, x)) < 2e-5);
      }
    QCOMPARE(fastAtan2(0, 0), 0.f);
    QVERIFY(heldExp2(1e9f) < 2e18f);
  }

  // Reinhard et al., SIGGRAPH 2002: eq. 2 (key over log average) and eq. 4, worked by hand.
  void reinhardFollowsItsEquation() {
    const LightStatistics s{0.5, 20};
    const double l = 3 * 0.18 / 0.5, white = 20 * 0.18 / 0.5;
    QVERIFY(std::abs(toneReinhard(3, s) - l * (1 + l / (white * white)) / (1 + l)) < 1e-12);
    QVERIFY(std::abs(toneReinhard(20, s) - 1) < 1e-12); // "the smallest luminance that will be mapped to pure white"
  }

  // Drago et al. 2003, eq. 4, written out with its own symbols.
  void dragoFollowsItsEquation() {
    const LightStatistics s{2, 400};
    const double Lw = 30 / 2.0, Lwmax = 400 / 2.0, b = 0.85, Ldmax = 100;
    const double expected = Ldmax * 0.01 / std::log10(Lwmax + 1) * std::log(Lw + 1) /
                            std::log(2 + 8 * std::pow(Lw / Lwmax, std::log(b) / std::log(0.5)));
    QVERIFY(std::abs(toneDrago(30, s) - expected) < 1e-12);
    QVERIFY(std::abs(toneDrago(400, s) - 1) < 1e-9); // ln(x) / (log10(x) ln(10)) = 1
  }

  // Durand and Dorsey 2002, section 6.1: the base's contrast becomes 5, an edge keeps its order, flat parts stay flat.
  void durandCompressesTheBase() {
    QVERIFY(std::abs(durandCompression(-2, 2) * 4 - std::log10(5.0)) < 1e-5);
    QVERIFY(std::abs(durandCompression(0, 0.3) - 1) < 1e-12); // nothing to compress
    Image<float> step(120, 80, 1);
    for (int y = 0; y < 80; ++y)
      for (int x = 0; x < 120; ++x) step.row(y)[x] = x < 60 ? 0.f : 5.f;
    const Image<float> smooth = bilateral(step, 3, 0.4 / std::log10(2.0));
    for (int y = 0; y < 80; ++y)
      for (int x = 0; x < 120; ++x)
        QVERIFY(std::abs(smooth.row(y)[x] - step.row(y)[x]) < 0.02); // a bilateral filter keeps a strong edge
  }

  // The same bilateral filter by its definition (Tomasi and Manduchi 1998), at a few places.
  void bilateralFollowsItsDefinition() {
    Image<float> in(48, 40, 1);
    std::mt19937 random(4);
    std::uniform_real_distribution<float> uniform(0, 3);
    for (std::size_t i = 0; i < in.size(); ++i) in.data()[i] = uniform(random);
    const double space = 2, range = 1.3;
    const Image<float> found = bilateral(in, space, range);
    for (const auto& [x, y] : {std::pair{20, 20}, {24, 15}, {30, 25}}) {
      double sum = 0, weights = 0;
      for (int v = -8; v <= 8; ++v)
        for (int u = -8; u <= 8; ++u) {
          const double d = in.row(y + v)[x + u] - in.row(y)[x],
                       w = std::exp(-0.5 * (u * u + v * v) / (space * space) - 0.5 * d * d / (range * range));
          sum += w * in.row(y + v)[x + u], weights += w;
        }
      QVERIFY2(std::abs(found.row(y)[x] - sum / weights) < 0.03,
               qPrintable(QString("%1 %2").arg(found.row(y)[x]).arg(sum / weights)));
    }
  }

  void publishedOperatorsAreAppliedAsTheyAre() {
    const Image<float> scene = test::texturedScene(200, 140, 10);
    const ToneAnalysis a = analyseTone(scene.view());
    ToneSettings s;
    s.op = ToneOperator::Reinhard;
    const auto out = toneNatural(scene.view(), a, s, {});
    for (const auto& [x, y] : {std::pair{13, 20}, {150, 100}, {77, 70}}) {
      const double expected = toneReinhard(luminance(scene.at(x, y)), a.statistics), found = luminance(out->at(x, y));
      QVERIFY2(std::abs(found - expected) < 0.004, qPrintable(QString("%1 %2").arg(found).arg(expected)));
    }
  }

  void pullsLandWhereTheyAreAsked() {
    const Image<float> scene = test::texturedScene(300, 220, 12);
    const ToneAnalysis a = analyseTone(scene.view());
    ToneSettings s;
    const double dark = a.histogram.below(0.1), bright = a.histogram.below(0.9);
    const ToneCurve before(placedTies(a, s));
    s.pulls = {{bright, -1.0}, {dark, -4.2}};
    const ToneCurve after(placedTies(a, s));
    QVERIFY(std::abs(after(bright) + 1.0) < 0.02);
    QVERIFY(std::abs(after(dark) + 4.2) < 0.02);
    for (double x = a.darkest - 2; x < a.brightest + 2; x += 0.05) QVERIFY(after(x + 0.05) > after(x));
    // What lies far away stays.
    QVERIFY(std::abs(after(dark - 12) - before(dark - 12) - (after(dark - 11.9) - before(dark - 11.9))) < 0.02);
  }

  void pullsNeverTurnTheCurveAround() {
    std::vector<Tie> ties;
    for (int i = 0; i < 12; ++i) ties.push_back({double(i), -7.0 + 0.55 * i});
    const ToneCurve curve(pulled(ties, {{3, -0.5}, {8, -6}})); // asks for bright shadows and dark highlights
    for (double x = -3; x < 15; x += 0.01) QVERIFY(curve(x + 0.01) >= curve(x) - 1e-9);
  }

  void noiseIsMeasuredFromThePicture_data() {
    QTest::addColumn<double>("relative");
    for (const double r : {0.01, 0.05, 0.15}) QTest::addRow("%.2f", r) << r;
  }
  void noiseIsMeasuredFromThePicture() {
    QFETCH(double, relative);
    const NoiseByLight n = measureNoise(noisy(0.75, relative, 400, 7).view());
    QVERIFY2(std::abs(n.at(std::log2(0.75)) / relative - 1) < 0.15, qPrintable(QString::number(n.at(std::log2(0.75)))));
  }

  void noiseIsHeldBackInTheShadows() {
    const Image<float> dark = noisy(0.001, 0.25, 300, 3);
    Image<float> scene(600, 300, 3);
    for (int y = 0; y < 300; ++y)
      for (int x = 0; x < 600; ++x)
        for (int c = 0; c < 3; ++c) scene.at(x, y)[c] = x < 300 ? dark.at(x, y)[c] : 4.f;
    const ToneAnalysis a = analyseTone(scene.view());
    const auto spread = [&](double quiet) {
      ToneSettings s;
      s.quiet = quiet;
      const auto out = toneNatural(scene.view(), a, s, {});
      double sum = 0, squares = 0, n = 0;
      for (int y = 50; y < 250; ++y)
        for (int x = 50; x < 250; ++x) {
          const double v = std::log2(std::max(1e-6f, luminance(out->at(x, y))));
          sum += v, squares += v * v, ++n;
        }
      return std::sqrt(squares / n - sum * sum / n / n);
    };
    QVERIFY(spread(1) < 0.6 * spread(0));
  }

  void veilGoesWithoutLinesAtFrames() {
    // A hazy view behind a dark window frame: light added to everything outside.
    Image<float> scene(500, 340, 3);
    for (int y = 0; y < 340; ++y)
      for (int x = 0; x < 500; ++x) {
        const bool outside = x > 120 && x < 380 && y > 60 && y < 280;
        const float texture = 0.3f + 0.2f * float(std::sin(x * 0.15) * std::sin(y * 0.12));
        for (int c = 0; c < 3; ++c) scene.at(x, y)[c] = outside ? texture + 0.6f : 0.02f;
      }
    const ToneAnalysis a = analyseTone(scene.view());
    ToneSettings s;
    s.veil = 0.7;
    const auto out = toneNatural(scene.view(), a, s, {}), plain = toneNatural(scene.view(), a, {}, {});
    const auto contrast = [](const Image<float>& p) {
      float low = 1e9f, high = 0;
      for (int x = 160; x < 340; ++x) low = std::min(low, p.at(x, 170)[1]), high = std::max(high, p.at(x, 170)[1]);
      return std::log2(high / low);
    };
    QVERIFY2(contrast(*out) > 1.3 * contrast(*plain),
             qPrintable(QString("%1 %2").arg(contrast(*out)).arg(contrast(*plain))));
    // Along the frame the wall and the view change no more than far from it.
    for (int y = 100; y < 240; y += 10) {
      const double nearWall = std::log2(out->at(117, y)[1] / plain->at(117, y)[1]),
                   farWall = std::log2(out->at(40, y)[1] / plain->at(40, y)[1]);
      QVERIFY2(std::abs(nearWall - farWall) < 0.25, qPrintable(QString("%1: %2 %3").arg(y).arg(nearWall).arg(farWall)));
    }
  }

  void kindsAreTold() {
    const auto histogram = [](std::initializer_list<std::pair<double, double>> peaks) {
      LightHistogram h;
      h.start = -10;
      h.share.assign(80, 0.f);
      for (std::size_t i = 0; i < h.share.size(); ++i)
        for (const auto& [at, share] : peaks)
          h.share[i] += float(share * std::exp(-std::pow(h.start + double(i) * LightHistogram::kStep - at, 2)));
      const double sum = shareOf(h);
      for (float& s : h.share) s /= float(sum);
      return h;
    };
    const auto room = histogram({{-4, 0.85}, {2, 0.15}});
    QCOMPARE(kindOf(room, NAN, 0.0), SceneKind::Interior);
    QCOMPARE(kindOf(room, NAN, 0.9), SceneKind::Landscape);
    QCOMPARE(kindOf(histogram({{0, 1}}), 10, 0.2), SceneKind::Landscape);
    QCOMPARE(kindOf(histogram({{0, 1}}), 1, 0.2), SceneKind::Twilight);
    QCOMPARE(kindOf(histogram({{-6, 0.985}, {3, 0.015}}), -1, 0.0), SceneKind::NightLights);
  }
};

QTEST_GUILESS_MAIN(TestOperators)
#include "test_operators.moc"
