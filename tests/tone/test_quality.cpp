// SPDX-License-Identifier: GPL-3.0-or-later
// The automatic result against the best of OpenCV's tone operators, by a published index, on ordinary views out of 18
// radiance images.
#include <QTest>

#include "finish/judgement.h"
#include "image/colour.h"
#include "support/radiance_sets.h"
#include "support/tmqi.h"
#include "tone/natural.h"

#include <QDir>
#include <algorithm>
#include <cmath>
#include <opencv2/photo.hpp>

using namespace ml;

namespace {

Image<float> greyOf(const Image<float>& linear, bool encoded) {
  Image<float> out(linear.width(), linear.height(), 1);
  for (std::size_t i = 0; i < out.size(); ++i) {
    const float* p = linear.data() + 3 * i;
    if (!encoded) {
      out.data()[i] = luminance(p);
      continue;
    }
    float code[3];
    for (int c = 0; c < 3; ++c) code[c] = float(std::lround(255 * srgbEncode(std::clamp(double(p[c]), 0.0, 1.0))));
    out.data()[i] = luminance(code);
  }
  return out;
}

/// What OpenCV gives is meant for the display as it is (its gamma is in it).
double bestOfTheirs(const Image<float>& scene, const Image<float>& light) {
  cv::Mat hdr(scene.height(), scene.width(), CV_32FC3);
  for (int y = 0; y < scene.height(); ++y)
    for (int x = 0; x < scene.width(); ++x)
      for (int c = 0; c < 3; ++c) hdr.at<cv::Vec3f>(y, x)[2 - c] = scene.at(x, y)[c];
  std::vector<cv::Ptr<cv::Tonemap>> operators;
  for (const float v : {-2.f, 0.f, 2.f}) operators.push_back(cv::createTonemapReinhard(2.2f, v, 0.8f, 0.f));
  for (const float v : {0.7f, 0.85f, 0.95f}) operators.push_back(cv::createTonemapDrago(2.2f, 1.f, v));
  for (const float v : {0.6f, 0.7f, 0.85f}) operators.push_back(cv::createTonemapMantiuk(2.2f, v, 1.f));
  double best = 0;
  for (auto& op : operators) {
    cv::Mat out;
    op->process(hdr, out);
    Image<float> grey(scene.width(), scene.height(), 1);
    for (int y = 0; y < scene.height(); ++y)
      for (int x = 0; x < scene.width(); ++x) {
        const auto& p = out.at<cv::Vec3f>(y, x);
        float code[3];
        for (int c = 0; c < 3; ++c)
          code[c] = std::round(255 * std::clamp(std::isfinite(p[2 - c]) ? p[2 - c] : 0.f, 0.f, 1.f));
        grey.row(y)[x] = luminance(code);
      }
    best = std::max(best, test::tmqi(light, grey).quality);
  }
  return best;
}

} // namespace

class TestQuality : public QObject {
  Q_OBJECT

private slots:
  void automaticBeatsTheBestOfOpenCv() {
    const QDir folder(QString(ML_SOURCE_DIR) + "/tests/data/radiance");
    double ours = 0, theirs = 0;
    int better = 0, count = 0;
    for (const QString& file : folder.entryList({"*.exr"})) {
      const std::string name = QFileInfo(file).baseName().toStdString();
      const test::RadianceView view(name, 480, 320);
      const Image<float> scene = view.seen(0, 0, 0, -1), light = greyOf(scene, false);
      const ToneAnalysis analysis = analyseTone(scene.view());
      const auto toned = toneNatural(scene.view(), analysis, {}, {});
      const auto mine = test::tmqi(light, greyOf(*toned, true));
      const double best = bestOfTheirs(scene, light);
      const Judgement judged = judgeFinish(scene.view(), *toned, analysis, {}, {});
      QVERIFY2(!judged.of(FindingKind::Halo).tooMuch, (name + ": " + sentence(judged.of(FindingKind::Halo))).c_str());
      qInfo("%-10s %-12s ours %.4f (fidelity %.3f, naturalness %.3f), best of theirs %.4f, rims %.2f, contrast %.2f",
            name.c_str(), nameOf(analysis.kind), mine.quality, mine.fidelity, mine.naturalness, best,
            judged.of(FindingKind::Halo).figure, judged.of(FindingKind::Flat).figure);
      ours += mine.quality, theirs += best, ++count;
      better += mine.quality > best;
    }
    qInfo("mean %.4f against %.4f; better on %d of %d", ours / count, theirs / count, better, count);
    QCOMPARE(count, 18);
    QVERIFY(ours > theirs);
    QVERIFY(better >= 15);
  }
};

QTEST_GUILESS_MAIN(TestQuality)
#include "test_quality.moc"
