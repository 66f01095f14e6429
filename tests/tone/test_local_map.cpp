// SPDX-License-Identifier: GPL-3.0-or-later
// Maps on a reduced grid, read row by row, against the plain formula; curves and pulls for any ties.
#include <QTest>

#include "tone/base_layer.h"
#include "tone/curve.h"
#include "tone/local_map.h"
#include "tone/placement.h"

#include <cmath>
#include <random>

using namespace ml;

namespace {

std::mt19937 generator(2);

float anything(float from, float to) {
  return std::uniform_real_distribution<float>(from, to)(generator);
}

Image<float> cells(int width, int height) {
  Image<float> out(width, height, 1);
  for (std::size_t i = 0; i < out.size(); ++i) out.data()[i] = anything(-1, 1);
  return out;
}

/// Bilinear between cell middles, as a picture of width x height sees the grid.
double read(const Image<float>& grid, int x, int y, int width, int height) {
  const double u = std::clamp((x + 0.5) * grid.width() / width - 0.5, 0.0, grid.width() - 1.0),
               v = std::clamp((y + 0.5) * grid.height() / height - 0.5, 0.0, grid.height() - 1.0);
  const int cx = std::min(int(u), std::max(0, grid.width() - 2)), cy = std::min(int(v), std::max(0, grid.height() - 2));
  const int nx = std::min(cx + 1, grid.width() - 1), ny = std::min(cy + 1, grid.height() - 1);
  const double fx = u - cx, fy = v - cy;
  return (1 - fy) * ((1 - fx) * *grid.at(cx, cy) + fx * *grid.at(nx, cy)) +
         fy * ((1 - fx) * *grid.at(cx, ny) + fx * *grid.at(nx, ny));
}

} // namespace

class TestLocalMap : public QObject {
  Q_OBJECT

private slots:
  void rowsAreSlopeTimesLightAndOffset_data() {
    QTest::addColumn<int>("gridWidth");
    QTest::addColumn<int>("width");
    QTest::newRow("many pixels a cell") << 40 << 1000;
    QTest::newRow("two") << 64 << 128;
    QTest::newRow("nearly one") << 96 << 129;
    QTest::newRow("as many") << 77 << 77;
    QTest::newRow("fewer") << 90 << 50;
    QTest::newRow("one cell") << 1 << 30;
    QTest::newRow("two cells") << 2 << 9;
  }
  void rowsAreSlopeTimesLightAndOffset() {
    QFETCH(int, gridWidth);
    QFETCH(int, width);
    const int gridHeight = std::max(1, gridWidth / 2), height = std::max(1, width / 2);
    const LocalMap map{cells(gridWidth, gridHeight), cells(gridWidth, gridHeight)};
    const GridColumns columns(gridWidth, width);
    const auto all = static_cast<std::size_t>(width);
    std::vector<float> log(all), out(all), piece(all), scratch;
    for (float& light : log) light = anything(-8, 8);
    for (int y = 0; y < height; y += 3) {
      QVERIFY(map.readRow(columns, y, height, 0, width, log.data(), out.data(), scratch));
      for (int x = 0; x < width; ++x) {
        const double expected =
            read(map.slope, x, y, width, height) * log[std::size_t(x)] + read(map.offset, x, y, width, height);
        QVERIFY2(std::abs(out[std::size_t(x)] - expected) < 2e-4,
                 qPrintable(QString("%1 %2: %3 %4").arg(x).arg(y).arg(out[std::size_t(x)]).arg(expected)));
      }
      for (int x = 0; x < width; x += 13) { // in pieces it is the same
        const int n = std::min(13, width - x);
        QVERIFY(map.readRow(columns, y, height, x, n, log.data() + x, piece.data() + x, scratch));
      }
      for (int x = 0; x < width; ++x) QVERIFY(std::abs(piece[std::size_t(x)] - out[std::size_t(x)]) < 1e-5f);
    }
  }

  void nothingIsWrittenWhereAllIsZero() {
    LocalMap map = plainMap(cells(20, 20));
    for (int y = 0; y < 20; ++y)
      for (int x = 0; x < 12; ++x) *map.offset.at(x, y) = 0;
    const GridColumns columns(20, 200);
    std::vector<float> log(200, 1.f), out(200, 7.f), scratch;
    QVERIFY(!map.readRow(columns, 50, 200, 0, 100, log.data(), out.data(), scratch));
    QCOMPARE(out[50], 7.f);
    QVERIFY(map.readRow(columns, 50, 200, 100, 100, log.data(), out.data(), scratch));
    QVERIFY(!LocalMap{}.readRow(columns, 50, 200, 0, 200, log.data(), out.data(), scratch));
    QVERIFY(LocalMap{}.clone().empty() && !map.clone().empty());
  }

  // He, Sun, Tang 2013, eq. 5 and 6: where the guide is flat the output is the mean, where it varies much the output
  // follows it.
  void mapsFollowTheGuidesEdges() {
    Image<float> guide(60, 60, 1), wanted(60, 60, 1);
    for (int y = 0; y < 60; ++y)
      for (int x = 0; x < 60; ++x)
        *guide.at(x, y) = x < 30 ? 0.f : 3.f,
                     *wanted.at(x, y) = x < 33 ? 1.f : 0.f; // the mask ends three cells too far
    const LocalMap map = followEdges(wanted, guide, 4, 0.2);
    const auto at = [&](int x) { return *map.slope.at(x, 30) * *guide.at(x, 30) + *map.offset.at(x, 30); };
    QVERIFY(at(5) > 0.99f && at(55) < 0.01f);
    QVERIFY2(at(29) > 0.95f && at(29) - at(30) > 0.25f,
             qPrintable(QString("%1 %2").arg(at(29)).arg(at(30)))); // it breaks at the edge
    const LocalMap flat = followEdges(
        wanted,
        [] {
          Image<float> g(60, 60, 1);
          g.fill(2);
          return g;
        }(),
        4, 0.2);
    for (int x = 0; x < 60; ++x) QVERIFY(std::abs(*flat.slope.at(x, 30)) < 1e-3f);
  }

  // Fritsch and Carlson 1980: whatever rising ties, the curve passes them and never falls; whatever pulls, ties never
  // fall.
  void anyTiesGiveARisingCurve() {
    for (int k = 0; k < 300; ++k) {
      std::vector<Tie> ties;
      double scene = anything(-12, 0), paper = anything(-10, -4);
      for (int i = 0; i < 3 + k % 9; ++i) {
        ties.push_back({scene, paper});
        scene += 0.05 + std::abs(anything(0, 3)), paper += k % 3 == 0 && i % 2 ? 0 : std::abs(anything(0, 2));
      }
      if (k % 2) {
        std::vector<Tie> pulls;
        for (int i = 0; i < 1 + k % 4; ++i) pulls.push_back({anything(-14, 20), anything(-9, 0)});
        ties = pulled(ties, pulls);
        for (std::size_t i = 1; i < ties.size(); ++i)
          QVERIFY2(ties[i].scene > ties[i - 1].scene && ties[i].paper >= ties[i - 1].paper - 1e-9,
                   qPrintable(QString::number(k)));
      }
      const ToneCurve curve(ties);
      for (const Tie& tie : ties) QVERIFY(std::abs(curve(tie.scene) - tie.paper) < 1e-9);
      double last = curve(-30);
      for (double x = -30; x < 40; x += 0.05) {
        const double now = curve(x);
        QVERIFY2(now >= last - 1e-9, qPrintable(QString("%1 at %2").arg(k).arg(x)));
        last = now;
      }
    }
  }

  void aPullPutsItsLightWhereItSays() {
    const std::vector<Tie> ties{{-6, -7}, {-3, -5}, {0, -3}, {3, -1.2}, {6, -0.2}};
    for (const double paper : {-4.5, -3.0, -2.0}) {
      const ToneCurve curve(pulled(ties, {{0.5, paper}}));
      QVERIFY2(std::abs(curve(0.5) - paper) < 0.02, qPrintable(QString("%1 %2").arg(curve(0.5)).arg(paper)));
      const double asked = std::abs(paper - ToneCurve(ties)(0.5));
      for (const double far : {-6.0, 6.0}) // five stops and more away it moves by less than a quarter
        QVERIFY2(std::abs(curve(far) - ToneCurve(ties)(far)) < 0.25 * asked + 1e-9,
                 qPrintable(QString("%1 at %2: %3").arg(paper).arg(far).arg(curve(far))));
    }
  }
};

QTEST_GUILESS_MAIN(TestLocalMap)
#include "test_local_map.moc"
