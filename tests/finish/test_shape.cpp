// SPDX-License-Identifier: GPL-3.0-or-later
// The way from the finished picture back to the combined one: turns, cuts, corners, lens bends, lines found in the
// picture.
#include <QTest>

#include "codec/lens_profile.h"
#include "finish/crop.h"
#include "finish/lines.h"
#include "finish/shape.h"
#include "image/colour.h"
#include "support/scenes.h"

#include <cmath>
#include <opencv2/imgproc.hpp>
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

/// The geometry that undoes another, as far as turning goes: found by search, not by formula.
double leanOf(const Image<float>& picture) {
  return findVerticals(logOf(picture), kAssumedFocal).lean;
}

} // namespace

class TestShape : public QObject {
  Q_OBJECT

private slots:
  /// As far to the side as up: both are moved along their radius by as much, which is its share of the radius cubed.
  void bendsAreRound() {
    Geometry g;
    g.distortion = 0.05;
    const ShapeMap map(g, 900, 600);
    const auto off = [&](double dx, double dy) { // pixels
      const Spot2 at = map.source({0.5 + dx / 900, 0.5 + dy / 600}, 1);
      return std::hypot((at.x - 0.5) * 900, (at.y - 0.5) * 600) / std::hypot(dx, dy);
    };
    const double side = off(200, 0), up = off(0, 200), slant = off(120, 160), near = off(100, 0);
    QVERIFY(std::abs(side - up) < 1e-9 && std::abs(side - slant) < 1e-9);
    QVERIFY(std::abs((side - off(1e-3, 0)) / (near - off(1e-3, 0)) - 4) < 1e-3);
  }

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

  // Each fringe moves its own channel from the middle, by thousandths; green stays.
  void fringesMoveTheirOwnChannel() {
    Geometry g;
    g.redFringe = 4;
    const ShapeMap red(g, 900, 600);
    g.redFringe = 0, g.blueFringe = -3;
    const ShapeMap blue(g, 900, 600);
    const Spot2 at{0.9, 0.5};
    for (int c = 0; c < 3; ++c) {
      const auto against = [&](const ShapeMap& map) {
        return (map.source(at, c).x - 0.5) / (map.source(at, 1).x - 0.5);
      };
      QVERIFY(std::abs(against(red) - (c == 0 ? 1.004 : 1)) < 1e-9);
      QVERIFY(std::abs(against(blue) - (c == 2 ? 0.997 : 1)) < 1e-9);
    }
  }

  // The documented fall-off: stops x r^4 (2 - r^2), r = 1 in the corner.
  void cornersAreLiftedByTheirDistance() {
    Geometry g;
    g.vignetting = 1.5;
    const ShapeMap map(g, 900, 600);
    QCOMPARE(map.gainAt({0.5, 0.5}), 1.0);
    QVERIFY(std::abs(std::log2(map.gainAt({1, 1})) - 1.5) < 1e-9);
    QVERIFY(std::abs(std::log2(map.gainAt({0.75, 0.75})) - 1.5 * 0.0625 * 1.75) < 1e-9); // half way: r^2 = 1/4
  }

  void nothingToStraightenChangesNothing() {
    const ShapeMap map({}, 300, 200);
    QVERIFY(map.identity());
    const Image<float> scene = boards(300, 200);
    const auto out = shaped(scene.view(), map, {});
    for (std::size_t i = 0; i < scene.size(); ++i) QVERIFY(std::abs(out->data()[i] - scene.data()[i]) < 1e-5f);
  }

  // Four points of a plane determine it (Hartley and Zisserman, section 4.1): each lands on its partner.
  void homographyIsThatOfAReferenceLibrary() {
    std::mt19937 random(4);
    std::uniform_real_distribution<double> shake(-0.2, 0.2);
    for (int k = 0; k < 200; ++k) {
      std::array<Spot2, 4> from{Spot2{0, 0}, {1, 0}, {1, 1}, {0, 1}}, to = from;
      cv::Point2f a[4], b[4];
      for (std::size_t i = 0; i < 4; ++i) {
        from[i] = {float(from[i].x + shake(random)), float(from[i].y + shake(random))},
        to[i] = {float(to[i].x + shake(random)), float(to[i].y + shake(random))};
        a[i] = {float(from[i].x), float(from[i].y)}, b[i] = {float(to[i].x), float(to[i].y)};
      }
      const auto ours = homography(from, to);
      QVERIFY(ours);
      const cv::Mat theirs = cv::getPerspectiveTransform(a, b);
      for (int i = 0; i < 9; ++i) // the reference multiplies coordinates in single precision
        QVERIFY2(std::abs((*ours)[std::size_t(i)] / (*ours)[8] - theirs.at<double>(i / 3, i % 3)) <
                     1e-5 * std::max(1.0, std::abs(theirs.at<double>(i / 3, i % 3))),
                 qPrintable(QString("%1 %2: %3 %4")
                                .arg(k)
                                .arg(i)
                                .arg((*ours)[std::size_t(i)] / (*ours)[8], 0, 'g', 12)
                                .arg(theirs.at<double>(i / 3, i % 3), 0, 'g', 12)));
    }
  }

  // Whatever is turned, bent and cut: every place of the finished picture shows a place of the combined one, and the
  // way back ends there.
  void anyShapeStaysInsideAndComesBack() {
    std::mt19937 random(11);
    std::uniform_real_distribution<double> unit(-1, 1), place(0, 1);
    for (int k = 0; k < 300; ++k) {
      Geometry g;
      g.roll = 6 * unit(random), g.pitch = 12 * unit(random), g.yaw = 12 * unit(random),
      g.distortion = 0.06 * unit(random);
      g.cropX = 0.3 * place(random), g.cropY = 0.3 * place(random), g.cropWidth = 0.4 + 0.3 * place(random),
      g.cropHeight = 0.4 + 0.3 * place(random);
      const ShapeMap map(g, 900, k % 2 ? 600 : 1300);
      for (int i = 0; i < 20; ++i) {
        const Spot2 finished{place(random), place(random)}, combined = map.toCombined(finished);
        QVERIFY2(combined.x > -0.002 && combined.x < 1.002 && combined.y > -0.002 && combined.y < 1.002,
                 qPrintable(QString("%1: %2 %3").arg(k).arg(combined.x).arg(combined.y)));
        const Spot2 back = map.toFinished(combined);
        QVERIFY2(std::hypot(back.x - finished.x, back.y - finished.y) < 1e-5,
                 qPrintable(QString("%1: %2").arg(k).arg(std::hypot(back.x - finished.x, back.y - finished.y))));
      }
    }
  }

  void homographyTakesFourPointsToFour() {
    const std::array<Spot2, 4> from{Spot2{0, 0}, {1, 0.1}, {0.9, 1.2}, {-0.1, 0.8}},
        to{Spot2{0.2, 0.1}, {0.8, 0}, {1, 1}, {0, 0.9}};
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
    for (const auto& [from, to] : {std::pair{Spot2{0.1, 0.1}, Spot2{0.9, 0.5}},
                                   {Spot2{0.1, 0.1}, Spot2{0.3, 0.9}},
                                   {Spot2{0.9, 0.8}, Spot2{0.2, 0.3}},
                                   {Spot2{0.5, 0.5}, Spot2{1.7, 1.2}}}) {
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
    QVERIFY(std::abs(square.cropWidth * aspect - square.cropHeight) < 1e-12 && square.cropHeight == 1 &&
            std::abs(square.cropX - (1 - square.cropWidth) / 2) < 1e-12);
    const Geometry wide = cutToRatio(square, 16 / 9.0, aspect); // of what is kept, not of the whole
    QVERIFY(wide.cropWidth <= square.cropWidth + 1e-12 && wide.cropX >= square.cropX - 1e-12);
    QCOMPARE(cutToRatio(g, 0, aspect), g);
    QVERIFY(cutTo(g, {0.5, 0.5, 0.5, 0.5}).cropWidth >= 0.05); // never to nothing
  }

  void guidesStandWhereTheyShould() {
    QVERIFY(guideLines(CropGuide::None).empty());
    QCOMPARE(guideLines(CropGuide::Thirds).size(), std::size_t(4));
    QCOMPARE(guideLines(CropGuide::Diagonals).size(), std::size_t(2));
    const auto golden = guideLines(CropGuide::Golden); // the smaller part is to the larger as the larger to the whole
                                                       // (Euclid, Elements VI, definition 3)
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

  // An invented camera and lens in lensfun's own format; its polynomial model r_d = r (a r^3 + b r^2 + c r + 1 - a - b
  // - c), r = 1 at half the shorter side (lensfun's manual), and its fall-off 1 + k1 r^2 + ... with r = 1 in the
  // corner.
  void lensProfilesAreApplied() {
    const LensShelf shelf(R"(<!DOCTYPE lensdatabase SYSTEM "lensfun-database.dtd"><lensdatabase version="1">
      <mount><name>Quay</name></mount>
      <camera><maker>Marl</maker><model>Ferry 24</model><mount>Quay</mount><cropfactor>1</cropfactor></camera>
      <lens><maker>Marl</maker><model>Ferry 24mm f/4</model><mount>Quay</mount><cropfactor>1</cropfactor>
        <calibration><distortion model="ptlens" focal="24" a="0" b="0.04" c="0"/>
          <vignetting model="pa" focal="24" aperture="8" distance="10" k1="-0.5" k2="0" k3="0"/>
          </calibration></lens></lensdatabase>)");
    const auto profile = shelf.find({"Marl", "Ferry 24", "Ferry 24mm f/4", 24, 8, 10}, 900, 600);
    QVERIFY(profile && !profile->map.places.empty() && !profile->map.gain.empty());
    QVERIFY(std::abs(profile->focal - 24.0 / 18) < 1e-6);
    const int mid = LensMap::kGrid / 2;
    const float* centre = profile->map.places.at(mid, mid);
    QVERIFY(std::abs(centre[2] - 0.5f) < 1e-3f && std::abs(centre[3] - 0.5f) < 1e-3f);
    // Half the shorter side above the middle, r = 1: r_d = 0.04 + 1 - 0.04 = 1; at r = 0.5: 0.5 (0.04 / 4 + 0.96) =
    // 0.485.
    const float* half = profile->map.places.at(mid, mid / 2);
    QVERIFY2(std::abs((0.5f - half[3]) / 0.5f - 0.485f) < 0.002f, qPrintable(QString::number((0.5f - half[3]) / 0.5f)));
    QVERIFY2(std::abs(profile->map.gain.row(0)[0] - 2.f) < 0.03f,
             qPrintable(QString::number(profile->map.gain.row(0)[0]))); // 1 / (1 - 0.5)
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
    QVERIFY2(left < 0.25, qPrintable(QString("lean %1 became %2 by roll %3 pitch %4")
                                         .arg(found.lean)
                                         .arg(left)
                                         .arg(found.roll)
                                         .arg(found.pitch)));
  }

  void aLevelHorizonIsFound() {
    Image<float> sea(600, 400, 3);
    for (int y = 0; y < 400; ++y)
      for (int x = 0; x < 600; ++x) {
        const double edge = 200 + std::tan(1.75 * 3.14159265 / 180) * (x - 300), t = 1 / (1 + std::exp(-(y - edge)));
        for (int c = 0; c < 3; ++c) sea.at(x, y)[c] = float(1.0 - 0.7 * t);
      }
    QVERIFY2(std::abs(std::abs(findHorizon(logOf(sea))) - 1.75) < 0.3,
             qPrintable(QString::number(findHorizon(logOf(sea)))));
    Geometry g;
    g.roll = findHorizon(logOf(sea));
    const auto level = shaped(sea.view(), ShapeMap(g, 600, 400), {});
    QVERIFY2(std::abs(findHorizon(logOf(*level))) < 0.3, qPrintable(QString::number(findHorizon(logOf(*level)))));
  }
};

QTEST_GUILESS_MAIN(TestShape)
#include "test_shape.moc"
