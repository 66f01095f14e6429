// SPDX-License-Identifier: GPL-3.0-or-later
#include "codec/exif.h"
#include "codec/jpeg.h"
#include "image/metrics.h"
#include "pipeline/combine_json.h"
#include "pipeline/combine_report.h"
#include "pipeline/half_stop.h"
#include "pipeline/noisier.h"
#include "pipeline/report.h"
#include "pipeline/run.h"
#include "support/scenes.h"

#include <QTest>
#include <cmath>
#include <fstream>
#include <nlohmann/json.hpp>

using namespace ml;

namespace {

std::vector<std::filesystem::path> shoot(const std::filesystem::path& folder, FrameFormat format, double shake = 3,
                                         int width = 420, int height = 320) {
  SimulationOptions options;
  options.shakePixels = shake;
  options.shakeDegrees = shake / 30;
  options.seed = 4;
  return test::shootScene(test::texturedScene(width, height, 11, 3), test::exposedAt({7, 11, 3}), format, folder,
                          options)
      .files;
}

} // namespace

class TestPipeline : public QObject {
  Q_OBJECT

private slots:
  /// What a file says of angles is at most half a turn, whoever wrote it.
  void anglesOfAJobAreHeldWithinHalfATurn() {
    nlohmann::json document = toJson(CombineOptions{});
    document["joining"]["facing"] = {200.5, -720, 45};
    const Angles facing = combineOptionsFromJson(document).joining.facing;
    QCOMPARE(facing.yaw, 180.0);
    QCOMPARE(facing.pitch, -180.0);
    QCOMPARE(facing.roll, 45.0);
  }

  void orderOfFilesChangesNothing() {
    QTemporaryDir dir;
    auto files = shoot(test::pathOf(dir), FrameFormat::Jpeg);
    const auto one = combineFiles(files, {}, {});
    std::reverse(files.begin(), files.end());
    const auto other = combineFiles(files, {}, {});
    QVERIFY(std::equal(one->radiance.data(), one->radiance.data() + one->radiance.size(), other->radiance.data()));
  }

  // A place that the user gives to the dark frame alone is noisier than its light is elsewhere; the report keeps it.
  void placesLeftToADarkFrameAreKnownToBeNoisier() {
    QTemporaryDir dir;
    const auto files = shoot(test::pathOf(dir), FrameFormat::Tiff, 0);
    const auto plain = combineFiles(files, {}, {});
    QVERIFY(plain && !plain->stops.empty());
    CombineOptions options;
    options.choices.push_back({{{0.25, 0.3}, {0.25, 0.7}}, 0.12, 0});
    const auto given = combineFiles(files, options, {});
    QVERIFY(given && !given->noisier.empty());
    const auto at = [](const Image<float>& grid, double x, double y) {
      return *grid.at(int(x * grid.width()), int(y * grid.height()));
    };
    QVERIFY2(at(given->noisier, 0.25, 0.5) > 2, qPrintable(QString::number(at(given->noisier, 0.25, 0.5))));
    QVERIFY2(at(given->noisier, 0.75, 0.5) < 1.25, qPrintable(QString::number(at(given->noisier, 0.75, 0.5))));
    const Image<float> read = noisierFromReport(toJson(combineReport(*given)));
    QCOMPARE(read.width(), given->noisier.width());
    for (std::size_t i = 0; i < read.size(); ++i)
      QVERIFY(std::abs(read.data()[i] - given->noisier.data()[i]) <= 0.051f);
    // All that a report says comes back from its text, and a text that makes no sense says nothing.
    const nlohmann::json said = toJson(combineReport(*given));
    const nlohmann::json again = toJson(combineReportFromJson(nlohmann::json::parse(said.dump())));
    for (const auto& [key, value] : said.items())
      QVERIFY2(again.value(key, nlohmann::json("missing")) == value,
               (key + ": " + again.value(key, nlohmann::json("missing")).dump() + " for " + value.dump()).c_str());
    QVERIFY(!said["places"].empty() && !said["stops"].empty() && said["places"].back()["painted"].get<bool>());
    for (const char* wrong : {"3", "{\"frames\": 1, \"places\": [3, {\"rows\": [[1]], \"cell\": 0}], \"crop\": [1], "
                                   "\"width\": \"x\", \"ghosts\": [], \"response\": 2}"}) {
      const CombineReport report = combineReportFromJson(nlohmann::json::parse(wrong));
      QVERIFY(report.frames.empty() && report.width == 0 && !report.ghosts && !report.response);
      for (const auto& place : report.places) QVERIFY(!place.holds(5, 5));
    }
    // On a finished picture that is cut to the other half it lies outside.
    Recipe cut;
    cut.geometry.cropX = 0.5, cut.geometry.cropWidth = 0.5;
    const LocalMap map = noisierMap(
        given->noisier, shapeOf(cut, given->radiance.width() / 2, given->radiance.height(), nullptr), 40, 30);
    double sum = 0;
    for (std::size_t i = 0; i < map.offset.size(); ++i) sum += map.slope.data()[i] + map.offset.data()[i];
    QVERIFY2(sum / (40 * 30) < 0.3, qPrintable(QString::number(sum / (40 * 30))));
    const LocalMap whole = noisierMap(given->noisier, 40, 30);
    QVERIFY(*whole.offset.at(10, 15) > 1);
    for (const char* wrong :
         {R"({})", R"({"noisier": 3})", R"({"noisier": {"tenths": [[1], [2]]}})",
          R"({"noisier": {"tenths": [[10, 20], [10]]}})", R"({"noisier": {"tenths": [["a", "b"], [1, 2]]}})"})
      QVERIFY(noisierFromReport(nlohmann::json::parse(wrong)).empty());
  }

  void halfStopsAreThoseOfTheLogarithm() {
    for (float light = 1e-30f; light < 1e30f; light *= 1.0137f)
      QCOMPARE(halfStop(light), int(std::floor(2 * std::log2(double(light)))));
    for (int power = -20; power <= 20; ++power) {
      QCOMPARE(halfStop(std::exp2(float(power))), 2 * power);
      QCOMPARE(halfStop(std::nextafter(std::exp2(float(power)), 0.f)), 2 * power - 1);
    }
  }

  void givenReferenceFixesTheFrame() {
    QTemporaryDir dir;
    const auto files = shoot(test::pathOf(dir), FrameFormat::Jpeg);
    for (int i = 0; i < 3; ++i) {
      CombineOptions options;
      options.reference = i;
      const auto combined = combineFiles(files, options, {});
      QCOMPARE(combined->frames[std::size_t(combined->reference)].path, files[std::size_t(i)]);
      QVERIFY(combined->frames[std::size_t(combined->reference)].registration.transform.isIdentity());
    }
    CombineOptions wrong;
    wrong.reference = 3;
    QCOMPARE(int(combineFiles(files, wrong, {}).error().code), int(ErrorCode::InvalidArgument));
  }

  void cropKeepsOrTrims() {
    QTemporaryDir dir;
    const auto files = shoot(test::pathOf(dir), FrameFormat::Jpeg);
    const auto whole = combineFiles(files, {}, {});
    CombineOptions options;
    options.crop = CropMode::Overlap;
    const auto trimmed = combineFiles(files, options, {});
    QCOMPARE(whole->radiance.width(), seenWidth(420));
    QVERIFY(trimmed->radiance.width() < whole->radiance.width());
    QVERIFY(trimmed->radiance.width() > whole->radiance.width() - 60);
    QCOMPARE(trimmed->crop.width, trimmed->radiance.width());
  }

  void damagedFrameIsLeftOutAndNamed() {
    QTemporaryDir dir;
    const auto files = shoot(test::pathOf(dir), FrameFormat::Jpeg);
    std::filesystem::resize_file(files[0], std::filesystem::file_size(files[0]) / 2);
    const auto combined = combineFiles(files, {}, {});
    QVERIFY(combined.has_value());
    QCOMPARE(combined->frames.size(), std::size_t(2));
    QCOMPARE(combined->leftOut.size(), std::size_t(1));
    QVERIFY(verdict(*combined).find("frame-1.jpg") != std::string::npos);
  }

  void differentSizesAreRefusedByName() {
    QTemporaryDir dir;
    auto files = shoot(test::pathOf(dir), FrameFormat::Jpeg);
    const auto other = shoot(test::pathOf(dir) / "b", FrameFormat::Jpeg, 0, 300, 200);
    // One odd frame among several is left out and named; with no size in the majority nothing is guessed.
    const auto kept = combineFiles({files[0], files[1], files[2], other[0]}, {}, {});
    QVERIFY(kept.has_value());
    QCOMPARE(kept->leftOut.size(), std::size_t(1));
    QCOMPARE(int(kept->leftOut[0].reason.code), int(ErrorCode::SizeMismatch));
    QCOMPARE(kept->leftOut[0].path, other[0]);
    const auto combined = combineFiles({files[0], other[0]}, {}, {});
    QCOMPARE(int(combined.error().code), int(ErrorCode::SizeMismatch));
  }

  void framesWithoutExifAreEstimatedAndSaidSo() {
    QTemporaryDir dir;
    const auto files = shoot(test::pathOf(dir), FrameFormat::Jpeg, 0);
    const auto known = combineFiles(files, {}, {});
    std::filesystem::create_directories(test::pathOf(dir) / "bare");
    std::vector<std::filesystem::path> bare;
    for (const auto& file : files) {
      const auto copy = test::pathOf(dir) / "bare" / file.filename();
      const auto codes = readJpeg(file);
      codes->pixels.visit([&](auto view) {
        if constexpr (std::is_same_v<decltype(view), ImageView<const std::uint8_t>>)
          QVERIFY(writeJpeg(copy, view, {95, true, {}, false}).has_value());
      });
      bare.push_back(copy);
    }
    const auto estimated = combineFiles(bare, {}, {});
    QVERIFY(estimated.has_value());
    QVERIFY(!estimated->remarks.empty());
    QVERIFY(estimated->frames[0].exposureEstimated);
    for (std::size_t i = 0; i + 1 < 3;
         ++i) { // the frames are four stops apart; the curve is sRGB, so the estimate is good
      const double stops =
          std::log2(estimated->frames[i + 1].settings.time.value / estimated->frames[i].settings.time.value);
      QVERIFY2(std::abs(stops - 4) < 0.4, qPrintable(QString::number(stops)));
    }
    CombineOptions typed;
    for (const auto& frame : known->frames) typed.seconds[frame.path.filename().string()] = frame.settings.time.value;
    const auto exact = combineFiles(bare, typed, {});
    QVERIFY(exact->remarks.empty());
    QVERIFY(std::abs(std::log2(exact->frames[2].settings.time.value / exact->frames[0].settings.time.value) - 8) <
            1e-6);
  }

  void aWrongTimeIsRemarkedOn() {
    QTemporaryDir dir;
    const auto files = shoot(test::pathOf(dir), FrameFormat::Jpeg, 0);
    QVERIFY(combineFiles(files, {}, {})->remarks.empty());
    CombineOptions wrong;
    const auto honest = combineFiles(files, {}, {});
    wrong.seconds[honest->frames[1].path.filename().string()] = honest->frames[1].settings.time.value * 4;
    const auto combined = combineFiles(files, wrong, {});
    QVERIFY(!combined->remarks.empty());
    QVERIFY(combined->remarks.front().find(honest->frames[1].path.filename().string()) != std::string::npos);
  }

  void reportTellsWhatEachStopIsMadeOf() {
    QTemporaryDir dir;
    const auto files = shoot(test::pathOf(dir), FrameFormat::Tiff, 0);
    const auto combined = combineFiles(files, {}, {});
    QVERIFY(combined->stops.size() > 10);
    QVERIFY(combined->stops.front().frames[2] > 0.9); // the dark end from the lightest frame
    QVERIFY(combined->stops.back().frames[0] > 0.9);  // the bright end from the darkest
    for (const auto& stop : combined->stops) QVERIFY(stop.snr > 3);
    CombineOptions given;
    given.align = AlignMode::Rigid;
    given.motion = MotionMode::High;
    given.reference = 1;
    given.method = CombineMethod::ToneRange;
    given.emptyScene = true;
    given.recoverResponse = false;
    given.toneRange = {100, 140};
    given.choices = {{{{0.2, 0.3}, {0.4, 0.5}}, 0.05, 2}};
    given.unused = {"a.jpg"};
    given.seconds = {{"b.jpg", 0.5}};
    const CombineOptions options = combineOptionsFromJson(toJson(given));
    QCOMPARE(int(options.method), int(CombineMethod::ToneRange));
    QCOMPARE(options.toneRange.untouchedBelow, 100.f);
    QCOMPARE(options.choices.size(), std::size_t(1));
    QCOMPARE(options.choices[0].stroke[1].y, 0.5);
    QCOMPARE(options.seconds.at("b.jpg"), 0.5);
    QCOMPARE(int(options.align), int(AlignMode::Rigid));
    QVERIFY(options.emptyScene && !options.recoverResponse && *options.reference == 1);
    QCOMPARE(int(combineOptionsFromJson(
                     nlohmann::json::parse(R"({"align": 7, "choices": [1, {"stroke": "x"}], "seconds": {"a": -1}})"))
                     .choices.size()),
             0);
  }

  void oneFrameIsTakenAsItIs() {
    QTemporaryDir dir;
    const auto files = shoot(test::pathOf(dir), FrameFormat::Dng);
    const auto combined = combineFiles({files[0]}, {}, {});
    QVERIFY(combined.has_value());
    QVERIFY(verdict(*combined).find("One frame") == 0);
  }

  void nothingToCombineIsSaid() { QCOMPARE(int(combineFiles({}, {}, {}).error().code), int(ErrorCode::TooFewFrames)); }

  void verdictAndReportAgree() {
    QTemporaryDir dir;
    const auto combined = combineFiles(shoot(test::pathOf(dir), FrameFormat::Jpeg), {}, {});
    const auto report = toJson(combineReport(*combined));
    QCOMPARE(report["verdict"].get<std::string>(), verdict(*combined));
    QCOMPARE(report["frames"].size(), std::size_t(3));
    QVERIFY(report["cd_per_m2_of_unit"].get<double>() > 0);
  }

  void planSurvivesJson() {
    PlanRequest request;
    request.low = {1};
    request.high = {15};
    const auto plan = planBracket(shippedProfiles()[1], request);
    const auto back = planFromJson(nlohmann::json::parse(toJson(*plan).dump()));
    QVERIFY(back.has_value());
    QVERIFY(back->frames == plan->frames);
    QCOMPARE(verdict(*back), verdict(*plan));
    QVERIFY(!planFromJson(nlohmann::json::object()));
    auto hostile = toJson(*plan);
    hostile["frames"] = nlohmann::json::array();
    QVERIFY(!planFromJson(hostile));
    hostile["frames"] = "many";
    QVERIFY(!planFromJson(hostile));
  }

  void wholeFoldersRun() {
    QTemporaryDir dir;
    shoot(test::pathOf(dir) / "card", FrameFormat::Jpeg);
    std::ofstream(test::pathOf(dir) / "card/notes.txt") << "x";
    RunOptions options;
    options.out = test::pathOf(dir) / "out";
    int sets = 0;
    const auto summary = runAll({test::pathOf(dir) / "card"}, options, {}, [&](const SetOutcome&) { ++sets; });
    QVERIFY(summary.has_value());
    QCOMPARE(sets, 1);
    QCOMPARE(summary->leftOut.size(), std::size_t(1));
    for (const auto& file :
         {summary->sets[0].delivered[0], summary->sets[0].delivered[1], summary->sets[0].report, summary->report})
      QVERIFY2(std::filesystem::exists(file), file.c_str());
    QVERIFY(readExif(summary->sets[0].delivered[0])->takenAt.size() > 0);
  }

  void aRunGoesOnWhereItWasStopped() {
    QTemporaryDir dir;
    shoot(test::pathOf(dir) / "card", FrameFormat::Jpeg);
    RunOptions options;
    options.out = test::pathOf(dir) / "out";
    const auto first = runAll({test::pathOf(dir) / "card"}, options, {}, {});
    QVERIFY(first && !first->sets[0].done);
    const auto picture = first->sets[0].delivered[0];
    const auto when = std::filesystem::last_write_time(picture);
    const auto second = runAll({test::pathOf(dir) / "card"}, options, {}, {});
    QVERIFY(second && second->sets[0].done);
    QCOMPARE(second->sets[0].delivered.size(), first->sets[0].delivered.size());
    QVERIFY(std::filesystem::last_write_time(picture) == when);
    QVERIFY(!second->sets[0].verdict.empty());
    std::filesystem::remove(picture); // only what is missing
    const auto third = runAll({test::pathOf(dir) / "card"}, options, {}, {});
    QVERIFY(third && !third->sets[0].done && std::filesystem::exists(picture));
    // A frame replaced by another of the same size on disk is another frame.
    for (const auto& entry : std::filesystem::directory_iterator(test::pathOf(dir) / "card"))
      std::filesystem::last_write_time(entry.path(), entry.last_write_time() + std::chrono::seconds(2));
    const auto replaced = runAll({test::pathOf(dir) / "card"}, options, {}, {});
    QVERIFY(replaced && !replaced->sets[0].done);
    options.recipe.tone.exposure = 0.5; // another recipe is another picture
    const auto fourth = runAll({test::pathOf(dir) / "card"}, options, {}, {});
    QVERIFY(fourth && !fourth->sets[0].done);
  }

  // What cannot be written for one set cannot be for the next: the run ends and says so, and no set is tried twice.
  void anUnwritableFolderEndsTheRun() {
    QTemporaryDir dir;
    shoot(test::pathOf(dir) / "card", FrameFormat::Jpeg);
    std::ofstream(test::pathOf(dir) / "out") << "a file where the folder should be";
    RunOptions options;
    options.out = test::pathOf(dir) / "out";
    const auto summary = runAll({test::pathOf(dir) / "card"}, options, {}, {});
    QVERIFY(!summary);
    QCOMPARE(int(summary.error().code), int(ErrorCode::CannotWrite));
  }

  void whatARunWroteBelowTheCardIsNoFrame() {
    QTemporaryDir dir;
    shoot(test::pathOf(dir) / "card" / "DCIM" / "100", FrameFormat::Jpeg);
    RunOptions options;
    options.out = test::pathOf(dir) / "card" / "pictures";
    const auto first = runAll({test::pathOf(dir) / "card"}, options, {}, {});
    QVERIFY(first && first->sets.size() == 1 && first->leftOut.empty());
    const auto second = runAll({test::pathOf(dir) / "card"}, options, {}, {});
    QVERIFY(second && second->sets.size() == 1 && second->sets[0].done && second->leftOut.empty());
  }

  void stopKeepsTheFolderClean() {
    QTemporaryDir dir;
    shoot(test::pathOf(dir) / "card", FrameFormat::Jpeg);
    Progress progress;
    progress.report = [&](const std::string& stage, double) {
      if (stage.find("Merge") != std::string::npos) progress.stop.request();
    };
    RunOptions options;
    options.out = test::pathOf(dir) / "out";
    const auto summary = runAll({test::pathOf(dir) / "card"}, options, progress, {});
    QCOMPARE(int(summary.error().code), int(ErrorCode::Stopped));
    QVERIFY(!std::filesystem::exists(test::pathOf(dir) / "out"));
  }
};

QTEST_GUILESS_MAIN(TestPipeline)
#include "test_pipeline.moc"
