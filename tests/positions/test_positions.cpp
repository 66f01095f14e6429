// SPDX-License-Identifier: GPL-3.0-or-later
#include "codec/exif.h"
#include "codec/tiff_file.h"
#include "deliver/deliver.h"
#include "figures.h"
#include "finish/finish.h"
#include "positions/cut.h"
#include "positions/features.h"
#include "sphere_sets.h"

#include <QProcess>
#include <QTemporaryDir>
#include <QTest>
#include <bitset>
#include <fstream>
#include <limits>
#include <nlohmann/json.hpp>
#include <numbers>
#include <opencv2/imgcodecs.hpp>
#include <opencv2/imgproc.hpp>
#include <random>

using namespace ml;
using namespace ml::test;
namespace fs = std::filesystem;
using nlohmann::json;

namespace {

fs::path pathOf(const QTemporaryDir& folder) {
  return folder.path().toStdString();
}

/// Runs the command line; its exit code.
int run(const QStringList& arguments, QString* said = nullptr) {
  QProcess process;
  process.start(ML_CLI, arguments);
  if (!process.waitForFinished(120000)) return -1;
  if (said) *said = QString::fromUtf8(process.readAllStandardOutput() + process.readAllStandardError());
  return process.exitCode();
}

} // namespace

class TestPositions : public QObject {
  Q_OBJECT
  int checked_ = 0; ///< Pairs of photographs that another's search found too.

private slots:
  // ---- Geometry

  void anglesAndTurnsAgree() {
    // Axes by hand: X right, Y down, Z ahead.
    const auto near = [](const Vector3& a, const Vector3& b) {
      return std::hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]) < 1e-12;
    };
    QVERIFY(near(ml::apply(turnOf({90, 0, 0}), {0, 0, 1}), {1, 0, 0}));  // yaw looks right
    QVERIFY(near(ml::apply(turnOf({0, 90, 0}), {0, 0, 1}), {0, -1, 0})); // pitch looks up
    QVERIFY(near(ml::apply(turnOf({0, 0, 90}), {1, 0, 0}), {0, 1, 0}));  // roll: the right side goes down
    std::mt19937 random(1);
    std::uniform_real_distribution<double> wide(-170, 170), narrow(-85, 85);
    for (int i = 0; i < 200; ++i) {
      const Angles given{wide(random), narrow(random), wide(random)};
      const Angles found = anglesOf(turnOf(given));
      QVERIFY(std::abs(found.yaw - given.yaw) < 1e-9 && std::abs(found.pitch - given.pitch) < 1e-9 &&
              std::abs(found.roll - given.roll) < 1e-9);
    }
  }

  void pixelsAndRaysAreInverse() {
    const CameraGeometry camera({turnOf({20, -10, 3}), 700, 12, -30}, {-0.05, 0.004}, 900, 600);
    for (int y = 0; y < 600; y += 37)
      for (int x = 0; x < 900; x += 41) {
        double u, v;
        QVERIFY(camera.pixel(camera.ray(x, y), u, v));
        QVERIFY(std::hypot(u - x, v - y) < 1e-6);
      }
    double u, v;
    QVERIFY(!camera.pixel(ml::apply(turnOf({200, 10, 0}), {0, 0, 1}), u, v)); // behind
  }

  void aCanvasIsWhatItsReportSays() {
    for (const Projection p : {Projection::Perspective, Projection::Cylindrical, Projection::Equirectangular}) {
      const Canvas canvas{p, 500, 820.5, 310.25, 1600, 600, false};
      const Vector3 d{0.3, -0.2, 0.93};
      double x, y;
      QVERIFY(canvas.place(d, x, y));
      // The words of the report, once more.
      const double flat = std::hypot(d[0], d[2]);
      const double ex = p == Projection::Perspective ? d[0] / d[2] : std::atan2(d[0], d[2]);
      const double ey = p == Projection::Perspective   ? d[1] / d[2]
                        : p == Projection::Cylindrical ? d[1] / flat
                                                       : std::atan2(d[1], flat);
      QVERIFY(std::abs(x - (820.5 + 500 * ex)) < 1e-9 && std::abs(y - (310.25 + 500 * ey)) < 1e-9);
      const Vector3 back = canvas.direction(x, y);
      const double length = std::hypot(d[0], d[1], d[2]);
      for (std::size_t i = 0; i < 3; ++i) QVERIFY(std::abs(back[i] - d[i] / length) < 1e-9);
    }
  }

  void kabschFindsARotation() {
    const Matrix3 turn = turnOf({31, -12, 77});
    std::vector<Vector3> a, b;
    std::mt19937 random(2);
    std::normal_distribution<double> normal;
    for (int i = 0; i < 12; ++i) {
      a.push_back({normal(random), normal(random), normal(random)});
      b.push_back(ml::apply(turn, a.back()));
    }
    const Matrix3 found = rotationBetween(a, b);
    for (std::size_t i = 0; i < 9; ++i) QVERIFY(std::abs(found[i] - turn[i]) < 1e-9);
  }

  // ---- Cuts

  /// Features that no block or group of four divides evenly, against every pair looked at plainly.
  void featuresArePairedAsPlainSearchSays() {
    std::mt19937 random{5};
    std::normal_distribution<float> any;
    const auto looks = [&](int count) {
      auto out = std::vector<Feature>(std::size_t(count));
      for (int i = 0; i < count; ++i) {
        Feature& f = out[std::size_t(i)];
        f.x = float(10 * i), f.y = float(i % 7);
        float sum = 0;
        for (float& v : f.look) v = std::abs(any(random)), sum += v * v;
        for (float& v : f.look) v /= std::sqrt(sum);
      }
      return out;
    };
    auto a = looks(53), b = looks(39);
    for (std::size_t i = 0; i < 30; ++i) { // thirty of them are alike
      float sum = 0;
      b[38 - i].look = a[i + 20].look;
      for (float& v : b[38 - i].look) v = std::abs(v + 0.02f * any(random)), sum += v * v;
      for (float& v : b[38 - i].look) v /= std::sqrt(sum);
    }
    const auto cosine = [](const Feature& p, const Feature& q) {
      double sum = 0;
      for (std::size_t d = 0; d < 128; ++d) sum += double(p.look[d]) * q.look[d];
      return sum;
    };
    std::vector<std::pair<int, int>> wanted;
    for (std::size_t i = 0; i < a.size(); ++i) {
      std::size_t best = 0, back = 0;
      double second = -1;
      for (std::size_t j = 1; j < b.size(); ++j)
        if (cosine(a[i], b[j]) > cosine(a[i], b[best])) best = j;
      for (std::size_t j = 0; j < b.size(); ++j)
        if (j != best) second = std::max(second, cosine(a[i], b[j]));
      for (std::size_t k = 1; k < a.size(); ++k)
        if (cosine(a[k], b[best]) > cosine(a[back], b[best])) back = k;
      if (back == i && 2 - 2 * cosine(a[i], b[best]) < 0.85 * 0.85 * (2 - 2 * second))
        wanted.emplace_back(int(i), int(best));
    }
    std::vector<std::pair<int, int>> found;
    for (const FeaturePair& pair : pairFeatures(a, b)) found.emplace_back(pair.a, pair.b);
    QCOMPARE(found.size(), std::size_t(30));
    QCOMPARE(found, wanted);
  }

  void aCutIsTheCheapest() {
    // Against trying all ways to part a grid of 4 x 3 nodes.
    std::mt19937 random(3);
    std::uniform_real_distribution<float> cost(0, 1);
    for (int round = 0; round < 60; ++round) {
      GridCut grid(4, 3);
      grid.closed = round % 2 == 1;
      for (auto* side : {&grid.right, &grid.down, &grid.source, &grid.sink})
        for (float& c : *side) c = cost(random) < 0.3f ? 0 : cost(random);
      grid.source[0] = grid.sink[7] = GridCut::kHeld;
      grid.sink[0] = grid.source[7] = 0;
      const auto price = [&](unsigned sides) {
        double sum = 0;
        const std::bitset<12> bits(sides); // GCC 12 at -O1 mistakes the shifts of `sides >> i & 1` for each other
        const auto source = [&](int i) { return bits[std::size_t(i)]; };
        for (int y = 0; y < 3; ++y)
          for (int x = 0; x < 4; ++x) {
            const int i = 4 * y + x;
            sum += source(i) ? grid.sink[std::size_t(i)] : grid.source[std::size_t(i)];
            const int r = x < 3 ? i + 1 : grid.closed ? 4 * y : -1;
            if (r >= 0 && source(i) != source(r)) sum += grid.right[std::size_t(i)];
            if (y < 2 && source(i) != source(i + 4)) sum += grid.down[std::size_t(i)];
          }
        return sum;
      };
      double least = std::numeric_limits<double>::max();
      for (unsigned sides = 0; sides < 4096; ++sides) least = std::min(least, price(sides));
      unsigned found = 0;
      const auto solved = grid.solve();
      for (unsigned i = 0; i < 12; ++i) found |= unsigned(solved[i]) << i;
      QVERIFY2(price(found) < least + 1e-4, qPrintable(QString("%1 for %2").arg(price(found)).arg(least)));
    }
  }

  // ---- Sets made apart from the product: see position_sets.h

  void turned_data() {
    QTest::addColumn<int>("seed");
    QTest::addColumn<int>("columns");
    QTest::addColumn<int>("rows");
    QTest::addColumn<double>("focal");
    QTest::addColumn<double>("bend");
    QTest::newRow("two") << 2 << 2 << 1 << 1.1 << 0.0;
    QTest::newRow("three, bent") << 3 << 3 << 1 << 0.9 << -0.045;
    QTest::newRow("three by two") << 4 << 3 << 2 << 1.2 << 0.03;
  }
  void turned() {
    QFETCH(int, seed);
    QFETCH(int, columns);
    QFETCH(int, rows);
    QFETCH(double, focal);
    QFETCH(double, bend);
    QTemporaryDir folder;
    SetPlan plan;
    plan.seed = std::uint64_t(seed);
    plan.columns = columns, plan.rows = rows;
    plan.focal = focal, plan.bend = bend;
    plan.width = 900, plan.height = 600;
    const PositionSet set(plan, pathOf(folder));
    const auto assembly = assembleFiles({pathOf(folder)}, {}, {});
    QVERIFY2(assembly.has_value(), assembly ? "" : assembly.error().message.c_str());
    const Figures f = figuresOf(set, *assembly);
    qInfo("%.4f degrees, focal %.2f %%, residual %.2f, light %.3f, within 0.2 %.4f", f.degrees, 100 * f.focal,
          f.residual, f.light, f.within);
    QVERIFY(assembly->arrangement.kind == PositionKind::Turned);
    QVERIFY(f.degrees < 0.03);
    QVERIFY(std::abs(f.focal) < 0.003);
    QVERIFY(f.residual < 0.5);
    QVERIFY(f.within > 0.98);
    for (std::size_t i = 0; i < assembly->positions.size(); ++i) {
      const auto& p = assembly->positions[i];
      QCOMPARE(p.files, set.files[i]);
      QCOMPARE(p.place.row, int(i) / columns);
      QCOMPARE(p.place.column, int(i) % columns);
      QCOMPARE(p.plane, 0);
      QVERIFY(p.fit.overlap > 0.25 && p.fit.overlap < 0.6);
    }
    // Level: a hand's degree of roll each, and a pitch of its own.
    QVERIFY(std::abs(f.gauge[2]) < 1.5);
  }

  void shifted() {
    QTemporaryDir folder;
    SetPlan plan;
    plan.kind = SetKind::Shifted;
    plan.columns = 1, plan.rows = 3;
    const PositionSet set(plan, pathOf(folder));
    const auto assembly = assembleFiles({pathOf(folder)}, {}, {});
    QVERIFY2(assembly.has_value(), assembly ? "" : assembly.error().message.c_str());
    QVERIFY(assembly->arrangement.kind == PositionKind::Shifted);
    QVERIFY(assembly->canvas.projection == Projection::Perspective);
    const Figures f = figuresOf(set, *assembly);
    qInfo("shift %.3f pixels, light %.3f, within %.4f", f.shift, f.light, f.within);
    QVERIFY(f.shift < 0.3);
    QVERIFY(f.within > 0.97);
    QCOMPARE(assembly->positions[2].place.row, 2);
    QVERIFY(assembly->positions[2].pose.shiftY > assembly->positions[0].pose.shiftY + 500); // down is positive
  }

  void planesOfFocus() {
    QTemporaryDir folder;
    SetPlan plan;
    plan.seed = 2;
    plan.kind = SetKind::Focus;
    plan.columns = 1, plan.planes = 2;
    plan.focal = 1.2;
    const PositionSet set(plan, pathOf(folder));
    const auto assembly = assembleFiles({pathOf(folder)}, {}, {});
    QVERIFY2(assembly.has_value(), assembly ? "" : assembly.error().message.c_str());
    QCOMPARE(int(assembly->pictures.size()), 1);
    QCOMPARE(assembly->positions[1].plane, 1);
    // Focusing breathes by 2 %.
    QVERIFY(std::abs(assembly->positions[1].pose.focal / assembly->positions[0].pose.focal - 1.02) < 0.001);
    const Image<float> whole = drawn(*assembly);
    QCOMPARE(whole.width(), plan.width);
    // Against the plane that is sharp at each place, by its own frames.
    Image<float> planes[2];
    for (std::size_t k = 0; k < 2; ++k) planes[k] = std::move(combineFiles(set.files[k], {}, {})->radiance);
    const Shot &near = set.shots[0], &far = set.shots[1]; // far shows least: the whole has its geometry
    std::vector<double> ours, best;
    for (int y = 12; y < plan.height - 12; y += 5)
      for (int x = 12; x < plan.width - 12; x += 5) {
        const auto direction = [&](double u, double v) { return directionOf(far, u, v, plan.width, plan.height); };
        const double truth = seenAt(set, direction, x, y);
        const bool isNear = PositionSet::isNear(direction(x, y));
        const double scale = isNear ? near.focal / far.focal : 1;
        const double u = (x - (plan.width - 1) / 2.0) * scale + (plan.width - 1) / 2.0,
                     v = (y - (plan.height - 1) / 2.0) * scale + (plan.height - 1) / 2.0;
        const int u0 = int(u), v0 = int(v);
        const auto at = [&](int a, int b) { return double(planes[isNear ? 0 : 1].at(a, b)[1]); };
        const double sharp = (at(u0, v0) * (u0 + 1 - u) + at(u0 + 1, v0) * (u - u0)) * (v0 + 1 - v) +
                             (at(u0, v0 + 1) * (u0 + 1 - u) + at(u0 + 1, v0 + 1) * (u - u0)) * (v - v0);
        ours.push_back(std::log2(whole.at(x, y)[1] / truth));
        best.push_back(std::log2(sharp / truth));
      }
    const auto rms = [](std::vector<double> v) {
      auto sorted = v;
      std::sort(sorted.begin(), sorted.end());
      double sum = 0;
      for (const double e : v) sum += (e - sorted[v.size() / 2]) * (e - sorted[v.size() / 2]);
      return std::sqrt(sum / double(v.size()));
    };
    qInfo("%.4f stops; the sharp plane of each place: %.4f", rms(ours), rms(best));
    QVERIFY(rms(ours) < 1.2 * rms(best));
  }

  // ---- Spheres

  void aSphereHasNoSeamAndMayBeTurned() {
    QTemporaryDir folder;
    const RoundRoom room(21);
    constexpr int kWidth = 512, kHeight = 256;
    shootSphere(room, pathOf(folder) / "a", kWidth, 0);
    shootSphere(room, pathOf(folder) / "b", kWidth, kWidth / 4);
    AssembleOptions options;
    options.kind = PositionWish::Sphere;
    const auto a = assembleFiles({pathOf(folder) / "a"}, options, {}),
               b = assembleFiles({pathOf(folder) / "b"}, options, {});
    QVERIFY2(a.has_value(), a ? "" : a.error().message.c_str());
    QVERIFY(b.has_value());
    const auto whole = [](const Assembly& assembly) {
      Image<float> out(assembly.canvas.width, assembly.canvas.height, 3);
      drawAssembly(assembly,
                   [&](int y, ImageView<const float> rows) {
                     for (int v = 0; v < rows.height; ++v) std::copy_n(rows.row(v), 3 * rows.width, out.row(y + v));
                     return true;
                   },
                   {});
      return out;
    };
    const Image<float> one = whole(*a), other = whole(*b);
    QCOMPARE(one.width(), kWidth);
    // A quarter of a turn changes nothing but the turn.
    double worst = 0;
    int away = 0;
    for (int y = 0; y < kHeight; ++y)
      for (int x = 0; x < kWidth; ++x) {
        const double off = std::abs(std::log2(double(other.at(x, y)[1]) / one.at((x + kWidth / 4) % kWidth, y)[1]));
        worst = std::max(worst, off);
        away += off > 0.01;
      }
    qInfo("worst %.4f stops, %d pixels beyond a hundredth", worst, away);
    QVERIFY(away < kWidth * kHeight / 1000);
    // And so does the finish, without a step where left meets right.
    SceneFacts facts = a->facts;
    QVERIFY(facts.sphere);
    const auto shown = finishRadiance(one.view(), Recipe{}, facts, nullptr, {}),
               turned = finishRadiance(other.view(), Recipe{}, facts, nullptr, {});
    QVERIFY(shown.has_value() && turned.has_value());
    QCOMPARE(shown->picture.width(), kWidth);
    // The step over the wrap is the step that the turned sphere has there, in its middle.
    int step = 0, most = 0;
    const int there = kWidth - kWidth / 4; // where the turned sphere shows the wrap
    for (int y = 0; y < kHeight; ++y) {
      const auto green = [&](const Finished& f, int x) { return int(f.picture.at((x + kWidth) % kWidth, y)[1]); };
      step = std::max(
          step, std::abs((green(*shown, 0) - green(*shown, -1)) - (green(*turned, there) - green(*turned, there - 1))));
      for (int x = 0; x < kWidth; ++x)
        most = std::max(most, std::abs(green(*turned, x) - green(*shown, x + kWidth / 4)));
    }
    qInfo("finish: step %d, all %d of 65535", step, most);
    QVERIFY(step < 65535 / 100);
    QVERIFY(most < 65535 / 20); // local maps have cells that do not turn with the picture
  }

  void aSphereSaysSo() {
    QTemporaryDir folder;
    Image<std::uint16_t> codes(64, 32, 3);
    codes.fill(30000);
    DeliverOptions options;
    options.sphere = true;
    const fs::path file = pathOf(folder) / "sphere.jpg";
    QVERIFY(deliverPicture(std::as_const(codes).view(), file, options).has_value());
    std::ifstream in(file, std::ios::binary);
    const std::string bytes((std::istreambuf_iterator<char>(in)), {});
    QVERIFY(bytes.find("GPano:ProjectionType=\"equirectangular\"") != std::string::npos);
    QVERIFY(bytes.find("GPano:FullPanoWidthPixels=\"64\"") != std::string::npos);
  }

  // ---- Refusals: a wrong join is a defect

  void anotherPlaceIsRefused() {
    QTemporaryDir folder;
    SetPlan plan;
    plan.columns = 2;
    const PositionSet set(plan, pathOf(folder) / "a");
    plan.seed = 77;
    plan.columns = 1;
    const PositionSet elsewhere(plan, pathOf(folder) / "b");
    const auto assembly = assembleFiles({pathOf(folder) / "a", pathOf(folder) / "b"}, {}, {});
    QVERIFY(!assembly);
    QCOMPARE(assembly.error().code, ErrorCode::CannotAlign);
    QVERIFY2(assembly.error().message.find("Position 3") != std::string::npos, assembly.error().message.c_str());
  }

  void noOverlapIsRefused() {
    QTemporaryDir folder;
    SetPlan plan;
    plan.columns = 2;
    plan.overlap = -0.1;
    const PositionSet set(plan, pathOf(folder));
    const auto assembly = assembleFiles({pathOf(folder)}, {}, {});
    QVERIFY(!assembly);
    QCOMPARE(assembly.error().code, ErrorCode::CannotAlign);
  }

  void parallaxIsRefusedOrSmall() {
    // The camera carried by a tenth of the distance to the walls between positions.
    QTemporaryDir folder;
    SetPlan plan;
    plan.seed = 5;
    plan.parallax = 0.1;
    const PositionSet set(plan, pathOf(folder));
    const auto assembly = assembleFiles({pathOf(folder)}, {}, {});
    if (assembly) QVERIFY(figuresOf(set, *assembly).residual < 3);
    if (!assembly) QCOMPARE(assembly.error().code, ErrorCode::CannotAlign);
  }

  // ---- Photographs that nobody here took

  void realPhotographsOfAPainting() {
    const fs::path folder = fs::path(ML_SOURCE_DIR) / "tests/data/overlapping";
    std::vector<fs::path> files;
    for (int row = 1; row <= 4; ++row)
      for (int column = 1; column <= 2; ++column)
        files.push_back(folder / ("cd" + std::to_string(row) + "." + std::to_string(column) + ".jpg"));
    const auto assembly = assembleFiles(files, {}, {});
    QVERIFY2(assembly.has_value(), assembly ? "" : assembly.error().message.c_str());
    QVERIFY(assembly->arrangement.kind == PositionKind::Shifted);
    for (std::size_t i = 0; i < files.size(); ++i) {
      QCOMPARE(assembly->positions[i].place.row, int(i) / 2);
      QCOMPARE(assembly->positions[i].place.column, int(i) % 2);
      QVERIFY(assembly->positions[i].fit.residual < 2);
    }
    // Each neighbour to the right and below by another's search: a patch of one picture in the other (OpenCV 4.6).
    const auto shiftOf = [&](std::size_t a, std::size_t b, const cv::Rect& patch) {
      const cv::Mat one = cv::imread(files[a].string(), cv::IMREAD_GRAYSCALE),
                    other = cv::imread(files[b].string(), cv::IMREAD_GRAYSCALE);
      cv::Mat score;
      cv::matchTemplate(one, other(patch), score, cv::TM_CCOEFF_NORMED);
      cv::Point at;
      double best = 0;
      cv::minMaxLoc(score, nullptr, &best, nullptr, &at);
      return std::array<double, 3>{double(at.x - patch.x), double(at.y - patch.y), best};
    };
    for (std::size_t a = 0; a < files.size(); ++a)
      for (const bool right : {true, false}) {
        const std::size_t b = right ? a + 1 : a + 2;
        if ((right && a % 2 == 1) || b >= files.size()) continue;
        const auto seen = shiftOf(a, b, right ? cv::Rect(12, 150, 70, 70) : cv::Rect(230, 6, 80, 44));
        qInfo("%d %d: %.1f %.1f by %.2f, ours %.1f %.1f", int(a), int(b), seen[0], seen[1], seen[2],
              assembly->positions[b].pose.shiftX - assembly->positions[a].pose.shiftX,
              assembly->positions[b].pose.shiftY - assembly->positions[a].pose.shiftY);
        if (seen[2] < 0.9) continue; // that patch lies beyond the overlap
        const Pose &from = assembly->positions[a].pose, &to = assembly->positions[b].pose;
        const double x = to.shiftX - from.shiftX, y = to.shiftY - from.shiftY;
        QVERIFY2(
            std::hypot(x - seen[0], y - seen[1]) < 2,
            qPrintable(QString("%1 to %2: %3 %4, not %5 %6").arg(a).arg(b).arg(x).arg(y).arg(seen[0]).arg(seen[1])));
        ++checked_;
      }
    QVERIFY2(checked_ >= 7, qPrintable(QString::number(checked_)));
  }

  // ---- Whatever order

  void orderOfFilesChangesNothing() {
    QTemporaryDir folder;
    SetPlan plan;
    plan.seed = 6;
    plan.width = 600, plan.height = 400;
    const PositionSet set(plan, pathOf(folder) / "a");
    const auto first = assembleFiles({pathOf(folder) / "a"}, {}, {});
    QVERIFY2(first.has_value(), first ? "" : first.error().message.c_str());
    // Shot from right to left: names and clocks the other way round.
    std::vector<FileGroup> groups;
    for (std::size_t i = set.files.size(); i-- > 0;) {
      FileGroup group;
      group.name = "g" + std::to_string(i);
      for (const auto& file : set.files[i]) group.files.push_back(*inspectFile(file));
      groups.push_back(group);
    }
    const auto second = assembleGroups(groups, {}, {});
    QVERIFY2(second.has_value(), second ? "" : second.error().message.c_str());
    QVERIFY(std::abs(first->positions[0].pose.focal / second->positions[2].pose.focal - 1) < 0.002);
    for (std::size_t i = 0; i < 3; ++i) {
      const Angles a = anglesOf(first->positions[i].pose.turn), b = anglesOf(second->positions[2 - i].pose.turn);
      QVERIFY(std::abs(a.yaw - b.yaw) < 0.04 && std::abs(a.roll - b.roll) < 0.04);
      QCOMPARE(first->positions[i].place.column, second->positions[2 - i].place.column);
    }
  }

  // ---- The command line and its fixed report

  void theCommandLineWritesPictureAndReport() {
    QTemporaryDir folder;
    SetPlan plan;
    plan.seed = 8;
    plan.width = 600, plan.height = 400;
    const PositionSet set(plan, pathOf(folder) / "frames");
    const QString at = folder.path();
    for (const QString& format : {QString("exr"), QString("tif")}) {
      QString said;
      QCOMPARE(run({"assemble", at + "/frames", "--out", at + "/whole." + format, "--report", at + "/report.json",
                    "--projection", "cylindrical"},
                   &said),
               0);
      QVERIFY2(said.contains("3 positions joined"), qPrintable(said));
      std::ifstream file((at + "/report.json").toStdString());
      const json report = json::parse(file);
      const json& p = report.at("panorama");
      QCOMPARE(QString::fromStdString(p.at("projection")), QString("cylindrical"));
      QVERIFY(p.at("focal_px").get<double>() > 100 && p.contains("centre_x") && p.contains("centre_y"));
      QVERIFY(p.contains("radial"));
      QCOMPARE(int(p.at("positions").size()), 3);
      for (const json& position : p.at("positions")) {
        QCOMPARE(int(position.at("files").size()), 3);
        for (const char* key : {"row", "column", "plane", "yaw_degrees", "pitch_degrees", "roll_degrees", "focal_px",
                                "shift_x_px", "shift_y_px", "residual_px", "overlap"})
          QVERIFY2(position.at(key).is_number(), key);
      }
      QVERIFY(p["positions"][2]["yaw_degrees"].get<double>() > p["positions"][0]["yaw_degrees"].get<double>());
      const auto whole = readRadiance((at + "/whole." + format).toStdString());
      QVERIFY(whole.has_value());
      QVERIFY(whole->width() > 900 && whole->height() > 300);
    }
    // One position turned by hand, from what was kept of the positions.
    const auto yaws = [&](const QStringList& more) {
      run(QStringList{"assemble", at + "/frames", "--out", at + "/whole.exr", "--report", at + "/report.json", "--keep",
                      at + "/kept"} +
          more);
      std::ifstream file((at + "/report.json").toStdString());
      const json positions = json::parse(file).at("panorama").at("positions");
      return std::array{positions[0]["yaw_degrees"].get<double>(), positions[2]["yaw_degrees"].get<double>()};
    };
    const auto found = yaws({}), turned = yaws({"--turn", "shot-008.jpg=2,0,0"});
    QCOMPARE(std::distance(fs::directory_iterator((at + "/kept").toStdString()), fs::directory_iterator()), 3);
    QVERIFY(std::abs(turned[0] - found[0]) < 0.01); // kept as half floats
    QVERIFY2(std::abs(turned[1] - found[1] - 2) < 0.1, qPrintable(QString::number(turned[1] - found[1])));
    for (const char* wrong : {"shot-008.jpg=2,0", "shot-008.jpg", "shot-008.jpg=2,0,0,0", "shot-008.jpg=a,0,0"})
      QCOMPARE(run({"assemble", at + "/frames", "--out", at + "/whole.exr", "--turn", wrong}), 2);
    QVERIFY(run({"assemble", at + "/frames", "--out", at + "/whole.exr", "--turn", "else.jpg=1,0,0"}) != 0);
    QCOMPARE(run({"assemble", at + "/frames", "--out", at + "/whole.jpg"}), 2);
    QCOMPARE(run({"assemble", at + "/frames", "--out", at + "/whole.exr", "--kind", "round"}), 2);
    QString said;
    QVERIFY(run({"assemble", at + "/frames/shot-001.jpg", at + "/frames/shot-002.jpg", at + "/frames/shot-003.jpg",
                 "--out", at + "/one.exr"},
                &said) != 0);
    QVERIFY2(said.contains("use `combine`"), qPrintable(said));
    QVERIFY(!fs::exists((at + "/one.exr").toStdString()));
    QCOMPARE(run({"assemble", at + "/nowhere", "--out", at + "/whole.exr"}), 3);
  }

  void aRunJoinsPositionsAndLeavesOtherViewsAlone() {
    QTemporaryDir folder;
    SetPlan plan;
    plan.seed = 12;
    plan.width = 600, plan.height = 400;
    const PositionSet turned(plan, pathOf(folder) / "card");
    // Another room, shot right after with the same settings; and the same view twice.
    SetPlan other = plan;
    other.seed = 55;
    other.columns = 1;
    const PositionSet single(other, pathOf(folder) / "other");
    int number = 100;
    for (int repeat = 0; repeat < 2; ++repeat)
      for (const auto& file : single.files[0]) {
        const fs::path to = pathOf(folder) / "card" / ("shot-" + std::to_string(number++) + ".jpg");
        fs::copy_file(file, to);
        ShotMetadata said = *readExif(to);
        said.takenAt = "2026:05:04 10:01:" + std::to_string(number - 80);
        QVERIFY(writeExif(to, said).has_value());
      }
    const QString at = folder.path();
    QString said;
    QCOMPARE(run({"run", at + "/card", "--out", at + "/out"}, &said), 0);
    std::ifstream file((at + "/out/report.json").toStdString());
    const json summary = json::parse(file);
    QVERIFY2(summary.at("sets").size() == 3, qPrintable(said));
    QCOMPARE(summary["sets"][0]["files"].get<int>(), 9);
    QVERIFY2(summary["sets"][0]["verdict"].get<std::string>().find("3 positions joined") == 0, qPrintable(said));
    std::ifstream own(summary["sets"][0]["report"].get<std::string>());
    const json report = json::parse(own);
    QCOMPARE(int(report["panorama"]["positions"].size()), 3);
    const auto crop = report.at("crop").get<std::vector<int>>();
    QVERIFY(crop[2] > 800 && crop[3] > 250);
    // Nothing within the crop is uncovered.
    const auto whole = readRadiance(summary["sets"][0]["radiance"].get<std::string>());
    QVERIFY(whole.has_value());
    for (int y = crop[1]; y < crop[1] + crop[3]; y += 3)
      for (int x = crop[0]; x < crop[0] + crop[2]; x += 3) QVERIFY(whole->at(x, y)[1] > 0);
    // Asked again, nothing is made again; asked for separate pictures, five are made.
    QCOMPARE(run({"run", at + "/card", "--out", at + "/out"}, &said), 0);
    QVERIFY2(said.contains("done before"), qPrintable(said));
    QCOMPARE(run({"run", at + "/card", "--out", at + "/apart", "--no-join", "--deliver", "web"}, &said), 0);
    QVERIFY2(said.contains("5 of 5"), qPrintable(said));
  }

  void radiancePicturesAreJoinedToo() {
    QTemporaryDir folder;
    SetPlan plan;
    plan.seed = 9;
    plan.width = 600, plan.height = 400;
    plan.frames = 1;
    const PositionSet set(plan, pathOf(folder) / "frames");
    std::vector<fs::path> files;
    for (std::size_t i = 0; i < set.shots.size(); ++i) {
      files.push_back(pathOf(folder) / ("light" + std::to_string(i) + ".exr"));
      QVERIFY(deliverRadiance(set.frameLight(set.shots[i], -1).view(), files.back(), {}).has_value());
    }
    const auto assembly = assembleFiles(files, {}, {});
    QVERIFY2(assembly.has_value(), assembly ? "" : assembly.error().message.c_str());
    QVERIFY(figuresOf(set, *assembly).degrees < 0.03);
  }
};

QTEST_GUILESS_MAIN(TestPositions)
#include "test_positions.moc"
