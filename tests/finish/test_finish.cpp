#include <QTest>

#include "codec/lens_profile.h"
#include "finish/crop.h"
#include "finish/finish.h"
#include "finish/denoise.h"
#include "finish/heal.h"
#include "finish/hues.h"
#include "finish/lines.h"
#include "image/colour.h"
#include "support/scenes.h"

#include <cmath>
#include <random>

using namespace ml;

namespace {

/// A wall of plumb boards and level planks, sampled smoothly.
Image<float> boards(int width, int height) {
  Image<float> out(width, height, 3);
  for (int y = 0; y < height; ++y)
    for (int x = 0; x < width; ++x) {
      const float u = float(x) / float(width), v = float(y) / float(height);
      const float a = std::tanh(12 * std::sin(u * 60)), b = std::tanh(10 * std::sin(v * 24));
      for (int c = 0; c < 3; ++c) out.at(x, y)[c] = 0.2f * std::exp2(0.7f * a + 0.5f * b);
    }
  return out;
}

Image<float> logOf(const Image<float>& in) {
  Image<float> out(in.width(), in.height(), 1);
  for (std::size_t i = 0; i < out.size(); ++i) out.data()[i] = std::log2(std::max(1e-9f, luminance(in.data() + 3 * i)));
  return out;
}

Image<float> flat(int width, int height, float r, float g, float b) {
  Image<float> out(width, height, 3);
  for (std::size_t i = 0; i < out.size(); i += 3) out.data()[i] = r, out.data()[i + 1] = g, out.data()[i + 2] = b;
  return out;
}

/// The geometry that undoes another, as far as turning goes: found by search, not by formula.
double leanOf(const Image<float>& picture) { return findVerticals(logOf(picture), kAssumedFocal).lean; }

} // namespace

class TestFinish : public QObject {
  Q_OBJECT

private slots:
  void shapesMapThereAndBack() {
    Geometry g;
    g.roll = 2, g.pitch = 5, g.yaw = -3, g.distortion = 0.03, g.redFringe = 0.5;
    g.cropX = 0.1, g.cropWidth = 0.8, g.cropHeight = 0.9;
    const ShapeMap map(g, 900, 600);
    for (double y = 0.05; y < 1; y += 0.15)
      for (double x = 0.05; x < 1; x += 0.15) {
        const Spot2 there = map.toCombined({x, y}), back = map.toFinished(there);
        QVERIFY(std::abs(back.x - x) < 1e-6 && std::abs(back.y - y) < 1e-6);
      }
    // Nothing from outside is ever shown.
    for (int i = 0; i <= 20; ++i)
      for (const Spot2 p : {Spot2{i / 20.0, 0}, {i / 20.0, 1}, {0, i / 20.0}, {1, i / 20.0}}) {
        const Spot2 q = map.toCombined(p);
        QVERIFY(q.x >= -1e-6 && q.x <= 1 + 1e-6 && q.y >= -1e-6 && q.y <= 1 + 1e-6);
      }
    QCOMPARE(map.width(), 720);
    QCOMPARE(map.height(), 540);
  }

  void nothingToStraightenChangesNothing() {
    const ShapeMap map({}, 300, 200);
    QVERIFY(map.identity());
    const Image<float> scene = boards(300, 200);
    const auto out = shaped(scene.view(), map, {});
    for (std::size_t i = 0; i < scene.size(); ++i) QVERIFY(std::abs(out->data()[i] - scene.data()[i]) < 1e-5f);
  }

  // Four points of a plane determine it (Hartley and Zisserman, section 4.1): each lands on its partner.
  void homographyTakesFourPointsToFour() {
    const std::array<Spot2, 4> from{Spot2{0, 0}, {1, 0.1}, {0.9, 1.2}, {-0.1, 0.8}}, to{Spot2{0.2, 0.1}, {0.8, 0}, {1, 1}, {0, 0.9}};
    const auto h = homography(from, to);
    QVERIFY(h);
    for (std::size_t i = 0; i < 4; ++i) {
      const auto p = apply(*h, {from[i].x, from[i].y, 1});
      QVERIFY(std::hypot(p[0] / p[2] - to[i].x, p[1] / p[2] - to[i].y) < 1e-9);
    }
    QVERIFY(!homography({Spot2{0, 0}, {1, 1}, {2, 2}, {0, 1}}, to)); // three on a line
  }

  void cutsKeepTheirProportions() {
    // 3 : 2 on a picture of 1200 x 800, dragged flat, tall, backwards and out of the picture.
    const double aspect = 1.5;
    for (const auto& [from, to] : {std::pair{Spot2{0.1, 0.1}, Spot2{0.9, 0.5}}, {Spot2{0.1, 0.1}, Spot2{0.3, 0.9}}, {Spot2{0.9, 0.8}, Spot2{0.2, 0.3}}, {Spot2{0.5, 0.5}, Spot2{1.7, 1.2}}}) {
      const CropBox box = draggedBox(from, to, 1.5, aspect);
      const double w = (box.x1 - box.x0) * 1200, h = (box.y1 - box.y0) * 800;
      QVERIFY(w > 0 && h > 0 && box.x0 >= 0 && box.y0 >= 0 && box.x1 <= 1 && box.y1 <= 1);
      QVERIFY2(std::abs(std::max(w, h) / std::min(w, h) - 1.5) < 1e-9, qPrintable(QString("%1 x %2").arg(w).arg(h)));
      QVERIFY(std::abs(box.x0 - from.x) < 1e-9 || std::abs(box.x1 - from.x) < 1e-9); // it begins where the drag did
    }
    const CropBox free = draggedBox({0.2, 0.3}, {0.7, 0.9}, 0, aspect);
    QVERIFY(std::abs(free.x1 - 0.7) < 1e-12 && std::abs(free.y1 - 0.9) < 1e-12 && free.x0 == 0.2 && free.y0 == 0.3);
    Geometry g;
    const Geometry square = cutToRatio(g, 1, aspect);
    QVERIFY(std::abs(square.cropWidth * aspect - square.cropHeight) < 1e-12 && square.cropHeight == 1 && std::abs(square.cropX - (1 - square.cropWidth) / 2) < 1e-12);
    const Geometry wide = cutToRatio(square, 16 / 9.0, aspect); // of what is kept, not of the whole
    QVERIFY(wide.cropWidth <= square.cropWidth + 1e-12 && wide.cropX >= square.cropX - 1e-12);
    QCOMPARE(cutToRatio(g, 0, aspect), g);
    QVERIFY(cutTo(g, {0.5, 0.5, 0.5, 0.5}).cropWidth >= 0.05); // never to nothing
  }

  void guidesStandWhereTheyShould() {
    QVERIFY(guideLines(CropGuide::None).empty());
    QCOMPARE(guideLines(CropGuide::Thirds).size(), std::size_t(4));
    QCOMPARE(guideLines(CropGuide::Diagonals).size(), std::size_t(2));
    const auto golden = guideLines(CropGuide::Golden); // the smaller part is to the larger as the larger to the whole (Euclid, Elements VI, definition 3)
    const double a = golden[0].from.x, b = 1 - a;
    QVERIFY(std::abs(a / b - b) < 1e-12);
  }

  void cornersAreOrderedClockwise() {
    const std::vector<Spot2> wanted{{0.2, 0.25}, {0.8, 0.2}, {0.85, 0.85}, {0.15, 0.8}};
    std::vector<Spot2> order{wanted[2], wanted[0], wanted[3], wanted[1]};
    QCOMPARE(clockwise(order), wanted);
    std::reverse(order.begin(), order.end());
    QCOMPARE(clockwise(order), wanted);
  }

  void cornersBecomeARectangle() {
    Geometry g;
    g.corners = {{0.2, 0.25}, {0.8, 0.2}, {0.85, 0.85}, {0.15, 0.8}};
    const ShapeMap map(g, 900, 600);
    Spot2 at[4];
    for (std::size_t i = 0; i < 4; ++i) at[i] = map.toFinished(g.corners[i]);
    QVERIFY(std::abs(at[0].y - at[1].y) < 1e-5 && std::abs(at[3].y - at[2].y) < 1e-5);
    QVERIFY(std::abs(at[0].x - at[3].x) < 1e-5 && std::abs(at[1].x - at[2].x) < 1e-5);
  }

  // An invented camera and lens in lensfun's own format; its polynomial model r_d = r (a r^3 + b r^2 + c r + 1 - a - b - c), r = 1 at half the
  // shorter side (lensfun's manual), and its fall-off 1 + k1 r^2 + ... with r = 1 in the corner.
  void lensProfilesAreApplied() {
    const LensShelf shelf(R"(<!DOCTYPE lensdatabase SYSTEM "lensfun-database.dtd"><lensdatabase version="1">
      <mount><name>Quay</name></mount>
      <camera><maker>Marl</maker><model>Ferry 24</model><mount>Quay</mount><cropfactor>1</cropfactor></camera>
      <lens><maker>Marl</maker><model>Ferry 24mm f/4</model><mount>Quay</mount><cropfactor>1</cropfactor>
        <calibration><distortion model="ptlens" focal="24" a="0" b="0.04" c="0"/>
          <vignetting model="pa" focal="24" aperture="8" distance="10" k1="-0.5" k2="0" k3="0"/></calibration></lens></lensdatabase>)");
    const auto profile = shelf.find({"Marl", "Ferry 24", "Ferry 24mm f/4", 24, 8, 10}, 900, 600);
    QVERIFY(profile && !profile->map.places.empty() && !profile->map.gain.empty());
    QVERIFY(std::abs(profile->focal - 24.0 / 18) < 1e-6);
    const int mid = LensMap::kGrid / 2;
    const float* centre = profile->map.places.at(mid, mid);
    QVERIFY(std::abs(centre[2] - 0.5f) < 1e-3f && std::abs(centre[3] - 0.5f) < 1e-3f);
    // Half the shorter side above the middle, r = 1: r_d = 0.04 + 1 - 0.04 = 1; at r = 0.5: 0.5 (0.04 / 4 + 0.96) = 0.485.
    const float* half = profile->map.places.at(mid, mid / 2);
    QVERIFY2(std::abs((0.5f - half[3]) / 0.5f - 0.485f) < 0.002f, qPrintable(QString::number((0.5f - half[3]) / 0.5f)));
    QVERIFY2(std::abs(profile->map.gain.row(0)[0] - 2.f) < 0.03f, qPrintable(QString::number(profile->map.gain.row(0)[0]))); // 1 / (1 - 0.5)
    QVERIFY(!shelf.find({"Marl", "Another", "", 24, 8, 10}, 900, 600));
    Geometry g;
    g.lens = true;
    const ShapeMap map(g, 900, 600, &profile->map, profile->focal);
    QVERIFY(!map.identity());
    const Spot2 there = map.toCombined({0.5, 0.3}), back = map.toFinished(there);
    QVERIFY(std::abs(back.y - 0.3) < 1e-5);
    QVERIFY(map.gainAt({0.001, 0.001}) > 1.9);
  }

  void verticalsAreFoundAndRighted_data() {
    QTest::addColumn<double>("roll");
    QTest::addColumn<double>("pitch");
    QTest::newRow("tilted up") << 0.0 << 8.0;
    QTest::newRow("tilted down") << 0.0 << -6.0;
    QTest::newRow("held askew") << 2.5 << 0.0;
    QTest::newRow("both") << -1.5 << 5.0;
  }
  void verticalsAreFoundAndRighted() {
    QFETCH(double, roll);
    QFETCH(double, pitch);
    Geometry held;
    held.roll = roll, held.pitch = pitch;
    const Image<float> wall = boards(900, 600);
    const auto seen = shaped(wall.view(), ShapeMap(held, 900, 600), {});
    const Verticals found = findVerticals(logOf(*seen), kAssumedFocal);
    QVERIFY(found.found());
    QVERIFY2(found.lean > 0.8, qPrintable(QString::number(found.lean)));
    Geometry righted;
    righted.roll = found.roll, righted.pitch = found.pitch;
    const auto straight = shaped(seen->view(), ShapeMap(righted, 900, 600), {});
    const double left = leanOf(*straight);
    QVERIFY2(left < 0.25, qPrintable(QString("lean %1 became %2 by roll %3 pitch %4").arg(found.lean).arg(left).arg(found.roll).arg(found.pitch)));
  }

  void aLevelHorizonIsFound() {
    Image<float> sea(600, 400, 3);
    for (int y = 0; y < 400; ++y)
      for (int x = 0; x < 600; ++x) {
        const double edge = 200 + std::tan(1.75 * 3.14159265 / 180) * (x - 300), t = 1 / (1 + std::exp(-(y - edge)));
        for (int c = 0; c < 3; ++c) sea.at(x, y)[c] = float(1.0 - 0.7 * t);
      }
    QVERIFY2(std::abs(std::abs(findHorizon(logOf(sea))) - 1.75) < 0.3, qPrintable(QString::number(findHorizon(logOf(sea)))));
    Geometry g;
    g.roll = findHorizon(logOf(sea));
    const auto level = shaped(sea.view(), ShapeMap(g, 600, 400), {});
    QVERIFY2(std::abs(findHorizon(logOf(*level))) < 0.3, qPrintable(QString::number(findHorizon(logOf(*level)))));
  }

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
    moveHues({{60, 40, -1, 0}}, 3, r, g, b); // yellow to grey
    QVERIFY(std::abs(r[0] - b[0]) < 0.02f);                            // the yellow is grey
    QVERIFY(std::abs(r[1] - 0.1f) < 1e-4f && std::abs(b[1] - 0.6f) < 1e-4f); // the blue is as it was
    QVERIFY(std::abs(r[2] - 0.3f) < 1e-4f && std::abs(b[2] - 0.3f) < 1e-4f); // so is the grey
    // Half a width away: (1 - 1/4)^2 of the stops, also across the turn of the circle and for a hue that is given beyond it.
    const auto lightened = [](double hue) {
      float red = 0.4f, green = 0.1f, blue = 0.1f; // hue 0
      moveHues({{hue, 40, 0, 0.5}}, 1, &red, &green, &blue);
      return std::log2((0.2126f * red + 0.7152f * green + 0.0722f * blue) / (0.2126f * 0.4f + 0.7874f * 0.1f));
    };
    for (const double hue : {20.0, 340.0, -20.0, 380.0}) QVERIFY2(std::abs(lightened(hue) - 0.5 * 9 / 16) < 0.01, qPrintable(QString("%1: %2").arg(hue).arg(lightened(hue))));
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
      for (int x = 142; x < 158; ++x) QVERIFY2(std::abs(dirty.at(x, y)[1] / scene.at(x, y)[1] - 1) < 0.02, qPrintable(QString("%1 %2").arg(x).arg(y)));
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
    for (std::size_t i = 0; i < bytes.size(); i += 7) QVERIFY(std::abs(int(bytes[i]) - int(std::lround(whole->picture.data()[i] / 257.0))) <= 1);
  }

  // A finisher that keeps masks gives what a fresh one gives, whatever changed in between.
  void keptMasksAreTheRightOnes() {
    const Image<float> scene = test::texturedScene(360, 240, 9);
    const ToneAnalysis a = analyseTone(scene.view());
    Finisher kept(a);
    Recipe r;
    Area oval, ramp;
    oval.a = {0.3, 0.4}, oval.exposure = 0.5;
    ramp.shape = AreaShape::Ramp, ramp.a = {0.5, 0}, ramp.b = {0.5, 0.6}, ramp.warmth = 0.4, ramp.saturation = -0.3, ramp.contrast = 0.5, ramp.tint = 0.2;
    const auto same = [&] {
      const auto one = kept.finish(scene.view(), r, {}), fresh = finishPicture(scene.view(), a, r, {});
      return one && fresh && std::equal(one->picture.data(), one->picture.data() + one->picture.size(), fresh->picture.data());
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
      return *map.slope.at(u, v) * a.logLight.row(a.logLight.height() / 2)[x * a.logLight.width() / 480] + *map.offset.at(u, v);
    };
    brush.followEdges = false;
    const LocalMap plain = mapOf(brush, a, shape);
    brush.followEdges = true;
    const LocalMap following = mapOf(brush, a, shape);
    QVERIFY2(valueAt(following, 236) > valueAt(plain, 236) - 0.05, qPrintable(QString("%1 %2").arg(valueAt(following, 236)).arg(valueAt(plain, 236))));
    QVERIFY2(valueAt(following, 243) < 0.5 * valueAt(following, 236), qPrintable(QString("%1 %2").arg(valueAt(following, 243)).arg(valueAt(following, 236))));
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
    QTest::newRow("a stroke far away") << R"({"version": 1, "areas": [{"shape": "brush", "a": [0,0], "b": [0,0], "strokes": [{"points": [[1e30, 0]]}]}]})";
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
    const auto low = finisher.finishLight(scene.view(), plain, 0, {}), high = finisher.finishLight(scene.view(), plain, 2.3, {});
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
    const Recipe half = withLook(r, warm, 0.5), full = withLook(half, warm, 1), none = withLook(full, *findLook("natural"), 1);
    QVERIFY(std::abs(half.tone.warmth - (-0.5 + 0.09)) < 1e-9);
    QVERIFY(std::abs(full.tone.warmth - (-0.5 + 0.18)) < 1e-9);
    QVERIFY(std::abs(none.tone.warmth + 0.5) < 1e-9);
    QVERIFY(std::abs(half.tone.veil - 0.125) < 1e-9);
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
};

QTEST_GUILESS_MAIN(TestFinish)
#include "test_finish.moc"
