// SPDX-License-Identifier: GPL-3.0-or-later
// Brackets of mosaics that lie in place, merged before they are demosaiced: against the truth they were made from, the
// bound of Cramer and Rao, and the same frames merged as developed pictures.
#include "ingest/load_frame.h"
#include "merge/merge.h"
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
  for (Frame& f : bracket.frames) f.pattern.fill(-1);
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
