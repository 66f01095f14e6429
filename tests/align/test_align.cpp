// SPDX-License-Identifier: GPL-3.0-or-later
#include "align/common_tones.h"
#include "align/patch_votes.h"
#include "align/place.h"
#include "align/register.h"
#include "base/parallel.h"
#include "ingest/load_frame.h"
#include "support/radiance_sets.h"
#include "support/scenes.h"

#include <QTest>
#include <cmath>

using namespace ml;

namespace {

/// Greatest distance, over a grid, between where a transform sends reference pixels and where the camera's poses say
/// they lie.
double placementError(const Transform& found, const CameraPose& reference, const CameraPose& frame, int width,
                      int height) {
  double worst = 0;
  for (int gy = 0; gy <= 4; ++gy)
    for (int gx = 0; gx <= 4; ++gx) {
      const double x = gx * (width - 1) / 4.0, y = gy * (height - 1) / 4.0;
      // The camera samples world = R(angle) (pixel - centre) + shift: reference pixel -> world -> the frame's pixel.
      const double u = x - (width - 1) / 2.0, v = y - (height - 1) / 2.0;
      const double wx = std::cos(reference.angle) * u - std::sin(reference.angle) * v + reference.dx - frame.dx;
      const double wy = std::sin(reference.angle) * u + std::cos(reference.angle) * v + reference.dy - frame.dy;
      const double fx = std::cos(frame.angle) * wx + std::sin(frame.angle) * wy + (width - 1) / 2.0;
      const double fy = -std::sin(frame.angle) * wx + std::cos(frame.angle) * wy + (height - 1) / 2.0;
      double ux, uy;
      found.map(x, y, ux, uy);
      worst = std::max(worst, std::hypot(ux - fx, uy - fy));
    }
  return worst;
}

SimulationOptions swaying(std::uint64_t seed, double pixels = 4, double degrees = 0.2) {
  SimulationOptions options;
  options.seed = seed;
  options.shakePixels = pixels;
  options.shakeDegrees = degrees;
  return options;
}

constexpr double kPlacementTolerance = 0.2; // pixels, of the issue

} // namespace

class TestAlign : public QObject {
  Q_OBJECT

private slots:
  void theChainOrTheReferenceWhicheverLeavesLess_data() {
    QTest::addColumn<double>("left");      // over by the fit on the reference, pixels
    QTest::addColumn<double>("alike");     // its correlation
    QTest::addColumn<double>("proof");     // that the chain's last link moved
    QTest::addColumn<bool>("neighbour");   // could be placed
    QTest::addColumn<QString>("expected"); // by what it is placed
    QTest::newRow("leaves next to nothing") << 0.14 << 0.9 << 10. << true << "reference";
    QTest::newRow("leaves as much as the two links") << 0.19 << 0.9 << 10. << true << "reference";
    QTest::newRow("leaves more than the two links") << 0.25 << 0.9 << 10. << true << "chain";
    QTest::newRow("leaves more, but the chain is broken") << 0.25 << 0.9 << 10. << false << "reference";
    QTest::newRow("leaves more, but the link is not proven") << 0.25 << 0.9 << 1. << true << "reference";
    QTest::newRow("unlike") << 0.05 << 0.7 << 10. << true << "chain";
    QTest::newRow("unlike, and the chain is broken") << 0.05 << 0.7 << 10. << false << "left out";
    QTest::newRow("leaves too much for either") << 0.6 << 0.9 << 1. << true << "left out";
  }

  /// Frame 0 of three, the last of which is the reference: by frame 1, which lies at 5, it lies at 8; by itself at 8.5.
  void theChainOrTheReferenceWhicheverLeavesLess() {
    QFETCH(double, left);
    QFETCH(double, alike);
    QFETCH(double, proof);
    QFETCH(bool, neighbour);
    QFETCH(QString, expected);
    const auto shifted = [](double x) {
      Transform t;
      t.h[2] = x;
      return t;
    };
    std::vector<Registration> placed(3);
    placed[1].transform = shifted(5), placed[1].residual = 0.1, placed[1].usable = neighbour;
    PairFit link, direct;
    link.transform = shifted(3), link.correlation = 0.9, link.informative = 0.1, link.residual = 0.1,
    link.proof = proof;
    direct.transform = shifted(8.5), direct.correlation = alike, direct.informative = 0.1, direct.residual = left,
    direct.proof = 10;
    const Registration r = place(placed, link, direct, 0, 2, Held::InHand, 600, 400);
    if (expected == "left out") {
      QVERIFY(!r.usable);
      QVERIFY(!r.note.empty());
      return;
    }
    QVERIFY(r.usable);
    double x, y;
    r.transform.map(0, 0, x, y);
    QCOMPARE(x, expected == "chain" ? 8 : 8.5);
    QCOMPARE(r.residual, expected == "chain" ? 0.1 : left);
  }

  void aFrameThatSharesNothingIsSaid() {
    std::vector<Registration> placed(2);
    PairFit fit;
    fit.correlation = 0.9; // of nothing
    const Registration assumed = place(placed, fit, {}, 0, 1, Held::Unknown, 600, 400);
    QVERIFY(assumed.usable && assumed.assumed && !assumed.note.empty());
    fit.informative = 0.1, fit.correlation = 0.2;
    QVERIFY(!place(placed, fit, {}, 0, 1, Held::Unknown, 600, 400).usable);
    fit.correlation = 0.9, fit.proof = 1; // it moved as far as anybody knows not at all
    QVERIFY(!place(placed, fit, {}, 0, 1, Held::InHand, 600, 400).usable);
    QVERIFY(place(placed, fit, {}, 0, 1, Held::OnStand, 600, 400).usable);
  }

  void movedSetsAlignBack_data() {
    QTest::addColumn<int>("format");
    QTest::addColumn<int>("seed");
    for (int seed = 1; seed <= 3; ++seed) {
      QTest::addRow("JPEG %d", seed) << int(FrameFormat::Jpeg) << seed;
      QTest::addRow("raw %d", seed) << int(FrameFormat::Dng) << seed;
    }
  }
  void movedSetsAlignBack() {
    QFETCH(int, format);
    QFETCH(int, seed);
    QTemporaryDir dir;
    const auto set =
        test::shootScene(test::texturedScene(720, 520, 10, unsigned(seed)), test::exposedAt({11, 9, 7, 5, 3}),
                         FrameFormat(format), test::pathOf(dir), swaying(std::uint64_t(seed)));
    const auto placed = registerFrames(set.frames, 2, AlignMode::Rigid, {});
    QVERIFY(placed.has_value());
    for (std::size_t i = 0; i < set.frames.size(); ++i) {
      const double error = placementError((*placed)[i].transform, set.poses[2], set.poses[i], set.frames[i].width(),
                                          set.frames[i].height());
      QVERIFY2(error < kPlacementTolerance, qPrintable(QString("frame %1: %2 px").arg(i).arg(error)));
      QVERIFY((*placed)[i].usable);
    }
  }

  void eightStopsApart_data() {
    QTest::addColumn<int>("format");
    QTest::newRow("JPEG") << int(FrameFormat::Jpeg);
    QTest::newRow("raw") << int(FrameFormat::Dng);
  }
  void eightStopsApart() {
    QFETCH(int, format);
    QTemporaryDir dir;
    const auto set = test::shootScene(test::texturedScene(720, 520, 9, 5), test::exposedAt({11, 3}),
                                      FrameFormat(format), test::pathOf(dir), swaying(9));
    for (const int reference : {0, 1}) {
      const auto placed = registerFrames(set.frames, reference, AlignMode::Rigid, {});
      QVERIFY(placed.has_value());
      const int other = 1 - reference;
      const double error = placementError((*placed)[std::size_t(other)].transform, set.poses[std::size_t(reference)],
                                          set.poses[std::size_t(other)], set.frames[0].width(), set.frames[0].height());
      QVERIFY2(error < kPlacementTolerance, qPrintable(QString::number(error)));
    }
  }

  void largeShiftIsFound() {
    QTemporaryDir dir;
    const auto world = test::texturedScene(900, 640, 9, 8);
    const auto crop = [&](int dx, int dy) {
      Image<float> out(720, 520, 3);
      for (int y = 0; y < 520; ++y) std::copy_n(world.at(60 + dx, 40 + dy + y), 720 * 3, out.row(y));
      return out;
    };
    const auto a = test::shootScene(crop(0, 0), test::exposedAt({8}), FrameFormat::Jpeg, test::pathOf(dir));
    const auto b = test::shootScene(crop(57, -33), test::exposedAt({6}), FrameFormat::Tiff, test::pathOf(dir));
    std::vector<Frame> frames;
    frames.push_back(std::move(*loadFrame(a.files[0])));
    frames.push_back(std::move(*loadFrame(b.files[0])));
    const auto placed = registerFrames(frames, 0, AlignMode::Shift, {});
    QVERIFY(std::abs((*placed)[1].shiftX + 57) < kPlacementTolerance);
    QVERIFY(std::abs((*placed)[1].shiftY - 33) < kPlacementTolerance);
  }

  void perspectiveIsRecovered() {
    QTemporaryDir dir;
    const auto set = test::shootScene(test::texturedScene(720, 520, 8, 4), test::exposedAt({8, 6}), FrameFormat::Tiff,
                                      test::pathOf(dir), swaying(2));
    const auto placed = registerFrames(set.frames, 0, AlignMode::Perspective, {});
    const double error = placementError((*placed)[1].transform, set.poses[0], set.poses[1], set.frames[0].width(),
                                        set.frames[0].height());
    QVERIFY2(error < 2 * kPlacementTolerance,
             qPrintable(QString::number(error))); // eight parameters at the corners, from a rigid truth
  }

  void tripodStaysUntouched() {
    QTemporaryDir dir;
    const auto set = test::shootScene(test::texturedScene(480, 360, 9, 2), test::exposedAt({9, 7, 5}),
                                      FrameFormat::Jpeg, test::pathOf(dir));
    const auto placed = registerFrames(set.frames, 1, AlignMode::Auto, {});
    for (const auto& r : *placed) QVERIFY(r.transform.isIdentity());
  }

  // Clouds without edges under a fine texture that looks alike in many places, tones bent by a curve nobody knows:
  // frames from a tripod stay where they are, and somebody who walks through leads none of them along.
  void patternThatRepeatsStaysInPlace_data() {
    QTest::addColumn<int>("curve");
    QTest::addColumn<bool>("walker");
    QTest::newRow("contrast") << 0 << false;
    QTest::newRow("logarithmic") << 1 << false;
    QTest::newRow("film") << 2 << false;
    QTest::newRow("logarithmic, a walker") << 1 << true;
  }
  void patternThatRepeatsStaysInPlace() {
    QFETCH(int, curve);
    QFETCH(bool, walker);
    QTemporaryDir dir;
    test::SetOptions options;
    options.curve = curve;
    options.walker = walker;
    const auto set = test::makeSet(test::RadianceView("sky"), options, test::pathOf(dir));
    std::vector<Frame> frames;
    for (const auto& file : set.files) frames.push_back(std::move(*loadFrame(file)));
    const auto placed = registerFrames(frames, set.reference, AlignMode::Auto, {});
    QVERIFY(placed.has_value());
    const std::size_t clippedSky = walker ? 1 : 0; // in the lightest frame nothing but the walker is recorded
    for (std::size_t i = 0; i + clippedSky < frames.size(); ++i) {
      const double reach = (*placed)[i].transform.reach(frames[i].width(), frames[i].height());
      QVERIFY2(reach < 0.3, qPrintable(QString("frame %1: %2 px").arg(i).arg(reach)));
    }
  }

  void anotherViewIsRefused() {
    QTemporaryDir dir;
    auto one = test::shootScene(test::texturedScene(480, 360, 9, 21), test::exposedAt({9, 7}), FrameFormat::Jpeg,
                                test::pathOf(dir));
    auto two = test::shootScene(test::texturedScene(480, 360, 4, 77), test::exposedAt({5}), FrameFormat::Tiff,
                                test::pathOf(dir));
    std::vector<Frame> frames = std::move(one.frames);
    frames.push_back(std::move(two.frames[0]));
    const auto placed = registerFrames(frames, 0, AlignMode::Auto, {});
    QVERIFY((*placed)[1].usable);
    QVERIFY(!(*placed)[2].usable);
    QVERIFY((*placed)[2].note.find("3") != std::string::npos);
  }

  void blackFrameIsAssumedInPlace() {
    QTemporaryDir dir;
    auto set = test::shootScene(test::texturedScene(480, 360, 9, 2), test::exposedAt({9, 7}), FrameFormat::Tiff,
                                test::pathOf(dir), swaying(3));
    Frame black = test::linearFrame(
        [] {
          Image<float> i(462, 346, 3);
          i.fill(0);
          return i;
        }(),
        {{1e-4}, {8}, {100}});
    QCOMPARE(black.width(), set.frames[0].width());
    std::vector<Frame> frames;
    frames.push_back(std::move(black));
    for (auto& f : set.frames) frames.push_back(std::move(f));
    const auto placed = registerFrames(frames, 2, AlignMode::Auto, {});
    QVERIFY((*placed)[0].assumed);
    QVERIFY(!(*placed)[0].note.empty());
    QCOMPARE((*placed)[0].transform.h, (*placed)[1].transform.h);
  }

  void threadsDoNotChangeABit() {
    QTemporaryDir dir;
    const auto set = test::shootScene(test::texturedScene(480, 360, 9, 6), test::exposedAt({9, 6}), FrameFormat::Jpeg,
                                      test::pathOf(dir), swaying(5));
    setThreadCount(1);
    const auto one = registerFrames(set.frames, 0, AlignMode::Rigid, {});
    setThreadCount(4);
    const auto four = registerFrames(set.frames, 0, AlignMode::Rigid, {});
    setThreadCount(0);
    QVERIFY((*one)[1].transform.h == (*four)[1].transform.h);
  }

  void stopEndsIt() {
    QTemporaryDir dir;
    const auto set = test::shootScene(test::texturedScene(200, 160, 9, 6), test::exposedAt({9, 6}), FrameFormat::Jpeg,
                                      test::pathOf(dir));
    Progress progress;
    progress.stop.request();
    const auto placed = registerFrames(set.frames, 0, AlignMode::Rigid, progress);
    QCOMPARE(int(placed.error().code), int(ErrorCode::Stopped));
  }

  /// Tones of a curve that is not the assumed one are learnt, each from places that have it; between the bins' middles
  /// they are joined by lines, and many at once come out as one by one.
  void tonesOfAnotherCurveAreLearnt() {
    const auto bent = [](float tone) { return 0.9f * std::pow(tone, 1.3f); }; // the moving picture's of the fixed one's
    Image<float> fixed(512, 256, 1), moving(512, 256, 1);
    for (int y = 0; y < 256; ++y)
      for (int x = 0; x < 512; ++x) {
        *fixed.at(x, y) = 0.05f + 0.85f * float(x) / 511;
        *moving.at(x, y) = bent(*fixed.at(x, y));
      }
    LightPyramid pyramid;
    ToneMatch match(1);
    match.learn(fixed, moving, Transform{}, pyramid, pyramid);
    Image<float> tones(200, 1, 1), mapped(200, 1, 1);
    for (int i = 0; i < 200; ++i) *tones.at(i, 0) = bent(0.25f + 0.6f * float(i) / 199);
    match.map(tones, 0, 1, mapped);
    for (int i = 0; i < 200; ++i) {
      const float wanted = 0.25f + 0.6f * float(i) / 199, found = match(*tones.at(i, 0));
      QVERIFY2(std::abs(found - wanted) < 0.006f * wanted, qPrintable(QString("%1: %2").arg(wanted).arg(found)));
      QVERIFY(std::abs(*mapped.at(i, 0) - found) < 1e-5f);
    }
  }

  /// Somebody dark stands before a sky that clips in the lighter frame: of the sky's tones all places that are told
  /// are his. They must not be taught as his: the sky would be said to be as dark, and all above it be cut off.
  void whoStandsBeforeWhatClipsTeachesNoTones() {
    Image<float> fixed(512, 256, 1), moving(512, 256, 1);
    for (int y = 0; y < 256; ++y)
      for (int x = 0; x < 512; ++x) {
        const float land = 0.05f + 0.4f * float(x) / 511, sky = 0.6f + 0.3f * float(y) / 159;
        *moving.at(x, y) = y < 160 ? sky : land;
        *fixed.at(x, y) = y < 160 ? (x >= 200 && x < 260 && y > 60 ? 0.15f : 1.f) : 2 * land;
      }
    LightPyramid pyramid;
    ToneMatch match(4);
    match.learn(fixed, moving, Transform{}, pyramid, pyramid);
    for (const float land : {0.1f, 0.2f, 0.4f})
      QVERIFY2(std::abs(match(land) - 2 * land) < 0.02f, qPrintable(QString::number(match(land))));
    for (const float sky : {0.65f, 0.74f, 0.88f})
      QVERIFY2(match(sky) > 0.95f, qPrintable(QString("%1: %2").arg(sky).arg(match(sky))));
    QVERIFY(commonTones(fixed, moving, pyramid, pyramid, match).high > 0.95f);
  }

  /// Most patches decide, not the strongest edges: what walked is a quarter of the picture, has five times the contrast
  /// and went the other way. Of two pictures that have nothing in common nothing is said.
  void mostPatchesDecide() {
    const auto texture = [](double x, double y, unsigned seed) {
      double sum = 0;
      for (int k = 1; k <= 6; ++k)
        sum += std::sin(0.11 * k * x + 0.07 * (7 - k) * y + double(seed % 13) * k * k) *
               std::sin(0.05 * k * y - 0.09 * (7 - k) * x + double(seed % 7) * k);
      return sum;
    };
    const int w = 240, h = 160;
    const double turn = 0.02, dx = 9.3, dy = -6.2;
    const auto pictures = [&](unsigned other) {
      CommonTones tones{Image<float>(w, h, 1), Image<float>(w, h, 1), 0, 1, false};
      for (int y = 0; y < h; ++y)
        for (int x = 0; x < w; ++x) {
          const bool walked = x > 60 && x < 150 && y > 40, walkedThere = x > 48 && x < 138 && y > 43;
          const double u = std::cos(turn) * (x - dx) + std::sin(turn) * (y - dy),
                       v = -std::sin(turn) * (x - dx) + std::cos(turn) * (y - dy);
          *tones.fixed.at(x, y) = float(0.5 + (walked ? 0.1 * texture(2 * x, 3 * y, 5) : 0.02 * texture(x, y, 1)));
          *tones.moving.at(x, y) = float(
              0.3 + 0.8 * (walkedThere ? 0.1 * texture(2 * (x + 12), 3 * (y - 3), 5) : 0.02 * texture(u, v, other)));
        }
      return tones;
    };
    const auto found = agreedByPatches(pictures(1));
    QVERIFY(found.has_value());
    for (const double x : {0.0, w - 1.0})
      for (const double y : {0.0, h - 1.0}) {
        double u, v;
        found->map(x, y, u, v);
        const double off = std::hypot(u - (std::cos(turn) * x - std::sin(turn) * y + dx),
                                      v - (std::sin(turn) * x + std::cos(turn) * y + dy));
        QVERIFY2(off < 1.0, qPrintable(QString::number(off)));
      }
    CommonTones strange = pictures(1);
    strange.moving.fill(0.5f);
    QVERIFY(!agreedByPatches(strange).has_value());
  }

  void scaledTransformMovesTheSame() {
    const Transform t{{std::cos(0.01), -std::sin(0.01), 3.2, std::sin(0.01), std::cos(0.01), -1.7, 0, 0, 1}};
    const Transform twice = t.scaled(2);
    double u, v, s, w;
    t.map(40, 25, u, v);
    twice.map(40 * 2 + 0.5, 25 * 2 + 0.5, s, w); // centre of the same block
    QVERIFY(std::abs(s - (2 * u + 0.5)) < 1e-9);
    QVERIFY(std::abs(w - (2 * v + 0.5)) < 1e-9);
  }
};

QTEST_GUILESS_MAIN(TestAlign)
#include "test_align.moc"
