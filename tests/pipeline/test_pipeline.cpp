#include "codec/exif.h"
#include "codec/jpeg.h"
#include "image/metrics.h"
#include "pipeline/report.h"
#include "pipeline/run.h"
#include "support/scenes.h"

#include <QTest>
#include <fstream>
#include <nlohmann/json.hpp>

using namespace ml;

namespace {

std::vector<std::filesystem::path> shoot(const std::filesystem::path& folder, FrameFormat format, double shake = 3, int width = 420, int height = 320) {
  SimulationOptions options;
  options.shakePixels = shake;
  options.shakeDegrees = shake / 30;
  options.seed = 4;
  return test::shootScene(test::texturedScene(width, height, 11, 3), test::exposedAt({7, 11, 3}), format, folder, options).files;
}

} // namespace

class TestPipeline : public QObject {
  Q_OBJECT

private slots:
  void orderOfFilesChangesNothing() {
    QTemporaryDir dir;
    auto files = shoot(test::pathOf(dir), FrameFormat::Jpeg);
    const auto one = combineFiles(files, {}, {});
    std::reverse(files.begin(), files.end());
    const auto other = combineFiles(files, {}, {});
    QVERIFY(std::equal(one->radiance.data(), one->radiance.data() + one->radiance.size(), other->radiance.data()));
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
    files.push_back(other[0]);
    const auto combined = combineFiles(files, {}, {});
    QCOMPARE(int(combined.error().code), int(ErrorCode::SizeMismatch));
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
    const auto report = toJson(*combined);
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
    const RunOptions options{{}, {}, test::pathOf(dir) / "out"};
    int sets = 0;
    const auto summary = runAll({test::pathOf(dir) / "card"}, options, {}, [&](const SetOutcome&) { ++sets; });
    QVERIFY(summary.has_value());
    QCOMPARE(sets, 1);
    QCOMPARE(summary->leftOut.size(), std::size_t(1));
    for (const auto& file : {summary->sets[0].picture, summary->sets[0].radiance, summary->sets[0].report, summary->report})
      QVERIFY2(std::filesystem::exists(file), file.c_str());
    QVERIFY(readExif(summary->sets[0].picture)->takenAt.size() > 0);
  }

  void stopKeepsTheFolderClean() {
    QTemporaryDir dir;
    shoot(test::pathOf(dir) / "card", FrameFormat::Jpeg);
    Progress progress;
    progress.report = [&](const std::string& stage, double) {
      if (stage.find("Merge") != std::string::npos) progress.stop.request();
    };
    const RunOptions options{{}, {}, test::pathOf(dir) / "out"};
    const auto summary = runAll({test::pathOf(dir) / "card"}, options, progress, {});
    QCOMPARE(int(summary.error().code), int(ErrorCode::Stopped));
    QVERIFY(!std::filesystem::exists(test::pathOf(dir) / "out"));
  }
};

QTEST_GUILESS_MAIN(TestPipeline)
#include "test_pipeline.moc"
