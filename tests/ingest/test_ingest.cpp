#include "codec/exif.h"
#include "codec/jpeg.h"
#include "codec/png_file.h"
#include "exposure/marks.h"
#include "ingest/grouping.h"
#include "support/scenes.h"

#include <QTest>
#include <fstream>

using namespace ml;

namespace {

void writePlainJpeg(const std::filesystem::path& file, int width = 48, int height = 32) {
  Image<std::uint8_t> image(width, height, 3);
  for (int y = 0; y < height; ++y)
    for (int x = 0; x < width; ++x)
      for (int c = 0; c < 3; ++c) image.at(x, y)[c] = std::uint8_t(x < width / 2 && y < height / 2 ? 240 : 30);
  QVERIFY(writeJpeg(file, image.view(), {}).has_value());
}

void writeShot(const std::filesystem::path& file, double seconds, const std::string& at, const std::string& camera = "A") {
  writePlainJpeg(file);
  ShotMetadata m;
  m.time = Seconds{seconds};
  m.takenAt = at;
  m.camera = camera;
  QVERIFY(writeExif(file, m).has_value());
}

} // namespace

class TestIngest : public QObject {
  Q_OBJECT

private slots:
  void missingExposureIsSaid() {
    QTemporaryDir dir;
    const auto file = test::pathOf(dir) / "IMG_0007.jpg";
    writePlainJpeg(file);
    for (const auto& error : {loadFrame(file).error(), inspectFile(file).error()}) {
      QCOMPARE(int(error.code), int(ErrorCode::MissingExposure));
      QVERIFY(error.message.find("IMG_0007.jpg") != std::string::npos);
      QVERIFY(error.message.find("Exif") != std::string::npos);
    }
  }

  void notAPictureIsSaid() {
    QTemporaryDir dir;
    const auto file = test::pathOf(dir) / "notes.txt";
    std::ofstream(file) << "buy milk";
    QCOMPARE(int(loadFrame(file).error().code), int(ErrorCode::UnsupportedFormat));
  }

  void orientationIsApplied_data() {
    QTest::addColumn<int>("orientation");
    QTest::addColumn<int>("brightX"); // quarter of the picture as seen that is bright: 0 left or top, 1 right or bottom
    QTest::addColumn<int>("brightY");
    // Exif 2.32, tag Orientation: where the stored row 0 and column 0 lie in the picture as seen.
    QTest::newRow("1 as stored") << 1 << 0 << 0;
    QTest::newRow("2 mirrored") << 2 << 1 << 0;
    QTest::newRow("3 half turn") << 3 << 1 << 1;
    QTest::newRow("4 flipped") << 4 << 0 << 1;
    QTest::newRow("5 transposed") << 5 << 0 << 0;
    QTest::newRow("6 quarter turn right") << 6 << 1 << 0;
    QTest::newRow("7 transverse") << 7 << 1 << 1;
    QTest::newRow("8 quarter turn left") << 8 << 0 << 1;
  }
  void orientationIsApplied() {
    QFETCH(int, orientation);
    QFETCH(int, brightX);
    QFETCH(int, brightY);
    QTemporaryDir dir;
    const auto file = test::pathOf(dir) / "o.jpg";
    writePlainJpeg(file, 48, 32);
    ShotMetadata m;
    m.time = Seconds{0.01};
    QVERIFY(writeExif(file, m).has_value());
    setOrientation(file, orientation);
    const auto frame = loadFrame(file);
    QVERIFY(frame.has_value());
    QCOMPARE(frame->width(), orientation >= 5 ? 32 : 48);
    for (int qx = 0; qx < 2; ++qx)
      for (int qy = 0; qy < 2; ++qy) {
        const int code = frame->codes.at(frame->width() / 4 + qx * frame->width() / 2, frame->height() / 4 + qy * frame->height() / 2, 0);
        QCOMPARE(code > 128, qx == brightX && qy == brightY);
      }
  }

  void setsBeginWhereAnExposureComesAgain() {
    QTemporaryDir dir;
    const auto folder = test::pathOf(dir);
    const double times[] = {1 / 128., 1 / 512., 1 / 32., 1 / 128., 1 / 512., 1 / 32.}; // normal, dark, bright, twice
    for (int i = 0; i < 6; ++i) writeShot(folder / ("f" + std::to_string(i) + ".jpg"), times[i], "2026:05:14 10:00:0" + std::to_string(i));
    std::vector<LeftOut> leftOut;
    const auto grouping = groupFiles(collectFiles({folder}, leftOut));
    QCOMPARE(grouping.sets.size(), std::size_t(2));
    QCOMPARE(grouping.sets[0].files.size(), std::size_t(3));
    QCOMPARE(grouping.sets[1].name, std::string("f3"));
  }

  void setsEndAtALongPauseAndAtAnotherCamera() {
    QTemporaryDir dir;
    const auto folder = test::pathOf(dir);
    writeShot(folder / "a.jpg", 1 / 128., "2026:05:14 10:00:00");
    writeShot(folder / "b.jpg", 1 / 512., "2026:05:14 10:00:01");
    writeShot(folder / "c.jpg", 1 / 32., "2026:05:14 10:09:00");
    writeShot(folder / "d.jpg", 1 / 8., "2026:05:14 10:09:01", "B");
    std::vector<LeftOut> leftOut;
    QCOMPARE(groupFiles(collectFiles({folder}, leftOut)).sets.size(), std::size_t(3));
  }

  void unknownOrderIsSortedByTime() {
    QTemporaryDir dir;
    const auto folder = test::pathOf(dir);
    writeShot(folder / "z.jpg", 1 / 128., "2026:05:14 10:00:00");
    writeShot(folder / "a.jpg", 1 / 512., "2026:05:14 10:00:01");
    std::vector<LeftOut> leftOut;
    const auto grouping = groupFiles(collectFiles({folder}, leftOut));
    QCOMPARE(grouping.sets.size(), std::size_t(1));
    QCOMPARE(grouping.sets[0].files[0].path.filename().string(), std::string("z.jpg"));
  }

  void whatCannotTakePartIsNamed() {
    QTemporaryDir dir;
    const auto folder = test::pathOf(dir);
    writeShot(folder / "good.jpg", 1 / 128., "2026:05:14 10:00:00");
    std::ofstream(folder / "notes.txt") << "x";
    std::ofstream(folder / ".hidden") << "x";
    std::vector<LeftOut> leftOut;
    const auto files = collectFiles({folder, folder / "gone.jpg"}, leftOut);
    QCOMPARE(leftOut.size(), std::size_t(1));
    QCOMPARE(int(leftOut[0].reason.code), int(ErrorCode::FileMissing));
    const auto grouping = groupFiles(files);
    QCOMPARE(grouping.sets.size(), std::size_t(1));
    QCOMPARE(grouping.leftOut.size(), std::size_t(1));
    QVERIFY(grouping.leftOut[0].reason.message.find("notes.txt") != std::string::npos);
  }

  void rawIsPreferredToItsJpeg() {
    QTemporaryDir dir;
    const auto folder = test::pathOf(dir);
    const auto scene = test::texturedScene(96, 64, 6);
    test::shootScene(scene.clone(), test::exposedAt({7}), FrameFormat::Dng, folder);
    test::shootScene(scene.clone(), test::exposedAt({7}), FrameFormat::Jpeg, folder);
    std::vector<LeftOut> leftOut;
    const auto files = collectFiles({folder}, leftOut);
    QCOMPARE(files.size(), std::size_t(1));
    QCOMPARE(files[0].extension().string(), std::string(".dng"));
  }

  void rawAndRenderedFramesAgreeOnTheLight() {
    QTemporaryDir dir;
    Image<float> scene(160, 120, 3);
    scene.fill(20);
    const double ev = ev100Of(20).value;
    const auto raw = test::shootScene(scene.clone(), test::exposedAt({ev}), FrameFormat::Dng, test::pathOf(dir));
    const auto jpeg = test::shootScene(scene.clone(), test::exposedAt({ev}), FrameFormat::Jpeg, test::pathOf(dir));
    const auto middle = [](const Frame& f) { return f.table.channel(1)[f.codes.at(f.width() / 2, f.height() / 2, 1)] / f.midTone; };
    QVERIFY(std::abs(middle(raw.frames[0]) - 1) < 0.05); // exposed at its own reading, a surface is the mid-tone
    QVERIFY(std::abs(middle(jpeg.frames[0]) - 1) < 0.05);
  }

private:
  static void setOrientation(const std::filesystem::path& file, int orientation);
};

#include <exiv2/exiv2.hpp>

void TestIngest::setOrientation(const std::filesystem::path& file, int orientation) {
  auto image = Exiv2::ImageFactory::open(file.string());
  image->readMetadata();
  image->exifData()["Exif.Image.Orientation"] = std::uint16_t(orientation);
  image->writeMetadata();
}

QTEST_GUILESS_MAIN(TestIngest)
#include "test_ingest.moc"
