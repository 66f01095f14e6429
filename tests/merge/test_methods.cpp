// SPDX-License-Identifier: GPL-3.0-or-later
#include "image/colour.h"
#include "merge/fusion.h"
#include "merge/join.h"
#include "response/response.h"
#include "support/scenes.h"

#include <QTest>
#include <cmath>
#include <opencv2/photo.hpp>
#include <random>

using namespace ml;

namespace {

std::vector<PlacedFrame> unmoved(const std::vector<Frame>& frames) {
  std::vector<PlacedFrame> placed;
  for (const auto& frame : frames) placed.push_back({&frame, kIdentity3, 0});
  return placed;
}

MergeOptions still(int reference) {
  MergeOptions options;
  options.reference = reference;
  options.motion = MotionMode::Off;
  return options;
}

/// Eight-bit sRGB frames of a scene, `stops` apart.
std::vector<Frame> rendered(const Image<float>& scene, int count, double stops, double (*curve)(double) = nullptr) {
  std::vector<Frame> frames;
  for (int i = 0; i < count; ++i) {
    const double exposure = std::exp2(stops * (i - count / 2));
    Image<std::uint8_t> codes(scene.width(), scene.height(), 3);
    for (std::size_t k = 0; k < scene.size(); ++k) {
      const double linear = std::clamp(scene.data()[k] * exposure, 0.0, 1.0);
      codes.data()[k] = std::uint8_t(std::lround(255 * (curve ? curve(linear) : srgbEncode(linear))));
    }
    Frame frame;
    frame.codes = std::move(codes);
    frame.table = srgbTable(255);
    frame.noise = noiseOf(frame.table, 40000, 3.5);
    frame.settings = {{exposure / 64}, {8}, {100}};
    frame.curveAssumed = true;
    frames.push_back(std::move(frame));
  }
  return frames;
}

Image<float> scene(int width, int height) {
  Image<float> out(width, height, 3);
  for (int y = 0; y < height; ++y)
    for (int x = 0; x < width; ++x)
      for (int c = 0; c < 3; ++c)
        out.at(x, y)[c] = float(0.15 * std::exp2(2.5 * std::sin(x * 0.021 + c * 0.2) + 2 * std::sin(y * 0.03) +
                                                 0.4 * std::sin(x * 0.4) * std::sin(y * 0.5)));
  return out;
}

} // namespace

class TestMethods : public QObject {
  Q_OBJECT

private slots:
  // Mertens, Kautz and Van Reeth 2007 as OpenCV 4.6 implements it, on the same codes: the two differ only where
  // OpenCV's Laplacian and its rounding of image sizes treat borders otherwise.
  void fusionAgreesWithAnIndependentOne() {
    const auto frames = rendered(scene(320, 224), 3, 2);
    std::vector<cv::Mat> images;
    for (const auto& frame : frames) {
      cv::Mat image(224, 320, CV_8UC3);
      for (int y = 0; y < 224; ++y)
        for (int x = 0; x < 320; ++x)
          for (int c = 0; c < 3; ++c) image.at<cv::Vec3b>(y, x)[2 - c] = std::uint8_t(frame.codes.at(x, y, c));
      images.push_back(image);
    }
    cv::Mat theirs;
    cv::createMergeMertens(1, 1, 1)->process(images, theirs);
    const auto ours = fuseExposures(unmoved(frames), still(1), {}, {});
    QVERIFY(ours.has_value());
    double squares = 0, worst = 0;
    int n = 0;
    for (int y = 8; y < 216; ++y)
      for (int x = 8; x < 312; ++x)
        for (int c = 0; c < 3; ++c) {
          const double difference =
              srgbEncode(ours->radiance.at(x, y)[c]) - std::clamp(theirs.at<cv::Vec3f>(y, x)[2 - c], 0.f, 1.f);
          squares += difference * difference, worst = std::max(worst, std::abs(difference)), ++n;
        }
    QVERIFY2(std::sqrt(squares / n) < 0.004, qPrintable(QString::number(std::sqrt(squares / n))));
    QVERIFY2(worst < 0.03, qPrintable(QString::number(worst)));
  }

  // A dark, pale thing amid bright ones: the pyramid undershoots there, and once drove channels to zero one by one.
  void darkPlacesKeepTheirColour() {
    Image<float> view(192, 128, 3);
    for (int y = 0; y < 128; ++y)
      for (int x = 0; x < 192; ++x) {
        const bool dark = std::hypot(x % 48 - 24, y % 48 - 24) < 7;
        const float light = dark ? 0.0012f : 0.9f, tint[3] = {1.1f, 1, dark ? 0.75f : 1.4f};
        for (int c = 0; c < 3; ++c) view.at(x, y)[c] = light * tint[c];
      }
    const auto frames = rendered(view, 5, 2);
    const auto fused = fuseExposures(unmoved(frames), still(2), {}, {});
    QVERIFY(fused.has_value());
    for (std::size_t i = 0; i < fused->radiance.size(); i += 3) {
      const float* p = fused->radiance.data() + i;
      const float most = std::max({p[0], p[1], p[2]}), least = std::min({p[0], p[1], p[2]});
      QVERIFY(most > 0);
      QVERIFY2(least > 0.2f * luminance(p),
               qPrintable(QString("%1: %2 %3 %4").arg(i / 3).arg(double(p[0])).arg(double(p[1])).arg(double(p[2]))));
    }
  }

  void fusionOfOneFrameIsThatFrame() {
    const auto frames = rendered(scene(96, 64), 1, 2);
    const auto fused = fuseExposures(unmoved(frames), still(0), {}, {});
    for (int y = 0; y < 64; ++y)
      for (int x = 0; x < 96; ++x)
        for (int c = 0; c < 3; ++c)
          QVERIFY(std::abs(srgbEncode(fused->radiance.at(x, y)[c]) * 255 - frames[0].codes.at(x, y, c)) < 0.6);
  }

  void threadsDoNotChangeABitOfAFusion() {
    const auto frames = rendered(scene(160, 130), 3, 2);
    setThreads(1);
    const auto one = fuseExposures(unmoved(frames), still(1), {}, {});
    setThreads(4);
    const auto four = fuseExposures(unmoved(frames), still(1), {}, {});
    setThreads(0);
    QVERIFY(std::equal(one->radiance.data(), one->radiance.data() + one->radiance.size(), four->radiance.data()));
  }

  // Above the soft range the darker frame alone, below it the lighter one.
  void toneRangeTakesEachFrameWhereItShould() {
    const auto frames = rendered(scene(240, 160), 2, 3);
    const ToneRange range{160, 185};
    const auto joined = joinByTone(unmoved(frames), still(1), range, {});
    QVERIFY(joined.has_value());
    int fromDark = 0, fromLight = 0;
    for (int y = 4; y < 156; ++y)
      for (int x = 4; x < 236; ++x) {
        const int most =
            std::max({frames[1].codes.at(x, y, 0), frames[1].codes.at(x, y, 1), frames[1].codes.at(x, y, 2)});
        if (most > 158 && most < 187) continue;
        const bool dark = most >= 187;
        (dark ? fromDark : fromLight)++;
        for (int c = 0; c < 3; ++c) {
          float rgb[3];
          frames[dark ? 0 : 1].linearAt(x, y, rgb);
          const double expected = rgb[c] * (dark ? 8.0 : 1.0); // in the units of the lighter frame
          QVERIFY(std::abs(joined->radiance.at(x, y)[c] - expected) < 1e-3 * expected + 1e-5);
        }
      }
    QVERIFY(fromDark > 500 && fromLight > 500);
    QCOMPARE(int(joinByTone(unmoved(frames), still(1), {185, 160}, {}).error().code), int(ErrorCode::InvalidArgument));
    QCOMPARE(int(joinByTone({unmoved(frames)[0]}, still(0), range, {}).error().code), int(ErrorCode::TooFewFrames));
  }

  void darkerOfTwoOnlyInsideThePaintedArea() {
    auto frames = rendered(scene(240, 160), 3, 2);
    // In the middle frame a reflection: a bright block that the first frame does not have.
    for (int y = 60; y < 100; ++y)
      for (int x = 100; x < 140; ++x)
        for (int c = 0; c < 3; ++c) {
          frames[0].codes.set(x, y, c, 60);
          frames[1].codes.set(x, y, c, 240);
          frames[2].codes.set(x, y, c, 255);
        }
    DarkerArea area;
    area.strokes.push_back({{{0.5, 0.5}}, 0.12, 0});
    const auto plain = mergeRadiance(unmoved(frames), still(1), {});
    const auto darker = joinDarker(unmoved(frames), still(1), area, {});
    float rgb[3];
    frames[0].linearAt(120, 80, rgb);
    QVERIFY(std::abs(darker->radiance.at(120, 80)[1] / (rgb[1] * 4) - 1) < 0.02);
    QVERIFY(plain->radiance.at(120, 80)[1] > 1.3 * darker->radiance.at(120, 80)[1]);
    QCOMPARE(darker->radiance.at(20, 20)[1], plain->radiance.at(20, 20)[1]);
  }

  // The curve that a set was made with is found again, up to one scale: a gamma with contrast added.
  void responseIsRecovered() {
    const auto curve = [](double x) {
      const double v = std::pow(x, 1 / 2.2);
      return 0.5 * v + 0.5 * v * v * (3 - 2 * v);
    };
    const auto frames = rendered(scene(640, 480), 5, 2, curve);
    const auto response = recoverResponse(unmoved(frames));
    QVERIFY(response.has_value());
    QVERIFY(response->changed);
    QVERIFY(response->disagreementAfter < 0.35 * response->disagreementBefore);
    const float* table = response->table.channel(1);
    std::vector<double> differences;
    for (int code = 24; code <= 245; ++code) {
      double low = 0, high = 1;
      for (int k = 0; k < 50; ++k) (curve((low + high) / 2) * 255 < code ? low : high) = (low + high) / 2;
      differences.push_back(std::log2(table[code] / low));
    }
    double mean = 0, squares = 0;
    for (const double d : differences) mean += d / double(differences.size());
    for (const double d : differences) squares += (d - mean) * (d - mean) / double(differences.size());
    QVERIFY2(std::sqrt(squares) < 0.03,
             qPrintable(QString::number(
                 std::sqrt(squares)))); // Debevec and Malik 1997 as OpenCV has it: 0.05 to 0.1 on such sets
    for (int code = 1; code < 256; ++code) QVERIFY(table[code] >= table[code - 1]);
  }

  // Times that are not what the settings say are found together with the curve: all but a stretch of both alike
  // (Grossberg and Nayar, 2003).
  void lightOfEachFrameIsFound_data() {
    QTest::addColumn<bool>("linear");
    QTest::newRow("an unknown curve") << false;
    QTest::newRow("linear") << true;
  }
  void lightOfEachFrameIsFound() {
    QFETCH(bool, linear);
    const auto curve = [](double x) {
      const double v = std::pow(x, 1 / 2.2);
      return 0.6 * v + 0.4 * v * v * (3 - 2 * v);
    };
    const double off[] = {0, -0.1, 0.25, 0.05, -0.08};
    std::vector<Frame> frames;
    for (int i = 0; i < 5; ++i) {
      Image<float> light = scene(480, 360);
      for (std::size_t k = 0; k < light.size(); ++k) light.data()[k] *= float(std::exp2(off[i]));
      auto set = linear ? std::vector<Frame>{} : rendered(light, 5, 2, curve);
      if (linear) {
        for (std::size_t k = 0; k < light.size(); ++k)
          light.data()[k] = std::min(1.f, light.data()[k] * float(std::exp2(2 * (i - 2))));
        frames.push_back(test::linearFrame(light, {{std::exp2(2.0 * i - 8)}, {8}, {100}}));
      } else {
        frames.push_back(std::move(set[std::size_t(i)]));
      }
    }
    const auto found = findPhotometry(unmoved(frames));
    QCOMPARE(found.light.size(), std::size_t(5));
    QCOMPARE(found.response.has_value(), !linear);
    // Taken off: the mean, and for an unknown curve the slope over the five.
    double mean = 0, slope = 0;
    for (int i = 0; i < 5; ++i) mean += (found.light[std::size_t(i)].stops - off[i]) / 5;
    for (int i = 0; i < 5 && !linear; ++i) slope += (i - 2) * (found.light[std::size_t(i)].stops - off[i] - mean) / 10;
    for (int i = 0; i < 5; ++i) {
      const double wrong = found.light[std::size_t(i)].stops - off[i] - mean - slope * (i - 2);
      QVERIFY2(std::abs(wrong) < (linear ? 0.01 : 0.04), qPrintable(QString("frame %1: %2").arg(i).arg(wrong)));
    }
    // Known well enough to say that the third frame alone was lighter; a step that a stretched curve explains as well
    // is not.
    const std::vector<double> own(5, 0.07);
    const auto step = found.overall.stepOf({0, 0, 1, 0, 0}, own);
    QVERIFY2(step.stops > 0.15 && step.sigma < 0.12, qPrintable(QString("%1 +- %2").arg(step.stops).arg(step.sigma)));
    if (!linear) QVERIFY(LightKnowledge{}.stepOf({0, 1}, {0.1, 0.1}).sigma > 1e8);
  }

  // A window that the shortest frame alone holds and a room that only the others do: of what two frames share, a walker
  // before the window covers the most, and says nothing of the shutter.
  void aWalkerDoesNotSayHowLongAFrameWasExposed() {
    std::vector<Frame> frames;
    for (int i = 0; i < 3; ++i) {
      Image<float> light(480, 360, 3);
      for (int y = 0; y < 360; ++y)
        for (int x = 0; x < 480; ++x) {
          const bool window = x < 200, sill = x >= 200 && x < 224, walker = i == 1 && x >= 40 && x < 140 && y > 100;
          const float shade = 1 + 0.3f * float(y) / 360;
          const float own = walker   ? 0.003f * (1 + 2 * float(x + y) / 400)
                            : window ? 0.5f * shade
                            : sill   ? 0.04f * shade
                                     : 0.0016f * shade;
          for (int c = 0; c < 3; ++c) light.at(x, y)[c] = std::min(1.f, own * float(std::exp2(3 * i)));
        }
      frames.push_back(test::linearFrame(light, {{std::exp2(3.0 * i - 6)}, {8}, {100}}));
    }
    for (const FrameLight& l : findPhotometry(unmoved(frames)).light)
      QVERIFY2(std::abs(l.stops) < 0.02, qPrintable(QString::number(l.stops)));
  }

  void aTrueCurveIsLeftAlone() {
    const auto frames = rendered(scene(640, 480), 3, 2);
    const auto response = recoverResponse(unmoved(frames));
    QVERIFY(response.has_value());
    QCOMPARE(response->start, std::string("sRGB"));
    QVERIFY(response->disagreementAfter < 0.03);
    for (int code = 20; code < 250; ++code)
      QVERIFY(std::abs(std::log2(response->table.channel(1)[code] / response->table.channel(1)[118] /
                                 (srgbDecode(code / 255.0) / srgbDecode(118 / 255.0)))) < 0.04);
  }

  /// Where haze leaves nothing dark, a curve is not known down there: it goes on as it fell last, not as sRGB does.
  void aCurveGoesOnAsItFell() {
    Image<float> hazy = scene(640, 480);
    for (std::size_t k = 0; k < hazy.size(); ++k) hazy.data()[k] = 0.02f + 0.9f * hazy.data()[k];
    const auto response = recoverResponse(unmoved(rendered(hazy, 3, 2, [](double x) { return std::pow(x, 1 / 3.6); })));
    QVERIFY(response.has_value() && response->changed);
    QVERIFY(response->lowestCode > 45);
    for (const int code : {15, 30, 45}) {
      const double off =
          std::log2(response->table.channel(1)[code] / response->table.channel(1)[118]) - 3.6 * std::log2(code / 118.0);
      QVERIFY2(std::abs(off) < 0.5, qPrintable(QString("%1: %2 stops").arg(code).arg(off)));
    }
  }

  void tooLittleInCommonSaysNothing() {
    Image<float> flat(64, 64, 3);
    flat.fill(4); // clipped in all frames
    QVERIFY(!recoverResponse(unmoved(rendered(flat, 3, 2))).has_value());
    QVERIFY(!recoverResponse(unmoved(rendered(scene(64, 64), 1, 2))).has_value());
  }

  // Three frames, somebody somewhere else in each: what most agree on has nobody in it.
  void emptiedSceneHasNobodyInIt() {
    const auto ground = scene(480, 320);
    std::vector<Frame> frames;
    const int places[] = {60, 200, 340};
    for (int i = 0; i < 3; ++i) {
      auto one = rendered(ground, 3, 1);
      for (int y = 120; y < 220; ++y)
        for (int x = places[i]; x < places[i] + 44; ++x)
          for (int c = 0; c < 3; ++c) one[std::size_t(i)].codes.set(x, y, c, 128 + 40 * (i - 1));
      frames.push_back(std::move(one[std::size_t(i)]));
    }
    MergeOptions options;
    options.reference = 1;
    options.emptyScene = true;
    const auto emptied = mergeRadiance(unmoved(frames), options, {});
    options.emptyScene = false;
    const auto guided = mergeRadiance(unmoved(frames), options, {});
    const auto empty = mergeRadiance(unmoved(rendered(ground, 3, 1)), still(1), {});
    const auto worst = [&](const Image<float>& picture, int left) {
      double sum = 0;
      for (int y = 140; y < 200; ++y)
        for (int x = left + 8; x < left + 36; ++x)
          sum += std::abs(std::log2(picture.at(x, y)[1] / empty->radiance.at(x, y)[1]));
      return sum / (60 * 28);
    };
    for (const int left : places)
      QVERIFY2(worst(emptied->radiance, left) < 0.08,
               qPrintable(QString("at %1: %2").arg(left).arg(worst(emptied->radiance, left))));
    QVERIFY(worst(guided->radiance, places[1]) > 0.3); // guided by the middle frame he stands there, once
    QVERIFY(worst(guided->radiance, places[0]) < 0.08 && worst(guided->radiance, places[2]) < 0.08);
  }

  // The user's word: a click on a found place, a painted stroke, the later one winning.
  void chosenSourcesAreTaken() {
    const auto ground = scene(480, 320);
    auto frames = rendered(ground, 3, 1);
    for (int y = 120; y < 220; ++y)
      for (int x = 200; x < 244; ++x)
        for (int c = 0; c < 3; ++c) frames[1].codes.set(x, y, c, 70);
    MergeOptions options;
    options.reference = 1;
    const auto found = mergeRadiance(unmoved(frames), options, {});
    QCOMPARE(found->motion.regions, 1);
    QCOMPARE(found->motion.places[0].source, 1);
    QVERIFY(found->motion.places[0].recording.size() >= 2);
    options.choices = {{{{222 / 480.0, 170 / 320.0}}, 0, 0}};
    const auto chosen = mergeRadiance(unmoved(frames), options, {});
    QCOMPARE(chosen->motion.places[0].source, 0);
    float rgb[3];
    frames[0].linearAt(222, 170, rgb);
    QVERIFY(std::abs(std::log2(chosen->radiance.at(222, 170)[1] / (2 * rgb[1]))) < 0.1);
    QVERIFY(std::abs(std::log2(found->radiance.at(222, 170)[1] / (2 * rgb[1]))) > 0.3);
    options.choices.push_back({{{0.4, 0.5}, {0.55, 0.6}}, 0.08, 1});
    const auto painted = mergeRadiance(unmoved(frames), options, {});
    QVERIFY(std::abs(std::log2(painted->radiance.at(222, 170)[1] / found->radiance.at(222, 170)[1])) < 0.05);
    QVERIFY(painted->motion.places.back().painted);
  }

  // Ratios of light do not change when all times are multiplied, nor when the picture is turned by a quarter.
  void scaleAndQuarterTurnChangeNothing() {
    const auto ground = scene(200, 160);
    auto frames = rendered(ground, 3, 2);
    const auto plain = mergeRadiance(unmoved(frames), still(1), {});
    for (auto& frame : frames) frame.settings.time.value *= 8;
    const auto longer = mergeRadiance(unmoved(frames), still(1), {});
    for (std::size_t i = 0; i < plain->radiance.size(); ++i)
      QVERIFY(std::abs(longer->radiance.data()[i] / plain->radiance.data()[i] - 1) < 1e-5f);
    QVERIFY(std::abs(plain->ev100OfUnit - longer->ev100OfUnit - 3) < 1e-9);
    Image<float> turned(160, 200, 3);
    for (int y = 0; y < 160; ++y)
      for (int x = 0; x < 200; ++x) std::copy_n(ground.at(x, y), 3, turned.at(159 - y, x));
    const auto around = mergeRadiance(unmoved(rendered(turned, 3, 2)), still(1), {});
    for (int y = 0; y < 160; ++y)
      for (int x = 0; x < 200; ++x)
        for (int c = 0; c < 3; ++c)
          QVERIFY(std::abs(around->radiance.at(159 - y, x)[c] / plain->radiance.at(x, y)[c] - 1) < 1e-5f);
  }

private:
  static void setThreads(int count);
};

#include "base/parallel.h"
void TestMethods::setThreads(int count) {
  setThreadCount(count);
}

QTEST_GUILESS_MAIN(TestMethods)
#include "test_methods.moc"
