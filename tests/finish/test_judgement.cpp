// SPDX-License-Identifier: GPL-3.0-or-later
#include <QTest>

#include "finish/judgement.h"
#include "image/colour.h"
#include "support/radiance_sets.h"
#include "tone/base_layer.h"

#include <cmath>
#include <random>

using namespace ml;

namespace {

/// A textured room with a bright window and plumb edges.
Image<float> room(double noise = 0) {
  Image<float> out(900, 600, 3);
  std::mt19937 random(2);
  std::normal_distribution<float> normal;
  for (int y = 0; y < 600; ++y)
    for (int x = 0; x < 900; ++x) {
      const bool window = x > 330 && x < 560 && y > 150 && y < 380;
      const float texture = 1 + 0.12f * float(std::sin(x * 0.21) * std::sin(y * 0.17));
      const float light = (window ? 3.f : 0.03f) * texture;
      for (int c = 0; c < 3; ++c)
        out.at(x, y)[c] = light *
                          (c == 0   ? 1.1f
                           : c == 2 ? 0.9f
                                    : 1.f) *
                          std::max(0.05f, 1 + float(window ? 0.02 * noise : noise) * normal(random));
    }
  return out;
}

Judgement judged(const Image<float>& scene, const Recipe& recipe, const Image<float>* instead = nullptr) {
  const ToneAnalysis a = analyseTone(scene.view());
  Finisher finisher(a);
  const auto light = finisher.finishLight(scene.view(), recipe, 0, {});
  const auto report = finisher.finish(scene.view(), recipe, {});
  return judgeFinish(scene.view(), instead ? *instead : *light, a, recipe, report->report);
}

} // namespace

class TestJudgement : public QObject {
  Q_OBJECT

private slots:
  void theNaturalFinishIsSound() {
    const Judgement j = judged(room(), {});
    for (const Finding& f : j.findings) QVERIFY2(!f.tooMuch, sentence(f).c_str());
  }

  // The classic mistake: log light minus a blurred copy that does not follow edges.
  void rimsAreFoundWhereABlurMadeThem() {
    const Image<float> scene = room();
    Image<float> log(900, 600, 1), picture(900, 600, 3);
    for (std::size_t i = 0; i < log.size(); ++i) log.data()[i] = std::log2(luminance(scene.data() + 3 * i));
    const Image<float> blurred = boxMean(boxMean(log, 20), 20);
    for (std::size_t i = 0; i < log.size(); ++i) {
      const float paper =
          -3 + 0.35f * (blurred.data()[i] - std::log2(0.1f)) + (log.data()[i] - blurred.data()[i]) * 0.8f;
      for (int c = 0; c < 3; ++c) picture.data()[3 * i + std::size_t(c)] = std::min(1.f, std::exp2(paper));
    }
    const Finding f = judged(scene, {}, &picture).of(FindingKind::Halo);
    QVERIFY2(f.tooMuch, sentence(f).c_str());
    QVERIFY(!f.places.empty());
    for (const Spot2& p : f.places) // at the window's border
      QVERIFY(std::abs(p.x * 900 - 330) < 12 || std::abs(p.x * 900 - 560) < 12 || std::abs(p.y * 600 - 150) < 12 ||
              std::abs(p.y * 600 - 380) < 12);
  }

  // A rim may lie on one side of the edge alone.
  void rimsAreFoundOnEitherSide_data() {
    QTest::addColumn<bool>("inside");
    QTest::newRow("bright side, brighter") << true;
    QTest::newRow("dark side, darker") << false;
  }
  void rimsAreFoundOnEitherSide() {
    QFETCH(bool, inside);
    const Image<float> scene = room();
    const ToneAnalysis a = analyseTone(scene.view());
    Image<float> picture = std::move(*Finisher(a).finishLight(scene.view(), {}, 0, {}));
    for (int y = 0; y < 600; ++y)
      for (int x = 0; x < 900; ++x) {
        const int off =
            std::max(std::max(331 - x, x - 559), std::max(151 - y, y - 379)); // beyond the window's edge; 0 on it
        const bool rim = inside ? off <= 0 && off > -14 : off > 0 && off <= 14;
        if (rim)
          for (int c = 0; c < 3; ++c) picture.at(x, y)[c] *= inside ? 1.5f : 0.6f;
      }
    const Finding f = judged(scene, {}, &picture).of(FindingKind::Halo);
    QVERIFY2(f.tooMuch, sentence(f).c_str());
  }

  void flatPicturesAreFound() {
    Recipe r;
    r.tone.form = 0.15, r.tone.detail = 0.15;
    const Finding f = judged(room(), r).of(FindingKind::Flat);
    QVERIFY2(f.tooMuch && f.figure < 0.4, sentence(f).c_str());
  }

  void darkerThanMeteredIsSaidInASentenceAndMended() {
    const Image<float> scene = room();
    const ToneAnalysis a = analyseTone(scene.view());
    Recipe r;
    r.tone.exposure = -1.2;
    const Judgement before = judged(scene, r);
    const Finding& f = before.of(FindingKind::Greyer);
    QVERIFY(f.tooMuch);
    QVERIFY2(std::abs(f.figure - 1.2) < 0.1, sentence(f).c_str());
    QCOMPARE(sentence(f, {SceneKind::Interior, true}),
             std::string("The room is 1.2 stops darker than the frame you metered."));
    QVERIFY(!judged(scene, remedied(r, f, a)).of(FindingKind::Greyer).tooMuch);
  }

  void aMilkyWindowIsFoundAndCleared() {
    const Image<float> scene = room();
    const ToneAnalysis a = analyseTone(scene.view());
    Recipe milk;
    Area window;
    window.shape = AreaShape::Windows;
    window.contrast = -0.7;
    milk.areas = {window};
    const Finding f = judged(scene, milk).of(FindingKind::MilkyWindow);
    QVERIFY2(f.tooMuch && !f.places.empty(), sentence(f).c_str());
    for (const Spot2& p : f.places) QVERIFY(p.x > 0.36 && p.x < 0.63 && p.y > 0.24 && p.y < 0.64); // in the window
    Recipe mended = milk;
    for (int i = 0; i < 3; ++i) mended = remedied(mended, f, a);
    const Finding after = judged(scene, mended).of(FindingKind::MilkyWindow);
    QVERIFY2(!after.tooMuch, sentence(after).c_str());
    QVERIFY(!judged(scene, {}).of(FindingKind::MilkyWindow).tooMuch);
  }

  void blotchesAreDarkPureAndAlone_data() {
    QTest::addColumn<float>("red");
    QTest::addColumn<float>("around");
    QTest::addColumn<bool>("found");
    QTest::newRow("pure blue in a grey dark") << 0.f << 0.006f << true;
    QTest::newRow("a bluish dark is none") << 0.004f << 0.006f << false;
    QTest::newRow("a blue lamp lights all of it") << 0.f << 0.f << false;
  }
  void blotchesAreDarkPureAndAlone() {
    QFETCH(float, red);
    QFETCH(float, around);
    QFETCH(bool, found);
    Image<float> picture(900, 600, 3);
    for (int y = 0; y < 600; ++y)
      for (int x = 0; x < 900; ++x) {
        const bool blotch = std::hypot(x % 150 - 75, y % 150 - 75) < 12;
        float* p = picture.at(x, y);
        p[0] = p[1] = blotch ? red : around, p[2] = 0.008f;
      }
    const Finding f = judged(picture, {}, &picture).of(FindingKind::Blotches);
    QCOMPARE(f.tooMuch, found);
    if (found) QVERIFY(std::abs(f.figure - 100 * 24 * 3.1416 * 144 / (900 * 600)) < 1);
  }

  void loudColoursAreUnnatural() {
    Recipe r;
    r.tone.saturation = 2, r.tone.vivid = 2;
    Image<float> scene = room();
    for (std::size_t i = 0; i < scene.size(); i += 3) scene.data()[i] *= 1.25f, scene.data()[i + 2] *= 0.75f;
    QVERIFY(judged(scene, r).of(FindingKind::UnnaturalColour).tooMuch);
    QVERIFY(!judged(scene, {}).of(FindingKind::UnnaturalColour).tooMuch);
  }

  void liftedNoiseIsFoundAndQuieted() {
    const Image<float> scene = room(0.4);
    Recipe r;
    r.tone.quiet = 0;
    const ToneAnalysis a = analyseTone(scene.view());
    const Finding before = judged(scene, r).of(FindingKind::ShadowNoise);
    QVERIFY2(before.tooMuch, sentence(before).c_str());
    const Finding after = judged(scene, remedied(remedied(r, before, a), before, a)).of(FindingKind::ShadowNoise);
    QVERIFY2(after.figure < 0.6 * before.figure, sentence(after).c_str());
  }

  void clippedWhiteIsMarkedAndMended() {
    Recipe r;
    r.tone.exposure = 2.5;
    const Image<float> scene = room();
    const ToneAnalysis a = analyseTone(scene.view());
    const Finding before = judged(scene, r).of(FindingKind::WhiteClipped);
    QVERIFY2(before.tooMuch && !before.places.empty(), sentence(before).c_str());
    Recipe mended = r;
    for (int i = 0; i < 8; ++i) mended = remedied(mended, before, a);
    const Finding after = judged(scene, mended).of(FindingKind::WhiteClipped);
    QVERIFY2(after.figure < before.figure, sentence(after).c_str());
  }

  void leaningVerticalsAreRightedByTheRemedy() {
    Geometry held;
    held.pitch = 7;
    Image<float> wall(900, 600, 3);
    for (int y = 0; y < 600; ++y)
      for (int x = 0; x < 900; ++x)
        for (int c = 0; c < 3; ++c)
          wall.at(x, y)[c] = 0.2f * std::exp2(0.8f * std::tanh(12 * std::sin(float(x) * 0.06f)));
    const auto scene = shaped(wall.view(), ShapeMap(held, 900, 600), {});
    const Finding before = judged(*scene, {}).of(FindingKind::TiltedVerticals);
    QVERIFY2(before.tooMuch, sentence(before).c_str());
    const Recipe mended = remedied({}, before, analyseTone(scene->view()));
    const auto plumb = prepared(scene->view(), mended, {}, nullptr, {});
    const Finding after = judged(*plumb, {}).of(FindingKind::TiltedVerticals);
    QVERIFY2(!after.tooMuch, sentence(after).c_str());
  }

  void ghostsAreJudgedByWhatTheMergeSays() {
    const Image<float> scene = room();
    const ToneAnalysis a = analyseTone(scene.view());
    const auto light = Finisher(a).finishLight(scene.view(), {}, 0, {});
    const auto judge = [&](const std::optional<GhostsLeft>& ghosts, const Recipe& recipe) {
      return judgeFinish(scene.view(), *light, a, recipe, reportOf(*light), {nullptr, ghosts})
          .of(FindingKind::GhostsLeft);
    };
    const Finding unknown = judge({}, {});
    QVERIFY(!unknown.tooMuch && unknown.figure < 0);
    QCOMPARE(sentence(unknown), std::string("Ghosts were not looked for."));
    QVERIFY(!judge(GhostsLeft{0, {}}, {}).tooMuch);
    const Finding found = judge(GhostsLeft{0.004, {{0.5, 0.5}}}, {});
    QVERIFY(found.tooMuch);
    QCOMPARE(found.figure, 0.4);
    QCOMPARE(found.places.size(), std::size_t(1));
    QCOMPARE(remedied({}, found, a), Recipe{}); // no finish mends it
    Recipe cut;                                 // the same place, on the right half alone
    cut.geometry.cropX = 0.4, cut.geometry.cropWidth = 0.6;
    const Finding shifted = judge(GhostsLeft{0.004, {{0.5, 0.5}, {0.1, 0.1}}}, cut);
    QCOMPARE(shifted.places.size(), std::size_t(1)); // the other lies outside
    QVERIFY(shifted.places.front().x < 0.4);
  }
};

QTEST_GUILESS_MAIN(TestJudgement)
#include "test_judgement.moc"
