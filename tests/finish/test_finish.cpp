// SPDX-License-Identifier: GPL-3.0-or-later
#include <QTest>

#include "base/parallel.h"
#include "finish/denoise.h"
#include "finish/finish.h"
#include "finish/heal.h"
#include "finish/hues.h"
#include "support/scenes.h"

#include <cmath>
#include <random>

using namespace ml;

namespace {

Image<float> flat(int width, int height, float r, float g, float b) {
  Image<float> out(width, height, 3);
  for (std::size_t i = 0; i < out.size(); i += 3) out.data()[i] = r, out.data()[i + 1] = g, out.data()[i + 2] = b;
  return out;
}

} // namespace

class TestFinish : public QObject {
  Q_OBJECT

private slots:
  void ovalsAndRampsCoverWhatTheySay() {
    Area oval;
    oval.b = {0.2, 0.3};
    QCOMPARE(coverageOf(oval, {0.5, 0.5}, 1.5), 1.0);
    QCOMPARE(coverageOf(oval, {0.75, 0.5}, 1.5), 0.0);
    QVERIFY(coverageOf(oval, {0.5, 0.72}, 1.5) > 0);
    Area ramp;
    ramp.shape = AreaShape::Ramp, ramp.a = {0.5, 0.1}, ramp.b = {0.5, 0.6};
    QCOMPARE(coverageOf(ramp, {0.2, 0.05}, 1.5), 1.0);
    QCOMPARE(coverageOf(ramp, {0.9, 0.7}, 1.5), 0.0);
    QVERIFY(std::abs(coverageOf(ramp, {0.1, 0.35}, 1.5) - 0.5) < 1e-9);
  }

  void everyChannelIsItsOwn() {
    for (int c = 0; c < 3; ++c) {
      float light[3] = {0.05f, 0.05f, 0.05f};
      light[c] = 0.5f;
      const Image<float> scene = flat(96, 64, light[0], light[1], light[2]);
      const auto finished = finishPicture(scene.view(), analyseTone(scene.view()), {}, {});
      for (int other = 0; other < 3; ++other)
        if (other != c) QVERIFY(finished->picture.at(48, 32)[c] > finished->picture.at(48, 32)[other] + 8000);
    }
  }

  /// Rows that lie elsewhere give the same picture, and never more of them are held than a band with its neighbours.
  void aPictureThatIsNeverWholeIsFinishedTheSame() {
    const Image<float> scene = test::texturedScene(700, 500, 8);
    const test::StoredRows stored(scene.view());
    Recipe r;
    r.sharpening = 0.6;
    Area oval;
    oval.a = {0.4, 0.5}, oval.b = {0.2, 0.3}, oval.exposure = -1, oval.warmth = 0.4;
    r.areas = {oval};
    const auto there = finishRadiance(scene.view(), r, {}, nullptr, {}),
               here = finishRadiance(PictureRows(stored), r, {}, nullptr, {});
    QVERIFY(there && here);
    QVERIFY(std::equal(there->picture.data(), there->picture.data() + there->picture.size(), here->picture.data()));
    QVERIFY2(stored.most() <= kBandRows + 2, qPrintable(QString::number(stored.most())));
    const ToneAnalysis a = analyseTone(scene.view());
    const Roi part{101, 77, 320, 211};
    const auto cut = Finisher(a).finish(PictureRows(stored), r, {}, part);
    QVERIFY(cut);
    for (int y = 0; y < part.height; ++y)
      QVERIFY(
          std::equal(cut->picture.row(y), cut->picture.row(y) + 3 * part.width, there->picture.at(part.x, part.y + y)));
    r.healings = {}, r.foot = 0.3; // needs the whole
    QVERIFY(finishRadiance(PictureRows(stored), r, {}, nullptr, {}));
    QCOMPARE(stored.most(), 500);
  }

  void anAreaChangesItsPlaceAlone() {
    const Image<float> scene = flat(480, 320, 0.2f, 0.2f, 0.2f);
    const ToneAnalysis a = analyseTone(scene.view());
    Recipe r;
    Area oval;
    oval.a = {0.25, 0.5}, oval.b = {0.1, 0.2}, oval.exposure = -1, oval.followEdges = false;
    const auto before = finishPicture(scene.view(), a, r, {});
    r.areas = {oval};
    const auto after = finishPicture(scene.view(), a, r, {});
    QVERIFY(after->picture.at(120, 160)[1] < 0.8 * before->picture.at(120, 160)[1]);
    for (const int x : {20, 240, 440}) QCOMPARE(after->picture.at(x, 160)[1], before->picture.at(x, 160)[1]);
  }

  void brushesPaintAndErase() {
    Area brush;
    brush.shape = AreaShape::Brush;
    brush.strokes = {{{{0.2, 0.5}, {0.8, 0.5}}, 0.05, false}, {{{0.5, 0.5}}, 0.05, true}};
    QCOMPARE(coverageOf(brush, {0.3, 0.5}, 1.5), 1.0);
    QCOMPARE(coverageOf(brush, {0.5, 0.5}, 1.5), 0.0);
    QCOMPARE(coverageOf(brush, {0.3, 0.7}, 1.5), 0.0);
  }

  void windowsAreFoundAndLampsAreNot() {
    Image<float> room = flat(600, 400, 0.02f, 0.02f, 0.02f);
    const auto box = [&](int x0, int y0, int w, int h, float v) {
      for (int y = y0; y < y0 + h; ++y)
        for (int x = x0; x < x0 + w; ++x)
          for (int c = 0; c < 3; ++c) room.at(x, y)[c] = v;
    };
    box(200, 100, 150, 120, 1.f); // a window
    box(500, 60, 8, 8, 5.f);      // a lamp
    const ToneAnalysis a = analyseTone(room.view());
    const Image<float> cells = windowCells(a);
    const auto at = [&](int x, int y) { return cells.row(y * cells.height() / 400)[x * cells.width() / 600]; };
    QCOMPARE(at(270, 160), 1.f);
    QCOMPARE(at(504, 64), 0.f);
    QCOMPARE(at(100, 300), 0.f);
  }

  void oneHueMovesAlone() {
    float r[3] = {0.5f, 0.1f, 0.3f}, g[3] = {0.5f, 0.2f, 0.3f}, b[3] = {0.1f, 0.6f, 0.3f};
    moveHues({{60, 40, -1, 0}}, 3, r, g, b);                                 // yellow to grey
    QVERIFY(std::abs(r[0] - b[0]) < 0.02f);                                  // the yellow is grey
    QVERIFY(std::abs(r[1] - 0.1f) < 1e-4f && std::abs(b[1] - 0.6f) < 1e-4f); // the blue is as it was
    QVERIFY(std::abs(r[2] - 0.3f) < 1e-4f && std::abs(b[2] - 0.3f) < 1e-4f); // so is the grey
    // Half a width away: (1 - 1/4)^2 of the stops, also across the turn of the circle and for a hue that is given
    // beyond it.
    const auto lightened = [](double hue) {
      float red = 0.4f, green = 0.1f, blue = 0.1f; // hue 0
      moveHues({{hue, 40, 0, 0.5}}, 1, &red, &green, &blue);
      return std::log2((0.2126f * red + 0.7152f * green + 0.0722f * blue) / (0.2126f * 0.4f + 0.7874f * 0.1f));
    };
    for (const double hue : {20.0, 340.0, -20.0, 380.0})
      QVERIFY2(std::abs(lightened(hue) - 0.5 * 9 / 16) < 0.01,
               qPrintable(QString("%1: %2").arg(hue).arg(lightened(hue))));
    QVERIFY(std::abs(lightened(45)) < 1e-4);
    const float yellow[] = {0.5f, 0.5f, 0.1f}, cyan[] = {0.1f, 0.5f, 0.5f};
    QVERIFY(std::abs(hueOf(yellow).hue - 60) < 1 && std::abs(hueOf(cyan).hue - 180) < 1);
  }

  void paleColoursGainVividOnesDoNot() {
    Image<float> scene = flat(64, 64, 0.20f, 0.18f, 0.17f);
    for (int y = 0; y < 64; ++y)
      for (int x = 32; x < 64; ++x) scene.at(x, y)[0] = 0.3f, scene.at(x, y)[1] = 0.01f, scene.at(x, y)[2] = 0.01f;
    const ToneAnalysis a = analyseTone(scene.view());
    ToneSettings s;
    const auto before = toneNatural(scene.view(), a, s, {});
    s.vivid = 1;
    const auto after = toneNatural(scene.view(), a, s, {});
    const auto chroma = [](const float* p) { return (p[0] - p[2]) / p[0]; };
    QVERIFY(chroma(after->at(10, 30)) > 1.3 * chroma(before->at(10, 30)));
    QVERIFY(std::abs(chroma(after->at(50, 30)) - chroma(before->at(50, 30))) < 0.02);
  }

  void noiseGoesEdgesStay() {
    Image<float> scene(300, 200, 3);
    std::mt19937 random(5);
    std::normal_distribution<float> normal;
    for (int y = 0; y < 200; ++y)
      for (int x = 0; x < 300; ++x)
        for (int c = 0; c < 3; ++c) scene.at(x, y)[c] = (x < 150 ? 0.1f : 0.4f) * (1 + 0.06f * normal(random));
    const auto out = denoised(scene.view(), measureNoise(scene.view()), 1, {});
    const auto spread = [](const Image<float>& p) {
      double sum = 0, squares = 0, n = 0;
      for (int y = 20; y < 180; ++y)
        for (int x = 20; x < 120; ++x) sum += p.at(x, y)[1], squares += double(p.at(x, y)[1]) * p.at(x, y)[1], ++n;
      return std::sqrt(squares / n - sum * sum / n / n);
    };
    QVERIFY2(spread(*out) < 0.4 * spread(scene), qPrintable(QString("%1 %2").arg(spread(*out)).arg(spread(scene))));
    double left = 0, right = 0;
    for (int y = 20; y < 180; ++y) left += out->at(147, y)[1], right += out->at(152, y)[1];
    QVERIFY(right / left > 3.8); // 4 before
  }

  void aSpotIsCovered() {
    Image<float> scene(300, 200, 3);
    for (int y = 0; y < 200; ++y)
      for (int x = 0; x < 300; ++x)
        for (int c = 0; c < 3; ++c) scene.at(x, y)[c] = 0.2f + 0.002f * float(x);
    Image<float> dirty = scene.clone();
    for (int y = 95; y < 105; ++y)
      for (int x = 145; x < 155; ++x)
        for (int c = 0; c < 3; ++c) dirty.at(x, y)[c] = 0.01f;
    heal(dirty, {{{0.5, 0.5}, 0.03}});
    for (int y = 92; y < 108; ++y)
      for (int x = 142; x < 158; ++x)
        QVERIFY2(std::abs(dirty.at(x, y)[1] / scene.at(x, y)[1] - 1) < 0.02,
                 qPrintable(QString("%1 %2").arg(x).arg(y)));
  }

  // A spot beside a step of light: what covers it comes from its own side, though the texture is the same on both.
  void aSpotIsCoveredByItsOwnTone() {
    Image<float> scene(300, 200, 3);
    for (int y = 0; y < 200; ++y)
      for (int x = 0; x < 300; ++x)
        for (int c = 0; c < 3; ++c)
          scene.at(x, y)[c] = (x < 172 ? 0.1f : 0.3f) * (1 + 0.25f * std::sin(x * 0.8f) * std::sin(y * 0.7f));
    Image<float> dirty = scene.clone();
    for (int y = 95; y < 105; ++y)
      for (int x = 145; x < 155; ++x)
        for (int c = 0; c < 3; ++c) dirty.at(x, y)[c] = 0.001f;
    heal(dirty, {{{0.5, 0.5}, 0.03}});
    double is = 0, was = 0;
    for (int y = 95; y < 105; ++y)
      for (int x = 145; x < 155; ++x) is += dirty.at(x, y)[1], was += scene.at(x, y)[1];
    QVERIFY2(std::abs(is / was - 1) < 0.1, qPrintable(QString::number(is / was)));
  }

  void partsEqualTheWhole() {
    const Image<float> scene = test::texturedScene(700, 500, 9);
    const ToneAnalysis a = analyseTone(scene.view());
    Recipe r;
    r.hues = {{30, 50, -0.3, 0.2}};
    Area oval;
    oval.exposure = 0.5;
    r.areas = {oval};
    Finisher finisher(a);
    const auto whole = finisher.finish(scene.view(), r, {});
    const auto part = finisher.finish(scene.view(), r, {}, {211, 133, 300, 200});
    for (int y = 0; y < 200; ++y)
      for (int x = 0; x < 900; ++x) QCOMPARE(part->picture.row(y)[x], whole->picture.row(133 + y)[3 * 211 + x]);
    std::vector<std::uint8_t> bytes(700 * 500 * 3);
    QVERIFY(finisher.finishBytes(scene.view(), r, {}, bytes.data(), 2100, {}));
    for (std::size_t i = 0; i < bytes.size(); i += 7)
      QVERIFY(std::abs(int(bytes[i]) - int(std::lround(whole->picture.data()[i] / 257.0))) <= 1);
  }

  // A finisher that keeps masks gives what a fresh one gives, whatever changed in between.
  void keptMasksAreTheRightOnes() {
    const Image<float> scene = test::texturedScene(360, 240, 9);
    const ToneAnalysis a = analyseTone(scene.view());
    Finisher kept(a);
    Recipe r;
    Area oval, ramp;
    oval.a = {0.3, 0.4}, oval.exposure = 0.5;
    ramp.shape = AreaShape::Ramp, ramp.a = {0.5, 0}, ramp.b = {0.5, 0.6}, ramp.warmth = 0.4, ramp.saturation = -0.3,
    ramp.contrast = 0.5, ramp.tint = 0.2;
    const auto same = [&] {
      const auto one = kept.finish(scene.view(), r, {}), fresh = finishPicture(scene.view(), a, r, {});
      return one && fresh &&
             std::equal(one->picture.data(), one->picture.data() + one->picture.size(), fresh->picture.data());
    };
    r.areas = {oval};
    QVERIFY(same());
    r.areas = {oval, ramp};
    QVERIFY(same());
    r.areas[0].exposure = -0.7;
    QVERIFY(same());
    r.areas[1].b = {0.9, 0.9};
    QVERIFY(same());
    r.areas[1].inverted = true;
    r.areas[0].above = a.histogram.below(0.6);
    QVERIFY(same());
    r.areas.erase(r.areas.begin());
    QVERIFY(same());
    r.geometry.roll = 3; // the grid lies otherwise on the combined picture
    QVERIFY(same());
    r.areas.clear();
    QVERIFY(same());
  }

  void areasEndAtEdgesWhenTheyFollowThem() {
    Image<float> scene = flat(480, 320, 0.05f, 0.05f, 0.05f);
    for (int y = 0; y < 320; ++y)
      for (int x = 240; x < 480; ++x)
        for (int c = 0; c < 3; ++c) scene.at(x, y)[c] = 2.f;
    const ToneAnalysis a = analyseTone(scene.view());
    Area brush;
    brush.shape = AreaShape::Brush;
    brush.strokes = {{{{0.42, 0.2}, {0.42, 0.8}}, 0.09, false}}; // over the dark side, a little beyond the edge at 0.5
    brush.softness = 0.3;
    const ShapeMap shape({}, 480, 320);
    const auto valueAt = [&](const LocalMap& map, int x) {
      const int u = x * map.offset.width() / 480, v = map.offset.height() / 2;
      return *map.slope.at(u, v) * a.logLight.row(a.logLight.height() / 2)[x * a.logLight.width() / 480] +
             *map.offset.at(u, v);
    };
    brush.followEdges = false;
    const LocalMap plain = mapOf(brush, a, shape);
    brush.followEdges = true;
    const LocalMap following = mapOf(brush, a, shape);
    QVERIFY2(valueAt(following, 236) > valueAt(plain, 236) - 0.05,
             qPrintable(QString("%1 %2").arg(valueAt(following, 236)).arg(valueAt(plain, 236))));
    QVERIFY2(valueAt(following, 243) < 0.5 * valueAt(following, 236),
             qPrintable(QString("%1 %2").arg(valueAt(following, 243)).arg(valueAt(following, 236))));
  }

  void hostileRecipesAreRefused_data() {
    QTest::addColumn<QString>("text");
    QTest::newRow("three corners") << R"({"version": 1, "geometry": {"corners": [[0,0],[1,0],[1,1]]}})";
    QTest::newRow("a crop outside") << R"({"version": 1, "geometry": {"crop": [0.5, 0, 0.8, 1]}})";
    QTest::newRow("a crop of nothing") << R"({"version": 1, "geometry": {"crop": [0, 0, 0, 0]}})";
    QTest::newRow("an area without a place") << R"({"version": 1, "areas": [{"shape": "oval"}]})";
    QTest::newRow("a pull of text") << R"({"version": 1, "pulls": [["a", 1]]})";
    QTest::newRow("an endless pull") << R"({"version": 1, "pulls": [[1e9, 0]]})";
    QTest::newRow("healing everything") << R"({"version": 1, "healings": [{"at": [0.5, 0.5], "radius": 4}]})";
    QTest::newRow("a stroke far away")
        << R"({"version": 1, "areas": [{"shape": "brush", "a": [0,0], "b": [0,0], "strokes": [{"points": [[1e30,
          0]]}]}]})";
  }
  void hostileRecipesAreRefused() {
    QFETCH(QString, text);
    const auto recipe = recipeFromJson(text.toStdString());
    QVERIFY(!recipe && recipe.error().code == ErrorCode::InvalidArgument);
  }

  void highlightsRiseIntoTheHeadroom() {
    const Image<float> scene = test::texturedScene(300, 200, 11);
    const ToneAnalysis a = analyseTone(scene.view());
    Finisher finisher(a);
    Recipe plain;
    plain.sharpening = 0;
    const auto low = finisher.finishLight(scene.view(), plain, 0, {}),
               high = finisher.finishLight(scene.view(), plain, 2.3, {});
    float most = 0;
    for (std::size_t i = 0; i < low->size(); ++i) {
      QVERIFY(high->data()[i] >= low->data()[i] - 2e-3f || low->data()[i] > 0.15f);
      most = std::max(most, high->data()[i]);
    }
    QVERIFY(most > 2 && most <= 4.93f);
  }

  void recipesKeepEverything() {
    Recipe r;
    r.look = "open", r.strength = 0.7, r.denoise = 0.4;
    r.tone.pulls = {{-3.5, -4}, {2, -1}};
    r.tone.op = ToneOperator::Drago, r.tone.tint = 0.1, r.tone.veil = 0.3, r.tone.vivid = 0.2;
    r.hues = {{45, 30, -0.2, 0.1}};
    Area brush;
    brush.shape = AreaShape::Brush, brush.above = -2, brush.inverted = true, brush.contrast = 0.2;
    brush.strokes = {{{{0.1, 0.2}, {0.3, 0.4}}, 0.02, true}};
    r.areas = {brush, Area{}};
    r.geometry.corners = {{0.1, 0.1}, {0.9, 0.1}, {0.9, 0.9}, {0.1, 0.9}};
    r.geometry.pitch = 3, r.geometry.cropX = 0.1, r.geometry.cropWidth = 0.8;
    r.healings = {{{0.3, 0.4}, 0.02}};
    const auto back = recipeFromJson(toJson(r));
    QVERIFY2(back, back ? "" : back.error().message.c_str());
    QVERIFY(*back == r);
  }

  void looksMoveByTheirStrengthAndKeepTheWhitePoint() {
    Recipe r;
    r.tone.warmth = -0.5; // a white point of the picture's own
    r.tone.pulls = {{0, -2}};
    const Look& warm = *findLook("warm-land");
    const Recipe half = withLook(r, warm, 0.5), full = withLook(half, warm, 1),
                 none = withLook(full, *findLook("natural"), 1);
    QVERIFY(std::abs(half.tone.warmth - (-0.5 + 0.09)) < 1e-9);
    QVERIFY(std::abs(full.tone.warmth - (-0.5 + 0.18)) < 1e-9);
    QVERIFY(std::abs(none.tone.warmth + 0.5) < 1e-9);
    QVERIFY(std::abs(half.tone.veil - 0.075) < 1e-9);
    QCOMPARE(full.tone.pulls.size(), std::size_t(1));
  }

  void anotherViewKeepsItsOwnLight() {
    Recipe from, to;
    from.tone.exposure = 0.4, from.tone.warmth = 0.3, from.tone.pulls = {{1, -1}};
    Area window;
    window.shape = AreaShape::Windows, window.exposure = -0.3;
    from.areas = {Area{}, window};
    to.tone.warmth = -0.2, to.geometry.roll = 1;
    const Recipe r = forAnotherView(from, to);
    QCOMPARE(r.tone.exposure, 0.4);
    QCOMPARE(r.tone.warmth, -0.2);
    QVERIFY(r.tone.pulls.empty());
    QCOMPARE(r.geometry.roll, 1.0);
    QCOMPARE(r.areas.size(), std::size_t(1)); // windows are found anew, an oval belongs to its picture
  }

  /// Turning a sphere turns its finish and changes nothing else: what is local sees over the wrap, where a window
  /// stands once and a wall once. As a flat picture its edges are seen.
  void turningASphereTurnsItsFinish() {
    constexpr int kWidth = 512, kHeight = 256, kQuarter = kWidth / 4;
    const auto roomTurnedBy = [](int turn) {
      std::mt19937 random(5);
      std::uniform_real_distribution<float> grain(0.8f, 1.2f);
      Image<float> room(kWidth, kHeight, 3);
      for (int y = 0; y < kHeight; ++y)
        for (int x = 0; x < kWidth; ++x) {
          const int off = std::abs(x - kWidth / 2); // from the window's middle
          const bool window = off < 40 && std::abs(y - kHeight / 2) < 40;
          const float light = (window ? 4.f : 0.1f * std::exp2(std::cos(0.3f * float(off)))) * grain(random);
          for (int c = 0; c < 3; ++c) room.at((x + turn) % kWidth, y)[c] = light;
        }
      return room;
    };
    const auto finished = [&](int turn, bool sphere) {
      SceneFacts facts;
      facts.sphere = sphere;
      return finishRadiance(roomTurnedBy(turn).view(), {}, facts, nullptr, {});
    };
    // Mean difference in shares of white, near where the turned picture has its wrap.
    const auto apart = [&](bool sphere) {
      const auto straight = finished(kQuarter, sphere), turned = finished(kWidth / 2, sphere);
      double sum = 0, n = 0;
      for (int y = 40; y < kHeight - 40; ++y)
        for (int x = 0; x < kWidth; ++x)
          if (x < 12 || x >= kWidth - 12) {
            const int there = (x + kWidth - kQuarter) % kWidth;
            sum += std::abs(turned->picture.at(x, y)[1] - straight->picture.at(there, y)[1]) / 65535.0, ++n;
          }
      return sum / n;
    };
    const double over = apart(true), flat = apart(false);
    QVERIFY2(over < 0.003, qPrintable(QString("%1, flat %2").arg(over).arg(flat)));
    QVERIFY2(flat > 2 * over, qPrintable(QString("%1, flat %2").arg(over).arg(flat)));
  }
};

QTEST_GUILESS_MAIN(TestFinish)
#include "test_finish.moc"
