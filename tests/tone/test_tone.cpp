// SPDX-License-Identifier: GPL-3.0-or-later
#include "base/parallel.h"
#include "finish/finish.h"
#include "image/colour.h"
#include "image/resample.h"
#include "support/scenes.h"
#include "tone/base_layer.h"
#include "tone/natural.h"

#include <QTest>
#include <cmath>
#include <random>

using namespace ml;

namespace {

/// A bright window in a dark wall: two flat fields `stops` apart, the border one pixel wide.
Image<float> windowInWall(double stops) {
  Image<float> scene(600, 400, 3);
  for (int y = 0; y < 400; ++y)
    for (int x = 0; x < 600; ++x) {
      const bool window = x > 220 && x < 420 && y > 110 && y < 290;
      for (int c = 0; c < 3; ++c) scene.at(x, y)[c] = float(window ? std::exp2(stops) : 1.0) * 0.01f;
    }
  return scene;
}

Image<float> toned(const Image<float>& scene, ToneSettings settings = {}) {
  return std::move(*toneNatural(scene.view(), analyseTone(scene.view()), settings, {}));
}

} // namespace

class TestTone : public QObject {
  Q_OBJECT

private slots:
  // CIE 15:2004, 8.2.1: both branches of lightness and where they meet.
  void lightnessIsThatOfTheStandard() {
    for (const auto& [light, lightness] :
         {std::pair{1.0, 100.0}, {0.5, 76.069}, {0.18, 49.496}, {0.01, 8.991}, {216.0 / 24389, 8.0}, {0.004, 3.613}}) {
      QVERIFY2(std::abs(lightnessOf(std::log2(light)) - lightness) < 0.001, qPrintable(QString::number(light)));
      QVERIFY(std::abs(paperOf(lightness) - std::log2(light)) < 0.001);
    }
  }

  /// The shoulder is straight below 0.6, its slope goes on there, it never reaches white, and it is undone.
  void theShoulderIsSmoothAndUndone() {
    QCOMPARE(shouldered(0.6), 0.6);
    QCOMPARE(shouldered(0.3), 0.3);
    QVERIFY(std::abs((shouldered(0.6 + 1e-6) - 0.6) / 1e-6 - 1) < 1e-4);
    QVERIFY(shouldered(1.6) < 1 && shouldered(1.6) > 0.96);
    for (const double light : {0.2, 0.6, 0.8, 1.5, 3.0})
      QVERIFY2(std::abs(beforeShoulder(shouldered(light)) - light) < 1e-9, qPrintable(QString::number(light)));
    QVERIFY(std::isfinite(beforeShoulder(1)) && beforeShoulder(1) > 3);
  }

  void curvePassesItsTiesAndNeverFalls() { // Fritsch and Carlson 1980: monotone data give a monotone interpolant
    const std::vector<Tie> ties{{-6, -8}, {-5, -7.9}, {-1, -3}, {0, -3}, {2, -0.3}, {7, 0}};
    const ToneCurve curve(ties);
    for (const Tie& tie : ties) QVERIFY(std::abs(curve(tie.scene) - tie.paper) < 1e-12);
    for (double s = -9; s < 10; s += 0.01) QVERIFY(curve(s + 0.01) >= curve(s) - 1e-12);
  }

  // Texture is held back where the merge says that there is more noise than its light has elsewhere, and only there.
  void noisierPlacesAreQuieter() {
    Image<float> scene(600, 400, 3);
    std::mt19937 random(3);
    std::normal_distribution<float> normal;
    for (int y = 0; y < 400; ++y)
      for (int x = 0; x < 600; ++x) {
        const float light =
            0.01f * std::exp2(float(x % 300) / 60) * std::max(0.1f, 1 + (x < 300 ? 0.02f : 0.12f) * normal(random));
        for (int c = 0; c < 3; ++c) scene.at(x, y)[c] = light;
      }
    ToneAnalysis a = analyseTone(scene.view());
    ToneSettings settings;
    settings.form = 1.01; // form and texture are told apart in both
    settings.quiet = 2;
    const auto before = toneNatural(scene.view(), a, settings, {});
    Image<float> more(a.logLight.width(), a.logLight.height(), 1);
    for (int y = 0; y < more.height(); ++y)
      for (int x = 0; x < more.width(); ++x) *more.at(x, y) = x < more.width() / 2 ? 0.f : 5.f;
    a.noisier = plainMap(more);
    const auto after = toneNatural(scene.view(), a, settings, {});
    const auto roughness = [](const Image<float>& picture, int from) {
      double sum = 0;
      for (int y = 20; y < 380; ++y)
        for (int x = from; x < from + 240; ++x)
          sum += std::abs(std::log2(picture.at(x, y)[1] / picture.at(x + 1, y)[1]));
      return sum;
    };
    QVERIFY2(roughness(*after, 330) < 0.8 * roughness(*before, 330),
             qPrintable(QString("%1 of %2").arg(roughness(*after, 330)).arg(roughness(*before, 330))));
    for (int y = 0; y < 400; ++y)
      for (int x = 0; x < 280; ++x) QCOMPARE(after->at(x, y)[1], before->at(x, y)[1]);
  }

  void straightTiesGiveAStraightCurve() {
    const ToneCurve curve({{-4, -6}, {-1, -3}, {2, 0}});
    for (double s = -8; s < 6; s += 0.37) QVERIFY(std::abs(curve(s) - (s - 2)) < 1e-12);
  }

  void boxMeanIsTheMean() {
    Image<float> image(23, 17, 1);
    for (std::size_t i = 0; i < image.size(); ++i) image.data()[i] = float((i * 31) % 17);
    const auto mean = boxMean(image, 3);
    for (const auto& [x, y] : {std::pair{0, 0}, {11, 8}, {22, 16}, {1, 15}}) {
      double sum = 0;
      int count = 0;
      for (int v = std::max(0, y - 3); v <= std::min(16, y + 3); ++v)
        for (int u = std::max(0, x - 3); u <= std::min(22, x + 3); ++u) sum += *image.at(u, v), ++count;
      QVERIFY(std::abs(*mean.at(x, y) - sum / count) < 1e-5);
    }
  }

  /// Next to a window frame the wall must be as bright as far from it: no halo. In stops of display light.
  void noHaloAtWindowFrames_data() {
    QTest::addColumn<double>("stops");
    for (const double stops : {4.0, 8.0, 11.0}) QTest::addRow("%g stops", stops) << stops;
  }
  void noHaloAtWindowFrames() {
    QFETCH(double, stops);
    const auto picture = toned(windowInWall(stops));
    const auto light = [&](int x, int y) { return std::log2(std::max(1e-4f, luminance(picture.at(x, y)))); };
    const double farWall = light(20, 20), farWindow = light(320, 200);
    for (int d = 2; d < 80; d += 3) {
      QVERIFY2(std::abs(light(220 - d, 200) - farWall) < 0.12,
               qPrintable(QString("wall at %1 px: %2").arg(d).arg(light(220 - d, 200) - farWall)));
      QVERIFY2(std::abs(light(222 + d, 200) - farWindow) < 0.12,
               qPrintable(QString("window at %1 px: %2").arg(d).arg(light(222 + d, 200) - farWindow)));
    }
    QVERIFY(farWindow > farWall + 0.5);
  }

  void orderOfTonesIsKept() {
    Image<float> ramp(640, 200, 3);
    for (int y = 0; y < 200; ++y)
      for (int x = 0; x < 640; ++x)
        for (int c = 0; c < 3; ++c) ramp.at(x, y)[c] = float(std::exp2(-8 + 14.0 * x / 640));
    const auto picture = toned(ramp);
    for (int x = 1; x < 640; ++x) QVERIFY(luminance(picture.at(x, 100)) >= luminance(picture.at(x - 1, 100)) * 0.999f);
  }

  void scaleOfTheSceneDoesNotMatter() { // exposure is chosen: the same scene ten stops brighter gives the same picture
    const auto scene = test::texturedScene(300, 220, 10);
    auto bright = scene.clone();
    for (std::size_t i = 0; i < bright.size(); ++i) bright.data()[i] *= 1024;
    const auto a = toned(scene), b = toned(bright);
    for (std::size_t i = 0; i < a.size(); ++i) QVERIFY(std::abs(a.data()[i] - b.data()[i]) < 2e-3f);
  }

  void colourIsKept() { // ratios of channels to luminance survive where the display can show them
    const auto scene = test::texturedScene(300, 220, 10);
    const auto picture = toned(scene);
    const double gain = analyseTone(scene.view()).colour; // the rendering's contrast makes colours as much stronger
    int checked = 0;
    for (int y = 0; y < 220; y += 3)
      for (int x = 0; x < 300; x += 3) {
        const float *in = scene.at(x, y), *out = picture.at(x, y);
        if (std::max({out[0], out[1], out[2]}) > 0.8f) continue;
        ++checked;
        for (int c = 0; c < 3; ++c)
          QVERIFY(std::abs(out[c] / luminance(out) - 1 - gain * (in[c] / luminance(in) - 1)) < 1e-3);
      }
    QVERIFY(checked > 1000);
  }

  void darkCornersAndWindowsBothShow() {
    const auto scene = test::texturedScene(420, 320, 13);
    const auto picture = toned(scene);
    int white = 0, black = 0;
    for (int y = 0; y < 320; ++y)
      for (int x = 0; x < 420; ++x) {
        const float light = luminance(picture.at(x, y));
        white += light > 0.99f;
        black += light < 0.002f;
        for (int c = 0; c < 3; ++c) QVERIFY(picture.at(x, y)[c] >= 0 && picture.at(x, y)[c] <= 1.0001f);
      }
    QVERIFY(white < 420 * 320 / 50);
    QVERIFY(black < 420 * 320 / 50);
  }

  void balanceZeroIsOneExposure() {
    ToneSettings one;
    one.balance = 0;
    const ToneAnalysis a = analyseTone(test::texturedScene(300, 220, 12).view());
    const Rendering exposure(a.rendering);
    for (const Tie& tie : placedTies(a, one)) QVERIFY(std::abs(tie.paper - exposure.paper(tie.scene)) < 0.03);
  }

  void previewAndFullSizeLookTheSame() {
    const auto scene = test::texturedScene(900, 660, 11);
    const auto analysis = analyseTone(scene.view());
    const auto small = shrinkTo(scene.view(), 300, 220);
    const auto full = toneNatural(scene.view(), analysis, {}, {});
    const auto preview = toneNatural(small.view(), analysis, {}, {});
    const auto reduced = shrinkTo(full->view(), 300, 220);
    double sum = 0;
    for (std::size_t i = 0; i < reduced.size(); ++i) sum += std::abs(reduced.data()[i] - preview->data()[i]);
    QVERIFY(sum / double(reduced.size()) < 0.01);
  }

  void threadsChangeNothing() {
    const auto scene = test::texturedScene(300, 220, 11);
    const auto analysis = analyseTone(scene.view());
    setThreadCount(1);
    const auto one = finishPicture(scene.view(), analysis, {}, {});
    setThreadCount(3);
    const auto three = finishPicture(scene.view(), analysis, {}, {});
    setThreadCount(0);
    QVERIFY(std::equal(one->picture.data(), one->picture.data() + one->picture.size(), three->picture.data()));
  }

  void recipesRoundTrip() {
    Recipe recipe = findLook("quiet")->recipe;
    recipe.tone.warmth = 0.25;
    const auto back = recipeFromJson(toJson(recipe));
    QVERIFY(back.has_value());
    QVERIFY(*back == recipe);
  }
  void badRecipesAreRefused_data() {
    QTest::addColumn<QString>("text");
    QTest::newRow("not JSON") << "{";
    QTest::newRow("another version") << "{\"version\": 9}";
    QTest::newRow("out of range") << "{\"version\": 1, \"exposure\": 40}";
    QTest::newRow("wrong type") << "{\"version\": 1, \"detail\": \"much\"}";
    QTest::newRow("a list") << "[1]";
  }
  void badRecipesAreRefused() {
    QFETCH(QString, text);
    const auto recipe = recipeFromJson(text.toStdString());
    QVERIFY(!recipe);
    QCOMPARE(int(recipe.error().code), int(ErrorCode::InvalidArgument));
  }
};

QTEST_GUILESS_MAIN(TestTone)
#include "test_tone.moc"
