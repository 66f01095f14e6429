// SPDX-License-Identifier: GPL-3.0-or-later
#include "codec/exif.h"
#include "codec/exr.h"
#include "codec/jpeg.h"
#include "codec/tiff_file.h"
#include "deliver/deliver.h"
#include "deliver/row_spool.h"
#include "finish/finish.h"
#include "support/scenes.h"

#include <QTest>
#include <cstring>
#include <exiv2/exiv2.hpp>
#include <fstream>
#include <iterator>
#include <limits>
#include <opencv2/imgcodecs.hpp>

using namespace ml;

namespace {

Image<std::uint16_t> picture() {
  Image<std::uint16_t> out(96, 64, 3);
  for (int y = 0; y < 64; ++y)
    for (int x = 0; x < 96; ++x)
      for (int c = 0; c < 3; ++c) out.at(x, y)[c] = std::uint16_t(257 * (x + y + 20 * c));
  return out;
}

std::string bytesOf(const std::filesystem::path& file) {
  std::ifstream in(file, std::ios::binary);
  return std::string(std::istreambuf_iterator<char>(in), {});
}

} // namespace

class TestDeliver : public QObject {
  Q_OBJECT

private slots:
  void rowsOnDiskAreWhatWasAppended() {
    QTemporaryDir dir;
    const auto folder = test::pathOf(dir) / "made" / "for it";
    const Image<float> light = test::texturedScene(97, 80, 10);
    const auto spool = RowSpool::in(folder, 97, 80);
    QVERIFY(spool.has_value());
    for (int y = 0; y < 80; y += 33)
      QVERIFY((*spool)->append(light.view().crop({0, y, 97, std::min(33, 80 - y)})).has_value());
    QVERIFY((*spool)->append(light.view())); // below the last row: left out
    QVERIFY(std::filesystem::is_empty(folder));
    Image<float> room;
    for (const auto& [begin, end] : {std::pair{0, 80}, {79, 80}, {30, 40}}) {
      const auto rows = PictureRows(**spool).rows(begin, end, room);
      for (int y = begin; y < end; ++y)
        for (int i = 0; i < 3 * 97; ++i)
          QVERIFY(std::abs(rows.row(y - begin)[i] / light.row(y)[i] - 1) < 1 / 2047.f); // a half has 11 bits
    }
  }
  void rowsFindNoRoomOnDisk() {
    QTemporaryDir dir;
    const auto file = test::pathOf(dir) / "a file";
    std::ofstream(file) << "no folder";
    const auto none = RowSpool::in(file, 97, 80);
    QVERIFY(!none);
    QVERIFY(none.error().code == ErrorCode::CannotWrite);
    QVERIFY2(none.error().message.find(file.string()) != std::string::npos, none.error().message.c_str());
    const auto large = RowSpool::in(test::pathOf(dir), 1 << 30, 1 << 30); // 6 exabytes
    QVERIFY(!large);
    QVERIFY(large.error().code == ErrorCode::CannotWrite);
  }
  void aLargeRadianceFileIsOpenedOnDisk() {
    QTemporaryDir dir;
    const auto file = test::pathOf(dir) / "whole.exr";
    const Image<float> light = test::texturedScene(120, 300, 10);
    QVERIFY(deliverRadiance(light.view(), file, {}).has_value());
    const auto held = openRadiance(file), spooled = openRadiance(file, {}, 1);
    QVERIFY(held && spooled);
    Image<float> none, room;
    const auto one = held->rows().whole(none), two = spooled->rows().whole(room);
    QVERIFY(none.empty() && !room.empty());
    QVERIFY(std::equal(one.data, one.data + 3 * 120 * 300, two.data));
    const auto entries = std::filesystem::directory_iterator(test::pathOf(dir));
    QCOMPARE(std::distance(begin(entries), end(entries)), 1);
    QVERIFY(!openRadiance(test::pathOf(dir) / "missing.exr", {}, 1));
    std::filesystem::resize_file(file, std::filesystem::file_size(file) / 2);
    const auto cut = openRadiance(file, {}, 1);
    QVERIFY(!cut);
    QVERIFY(cut.error().code == ErrorCode::FileUnreadable);
    StopFlag stop;
    stop.request();
    QVERIFY(deliverRadiance(light.view(), file, {}).has_value());
    QVERIFY(openRadiance(file, stop, 1).error().code == ErrorCode::Stopped);
  }

  void picturesCarryProfileAndExif_data() {
    QTest::addColumn<QString>("ending");
    QTest::newRow("JPEG") << ".jpg";
    QTest::newRow("TIFF") << ".tif";
    QTest::newRow("PNG") << ".png";
  }
  void picturesCarryProfileAndExif() {
    QFETCH(QString, ending);
    QTemporaryDir dir;
    const auto set =
        test::shootScene(test::texturedScene(96, 64, 6), test::exposedAt({7}), FrameFormat::Jpeg, test::pathOf(dir));
    const auto file = test::pathOf(dir) / ("out" + ending.toStdString());
    DeliverOptions options;
    options.metadataFrom = set.files[0];
    const auto image = picture();
    const auto done = deliverPicture(image.view(), file, options);
    QVERIFY2(done.has_value(), done ? "" : done.error().message.c_str());
    auto opened = Exiv2::ImageFactory::open(file.string());
    opened->readMetadata();
    QVERIFY(!opened->exifData()["Exif.Photo.DateTimeOriginal"].toString().empty());
    QVERIFY(opened->exifData()["Exif.Image.Software"].toString().find("Mellow Lantern") != std::string::npos);
    const cv::Mat theirs = cv::imread(file, cv::IMREAD_UNCHANGED);
    QCOMPARE(theirs.cols, 96);
    const double top = ending == ".jpg" ? 255 : 65535;
    const double value = ending == ".jpg" ? theirs.at<cv::Vec3b>(30, 40)[2] : theirs.at<cv::Vec3w>(30, 40)[2];
    QVERIFY(std::abs(value / top - 70 / 255.0) < 0.012);
    // The profile is compressed in PNG; in the others its signature stands in the file.
    if (ending != ".png")
      QVERIFY(bytesOf(file).find("acsp") != std::string::npos);
    else
      QVERIFY(bytesOf(file).find("iCCP") != std::string::npos);
  }

  // Other programs write the sun as infinite; IEEE 754 has undefined values too.
  void oneImpossiblePixelChangesNothingBeyondItsNeighbourhood_data() {
    QTest::addColumn<float>("value");
    QTest::newRow("infinite") << std::numeric_limits<float>::infinity();
    QTest::newRow("undefined") << std::numeric_limits<float>::quiet_NaN();
    QTest::newRow("below nothing") << -1e30f;
    QTest::newRow("minus infinite") << -std::numeric_limits<float>::infinity();
  }
  void oneImpossiblePixelChangesNothingBeyondItsNeighbourhood() {
    QFETCH(float, value);
    QTemporaryDir dir;
    const auto finished = [&](float pixel, const std::string& name) {
      Image<float> scene = test::texturedScene(480, 320, 10);
      if (pixel != 1)
        for (int c = 0; c < 3; ++c) scene.at(300, 100)[c] = pixel;
      const auto file = test::pathOf(dir) / name;
      ExrOptions options;
      options.half = false;
      (void)writeExr(file, scene.view(), options);
      const auto read = readRadiance(file);
      return std::move(
          finishRadiance(read->view(), Recipe{}, std::numeric_limits<double>::quiet_NaN(), nullptr, {})->picture);
    };
    const auto sound = finished(1, "sound.exr"), mended = finished(value, "mended.exr");
    int most = 0, changed = 0;
    for (int y = 0; y < 320; ++y)
      for (int x = 0; x < 480; ++x)
        for (int c = 0; c < 3; ++c) {
          const int off = std::abs(int(sound.at(x, y)[c]) - mended.at(x, y)[c]) / 257;
          changed += off > 1;
          if (std::hypot(x - 300, y - 100) > 40) most = std::max(most, off);
        }
    QVERIFY2(most <= 2, qPrintable(QString("%1 of 255 away from the pixel").arg(most)));
    QVERIFY2(changed < 3 * 40 * 40, qPrintable(QString("%1 samples changed").arg(changed)));
  }

  void radianceRoundTrips_data() {
    QTest::addColumn<QString>("ending");
    QTest::addColumn<double>("tolerance");
    QTest::newRow("EXR half") << ".exr" << 1.0 / 2048;
    QTest::newRow("float TIFF") << ".tif" << 0.0;
    QTest::newRow("Radiance") << ".hdr" << 1.0 / 64;
  }
  void radianceRoundTrips() {
    QFETCH(QString, ending);
    QFETCH(double, tolerance);
    QTemporaryDir dir;
    const auto scene = test::texturedScene(120, 80, 12);
    const auto file = test::pathOf(dir) / ("r" + ending.toStdString());
    QVERIFY(deliverRadiance(scene.view(), file, {}).has_value());
    const auto back = readRadiance(file);
    QVERIFY(back.has_value());
    for (std::size_t i = 0; i < scene.size(); ++i)
      QVERIFY(std::abs(back->data()[i] / scene.data()[i] - 1) <= tolerance);
  }

  void longEdgeIsKept() {
    QTemporaryDir dir;
    DeliverOptions web;
    web.longEdge = 48;
    QVERIFY(deliverPicture(picture().view(), test::pathOf(dir) / "w.jpg", web).has_value());
    const auto back = readJpeg(test::pathOf(dir) / "w.jpg");
    QCOMPARE(back->pixels.width(), 48);
    QCOMPARE(back->pixels.height(), 32);
  }

  void unknownEndingsAreRefused() {
    QTemporaryDir dir;
    QCOMPARE(int(deliverPicture(picture().view(), test::pathOf(dir) / "a.bmp", {}).error().code),
             int(ErrorCode::UnsupportedFormat));
    QCOMPARE(int(deliverRadiance(test::texturedScene(32, 32, 4).view(), test::pathOf(dir) / "a.jpg", {}).error().code),
             int(ErrorCode::UnsupportedFormat));
  }

  void unwritablePlacesAreSaidAndLeaveNothing() {
    const auto done = deliverPicture(picture().view(), "/proc/nowhere/a.jpg", {});
    QCOMPARE(int(done.error().code), int(ErrorCode::CannotWrite));
  }

  /// Whatever is written or read back looks up between rows: told to stop, it leaves nothing behind.
  void writersStopBetweenRows() {
    QTemporaryDir dir;
    const auto at = [&dir](const char* name) { return test::pathOf(dir) / name; };
    const Image<std::uint16_t> codes = picture();
    Image<std::uint8_t> bytes(96, 64, 3);
    bytes.fill(90);
    Image<float> light(96, 64, 3);
    light.fill(0.5f);
    const auto stoppedBy = [](const auto& result) { return !result && result.error().code == ErrorCode::Stopped; };
    StopFlag stop;
    QVERIFY(writeTiff16(at("a.tif"), codes.view(), {}, 0, stop));
    QVERIFY(writeJpeg(at("a.jpg"), bytes.view(), {}));
    QVERIFY(deliverRadiance(light.view(), at("a.exr"), {true, {}, {}, stop}));
    stop.request();
    QVERIFY(stoppedBy(writeTiff16(at("b.tif"), codes.view(), {}, 0, stop)));
    QVERIFY(stoppedBy(readTiff(at("a.tif"), stop)));
    QVERIFY(stoppedBy(writeJpeg(at("b.jpg"), bytes.view(), {92, true, {}, false, stop})));
    QVERIFY(stoppedBy(readJpeg(at("a.jpg"), stop)));
    QVERIFY(stoppedBy(readExrInBands(
        at("a.exr"), [](int, ImageView<const float>) {}, stop)));
    QVERIFY(stoppedBy(deliverRadiance(light.view(), at("b.exr"), {true, {}, {}, stop})));
    QVERIFY(stoppedBy(deliverRadiance(light.view(), at("a.exr"), {true, {}, {}, stop})));
    QVERIFY(!std::filesystem::exists(at("b.exr")));
    QVERIFY(readRadiance(at("a.exr"))); // what was there stays
    for (const auto& entry : std::filesystem::directory_iterator(test::pathOf(dir)))
      QVERIFY2(entry.path().stem().string().size() == 1, entry.path().c_str()); // no temporary file
  }
};

QTEST_GUILESS_MAIN(TestDeliver)
#include "test_deliver.moc"
