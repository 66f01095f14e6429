// SPDX-License-Identifier: GPL-3.0-or-later
// Brackets of mosaics that lie in place, merged before they are demosaiced: against the truth they were made from, the
// bound of Cramer and Rao, and the same frames merged as developed pictures.
#include "capture/developed.h"
#include "ingest/load_frame.h"
#include "merge/merge.h"
#include "mosaic/hands.h"
#include "mosaic/scenes.h"

#include <QTemporaryDir>
#include <QTest>
#include <cmath>
#include <random>

using namespace ml;

namespace {

constexpr double kFullWell = 40000, kReadNoise = 4;

struct Bracket {
  std::vector<Frame> frames;
  std::vector<double> exposures;
  [[nodiscard]] std::vector<PlacedFrame> placed() const {
    std::vector<PlacedFrame> out;
    for (const Frame& f : frames) out.push_back({&f});
    return out;
  }
};

/// `light`: 1 saturates the frame of exposure 1.
Bracket shoot(const QTemporaryDir& dir, const Image<float>& light, const std::vector<double>& exposures) {
  Bracket out{{}, exposures};
  for (std::size_t i = 0; i < exposures.size(); ++i) {
    Image<float> seen = light.clone();
    for (std::size_t k = 0; k < seen.size(); ++k) seen.data()[k] *= float(exposures[i]);
    const std::filesystem::path file = dir.filePath(QString("%1.dng").arg(i)).toStdString();
    test::writeMosaicDng(file, test::mosaicked(seen, kFullWell, kReadNoise, 0, 0, unsigned(11 + i)), 0, 0);
    auto frame = loadFrame(file, Unsaid::Allowed);
    if (!frame) qFatal("%s", frame.error().message.c_str());
    frame->settings.time.value = exposures[i];
    frame->settings.aperture.value = 8;
    frame->settings.iso.value = 100;
    frame->sensor = {1 / kFullWell, kReadNoise * kReadNoise / (kFullWell * kFullWell)};
    frame->noise = frame->sensor;
    out.frames.push_back(std::move(*frame));
  }
  return out;
}

/// Merged light over the truth's, balanced, scaled so that green agrees on the whole.
Image<float> merged(const Bracket& bracket, MotionMode motion, const Image<float>& truth) {
  MergeOptions options;
  options.reference = int(bracket.frames.size() / 2);
  options.motion = motion;
  auto result = mergeRadiance(bracket.placed(), options, {});
  if (!result) qFatal("%s", result.error().message.c_str());
  std::vector<float> ratios;
  for (int y = 8; y < truth.height() - 8; ++y)
    for (int x = 8; x < truth.width() - 8; ++x)
      ratios.push_back(result->radiance.at(x, y)[1] / std::max(1e-6f, truth.at(x, y)[1]));
  std::nth_element(ratios.begin(), ratios.begin() + std::ptrdiff_t(ratios.size() / 2), ratios.end());
  const float scale = 1 / ratios[ratios.size() / 2];
  for (std::size_t k = 0; k < result->radiance.size(); ++k) result->radiance.data()[k] *= scale;
  return std::move(result->radiance);
}

/// As if they had been developed elsewhere.
void forgetPattern(Bracket& bracket) {
  for (Frame& f : bracket.frames) f = developed(f);
}

struct Rim {
  double error = 0, coloured = 0; ///< Of green, stops; share of pixels whose red or blue is off by a fifth of a stop.
  int pixels = 0;
};
/// Within three pixels of where some frame begins to clip, and recorded by the darkest.
Rim rimOf(const Image<float>& made, const Image<float>& truth, const std::vector<double>& exposures) {
  const auto level = [&](int x, int y) {
    float most = 0;
    for (int c = 0; c < 3; ++c) most = std::max(most, truth.at(x, y)[c]);
    int clipped = 0;
    for (const double e : exposures) clipped += most * e >= 1;
    return clipped;
  };
  Rim out;
  for (int y = 12; y < truth.height() - 12; ++y)
    for (int x = 12; x < truth.width() - 12; ++x) {
      bool rim = false;
      for (int v = -3; v <= 3 && !rim; ++v)
        for (int u = -3; u <= 3 && !rim; ++u) rim = level(x + u, y + v) != level(x, y);
      if (!rim || level(x, y) == int(exposures.size())) continue;
      const float *a = made.at(x, y), *b = truth.at(x, y);
      const double off = std::log2(std::max(1e-9f, a[1]) / b[1]);
      out.error += off * off;
      bool coloured = false;
      for (const int c : {0, 2}) {
        const double balance = test::kCameraBalance[std::size_t(c)];
        const double is = std::log2(std::max(1e-9f, a[c]) * balance / std::max(1e-9f, a[1])),
                     was = std::log2(b[c] / b[1]);
        coloured = coloured || std::abs(is - was) > 0.2;
      }
      out.coloured += coloured;
      ++out.pixels;
    }
  out.error = std::sqrt(out.error / out.pixels);
  out.coloured /= out.pixels;
  return out;
}

/// A frame whose pixel (x, y) shows what the reference's shows at (x - dx, y - dy), turned about its middle.
struct Hand {
  double dx = 0, dy = 0, degrees = 0;
};
constexpr int kSquare = 160; ///< Pixels; a light square in each, its sides slanted by 5 degrees.
constexpr double kSlant = 5 * 3.14159265 / 180, kHalfSide = 40;

/// Grey squares behind a lens's blur (the integral of a Gaussian across each edge) and square photosites.
Image<float> slantedSquares(int width, int height, double blur, const Hand& hand) {
  Image<float> out(width, height, 3);
  const double cx = (width - 1) / 2.0, cy = (height - 1) / 2.0, a = hand.degrees * 3.14159265 / 180;
  constexpr int kFine = 4;
  for (int y = 0; y < height; ++y)
    for (int x = 0; x < width; ++x) {
      double sum = 0;
      for (int k = 0; k < kFine * kFine; ++k) {
        const double px = x + (k % kFine + 0.5) / kFine - 0.5 - hand.dx - cx,
                     py = y + (k / kFine + 0.5) / kFine - 0.5 - hand.dy - cy;
        const double u = std::fmod(std::cos(a) * px + std::sin(a) * py + cx + kSquare, kSquare) - kSquare / 2,
                     v = std::fmod(-std::sin(a) * px + std::cos(a) * py + cy + kSquare, kSquare) - kSquare / 2;
        const double away = std::max(std::abs(std::cos(kSlant) * u + std::sin(kSlant) * v),
                                     std::abs(-std::sin(kSlant) * u + std::cos(kSlant) * v));
        sum += 0.15 + 0.225 * (1 + std::erf((kHalfSide - away) / blur / std::sqrt(2.0)));
      }
      for (int c = 0; c < 3; ++c) out.at(x, y)[c] = float(sum / (kFine * kFine)) * test::kCameraBalance[std::size_t(c)];
    }
  return out;
}

/// Cycles a pixel at which contrast is half, by the slanted edge (ISO 12233:2017, annex D: edge gathered at four
/// places a pixel, its derivative windowed and transformed), of green at all right edges.
double sharpnessOf(const Image<float>& picture) {
  constexpr int kBins = 4, kReach = 20 * kBins;
  std::array<double, 2 * kReach> sum{}, count{};
  for (int y = 16; y < picture.height() - 16; ++y)
    for (int x = 16; x < picture.width() - 16; ++x) {
      const double u = x % kSquare - kSquare / 2, v = y % kSquare - kSquare / 2;
      const double across = std::cos(kSlant) * u + std::sin(kSlant) * v,
                   along = -std::sin(kSlant) * u + std::cos(kSlant) * v;
      const int bin = int(std::floor((kHalfSide - across) * kBins)) + kReach;
      if (std::abs(along) > 28 || bin < 0 || bin >= 2 * kReach) continue;
      sum[std::size_t(bin)] += picture.at(x, y)[1], ++count[std::size_t(bin)];
    }
  const auto edge = [&](int i) { return sum[std::size_t(i)] / std::max(1.0, count[std::size_t(i)]); };
  const auto contrast = [&](double f) {
    double re = 0, im = 0;
    for (int i = 1; i + 1 < 2 * kReach; ++i) {
      const double window = 0.5 - 0.5 * std::cos(2 * 3.14159265 * i / (2 * kReach - 1)),
                   slope = (edge(i + 1) - edge(i - 1)) * window, angle = 2 * 3.14159265 * f * i / kBins;
      re += slope * std::cos(angle), im += slope * std::sin(angle);
    }
    const double step = 2 * 3.14159265 * f / kBins, bin = 3.14159265 * f / kBins; // of the derivative, and of the bins
    return std::hypot(re, im) / (f > 0 ? std::sin(step) / step * std::sin(bin) / bin : 1);
  };
  const double whole = contrast(0);
  for (double f = 0.02; f < 0.9; f += 0.001)
    if (contrast(f) < 0.5 * whole) return f;
  return 1;
}

} // namespace

class TestMosaicMerge : public QObject {
  Q_OBJECT
private slots:
  /// Where frames begin to clip, merged mosaics are nearer to the truth than merged pictures, and less coloured.
  void cleanerWhereFramesBeginToClip() {
    QTemporaryDir dir;
    double before = 0, after = 0, colouredBefore = 0, colouredAfter = 0;
    for (auto& scene : test::mosaicScenes(480, 320, 0.55)) {
      if (scene.name == "fabric") continue; // its threads are what demosaicing cannot do, not what merging can
      for (std::size_t k = 0; k < scene.truth.size(); ++k)
        scene.truth.data()[k] = std::max(2e-4f, scene.truth.data()[k]);
      Bracket bracket = shoot(dir, scene.truth, {0.9, 3.6, 14.4, 57.6});
      const Rim mosaics = rimOf(merged(bracket, MotionMode::Off, scene.truth), scene.truth, bracket.exposures);
      forgetPattern(bracket);
      const Rim pictures = rimOf(merged(bracket, MotionMode::Off, scene.truth), scene.truth, bracket.exposures);
      qInfo("%-10s %6d pixels: mosaics %.4f stops, %.2f %% coloured; pictures %.4f, %.2f %%", scene.name.c_str(),
            mosaics.pixels, mosaics.error, 100 * mosaics.coloured, pictures.error, 100 * pictures.coloured);
      after += mosaics.error, before += pictures.error;
      colouredAfter += mosaics.coloured, colouredBefore += pictures.coloured;
    }
    QVERIFY2(after < before, qPrintable(QString("%1 of %2").arg(after).arg(before)));
    QVERIFY2(colouredAfter < colouredBefore, qPrintable(QString("%1 of %2").arg(colouredAfter).arg(colouredBefore)));
  }

  /// One frame is as sharp as lens and photosites are, and five that were held in the hand lose next to nothing of it;
  /// none is sharper than the light was, which would be a finish and no merge.
  void handHeldSetsAreAsSharpAsOneFrame() {
    QTemporaryDir dir;
    constexpr int kWidth = 640, kHeight = 480;
    const std::vector<Hand> hands{
        {}, {3.37, -1.62, 0.05}, {-2.11, 4.48, -0.08}, {0.52, 2.73, 0.1}, {-4.29, -3.9, 0.02}};
    for (const double blur : {0.45, 0.55, 0.7}) {
      const double truth = sharpnessOf(slantedSquares(kWidth, kHeight, blur, {}));
      Bracket all;
      std::vector<PlacedFrame> placed;
      for (const Hand& hand : hands) {
        Bracket one = shoot(dir, slantedSquares(kWidth, kHeight, blur, hand), {1});
        all.frames.push_back(std::move(one.frames.front()));
      }
      Image<float> single(kWidth, kHeight, 3);
      const Frame front = developed(all.frames.front());
      for (int y = 0; y < kHeight; ++y)
        for (int x = 0; x < kWidth; ++x) front.linearAt(x, y, single.at(x, y));
      for (std::size_t i = 0; i < hands.size(); ++i) {
        const double a = hands[i].degrees * 3.14159265 / 180, c = std::cos(a), s = std::sin(a), cx = (kWidth - 1) / 2.0,
                     cy = (kHeight - 1) / 2.0;
        PlacedFrame frame{&all.frames[i]};
        frame.toFrame = {c, -s, cx + hands[i].dx - c * cx + s * cy, s, c, cy + hands[i].dy - s * cx - c * cy, 0, 0, 1};
        placed.push_back(frame);
      }
      MergeOptions options;
      options.motion = MotionMode::Auto;
      const auto result = mergeRadiance(placed, options, {});
      QVERIFY(result);
      const double one = sharpnessOf(single), five = sharpnessOf(result->radiance);
      qInfo("blur %.2f: light %.3f, one frame %.3f, five by hand %.3f cycles a pixel", blur, truth, one, five);
      QVERIFY(one >= 0.985 * truth && one <= 1.015 * truth);
      QVERIFY2(five >= 0.96 * one && five <= 1.03 * truth, qPrintable(QString::number(five / one)));
    }
  }

  /// Photosites of frames held in the hand say what one frame's colours had to be guessed for: woven threads and fine
  /// bars come out finer than any frame has them and than developed frames merged, and nothing else comes out worse;
  /// not even where frames are placed a sixth of a pixel wrongly.
  void handHeldSetsAreFinerThanOneFrame() {
    struct Want {
      const char* scene;
      double better; ///< dB over merging developed frames.
    };
    for (const auto& [scene, better] : {Want{"fabric", 3.0}, {"chart", 0.8}, {"workshop", 0.0}, {"forest", 0.0}}) {
      test::HandSet set(scene, 240, 160, 0.55);
      for (const double off : {0.0, 0.15}) {
        set.shoot({0.25, 0.5, 1, 2, 4}, kFullWell, off);
        const test::Quality single = set.single(), samples = set.merged();
        set.forgetPattern();
        const test::Quality pictures = set.merged();
        qInfo("%-9s %.2f pixels off: one frame %.2f dB, developed frames merged %.2f, their photosites %.2f", scene,
              off, single.cpsnr, pictures.cpsnr, samples.cpsnr);
        const double gain = samples.cpsnr - pictures.cpsnr;
        QVERIFY2(gain >= (off > 0 ? 0.6 * better : better) - 0.05,
                 qPrintable(QString("%1: %2 dB").arg(scene).arg(gain)));
        QVERIFY2(off > 0 || samples.cpsnr > single.cpsnr + 1, scene);
        QVERIFY2(samples.coloured <= pictures.coloured + 1e-4, scene);
      }
    }
  }

  /// A bracket so wide that its darkest frames add next to nothing where the lightest record everything: they are not
  /// listened to there, and nothing of what the others say is lost.
  void framesThatAddTooLittleAreNotMissed() {
    for (const auto& [scene, better] : {std::pair{"fabric", 1.4}, {"chart", 0.6}, {"workshop", 0.1}}) {
      test::HandSet set(scene, 240, 160, 0.55);
      set.shoot({1, 0.02, 1, 0.02, 1}, kFullWell);
      const test::Quality single = set.single(), samples = set.merged();
      set.forgetPattern();
      const test::Quality pictures = set.merged();
      qInfo("%-9s one frame %.2f dB, developed frames merged %.2f, their photosites %.2f", scene, single.cpsnr,
            pictures.cpsnr, samples.cpsnr);
      QVERIFY2(samples.cpsnr >= pictures.cpsnr + better - 0.05, scene);
      QVERIFY2(samples.cpsnr > single.cpsnr + 1, scene);
    }
  }

  /// Noise that is nine times what the model says, and something that one frame alone saw, are not taken for what the
  /// photosites know better.
  void neitherNoiseNorAPasserByIsBelieved() {
    test::HandSet set("forest", 240, 160, 0.55);
    set.shoot({0.25, 0.5, 1, 2, 4}, 4000);
    for (Frame& frame : set.frames) frame.noise.photon /= 9, frame.noise.floor /= 9, frame.sensor = frame.noise;
    const test::Quality noisy = set.merged();
    set.forgetPattern();
    const test::Quality noisyPictures = set.merged();
    qInfo("noise: developed frames merged %.2f dB, their photosites %.2f", noisyPictures.cpsnr, noisy.cpsnr);
    QVERIFY(noisy.cpsnr > noisyPictures.cpsnr - 0.05);
    for (int y = 60; y < 110; ++y)
      for (int x = 100; x < 130; ++x)
        for (int c = 0; c < 3; ++c) set.seen[1].at(x, y)[c] = 0.02f;
    set.shoot({1, 1, 1, 1, 1}, kFullWell);
    const test::Quality passed = set.merged(0.04, MotionMode::Off);
    set.forgetPattern();
    const test::Quality passedPictures = set.merged(0.04, MotionMode::Off);
    qInfo("a passer-by: developed frames merged %.2f dB, their photosites %.2f", passedPictures.cpsnr, passed.cpsnr);
    QVERIFY(passed.cpsnr > passedPictures.cpsnr - 0.05);
  }

  /// Over ten stops of an even grey: no further from the truth than the least that any unbiased way can be
  /// (Cramer and Rao; the bound of each photosite, as in Granados et al., CVPR 2010), and linear within 1 %.
  void asGoodAsTheBound() {
    QTemporaryDir dir;
    constexpr int kSteps = 10, kSide = 40;
    Image<float> wedge(kSteps * kSide, 96, 3);
    for (int y = 0; y < wedge.height(); ++y)
      for (int x = 0; x < wedge.width(); ++x)
        for (int c = 0; c < 3; ++c)
          wedge.at(x, y)[c] = 0.9f * float(std::exp2(-x / kSide)) * test::kCameraBalance[std::size_t(c)];
    const Bracket bracket = shoot(dir, wedge, {0.25, 1, 4, 16, 64});
    const Image<float> made = merged(bracket, MotionMode::Auto, wedge);
    for (int step = 0; step < kSteps; ++step) {
      const double light = 0.9 * std::exp2(-step);
      double information = 0;
      for (const double e : bracket.exposures)
        if (light * e < 0.88)
          information += e * e / (light * e / kFullWell + kReadNoise * kReadNoise / (kFullWell * kFullWell));
      const double bound = 1 / std::sqrt(information);
      double squares = 0, mean = 0;
      int count = 0;
      for (int y = 12; y < 84; ++y)
        for (int x = step * kSide + 8; x < (step + 1) * kSide - 8; ++x, ++count) {
          const double off = made.at(x, y)[1] - light;
          squares += off * off, mean += off;
        }
      mean /= count;
      QVERIFY2(std::abs(mean) < 0.01 * light, qPrintable(QString("step %1: %2").arg(step).arg(mean / light)));
      QVERIFY2(std::sqrt(squares / count) < 1.1 * bound,
               qPrintable(QString("step %1: %2 of the bound").arg(step).arg(std::sqrt(squares / count) / bound)));
    }
  }
};

QTEST_GUILESS_MAIN(TestMosaicMerge)
#include "test_mosaic_merge.moc"
