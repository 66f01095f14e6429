// SPDX-License-Identifier: GPL-3.0-or-later
#include "capture/developed.h"
#include "capture/turned_frame.h"
#include "codec/exif.h"
#include "codec/jpeg.h"
#include "codec/lens_profile.h"
#include "codec/png_file.h"
#include "codec/raw_file.h"
#include "codec/tiff_file.h"
#include "exposure/marks.h"
#include "image/colour.h"
#include "ingest/grouping.h"
#include "support/scenes.h"

#include <QTest>
#include <cmath>
#include <exiv2/exiv2.hpp>
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

void writeShot(const std::filesystem::path& file, double seconds, const std::string& at,
               const std::string& camera = "A") {
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
    const Error error = loadFrame(file).error();
    QCOMPARE(int(error.code), int(ErrorCode::MissingExposure));
    QVERIFY(error.message.find("IMG_0007.jpg") != std::string::npos);
    QVERIFY(error.message.find("Exif") != std::string::npos);
    const auto facts = inspectFile(file); // it is grouped all the same, and its light estimated
    QVERIFY(facts.has_value() && !facts->exposureKnown);
    QVERIFY(!loadFrame(file, Unsaid::Allowed)->exposureKnown);
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
        const int code = frame->codes.at(frame->width() / 4 + qx * frame->width() / 2,
                                         frame->height() / 4 + qy * frame->height() / 2, 0);
        QCOMPARE(code > 128, qx == brightX && qy == brightY);
      }
  }

  /// A frame that is turned as if its file had said otherwise is the frame of a file that says so.
  void turnedLikeAnotherFile() {
    QTemporaryDir dir;
    const auto file = test::pathOf(dir) / "o.jpg";
    Image<std::uint8_t> image(24, 16, 3);
    for (std::size_t i = 0; i < image.size(); ++i) image.data()[i] = std::uint8_t(i * 37 % 251);
    QVERIFY(writeJpeg(file, image.view(), {}).has_value());
    ShotMetadata m;
    m.time = Seconds{0.01};
    QVERIFY(writeExif(file, m).has_value());
    const auto said = [&](int orientation) {
      setOrientation(file, orientation);
      return std::move(*loadFrame(file));
    };
    for (int from = 1; from <= 8; ++from)
      for (int to = 1; to <= 8; ++to) {
        Frame frame = said(from);
        turnAs(frame, to);
        const Frame wanted = said(to);
        QCOMPARE(frame.width(), wanted.width());
        QCOMPARE(frame.metadata.orientation, to);
        for (int y = 0; y < frame.height(); ++y)
          for (int x = 0; x < frame.width(); ++x) QCOMPARE(frame.codes.at(x, y, 1), wanted.codes.at(x, y, 1));
      }
  }

  /// The colours of a mosaic go with its photosites, whatever the size: each code here is its own colour.
  void mosaicsKeepTheirColoursWhenTurned() {
    for (const int width : {6, 7})
      for (int to = 1; to <= 8; ++to) {
        Frame frame;
        frame.pattern = {1, 0, 2, 1};
        Image<std::uint16_t> codes(width, 5, 1);
        for (int y = 0; y < 5; ++y)
          for (int x = 0; x < width; ++x)
            *codes.at(x, y) = std::uint16_t(frame.pattern[std::size_t(2 * (y & 1) + (x & 1))]);
        frame.codes = Codes(std::move(codes));
        turnAs(frame, to);
        for (int y = 0; y < frame.height(); ++y)
          for (int x = 0; x < frame.width(); ++x)
            QCOMPARE(int(*frame.codes.photosites().at(x, y)), frame.colourAt(x, y));
      }
  }

  void setsBeginWhereAnExposureComesAgain() {
    QTemporaryDir dir;
    const auto folder = test::pathOf(dir);
    const double times[] = {1 / 128., 1 / 512., 1 / 32., 1 / 128., 1 / 512., 1 / 32.}; // normal, dark, bright, twice
    for (int i = 0; i < 6; ++i)
      writeShot(folder / ("f" + std::to_string(i) + ".jpg"), times[i], "2026:05:14 10:00:0" + std::to_string(i));
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

  // Exif says when an exposure began; what it took itself is no pause.
  void longExposuresAreNoPause() {
    QTemporaryDir dir;
    const auto folder = test::pathOf(dir);
    writeShot(folder / "a.jpg", 15, "2026:05:14 22:00:00");
    writeShot(folder / "b.jpg", 60, "2026:05:14 22:00:20");
    writeShot(folder / "c.jpg", 240, "2026:05:14 22:01:30");
    writeShot(folder / "d.jpg", 480, "2026:05:14 22:08:30"); // 420 s after c, of which 240 were its exposure
    std::vector<LeftOut> leftOut;
    QCOMPARE(groupFiles(collectFiles({folder}, leftOut)).sets.size(), std::size_t(1));
  }

  void framesThatSayNoExposureStayTogether() {
    QTemporaryDir dir;
    const auto folder = test::pathOf(dir);
    for (const char* name : {"a.jpg", "b.jpg", "c.jpg"}) writePlainJpeg(folder / name);
    std::vector<LeftOut> leftOut;
    const auto grouping = groupFiles(collectFiles({folder}, leftOut));
    QCOMPARE(grouping.sets.size(), std::size_t(1));
    QCOMPARE(grouping.sets[0].files.size(), std::size_t(3));
  }

  void assumedNoiseRisesWithIso() {
    QTemporaryDir dir;
    const auto file = test::pathOf(dir) / "n.jpg";
    double before = 0;
    for (const double iso : {100.0, 400.0, 1600.0}) {
      writePlainJpeg(file);
      ShotMetadata m;
      m.time = Seconds{0.01};
      m.iso = Iso{iso};
      QVERIFY(writeExif(file, m).has_value());
      const auto frame = loadFrame(file);
      QVERIFY(frame.has_value());
      // At four times the ISO a full well is a quarter of the electrons: relative variance by photons rises with ISO.
      if (before > 0) QVERIFY(std::abs(frame->sensor.photon / before - 4) < 1e-6);
      QVERIFY(frame->noise.variance(0.2) > 0);
      before = frame->sensor.photon;
    }
  }

  void floatPicturesAreTurnedAsExifSays() {
    QTemporaryDir dir;
    const auto file = test::pathOf(dir) / "f.tif";
    Image<float> light(48, 32, 3);
    for (int y = 0; y < 32; ++y)
      for (int x = 0; x < 48; ++x)
        for (int c = 0; c < 3; ++c) light.at(x, y)[c] = x < 24 && y < 16 ? 2.f : 0.1f;
    QVERIFY(writeTiffFloat(file, light.view(), {}).has_value());
    ShotMetadata m;
    m.time = Seconds{0.01};
    QVERIFY(writeExif(file, m).has_value());
    setOrientation(file, 6); // a quarter turn to the right
    const auto frame = loadFrame(file);
    QVERIFY2(frame.has_value(), frame ? "" : frame.error().message.c_str());
    QCOMPARE(frame->width(), 32);
    QVERIFY(frame->codes.at(24, 12, 1) > 40000 && frame->codes.at(8, 12, 1) < 10000);
  }

  // Exif 2.32: ApertureValue is APEX, N = 2^(Av / 2).
  void apertureValueAloneGivesTheFNumber() {
    QTemporaryDir dir;
    const auto file = test::pathOf(dir) / "a.jpg";
    writePlainJpeg(file);
    auto image = Exiv2::ImageFactory::open(file.string());
    image->exifData()["Exif.Photo.ExposureTime"] = "1/100";
    image->exifData()["Exif.Photo.ApertureValue"] = "6/1";
    image->writeMetadata();
    const auto facts = inspectFile(file);
    QVERIFY(facts.has_value());
    QCOMPARE(facts->settings.aperture.value, 8.0);
  }

  // Exif 2.32: a distance of which the numerator is 0 is not known, one of 0xFFFFFFFF endless.
  void lensAndItsSettingsAreReadWhereTheyMakeSense() {
    QTemporaryDir dir;
    const auto file = test::pathOf(dir) / "a.jpg";
    writePlainJpeg(file);
    const auto write = [&](const char* number, const char* distance, const char* length) {
      auto image = Exiv2::ImageFactory::open(file.string());
      image->exifData()["Exif.Photo.LensModel"] = "Ferry 24mm f/4";
      image->exifData()["Exif.Photo.FNumber"] = number;
      image->exifData()["Exif.Photo.SubjectDistance"] = distance;
      image->exifData()["Exif.Photo.FocalLength"] = length;
      image->writeMetadata();
      return readLensQuery(file);
    };
    const LensQuery sound = write("56/10", "3/1", "24/1");
    QCOMPARE(sound.lens, std::string("Ferry 24mm f/4"));
    QVERIFY(std::abs(sound.fNumber - 5.6) < 1e-6 && sound.metres == 3 && sound.focalMm == 24);
    const LensQuery odd = write("0/10", "0/1", "1/0");
    QVERIFY(odd.fNumber == 8 && odd.metres == 10 && odd.focalMm == 0);
    QCOMPARE(readLensQuery(test::pathOf(dir) / "none.jpg").fNumber, LensQuery{}.fNumber);
  }

  // DNG specification 1.4: BlackLevel may be given for each photosite of a repeated pattern.
  void blackLevelsOfAPatternAreSubtractedEachFromItsOwn() {
    QTemporaryDir dir;
    const int blacks[2][2] = {{512, 700}, {900, 600}};
    const auto write = [&](const std::filesystem::path& file, bool each) {
      Image<std::uint16_t> mosaic(128, 96, 1);
      for (int y = 0; y < 96; ++y)
        for (int x = 0; x < 128; ++x)
          *mosaic.at(x, y) = std::uint16_t((each ? blacks[y % 2][x % 2] : 512) + 3000 + 2 * (x / 32));
      MosaicDescription description;
      description.xyzToCamera = {0.7, 0.1, 0, 0, 0.9, 0.1, 0, 0.1, 0.8};
      description.camera = "Test";
      QVERIFY(writeDng(file, mosaic.view(), description).has_value());
      if (!each) return;
      auto image = Exiv2::ImageFactory::open(file.string());
      image->readMetadata();
      for (const auto& [tag, value] : {std::pair{"BlackLevelRepeatDim", "2 2"}, {"BlackLevel", "512 700 900 600"}}) {
        Exiv2::UShortValue shorts;
        shorts.read(value);
        const Exiv2::ExifKey key(std::string("Exif.Image.") + tag);
        if (const auto old = image->exifData().findKey(key); old != image->exifData().end())
          image->exifData().erase(old);
        image->exifData().add(key, &shorts);
      }
      image->writeMetadata();
    };
    const auto even = test::pathOf(dir) / "even.dng", each = test::pathOf(dir) / "each.dng";
    write(even, false);
    write(each, true);
    const auto a = readRaw(even), b = readRaw(each);
    QVERIFY2(a.has_value(), a ? "" : a.error().message.c_str());
    QVERIFY2(b.has_value(), b ? "" : b.error().message.c_str());
    // Each photosite runs from its own black to the common white, 16383; green is the mean of its two.
    const auto range = [](double black) { return (16383 - 512) / (16383 - black); };
    const double expected[3] = {range(512), (range(700) + range(900)) / 2, range(600)};
    const auto lightOf = [](const RawImage& raw, int c) {
      const Image<std::uint16_t> pixels = developed(PhotositeCodes{raw.pixels.view(), raw.pattern, raw.saturation});
      return double(pixels.at(64, 48)[c] - raw.black);
    };
    for (int c = 0; c < 3; ++c) {
      const double plain = lightOf(*a, c), is = lightOf(*b, c);
      QVERIFY2(std::abs(is / plain / expected[c] - 1) < 0.01, qPrintable(QString("%1: %2").arg(c).arg(is / plain)));
    }
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

  void aBracketOffsetThatComesAgainBeginsASet() { // base exposures differ, so no exposure repeats
    QTemporaryDir dir;
    const auto folder = test::pathOf(dir);
    const double times[] = {1 / 128., 1 / 512., 1 / 32., 1 / 100., 1 / 400., 1 / 25.}, bias[] = {0, -2, 2, 0, -2, 2};
    for (int i = 0; i < 6; ++i) {
      const auto file = folder / ("f" + std::to_string(i) + ".jpg");
      writeShot(file, times[i], "2026:05:14 10:00:0" + std::to_string(i));
      ShotMetadata m;
      m.bias = Stops{bias[i]};
      QVERIFY(writeExif(file, m).has_value());
    }
    std::vector<LeftOut> leftOut;
    const auto grouping = groupFiles(collectFiles({folder}, leftOut));
    QCOMPARE(grouping.sets.size(), std::size_t(2));
    QVERIFY(grouping.sets[1].reason.find("offset") != std::string::npos);
  }

  void anotherApertureBeginsASet() {
    QTemporaryDir dir;
    const auto folder = test::pathOf(dir);
    for (int i = 0; i < 4; ++i) {
      const auto file = folder / ("f" + std::to_string(i) + ".jpg");
      writeShot(file, std::exp2(-i - 4), "2026:05:14 10:00:0" + std::to_string(i));
      ShotMetadata m;
      m.aperture = FNumber{i < 2 ? 8.0 : 5.6};
      QVERIFY(writeExif(file, m).has_value());
    }
    std::vector<LeftOut> leftOut;
    const auto grouping = groupFiles(collectFiles({folder}, leftOut));
    QCOMPARE(grouping.sets.size(), std::size_t(2));
    QVERIFY(grouping.sets[1].reason.find("f/5.6") != std::string::npos);
  }

  // A card as it comes: a set, the same again, a hand, the next position of a panorama, a single frame of something
  // else.
  void repeatsHandsAndPanoramasAreTold() {
    QTemporaryDir dir;
    const auto folder = test::pathOf(dir);
    int second = 0, number = 0;
    const auto shot = [&](double time, auto&& light) {
      Image<std::uint8_t> image(240, 160, 3);
      for (int y = 0; y < 160; ++y)
        for (int x = 0; x < 240; ++x)
          for (int c = 0; c < 3; ++c)
            image.at(x, y)[c] =
                std::uint8_t(std::lround(255 * srgbEncode(std::clamp(light(x, y) * time * 64, 0.0, 1.0))));
      const auto file = folder / ("IMG_" + std::to_string(1000 + ++number) + ".jpg");
      QVERIFY(writeJpeg(file, image.view(), {92, true, {}, false}).has_value());
      ShotMetadata m;
      m.time = Seconds{time};
      m.takenAt = "2026:05:14 10:00:" + std::string(second < 10 ? "0" : "") + std::to_string(second);
      ++second;
      QVERIFY(writeExif(file, m).has_value());
    };
    const auto scene = [](double offset) {
      return [offset](int x, int y) {
        return 0.18 * std::exp2(1.6 * std::sin((x + offset) * 0.031) + std::sin(y * 0.05 + (x + offset) * 0.011) +
                                0.7 * std::sin((x + offset) * 0.17));
      };
    };
    for (int repeat = 0; repeat < 2; ++repeat)
      for (const double time : {1 / 256., 1 / 64., 1 / 16.}) shot(time, scene(0));
    for (const double time : {1 / 256., 1 / 64., 1 / 16.})
      shot(time, [](int, int) { return 0.1; }); // a hand before the lens
    for (const double time : {1 / 256., 1 / 64., 1 / 16.}) shot(time, scene(400));
    for (const double time : {1 / 256., 1 / 64., 1 / 16.}) shot(time, scene(400 + 120)); // half a width on
    std::vector<LeftOut> leftOut;
    auto grouping = groupFiles(collectFiles({folder}, leftOut));
    lookAtGroups(grouping, {});
    QCOMPARE(grouping.sets.size(), std::size_t(4));
    QCOMPARE(grouping.aside.size(), std::size_t(1));
    QCOMPARE(int(grouping.aside[0].kind), int(GroupKind::Separator));
    QCOMPARE(int(grouping.sets[0].kind), int(GroupKind::Set));
    QCOMPARE(int(grouping.sets[1].kind), int(GroupKind::Repeat));
    QCOMPARE(int(grouping.sets[2].kind), int(GroupKind::Set));
    QCOMPARE(int(grouping.sets[3].kind), int(GroupKind::Panorama));
  }

  void everyMendCanBeMadeAndLosesNothing() {
    QTemporaryDir dir;
    const auto folder = test::pathOf(dir);
    for (int i = 0; i < 6; ++i)
      writeShot(folder / ("f" + std::to_string(i) + ".jpg"), std::exp2(-(i % 3) - 4),
                "2026:05:14 10:00:0" + std::to_string(i));
    std::vector<LeftOut> leftOut;
    Grouping g = groupFiles(collectFiles({folder}, leftOut));
    const auto files = [&] {
      std::size_t n = 0;
      for (const auto& s : g.sets) n += s.files.size();
      for (const auto& s : g.aside) n += s.files.size();
      return n;
    };
    QCOMPARE(g.sets.size(), std::size_t(2));
    QVERIFY(joinWithNext(g, 0) && g.sets.size() == 1 && files() == 6);
    QVERIFY(splitGroup(g, 0, 2) && g.sets.size() == 2 && g.sets[0].files.size() == 2 && g.sets[1].name == "f2");
    QVERIFY(moveFile(g, 1, 0, 0) && g.sets[0].files.size() == 3);
    QVERIFY(setFileAside(g, 0, 1) && g.aside.size() == 1 && files() == 6);
    QVERIFY(setAside(g, 1) && g.sets.size() == 1 && files() == 6);
    QVERIFY(takeBack(g, 1) && g.sets.size() == 2 && g.sets[1].files.size() == 3);
    QVERIFY(!splitGroup(g, 0, 0) && !splitGroup(g, 9, 1) && !joinWithNext(g, 1) && !moveFile(g, 0, 0, 0) &&
            !takeBack(g, 5));
    QCOMPARE(files(), std::size_t(6));
  }

  void whatCannotTakePartIsNamed() {
    QTemporaryDir dir;
    const auto folder = test::pathOf(dir);
    writeShot(folder / "good.jpg", 1 / 128., "2026:05:14 10:00:00");
    std::ofstream(folder / "notes.txt") << "x";
    std::ofstream(folder / ".hidden") << "x";
    std::vector<LeftOut> leftOut;
    const auto files = collectFiles({folder, folder / "gone.jpg"}, leftOut);
    QCOMPARE(leftOut.size(), std::size_t(2));
    QCOMPARE(withoutCompanions(leftOut).size(), std::size_t(1));
    QCOMPARE(int(withoutCompanions(leftOut)[0].reason.code), int(ErrorCode::FileMissing));
    const auto grouping = groupFiles(files);
    QCOMPARE(grouping.sets.size(), std::size_t(1));
    QVERIFY(grouping.leftOut.empty());
  }

  void whatLiesBesideFramesOnACardIsPassedOver() {
    QTemporaryDir dir;
    const auto folder = test::pathOf(dir);
    writeShot(folder / "A_0001.jpg", 1 / 128., "2026:05:14 10:00:00");
    for (const char* name : {"A_0001.XMP", "A_0002.MP4", "A_0002.THM", "MVI_0003.mov", "track.gpx", "A_0001.wav"})
      std::ofstream(folder / name) << "x";
    std::ofstream(folder / "A_0009.jpg") << "not a picture";
    std::vector<LeftOut> leftOut;
    const auto files = collectFiles({folder}, leftOut);
    QCOMPARE(files.size(), std::size_t(2));
    QCOMPARE(leftOut.size(), std::size_t(6));
    QVERIFY(withoutCompanions(leftOut).empty());
    const auto grouping = groupFiles(files);
    QCOMPARE(grouping.leftOut.size(), std::size_t(1)); // a broken frame is missed
    QVERIFY(grouping.leftOut[0].reason.message.find("A_0009.jpg") != std::string::npos);
    // Named itself, it is looked at.
    leftOut.clear();
    QCOMPARE(groupFiles(collectFiles({folder / "track.gpx"}, leftOut)).leftOut.size(), std::size_t(1));
  }

  void aClockThatWasResetLeavesTheNumbersInOrder() {
    QTemporaryDir dir;
    const auto folder = test::pathOf(dir);
    const char* clocks[] = {"2026:05:14 10:00:00", "2026:05:14 10:00:01", "2020:01:01 00:00:00", "2020:01:01 00:00:01",
                            "2020:01:01 00:00:02"};
    for (int i = 0; i < 5; ++i)
      writeShot(folder / ("A_000" + std::to_string(i + 1) + ".jpg"), std::exp2(-7.0 + i), clocks[i]);
    std::vector<LeftOut> leftOut;
    const auto sets = groupFiles(collectFiles({folder}, leftOut)).sets;
    QCOMPARE(sets.size(), std::size_t(1));
    for (std::size_t i = 0; i < 5; ++i)
      QCOMPARE(sets[0].files[i].path.filename().string(), "A_000" + std::to_string(i + 1) + ".jpg");
  }

  void equalClocksLeaveTheNumbersInOrder() {
    QTemporaryDir dir;
    const auto folder = test::pathOf(dir);
    for (const int i : {2, 0, 1})
      writeShot(folder / ("A_001" + std::to_string(i) + ".jpg"), std::exp2(-7.0 + i), "2026:05:14 10:00:00");
    std::vector<LeftOut> leftOut;
    const auto sets = groupFiles(collectFiles({folder}, leftOut)).sets;
    QCOMPARE(sets.size(), std::size_t(1));
    for (std::size_t i = 0; i < 3; ++i)
      QCOMPARE(sets[0].files[i].path.filename().string(), "A_001" + std::to_string(i) + ".jpg");
  }

  void foldersOfACardAreRead() {
    QTemporaryDir dir;
    const auto card = test::pathOf(dir);
    for (const char* folder : {"DCIM/100AAAAA", "DCIM/101AAAAA", ".trash", "kept-job/views/01-a/frames"})
      std::filesystem::create_directories(card / folder);
    std::ofstream(card / "kept-job/job.json") << "{}";
    for (const char* folder : {"DCIM/100AAAAA", "DCIM/101AAAAA", ".trash", "kept-job/views/01-a/frames"})
      for (int i = 0; i < 3; ++i)
        writeShot(card / folder / ("f" + std::to_string(i) + ".jpg"), std::exp2(-4.0 - 2 * i),
                  "2026:05:14 10:00:0" + std::to_string(i));
    std::vector<LeftOut> leftOut;
    const auto files = collectFiles({card}, leftOut);
    QCOMPARE(files.size(), std::size_t(6));
    QVERIFY(std::all_of(files.begin(), files.end(),
                        [](const auto& f) { return f.string().find("DCIM") != std::string::npos; }));
    const auto sets = groupFiles(files).sets;
    QCOMPARE(sets.size(), std::size_t(2));
    QCOMPARE(sets[1].name, std::string("101AAAAA")); // "f0" would be the name of both
    QVERIFY(collectFiles({card}, leftOut, Subfolders::PassOver).empty());
    std::filesystem::create_directory_symlink(card, card / "DCIM" / "again"); // a circle is not walked
    QCOMPARE(collectFiles({card}, leftOut).size(), std::size_t(6));
    QVERIFY(leftOut.empty());
  }

  void rawIsPreferredToItsJpeg() {
    QTemporaryDir dir;
    const auto folder = test::pathOf(dir);
    const auto scene = test::texturedScene(96, 64, 6);
    (void)test::shootScene(scene.clone(), test::exposedAt({7}), FrameFormat::Dng, folder);
    (void)test::shootScene(scene.clone(), test::exposedAt({7}), FrameFormat::Jpeg, folder);
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
    const auto middle = [](const Frame& f) {
      float rgb[3];
      f.linearAt(f.width() / 2, f.height() / 2, rgb);
      return rgb[1] / f.midTone;
    };
    QVERIFY(std::abs(middle(raw.frames[0]) - 1) < 0.05); // exposed at its own reading, a surface is the mid-tone
    QVERIFY(std::abs(middle(jpeg.frames[0]) - 1) < 0.05);
  }

private:
  static void setOrientation(const std::filesystem::path& file, int orientation);
};

void TestIngest::setOrientation(const std::filesystem::path& file, int orientation) {
  auto image = Exiv2::ImageFactory::open(file.string());
  image->readMetadata();
  image->exifData()["Exif.Image.Orientation"] = std::uint16_t(orientation);
  image->writeMetadata();
}

QTEST_GUILESS_MAIN(TestIngest)
#include "test_ingest.moc"
