// SPDX-License-Identifier: GPL-3.0-or-later
// Our reading of DNG samples beside LibRaw's of the same files, code for code; and what it refuses.
#include "codec/dng_samples.h"
#include "codec/lossless_jpeg.h"
#include "codec/raw_file.h"
#include "zoo/files.h"
#include "zoo/lossless_jpeg.h"
#include "zoo/random.h"

#include <QTemporaryDir>
#include <QTest>
#include <exiv2/exiv2.hpp>
#include <fstream>
#include <libraw/libraw.h>

using namespace ml;
using zoo::Camera;

namespace {

constexpr int kWidth = 500, kHeight = 310; // neither is a multiple of a tile

/// Tones and codes of the whole range beside each other: every length of difference, both ends.
Image<std::uint16_t> mosaic() {
  zoo::Random random(7);
  Image<std::uint16_t> out(kWidth, kHeight, 1);
  for (int y = 0; y < kHeight; ++y)
    for (int x = 0; x < kWidth; ++x) {
      const int near = 3000 + 20 * x + random.whole(-90, 90);
      out.row(y)[x] = std::uint16_t(random.whole(0, 9) ? near : random.whole(0, 65535));
    }
  out.row(5)[5] = 0, out.row(5)[6] = 32768, out.row(5)[7] = 65535, out.row(6)[6] = 0;
  return out;
}

std::vector<std::uint8_t> coded(zoo::Coding coding = {}) {
  static const Image<std::uint16_t> samples = mosaic();
  return zoo::losslessJpeg({samples.data(), kWidth, kWidth, kHeight}, kWidth, kHeight, coding);
}

} // namespace

class TestDngSamples : public QObject {
  Q_OBJECT

private:
  QTemporaryDir dir_;

  std::filesystem::path written(const Camera& camera) {
    const std::filesystem::path file = dir_.filePath("a.dng").toStdString();
    zoo::Shot shot;
    shot.model = camera.name;
    zoo::writeDng(file, camera, camera.neutral, mosaic(), shot);
    return file;
  }

  void sameAsLibRaw(const std::filesystem::path& file) {
    LibRaw library;
    QCOMPARE(library.open_file(file.c_str()), int(LIBRAW_SUCCESS));
    const auto own = readDngSamples(file, {kWidth, kHeight, library.imgdata.color.curve});
    QVERIFY(own.has_value());
    QCOMPARE(library.unpack(), int(LIBRAW_SUCCESS));
    const std::uint16_t* theirs = library.imgdata.rawdata.raw_image;
    QVERIFY(theirs);
    QCOMPARE(int(library.imgdata.sizes.raw_width), kWidth);
    QCOMPARE(int(library.imgdata.sizes.raw_height), kHeight);
    for (int y = 0; y < kHeight; ++y, theirs += library.imgdata.sizes.raw_pitch / 2)
      QVERIFY2(std::equal(theirs, theirs + kWidth, own->row(y)), qPrintable(QString::number(y)));
  }

private slots:
  void tilesAreWhatLibRawReads_data() {
    QTest::addColumn<int>("components");
    QTest::addColumn<int>("predictor");
    for (const int components : {1, 2, 4})
      for (int predictor = 1; predictor <= 7; ++predictor)
        QTest::addRow("%d components, predictor %d", components, predictor) << components << predictor;
  }
  void tilesAreWhatLibRawReads() {
    QFETCH(int, components);
    QFETCH(int, predictor);
    Camera camera(1, zoo::FileType::Dng);
    camera.compressed = true, camera.components = components, camera.predictor = predictor;
    sameAsLibRaw(written(camera));
  }

  void stripsAreWhatLibRawReads() {
    Camera camera(1, zoo::FileType::Dng);
    camera.compressed = false;
    for (const bool bigEndian : {false, true}) {
      camera.bigEndian = bigEndian;
      sameAsLibRaw(written(camera));
    }
  }

  /// Streams of an encoder that is not ours: DCMTK 3.6.7, `dcmcjpeg +el +sv N`.
  void anotherEncodersStreamsAreRead() {
    for (const int predictor : {1, 4, 6, 7}) {
      std::ifstream in(std::string(ML_SOURCE_DIR "/tests/data/lossless_jpeg/predictor-") + std::to_string(predictor),
                       std::ios::binary);
      const std::vector<char> read(std::istreambuf_iterator<char>(in), {});
      const std::vector<std::uint8_t> stream(read.begin(), read.end());
      LosslessJpeg out;
      QVERIFY(readLosslessJpeg(stream, 64 * 48, out));
      QCOMPARE(out.width, 64);
      QCOMPARE(out.height, 48);
      for (int y = 0; y < 48; ++y)
        for (int x = 0; x < 64; ++x) {
          const int smooth = 1000 + 37 * x + 11 * y + (x * 7919 + y * 104729) % 401,
                    any = (x * 48271 + y * 69621) & 0xffff;
          QCOMPARE(int(out.samples[std::size_t(64 * y + x)]), (x + 3 * y) % 19 == 0 ? any : smooth);
        }
    }
  }

  /// The file's own linearisation is applied, as DNG's specification says (chapter 5).
  void codesAreMadeLinear() {
    Camera camera(1, zoo::FileType::Dng);
    std::string table;
    for (int i = 0; i < 1 << 14; ++i) table += (i ? " " : "") + std::to_string(i * i / 8192);
    for (const bool compressed : {false, true}) {
      camera.compressed = compressed;
      const auto file = written(camera);
      auto exif = Exiv2::ImageFactory::open(file.string());
      exif->readMetadata();
      auto value = Exiv2::Value::create(Exiv2::unsignedShort);
      QCOMPARE(value->read(table), 0);
      exif->exifData().add(Exiv2::ExifKey("Exif.Image.LinearizationTable"), value.get());
      exif->writeMetadata();
      LibRaw library;
      QCOMPARE(library.open_file(file.c_str()), int(LIBRAW_SUCCESS));
      QCOMPARE(int(library.imgdata.color.curve[4096]), 2048);
      sameAsLibRaw(file);
    }
  }

  /// A file that ends early, or that says what it is not, is left to LibRaw, which says what is wrong.
  void whatIsDamagedIsLeft() {
    Camera camera(1, zoo::FileType::Dng);
    std::vector<std::uint16_t> linear(65536);
    std::iota(linear.begin(), linear.end(), std::uint16_t(0));
    for (const bool compressed : {false, true}) {
      camera.compressed = compressed;
      const auto file = written(camera);
      QVERIFY(readDngSamples(file, {kWidth, kHeight, linear}).has_value());
      QVERIFY(!readDngSamples(file, {kWidth, kHeight + 1, linear}).has_value());
      const auto whole = file_size(file);
      resize_file(file, whole * 3 / 4);
      QVERIFY(!readDngSamples(file, {kWidth, kHeight, linear}).has_value());
      QVERIFY(!readRaw(file).has_value());
    }
    QVERIFY(!readDngSamples(dir_.filePath("none.dng").toStdString(), {kWidth, kHeight, linear}).has_value());
  }

  /// Streams that were cut or spoilt are refused or read as something else; nothing beyond them is touched
  /// (sanitizers).
  void spoiltStreamsDoNoHarm() {
    LosslessJpeg out;
    const auto whole = coded({2, 6});
    QVERIFY(readLosslessJpeg(whole, std::size_t(kWidth) * kHeight, out));
    QCOMPARE(out.width, kWidth);
    QCOMPARE(out.height, kHeight);
    const auto samples = mosaic();
    QVERIFY(std::equal(out.samples.begin(), out.samples.end(), samples.data()));
    QVERIFY(!readLosslessJpeg(whole, std::size_t(kWidth) * kHeight - 1, out));
    zoo::Random random(3);
    for (int i = 0; i < 400; ++i) {
      auto cut = whole;
      cut.resize(std::size_t(random.whole(0, i % 2 ? int(cut.size()) - 64 : 120)));
      QVERIFY(!readLosslessJpeg(cut, std::size_t(kWidth) * kHeight, out));
      auto spoilt = whole;
      for (int k = 0; k < 3; ++k)
        spoilt[std::size_t(random.whole(0, i % 2 ? 120 : int(spoilt.size()) - 1))] = std::uint8_t(random.whole(0, 255));
      (void)readLosslessJpeg(spoilt, std::size_t(kWidth) * kHeight, out);
    }
  }

  /// What cameras do not write is not read here: restart intervals, a point transform, subsampled components.
  void otherKindsAreRefused() {
    LosslessJpeg out;
    const std::size_t most = std::size_t(kWidth) * kHeight;
    const auto refused = [&](std::vector<std::uint8_t> stream) { return !readLosslessJpeg(stream, most, out); };
    const auto whole = coded();
    QVERIFY(!refused(whole));
    const std::size_t frame = 2, table = frame + 13, scan = table + 2 + 2 + 1 + 16 + 17;
    QCOMPARE(int(whole[frame + 1]), 0xc3);
    QCOMPARE(int(whole[scan + 1]), 0xda);
    auto restarts = whole;
    const std::uint8_t interval[] = {0xff, 0xdd, 0, 4, 0, 16};
    restarts.insert(restarts.begin() + 2, std::begin(interval), std::end(interval));
    QVERIFY(refused(restarts));
    for (const auto& [at, value] : {std::pair<std::size_t, int>{scan + 9, 1},
                                    {scan + 7, 0},
                                    {scan + 7, 8},
                                    {frame + 11, 0x21},
                                    {frame + 4, 17},
                                    {frame + 1, 0xc0},
                                    {table + 4, 0x10},
                                    {0, 0}}) {
      auto other = whole;
      other[at] = std::uint8_t(value);
      QVERIFY2(refused(other), qPrintable(QString::number(at)));
    }
  }
};

QTEST_GUILESS_MAIN(TestDngSamples)
#include "test_dng_samples.moc"
