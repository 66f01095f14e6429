// SPDX-License-Identifier: GPL-3.0-or-later
// Response curves kept by camera, and first looks on reduced frames.
#include "base/atomic_file.h"
#include "image/metrics.h"
#include "image/resample.h"
#include "ingest/estimate_exposure.h"
#include "pipeline/combine_json.h"
#include "pipeline/combine_report.h"
#include "pipeline/report.h"
#include "support/radiance_sets.h"
#include "support/scenes.h"

#include <QTest>
#include <cmath>
#include <nlohmann/json.hpp>

using namespace ml;
namespace fs = std::filesystem;

namespace {

constexpr const char* kCamera = "Invented One";

test::MadeSet makeSet(const char* view, int frames, int curve, const fs::path& folder, const char* camera = kCamera) {
  test::SetOptions options;
  options.frames = frames;
  options.curve = curve;
  options.camera = camera;
  fs::create_directories(folder);
  return test::makeSet(test::RadianceView(view, 768, 512), options, folder);
}

/// Largest error of the table against the true curve over the middle codes, stops.
double curveError(const CodeTable& found, const CodeTable& truth) {
  return differenceOf(found, truth, 25, 235);
}

} // namespace

class TestCurves : public QObject {
  Q_OBJECT

private slots:
  /// A flat curve makes a step look like half of it as long as the usual curve is assumed; the set says better. A time
  /// that is wrong stays wrong whatever the curve.
  void aStepIsDoubtedOnlyThroughTheCurveThatWasFound() {
    QTemporaryDir dir;
    const fs::path folder = test::pathOf(dir);
    fs::create_directories(folder);
    test::SetOptions made;
    made.curve = 3;
    made.stopsApart = 2.5;
    const auto set = test::makeSet(test::RadianceView("apartment", 768, 512), made, folder);
    CombineOptions options;
    const auto doubts = [&] {
      const auto combined = combineFiles(set.files, options, {});
      return combined ? std::count_if(combined->remarks.begin(), combined->remarks.end(),
                                      [](const std::string& r) { return r.find("check their times") != r.npos; })
                      : -1;
    };
    QCOMPARE(int(doubts()), 0);
    options.recoverResponse = false;
    QVERIFY(doubts() > 0);
    options.recoverResponse = true;
    const auto last = set.files.back().filename().string();
    options.seconds[last] = std::exp2(2.5 * 2 - 4) * 4; // two stops more than it was
    QVERIFY(doubts() > 0);
  }

  /// A dark room and its bright window, nothing between: somebody who covers a part of one of them in one frame shifts
  /// all ranks, and the room's rank is compared with the window's.
  void somebodyBeforeAWindowIsNoWrongTime() {
    const auto frame = [](double exposure, double windowFrom) {
      Image<float> linear(200, 100, 3);
      for (int y = 0; y < 100; ++y)
        for (int x = 0; x < 200; ++x) {
          const bool window = x >= 200 * windowFrom;
          const double light = window ? 0.15 + 0.1 * y / 100 : 0.002 + 0.001 * y / 100;
          std::fill_n(linear.at(x, y), 3, float(std::min(1.0, light * exposure)));
        }
      return test::linearFrame(linear, {{exposure / 60}, {8}, {100}});
    };
    const auto seen = estimateStops(frame(1, 0.5), frame(4, 0.46));
    QVERIFY(seen);
    QVERIFY2(seen->least <= 2 && seen->most >= 2, qPrintable(QString("%1 to %2").arg(seen->least).arg(seen->most)));
    const auto still = estimateStops(frame(1, 0.5), frame(4, 0.5));
    QVERIFY(still);
    QVERIFY(std::abs(still->stops - 2) < 0.05);
    QVERIFY(still->least > 1.5 && still->most < 2.5);
  }

  /// A curve that makes 0.8 of white: what both frames clip says nothing.
  void whiteIsNoTone() {
    const auto frame = [](double exposure) {
      Image<float> linear(200, 100, 3);
      for (int y = 0; y < 100; ++y)
        for (int x = 0; x < 200; ++x)
          std::fill_n(linear.at(x, y), 3, x < 80 ? float(exposure * (0.02 + 0.02 * x / 80)) : 0.8f);
      return test::linearFrame(linear, {{exposure / 60}, {8}, {100}});
    };
    const auto seen = estimateStops(frame(1), frame(4));
    QVERIFY(seen);
    QVERIFY2(std::abs(seen->stops - 2) < 0.05, qPrintable(QString::number(seen->stops)));
  }

  void oneFrameIsReadByWhatEarlierSetsShowed() {
    QTemporaryDir dir;
    const fs::path folder = test::pathOf(dir);
    const auto five = makeSet("apartment", 5, 1, folder / "five");
    CombineOptions options;
    options.curves = folder / "curves";
    const auto first = combineFiles(five.files, options, {});
    QVERIFY(first && first->response && !first->curveFromShelf);
    const auto kept = CurveShelf(options.curves).find(kCamera);
    QVERIFY(kept.has_value());
    QCOMPARE(kept->sets, 1);
    QVERIFY2(curveError(tableOf(*kept, 256), five.curve) < 0.15,
             qPrintable(QString::number(curveError(tableOf(*kept, 256), five.curve))));

    const auto alone = combineFiles({five.files[2]}, options, {});
    QVERIFY(alone && alone->curveFromShelf);
    QVERIFY(!alone->remarks.empty());
    QVERIFY(alone->remarks.front().find("1 earlier set") != std::string::npos);
    QVERIFY(combineReport(*alone).response->fromEarlierSets);
    CombineOptions without;
    const auto assumed = combineFiles({five.files[2]}, without, {});
    QVERIFY(assumed && !assumed->response);
    // The same frame against what the set of five says: the kept curve is several times nearer than the usual one.
    // Only light that one frame records.
    const auto error = [&](const Combined& c) {
      Image<float> mine = c.radiance.clone();
      for (std::size_t i = 0; i < mine.size(); ++i)
        if (const float known = first->radiance.data()[i]; known < 0.01f || known > 0.5f) mine.data()[i] = 0;
      return logRadianceError(mine.view(), first->radiance.view(), 1e-3f);
    };
    QVERIFY2(error(*alone) < 0.5 * error(*assumed),
             qPrintable(QString("%1 against %2").arg(error(*alone)).arg(error(*assumed))));
  }

  void theBetterCurveStaysAndSetsAreCounted() {
    QTemporaryDir dir;
    const CurveShelf shelf(test::pathOf(dir));
    Response good{"sRGB", srgbTable(255), true, 9000, 0.2, 0.03, 3, 250}, poor = good, few = good, apart = good;
    poor.disagreementAfter = 0.08;
    few.samples = 100;
    apart.disagreementAfter = 0.5;
    QVERIFY(*shelf.keep(kCamera, poor));
    QVERIFY(*shelf.keep(kCamera, good));
    QVERIFY(*shelf.keep(kCamera, poor));
    QVERIFY(!*shelf.keep(kCamera, few));
    QVERIFY(!*shelf.keep(kCamera, apart));
    QVERIFY(!*shelf.keep("", good));
    const auto kept = shelf.find(kCamera);
    QVERIFY(kept.has_value());
    QCOMPARE(kept->disagreement, 0.03);
    QCOMPARE(kept->sets, 3);
    QVERIFY(!shelf.find("Invented Two"));
    QCOMPARE(tableOf(*kept, 256).channel(1)[118], srgbTable(255).channel(1)[118]);
    QVERIFY(std::abs(tableOf(*kept, 65536).channel(1)[257 * 118] - srgbTable(255).channel(1)[118]) < 1e-6);
  }

  void anotherPictureStyleIsSaid() {
    QTemporaryDir dir;
    const fs::path folder = test::pathOf(dir);
    CombineOptions options;
    options.curves = folder / "curves";
    QVERIFY(combineFiles(makeSet("apartment", 5, 1, folder / "a").files, options, {}).has_value());
    const auto other = combineFiles(makeSet("apartment", 5, 0, folder / "b").files, options, {});
    QVERIFY(other && !other->curveFromShelf);
    QVERIFY(std::any_of(other->remarks.begin(), other->remarks.end(),
                        [](const auto& r) { return r.find("picture style") != std::string::npos; }));
  }

  void damagedCurvesAreRefusedAndFoundAnew() {
    QTemporaryDir dir;
    const CurveShelf shelf(test::pathOf(dir));
    const Response good{"sRGB", srgbTable(255), true, 9000, 0.2, 0.03, 3, 250};
    QVERIFY(*shelf.keep(kCamera, good));
    const fs::path file = fs::directory_iterator(test::pathOf(dir))->path();
    const std::string sound = *readText(file);
    auto wrong = nlohmann::json::parse(sound);
    wrong["light"][1][40] = 0.9;
    for (const std::string& text : {std::string(), std::string("[]"), sound.substr(0, sound.size() / 2), wrong.dump(),
                                    std::string(R"({"kind": "curve"})")}) {
      QVERIFY(writeTextAtomically(file, text).has_value());
      QVERIFY(!curveFromText(text));
      QVERIFY(!shelf.find(kCamera));
    }
    QVERIFY(*shelf.keep(kCamera, good));
    QVERIFY(shelf.find(kCamera).has_value());
  }

  // A first look is the picture at a fraction of its size: the same light but for fine texture.
  void firstLookIsThePictureInSmall_data() {
    QTest::addColumn<int>("format");
    QTest::newRow("JPEG") << int(FrameFormat::Jpeg);
    QTest::newRow("raw") << int(FrameFormat::Dng);
    QTest::newRow("TIFF") << int(FrameFormat::Tiff);
  }
  void firstLookIsThePictureInSmall() {
    QFETCH(int, format);
    QTemporaryDir dir;
    const auto files = test::shootScene(test::texturedScene(1700, 1200, 11, 3), test::exposedAt({7, 11, 3}),
                                        FrameFormat(format), test::pathOf(dir))
                           .files;
    CombineOptions small;
    small.edge = 400;
    const auto whole = combineFiles(files, {}, {}), look = combineFiles(files, small, {});
    QVERIFY(whole && look);
    QCOMPARE(look->frames.size(), whole->frames.size());
    QVERIFY(look->radiance.width() >= small.edge && look->radiance.width() < 2 * small.edge + 2);
    QVERIFY(std::abs(look->ev100OfUnit - whole->ev100OfUnit) < 1e-9);
    const Image<float> reduced = shrinkTo(whole->radiance.view(), look->radiance.width(), look->radiance.height());
    const double error = logRadianceError(look->radiance.view(), reduced.view(), 1e-3f);
    QVERIFY2(error < 0.12, qPrintable(QString::number(error)));
  }
};

QTEST_GUILESS_MAIN(TestCurves)
#include "test_curves.moc"
