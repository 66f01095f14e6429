// SPDX-License-Identifier: GPL-3.0-or-later
#include "align/register.h"
#include "align/transform.h"
#include "base/parallel.h"
#include "image/metrics.h"
#include "merge/consistency.h"
#include "merge/merge.h"
#include "merge/pixel_veto.h"
#include "support/scenes.h"

#include <QTest>
#include <cmath>
#include <opencv2/photo.hpp>
#include <random>

using namespace ml;

namespace {

std::vector<PlacedFrame> unmoved(const std::vector<Frame>& frames) {
  std::vector<PlacedFrame> placed;
  for (const auto& frame : frames) placed.push_back({&frame, kIdentity3});
  return placed;
}

MergeOptions still(int reference = 0) {
  MergeOptions options;
  options.reference = reference;
  options.motion = MotionMode::Off;
  return options;
}

/// What the camera saw, in the reference frame's place.
Image<float> truth(const Image<float>& scene, const CameraPose& pose = {}) {
  return seenBy(scene, pose);
}

Image<float> inner(const Image<float>& image, int border) {
  Image<float> out(image.width() - 2 * border, image.height() - 2 * border, 3);
  const auto view = image.view().crop({border, border, out.width(), out.height()});
  for (int y = 0; y < out.height(); ++y) std::copy_n(view.row(y), out.width() * 3, out.row(y));
  return out;
}

double rmse(const Image<float>& a, const Image<float>& b, int border = 12) {
  return logRadianceError(inner(a, border).view(), inner(b, border).view(), 1e-6f);
}

/// A dark square on a textured ground.
void addSquare(Image<float>& scene, int x0, int y0, int side, float light) {
  for (int y = y0; y < y0 + side; ++y)
    for (int x = x0; x < x0 + side; ++x)
      for (int c = 0; c < 3; ++c) scene.at(x, y)[c] = light * float(1 + 0.3 * std::sin(x * 0.9) * std::sin(y * 0.8));
}

} // namespace

class TestMerge : public QObject {
  Q_OBJECT

private slots:
  // Where the reference is clipped and things moved, what most frames show has the word, whichever is the lightest: two
  // dark frames see the sky, a lighter one somebody before it who is brighter than "at least".
  void mostFramesHaveTheWord() {
    constexpr int n = 3;
    struct Row {
      std::vector<float> light, use;
      std::vector<std::uint8_t> vetoed;
      float exposure;
    };
    std::vector<Row> rows;
    const auto add = [&](float exposure, float radiance, float use) {
      rows.push_back({std::vector<float>(n, std::min(1.f, exposure * radiance)), std::vector<float>(n, use),
                      std::vector<std::uint8_t>(n, 0), exposure});
    };
    add(1, 3, 0); // the reference: full
    add(1 / 16.f, 3, 1);
    add(1 / 8.f, 3, 1);
    add(1 / 4.f, 1.5f, 1); // somebody
    std::vector<VetoFrame> frames(rows.size());
    for (std::size_t i = 0; i < rows.size(); ++i) {
      frames[i].linear = {rows[i].light.data(), rows[i].light.data(), rows[i].light.data()};
      frames[i].exposure = rows[i].exposure;
      frames[i].use = rows[i].use.data();
      frames[i].vetoed = rows[i].vetoed.data();
    }
    const std::uint8_t decides[n] = {1, 1, 1};
    vetoRow(frames, decides, n);
    for (int x = 0; x < n; ++x) {
      QVERIFY(rows[1].use[std::size_t(x)] > 0 && rows[2].use[std::size_t(x)] > 0);
      QCOMPARE(rows[3].use[std::size_t(x)], 0.f);
      QVERIFY(rows[3].vetoed[std::size_t(x)]);
    }
  }

  // The frame that decides need not be the reference: where it records somebody, what a longer exposure clips of the
  // window behind him is not believed; where it is clipped itself, its own limit counts, not the reference's.
  void anyFrameMayDecide() {
    constexpr int n = 2;
    // Radiance of somebody, and of the window, as three frames saw them; the reference and the longest are clipped.
    const float light[3][n] = {{0.5f, 3.f}, {1.f, 1.f}, {0.5f * 2, 1.f}};
    const float exposure[3] = {1 / 4.f, 1, 2};
    float use[3][n] = {{1, 1}, {0, 0}, {0, 0}};
    std::uint8_t vetoed[3][n] = {};
    float seen[3][n];
    std::vector<VetoFrame> frames(3);
    for (std::size_t i = 0; i < 3; ++i) {
      for (int x = 0; x < n; ++x) seen[i][x] = std::min(1.f, light[i][x] * exposure[i]);
      frames[i].linear = {seen[i], seen[i], seen[i]};
      frames[i].exposure = exposure[i];
      frames[i].use = use[i];
      frames[i].vetoed = vetoed[i];
    }
    const std::uint8_t darkest[n] = {1, 1};
    vetoRow(frames, darkest, n);
    QVERIFY(use[0][0] > 0 && use[0][1] > 0);
    QVERIFY(vetoed[1][0]);  // says "at least 1" where he is half as light
    QVERIFY(!vetoed[2][0]); // says "at least 0.5"
    // The longest decides: it says "at least 0.5", which he does not contradict; the reference's limit would.
    const std::uint8_t longest[n] = {3, 3};
    use[0][0] = use[0][1] = 1;
    vetoRow(frames, longest, n);
    QVERIFY(!vetoed[0][0] && use[0][0] > 0);
  }

  // On the grid of another frame every frame lies where it lay: a point of the scene is found at the same pixels.
  void framesAreSeenFromAnother() {
    const Matrix3 second{0.999, -0.02, 5, 0.02, 0.999, -3, 1e-5, -2e-5, 1},
        third{1.01, 0.01, -4, -0.01, 1.01, 2, 0, 0, 1};
    const std::vector<PlacedFrame> placed{{nullptr, kIdentity3, 0.1}, {nullptr, second, 0.2}, {nullptr, third, 0.3}};
    const auto seen = seenFrom(placed, 1, 0);
    QVERIFY(Transform{seen[1].toFrame}.isIdentity());
    QCOMPARE(seen[1].misplacement, 0.1);
    QCOMPARE(seen[0].misplacement, 0.2);
    for (const double x : {0.0, 250.0, 500.0})
      for (const double y : {0.0, 300.0}) {
        double u, v;
        Transform{second}.map(x, y, u, v);
        for (const std::size_t i : {std::size_t(0), std::size_t(2)}) {
          double a, b, c, d;
          Transform{placed[i].toFrame}.map(x, y, a, b);
          Transform{seen[i].toFrame}.map(u, v, c, d);
          QVERIFY(std::hypot(a - c, b - d) < 1e-9);
        }
      }
  }

  // A world exposed and merged again. Tolerance: photon noise of the darkest tones at this range is about 0.03 EV, raw
  // demosaicing of three-pixel detail adds about as much, eight-bit rounding a little more.
  void worldIsRecovered_data() {
    QTest::addColumn<int>("format");
    QTest::addColumn<double>("tolerance");
    QTest::newRow("TIFF") << int(FrameFormat::Tiff) << 0.05;
    QTest::newRow("JPEG") << int(FrameFormat::Jpeg) << 0.08;
    QTest::newRow("raw") << int(FrameFormat::Dng) << 0.10;
  }
  void worldIsRecovered() {
    QFETCH(int, format);
    QFETCH(double, tolerance);
    QTemporaryDir dir;
    const auto scene = test::texturedScene(420, 320, 11);
    auto set =
        test::shootScene(scene.clone(), test::exposedAt({13, 11, 9, 7, 5, 3}), FrameFormat(format), test::pathOf(dir));
    const auto merged = mergeRadiance(unmoved(set.frames), still(3), {});
    QVERIFY(merged.has_value());
    const double error = rmse(merged->radiance, truth(scene));
    QVERIFY2(error < tolerance, qPrintable(QString::number(error)));
    // The absolute scale is right too: value 1 reads ev100OfUnit.
    const auto seen = truth(scene);
    const double stops =
        std::log2(merged->radiance.at(100, 100)[1] * luminanceOf({merged->ev100OfUnit}) / seen.at(100, 100)[1]);
    QVERIFY2(std::abs(stops) < 0.1, qPrintable(QString::number(stops)));
    QCOMPARE(merged->clippedShare, 0.0);
  }

  void movedWorldIsRecovered() {
    QTemporaryDir dir;
    const auto scene = test::texturedScene(420, 320, 11, 3);
    SimulationOptions sway;
    sway.shakePixels = 3;
    sway.shakeDegrees = 0.15;
    auto set =
        test::shootScene(scene.clone(), test::exposedAt({13, 10, 7, 4}), FrameFormat::Tiff, test::pathOf(dir), sway);
    const auto placedAt = registerFrames(set.frames, 1, AlignMode::Rigid, {});
    auto placed = unmoved(set.frames);
    for (std::size_t i = 0; i < placed.size(); ++i) placed[i].toFrame = (*placedAt)[i].transform.h;
    auto options = still(1);
    const auto merged = mergeRadiance(placed, options, {});
    const double error = rmse(merged->radiance, truth(scene, set.poses[1]), 24);
    QVERIFY2(error < 0.10, qPrintable(QString::number(
                               error))); // interpolation at the steep border of the bright half adds to the noise
  }

  // Debevec and Malik 1997 as OpenCV 4.6 implements it, given the same linear codes: both recover the truth up to a
  // scale.
  void agreesWithAnIndependentMerge() {
    const auto scene = inner(test::texturedScene(220, 160, 8), 4);
    std::vector<Frame> frames;
    std::vector<cv::Mat> images;
    std::vector<float> times;
    for (const double ev : {9.0, 7.0, 5.0, 3.0}) {
      const ExposureSettings s = test::exposedAt({ev})[0];
      Image<float> linear(scene.width(), scene.height(), 3);
      cv::Mat eight(scene.height(), scene.width(), CV_8UC3);
      for (std::size_t i = 0; i < scene.size(); ++i) {
        linear.data()[i] = float(std::min(1.0, scene.data()[i] / luminanceOf({ev + 2.5})));
        eight.data[i] = std::uint8_t(std::lround(linear.data()[i] * 255));
      }
      frames.push_back(test::linearFrame(linear, s));
      // The same eight-bit codes for both.
      for (int y = 0; y < scene.height(); ++y)
        for (int x = 0; x < scene.width(); ++x)
          for (int c = 0; c < 3; ++c) frames.back().codes.set(x, y, c, eight.at<cv::Vec3b>(y, x)[c] * 257);
      images.push_back(eight);
      times.push_back(float(s.time.value));
    }
    cv::Mat theirs, response(256, 1, CV_32FC3);
    for (int i = 0; i < 256; ++i) response.at<cv::Vec3f>(i) = cv::Vec3f::all(std::max(1e-3f, float(i)));
    cv::createMergeDebevec()->process(images, theirs, times, response);
    Image<float> other(scene.width(), scene.height(), 3);
    for (int y = 0; y < scene.height(); ++y) std::copy_n(theirs.ptr<float>(y), scene.width() * 3, other.row(y));
    const auto merged = mergeRadiance(unmoved(frames), still(1), {});
    const double ours = logRadianceError(merged->radiance.view(), scene.view(), 1e-6f),
                 reference = logRadianceError(other.view(), scene.view(), 1e-6f);
    QVERIFY2(ours < 0.05, qPrintable(QString::number(ours)));
    QVERIFY2(ours <= reference, qPrintable(QString("%1 against %2").arg(ours).arg(reference)));
    QVERIFY(logRadianceError(merged->radiance.view(), other.view(), 1e-6f) < 0.1 + reference);
  }

  // Inverse-variance weights reach the Cramer-Rao bound of the sensor model: 1 / sqrt(sum of information over frames).
  void noiseReachesTheBound() {
    const NoiseModel noise{1.0 / 20000, 1e-7};
    std::mt19937 random(3);
    std::vector<Frame> frames;
    double information = 0;
    const double radiance = 0.02;
    for (const double time : {1.0 / 16, 1.0 / 8, 1.0 / 4}) {
      const double exposure = time / (1.0 / 8), mean = radiance * exposure;
      std::normal_distribution<double> sample(mean, std::sqrt(noise.variance(mean)));
      Image<float> linear(200, 200, 3);
      for (std::size_t i = 0; i < linear.size(); ++i) linear.data()[i] = float(sample(random));
      frames.push_back(test::linearFrame(linear, {{time}, {8}, {100}}));
      frames.back().noise = noise;
      information += exposure * exposure / noise.variance(mean);
    }
    const auto merged = mergeRadiance(unmoved(frames), still(1), {});
    double sum = 0, squares = 0;
    for (std::size_t i = 0; i < merged->radiance.size(); ++i) {
      sum += merged->radiance.data()[i];
      squares += double(merged->radiance.data()[i]) * merged->radiance.data()[i];
    }
    const double n = double(merged->radiance.size()), mean = sum / n, deviation = std::sqrt(squares / n - mean * mean);
    QVERIFY2(std::abs(mean / radiance - 1) < 0.002, qPrintable(QString::number(mean))); // unbiased
    QVERIFY2(deviation * std::sqrt(information) < 1.03,
             qPrintable(QString::number(deviation * std::sqrt(information))));
  }

  void clippedSamplesWeighNothing() {
    Image<float> dark(40, 40, 3), bright(40, 40, 3);
    dark.fill(0.4f);
    bright.fill(1.f); // should be 1.6: clipped
    std::vector<Frame> frames;
    frames.push_back(test::linearFrame(dark, {{1.0 / 64}, {8}, {100}}));
    frames.push_back(test::linearFrame(bright, {{1.0 / 16}, {8}, {100}}));
    const auto merged = mergeRadiance(unmoved(frames), still(0), {});
    QVERIFY(std::abs(merged->radiance.at(20, 20)[1] - 0.4f) < 1e-4f);
    QCOMPARE(merged->clippedShare, 0.0);
  }

  // A lamp's red clips in the dark frame; in the lighter one somebody in blue stands before it, whose red does not
  // clip.
  void redIsNotTakenFromWhoStandsBeforeALamp() {
    Image<float> dark(40, 40, 3), light(40, 40, 3);
    for (std::size_t i = 0; i < dark.size(); i += 3) {
      const float lamp[3] = {1, 0.7f, 0.4f}, coat[3] = {0.75f, 1, 1};
      std::copy_n(lamp, 3, dark.data() + i), std::copy_n(coat, 3, light.data() + i);
    }
    std::vector<Frame> frames;
    frames.push_back(test::linearFrame(dark, {{1.0 / 64}, {8}, {100}}));
    frames.push_back(test::linearFrame(light, {{1.0 / 16}, {8}, {100}}));
    const auto merged = mergeRadiance(unmoved(frames), still(0), {});
    const float* rgb = merged->radiance.at(20, 20);
    QVERIFY2(rgb[0] > 0.9f, qPrintable(QString::number(rgb[0]))); // and not 0.75 / 4
    QVERIFY(std::abs(rgb[1] - 0.7f) < 0.01f);
    QVERIFY(std::abs(rgb[2] - 0.4f) < 0.01f);
  }

  void clippedLightKeepsItsKindOfColour_data() {
    QTest::addColumn<double>("red");
    QTest::addColumn<double>("green");
    QTest::addColumn<double>("blue");
    QTest::newRow("a blue sky whose green clips") << 0.42 << 0.55 << 0.62;
    QTest::newRow("a warm lamp whose red and green clip") << 1.0 << 0.55 << 0.20;
    QTest::newRow("a cloud whose green clips") << 0.58 << 0.55 << 0.57;
  }
  void clippedLightKeepsItsKindOfColour() {
    QFETCH(double, red);
    QFETCH(double, green);
    QFETCH(double, blue);
    const double rgb[3] = {red, green, blue};
    Image<float> full(40, 40, 3);
    full.fill(1);
    Frame frame = test::linearFrame(full, {{1.0 / 64}, {8}, {100}});
    frame.saturation = {1.f, 0.55f, 0.8f};
    for (int i = 0; i < 40 * 40 * 3; ++i) frame.codes.set(i / 3 % 40, i / 120, i % 3, int(65535 * rgb[i % 3]));
    std::vector<Frame> frames;
    frames.push_back(std::move(frame));
    const auto merged = mergeRadiance(unmoved(frames), still(0), {});
    const float* p = merged->radiance.at(20, 20);
    QVERIFY2(p[1] <= 1.12f * std::max(p[0], p[2]),
             qPrintable(QString("%1 %2 %3").arg(p[0]).arg(p[1]).arg(p[2]))); // never green
    QVERIFY2((p[0] > p[2]) == (red > blue), qPrintable(QString("%1 %2 %3").arg(p[0]).arg(p[1]).arg(p[2])));
  }

  // Frames are read at exactly the places their homography says: a smooth pattern, turned by much and by next to
  // nothing.
  void movedFramesAreReadWhereTheyLie_data() {
    QTest::addColumn<double>("degrees");
    QTest::addColumn<double>("shift");
    QTest::newRow("turned by a hand") << 0.4 << 5.3;
    QTest::newRow("hardly turned") << 0.02 << -3.71;
    QTest::newRow("only shifted") << 0.0 << 0.49;
    QTest::newRow("turned far") << 3.0 << 11.0;
  }
  void movedFramesAreReadWhereTheyLie() {
    QFETCH(double, degrees);
    QFETCH(double, shift);
    const auto pattern = [](double u, double v) { return 0.4 + 0.2 * std::sin(0.21 * u + 0.3) * std::cos(0.17 * v); };
    Image<float> seen(700, 300, 3);
    for (int y = 0; y < 300; ++y)
      for (int x = 0; x < 700; ++x)
        for (int c = 0; c < 3; ++c) seen.at(x, y)[c] = float(pattern(x, y));
    std::vector<Frame> frames;
    frames.push_back(test::linearFrame(seen, {{1.0 / 64}, {8}, {100}}));
    const double t = degrees * 3.14159265358979 / 180;
    auto placed = unmoved(frames);
    placed[0].toFrame = {std::cos(t), -std::sin(t), shift, std::sin(t), std::cos(t), -shift / 2, 1e-6, -2e-6, 1};
    const auto merged = mergeRadiance(placed, still(0), {});
    const double scale = 0.18 / frames[0].midTone;
    double worst = 0;
    for (int y = 40; y < 260; ++y)
      for (int x = 40; x < 660; ++x) {
        const Matrix3& h = placed[0].toFrame;
        const double z = h[6] * x + h[7] * y + h[8], u = (h[0] * x + h[1] * y + h[2]) / z,
                     v = (h[3] * x + h[4] * y + h[5]) / z;
        if (u < 8 || v < 8 || u > 691 || v > 291) continue;
        // At peaks the hold between neighbours shows; slopes tell the place.
        const double slopeU = 0.042 * std::cos(0.21 * u + 0.3) * std::cos(0.17 * v),
                     slopeV = 0.034 * std::sin(0.21 * u + 0.3) * std::sin(0.17 * v);
        if (std::abs(slopeU) < 0.014 || std::abs(slopeV) < 0.012) continue;
        worst = std::max(worst, std::abs(merged->radiance.at(x, y)[1] / scale - pattern(u, v)));
      }
    // The windowed sinc keeps the pattern's contrast within half a percent (8e-4 here); a place wrong by 1/20 pixel
    // would add twice that.
    QVERIFY2(worst < 1e-3, qPrintable(QString::number(worst)));
  }

  void clippedEverywhereStaysNeutral() {
    Image<float> full(40, 40, 3);
    Frame frame = test::linearFrame(
        [&] {
          full.fill(1);
          return std::move(full);
        }(),
        {{1.0 / 64}, {8}, {100}});
    frame.saturation = {1.f, 0.55f, 0.8f}; // white balance: the channels clip at different levels
    for (int i = 0; i < 40 * 40 * 3; ++i)
      frame.codes.set(i / 3 % 40, i / 120, i % 3, int(65535 * frame.saturation[i % 3]));
    std::vector<Frame> frames;
    frames.push_back(std::move(frame));
    const auto merged = mergeRadiance(unmoved(frames), still(0), {});
    const float* p = merged->radiance.at(20, 20);
    QVERIFY(p[0] == p[1] && p[1] == p[2]); // no pink
    QVERIFY(merged->clippedShare > 0.99);
  }

  void orderAndThreadsChangeNothing() {
    QTemporaryDir dir;
    auto set = test::shootScene(test::texturedScene(300, 220, 10), test::exposedAt({13, 10, 7}), FrameFormat::Jpeg,
                                test::pathOf(dir));
    auto placed = unmoved(set.frames);
    MergeOptions options;
    options.reference = 1;
    setThreadCount(1);
    const auto one = mergeRadiance(placed, options, {});
    setThreadCount(4);
    const auto four = mergeRadiance(placed, options, {});
    setThreadCount(0);
    QVERIFY(std::equal(one->radiance.data(), one->radiance.data() + one->radiance.size(), four->radiance.data()));
    std::swap(placed[0], placed[2]);
    const auto swapped = mergeRadiance(placed, options, {});
    for (std::size_t i = 0; i < one->radiance.size(); ++i)
      QVERIFY(std::abs(swapped->radiance.data()[i] - one->radiance.data()[i]) <=
              2e-5f * std::abs(one->radiance.data()[i]) + 1e-7f);
  }

  // A pale figure, a fifth brighter than the ground: too little for the least strict check, which mixes it, and must
  // say so.
  void mixedPlacesAreSaidToBeGhosts() {
    std::vector<Frame> frames;
    QTemporaryDir dir;
    const auto settings = test::exposedAt({8, 6.5, 5});
    for (int i = 0; i < 3; ++i) {
      Image<float> scene(420, 320, 3);
      for (int y = 0; y < 320; ++y)
        for (int x = 0; x < 420; ++x) {
          const bool figure = x >= 80 + 90 * i && x < 120 + 90 * i && y >= 100 && y < 200;
          for (int c = 0; c < 3; ++c) scene.at(x, y)[c] = figure ? 30.f : 25.f;
        }
      frames.push_back(
          std::move(test::shootScene(std::move(scene), {settings[std::size_t(i)]}, FrameFormat::Tiff, test::pathOf(dir))
                        .frames[0]));
    }
    const auto report = [&](MotionMode mode) {
      MergeOptions options;
      options.reference = 1;
      options.motion = mode;
      return mergeRadiance(unmoved(frames), options, {})->motion;
    };
    const MotionReport loose = report(MotionMode::Low), usual = report(MotionMode::Medium),
                       off = report(MotionMode::Off);
    QVERIFY(loose.looked && usual.looked && !off.looked);
    QVERIFY2(loose.ghostShare > 0.02 && loose.ghostShare < 0.2, qPrintable(QString::number(loose.ghostShare)));
    QVERIFY(!loose.ghosts.empty() && loose.ghosts.front().x > 0.15 && loose.ghosts.front().x < 0.75);
    QVERIFY2(usual.ghostShare < 0.0005, qPrintable(QString::number(usual.ghostShare)));
  }

  void whatMovedIsTakenFromTheReference() {
    // The square stands at another place in each frame; the merge must show it once, where the reference saw it.
    std::vector<Frame> frames;
    const int places[] = {60, 140, 220};
    const auto ground = test::texturedScene(420, 320, 6, 9);
    QTemporaryDir dir;
    const auto settings = test::exposedAt({8, 6.5, 5});
    for (int i = 0; i < 3; ++i) {
      auto scene = ground.clone();
      addSquare(scene, places[i], 120, 40, 0.7f);
      auto shot = test::shootScene(std::move(scene), {settings[std::size_t(i)]}, FrameFormat::Tiff, test::pathOf(dir));
      frames.push_back(std::move(shot.frames[0]));
    }
    for (int reference = 0; reference < 3; ++reference) {
      MergeOptions options;
      options.reference = reference;
      const auto merged = mergeRadiance(unmoved(frames), options, {});
      auto expected = ground.clone();
      addSquare(expected, places[reference], 120, 40, 0.7f);
      const double error = rmse(merged->radiance, truth(expected));
      QVERIFY2(error < 0.10, qPrintable(QString("reference %1: %2 EV").arg(reference).arg(error)));
      QVERIFY(merged->motion.regions >= 1);
      options.motion = MotionMode::Off;
      QVERIFY(rmse(mergeRadiance(unmoved(frames), options, {})->radiance, truth(expected)) >
              2 * error); // it is the treatment that does it
    }
  }

  // A head, a foot: parts of a cell or two go with the thing they belong to, and leave nothing where the thing stood in
  // other frames.
  void smallPartsGoWithTheThing() {
    QTemporaryDir dir;
    const auto ground = test::texturedScene(420, 320, 6, 9);
    const auto settings = test::exposedAt({8, 6.5, 5});
    const int places[] = {66, 146, 226};
    std::vector<Frame> frames;
    const auto withThing = [&](int x) {
      auto scene = ground.clone();
      addSquare(scene, x, 130, 36, 0.7f);
      addSquare(scene, x + 15, 115, 6, 0.7f);
      return scene;
    };
    for (int i = 0; i < 3; ++i)
      frames.push_back(std::move(
          test::shootScene(withThing(places[i]), {settings[std::size_t(i)]}, FrameFormat::Tiff, test::pathOf(dir))
              .frames[0]));
    MergeOptions options;
    options.reference = 1;
    const auto merged = mergeRadiance(unmoved(frames), options, {});
    const auto expected = truth(withThing(places[1]));
    const int border = (420 - merged->radiance.width()) / 2, top = (320 - merged->radiance.height()) / 2;
    const auto stopsApart = [&](int x, int y) { // mean of 4 x 4 pixels; the merge has a scale of its own
      double sum = 0;
      for (int v = 0; v < 4; ++v)
        for (int u = 0; u < 4; ++u)
          sum += std::log2(merged->radiance.at(x + u - border, y + v - top)[1] /
                           expected.at(x + u - border, y + v - top)[1]) /
                 16;
      return sum;
    };
    const double scale = stopsApart(200, 250);
    for (const int x : places) {
      const double error = stopsApart(x + 16, 116) - scale;
      QVERIFY2(std::abs(error) < 0.25, qPrintable(QString("at %1: %2 EV").arg(x).arg(error)));
    }
  }

  void stillSetsHaveNoRegions() {
    QTemporaryDir dir;
    for (const auto format : {FrameFormat::Jpeg, FrameFormat::Tiff, FrameFormat::Dng}) {
      auto set = test::shootScene(test::texturedScene(420, 320, 11, 2), test::exposedAt({11, 9, 7, 5}), format,
                                  test::pathOf(dir));
      MergeOptions options;
      options.reference = 2;
      const auto merged = mergeRadiance(unmoved(set.frames), options, {});
      QCOMPARE(merged->motion.regions, 0);
    }
  }

  void unknownToneCurveIsNoMovement() { // a camera's own contrast curve on top of sRGB, still scene
    QTemporaryDir dir;
    auto set = test::shootScene(test::texturedScene(420, 320, 11, 2), test::exposedAt({12, 10, 8, 6}),
                                FrameFormat::Jpeg, test::pathOf(dir));
    for (auto& frame : set.frames)
      for (int i = 0; i < frame.width() * frame.height() * 3; ++i) {
        const int x = i / 3 % frame.width(), y = i / 3 / frame.width();
        const double v = frame.codes.at(x, y, i % 3) / 255.0;
        frame.codes.set(x, y, i % 3, int(std::lround(255 * (0.55 * v + 0.45 * v * v * (3 - 2 * v)))));
      }
    MergeOptions options;
    options.reference = 2;
    const auto merged = mergeRadiance(unmoved(set.frames), options, {});
    for (const double share : merged->motion.excludedShare) QVERIFY2(share < 0.01, qPrintable(QString::number(share)));
  }

  void differentSizesAreRefused() {
    Image<float> a(40, 40, 3), b(41, 40, 3);
    a.fill(0.1f);
    b.fill(0.1f);
    std::vector<Frame> frames;
    frames.push_back(test::linearFrame(a, {}));
    frames.push_back(test::linearFrame(b, {}));
    const auto merged = mergeRadiance(unmoved(frames), still(0), {});
    QCOMPARE(int(merged.error().code), int(ErrorCode::SizeMismatch));
    QCOMPARE(int(mergeRadiance({}, still(0), {}).error().code), int(ErrorCode::InvalidArgument));
  }

  void stopLeavesNothing() {
    Image<float> a(400, 400, 3);
    a.fill(0.1f);
    std::vector<Frame> frames;
    frames.push_back(test::linearFrame(a, {}));
    Progress progress;
    progress.stop.request();
    QCOMPARE(int(mergeRadiance(unmoved(frames), still(0), progress).error().code), int(ErrorCode::Stopped));
  }
};

QTEST_GUILESS_MAIN(TestMerge)
#include "test_merge.moc"
