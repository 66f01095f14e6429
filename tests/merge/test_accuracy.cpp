// SPDX-License-Identifier: GPL-3.0-or-later
// Whole sets of files against the truth they were made from: radiance images of real rooms and landscapes
// (tests/data/radiance, CC0), invented tone curves, noise, hands and walkers. The tolerances are those of the task, as
// ratios to the bound: what the true curve and the same weights reach on the tripod set.
#include "image/metrics.h"
#include "ingest/load_frame.h"
#include "pipeline/combine.h"
#include "support/radiance_sets.h"

#include <QTemporaryDir>
#include <QTest>
#include <cmath>
#include <map>

using namespace ml;

namespace {

constexpr int kBorder = 16;

/// Root mean square of log2(found / truth), one global scale (of all that is not walked over) removed; over the walked
/// places when given.
double errorOf(const Image<float>& found, const Image<float>& truth, const Image<std::uint8_t>* walked = nullptr) {
  double sum = 0, squares = 0, n = 0, walkedSum = 0, walkedSquares = 0, walkedCount = 0;
  for (int y = kBorder; y < truth.height() - kBorder; ++y)
    for (int x = kBorder; x < truth.width() - kBorder; ++x)
      for (int c = 0; c < 3; ++c) {
        const double log = std::log2(std::max(1e-9f, found.at(x, y)[c]) / truth.at(x, y)[c]);
        if (walked && *walked->at(x, y))
          walkedSum += log, walkedSquares += log * log, ++walkedCount;
        else
          sum += log, squares += log * log, ++n;
      }
  const double mean = sum / n;
  if (!walked) return std::sqrt(squares / n - mean * mean);
  return std::sqrt(walkedSquares / walkedCount - 2 * mean * walkedSum / walkedCount + mean * mean);
}

double boundOf(const test::MadeSet& set) {
  std::vector<Frame> frames;
  for (const auto& file : set.files) {
    frames.push_back(std::move(*loadFrame(file)));
    frames.back().table = set.curve;
    frames.back().sensor = set.sensor;
    frames.back().noise = noiseOf(set.curve, 1 / set.sensor.photon, 4);
  }
  std::vector<PlacedFrame> placed;
  for (const auto& frame : frames) placed.push_back({&frame, kIdentity3, 0});
  MergeOptions options;
  options.reference = set.reference;
  options.motion = MotionMode::Off;
  return errorOf(mergeRadiance(placed, options, {})->radiance, set.truth);
}

Image<float> combined(const test::MadeSet& set) {
  CombineOptions options;
  options.reference = set.reference;
  return std::move(combineFiles(set.files, options, {})->radiance);
}

} // namespace

class TestAccuracy : public QObject {
  Q_OBJECT

private slots:
  void fiveJpegsAgainstTheTruth_data() {
    QTest::addColumn<QString>("view");
    QTest::addColumn<int>("curve");
    QTest::newRow("lobby, contrast") << "lobby" << 0;
    QTest::newRow("apartment, film") << "apartment" << 2;
    QTest::newRow("hall, logarithmic") << "hall" << 1;
    QTest::newRow("forest, contrast") << "forest" << 0;
    QTest::newRow("sky, logarithmic") << "sky" << 1;
    QTest::newRow("venice, logarithmic") << "venice" << 1;
  }
  void fiveJpegsAgainstTheTruth() {
    QFETCH(QString, view);
    QFETCH(int, curve);
    QTemporaryDir dir;
    const std::filesystem::path folder = dir.path().toStdString();
    const test::RadianceView scene(view.toStdString());
    test::SetOptions options;
    options.curve = curve;
    const auto tripod = test::makeSet(scene, options, folder);
    const double bound = boundOf(tripod), still = errorOf(combined(tripod), tripod.truth);
    options.handHeld = true;
    options.seed = 7;
    const auto handHeld = test::makeSet(scene, options, folder);
    const double held = errorOf(combined(handHeld), handHeld.truth);
    options.walker = true;
    const auto walked = test::makeSet(scene, options, folder);
    const double walker = errorOf(combined(walked), walked.truth, &walked.walked);
    qInfo("bound %.4f EV; tripod %.4f (%.2f), hand-held %.4f (%.2f), walker %.4f", bound, still, still / bound, held,
          held / bound, walker);
    QVERIFY2(still <= 1.3 * bound, qPrintable(QString("tripod %1 against a bound of %2").arg(still).arg(bound)));
    QVERIFY2(held <= 2 * bound, qPrintable(QString("hand-held %1 against a bound of %2").arg(held).arg(bound)));
    QVERIFY2(walker <= 0.10, qPrintable(QString("walker %1 EV").arg(walker)));
  }

  // Linear 16-bit files: within a tenth of the Cramer-Rao bound, 1 / sqrt(sum of e^2 / variance) over the frames that
  // do not clip (Granados et al., CVPR 2010, eq. 6), taken at the truth.
  void linearSetsReachTheNoiseBound_data() {
    QTest::addColumn<QString>("view");
    for (const char* view : {"lobby", "workshop"}) QTest::newRow(view) << view;
  }
  void linearSetsReachTheNoiseBound() {
    QFETCH(QString, view);
    QTemporaryDir dir;
    const test::RadianceView scene(view.toStdString(), 768, 512);
    test::SetOptions options;
    options.curve = -1;
    const auto set = test::makeSet(scene, options, dir.path().toStdString());
    std::vector<Frame> frames;
    for (const auto& file : set.files) {
      frames.push_back(std::move(*loadFrame(file)));
      QVERIFY(!frames.back().curveAssumed); // the embedded profile says that it is linear
      frames.back().table = linearTable(65535, 512, 60512);
      frames.back().noise = set.sensor;
      frames.back().codeError = 0;
    }
    std::vector<PlacedFrame> placed;
    for (const auto& frame : frames) placed.push_back({&frame, kIdentity3, 0});
    MergeOptions merging;
    merging.reference = set.reference;
    merging.motion = MotionMode::Off;
    const auto merged = mergeRadiance(placed, merging, {});
    double sum = 0, squares = 0, boundSquares = 0, n = 0;
    for (int y = kBorder; y < set.truth.height() - kBorder; ++y)
      for (int x = kBorder; x < set.truth.width() - kBorder; ++x)
        for (int c = 0; c < 3; ++c) {
          const double light = set.truth.at(x, y)[c] * 0.10 / scene.median();
          double information = 0;
          for (int i = 0; i < 5; ++i) {
            const double e = std::exp2(2 * (i - 2));
            if (light * e < 0.98) information += e * e / set.sensor.variance(light * e);
          }
          if (information <= 0 || light * light * information < 25) continue; // a logarithm needs a signal
          const double log = std::log2(std::max(1e-9f, merged->radiance.at(x, y)[c]) / set.truth.at(x, y)[c]);
          sum += log, squares += log * log, ++n;
          boundSquares += 1 / (information * light * light * std::log(2.0) * std::log(2.0));
        }
    const double error = std::sqrt(squares / n - sum * sum / (n * n)), bound = std::sqrt(boundSquares / n);
    qInfo("error %.5f EV, bound %.5f EV, ratio %.3f", error, bound, error / bound);
    QVERIFY2(error <= 1.10 * bound, qPrintable(QString("%1 against %2").arg(error).arg(bound)));
  }
};

QTEST_GUILESS_MAIN(TestAccuracy)
#include "test_accuracy.moc"
