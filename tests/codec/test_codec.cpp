// SPDX-License-Identifier: GPL-3.0-or-later
#include "codec/exr.h"
#include "codec/icc.h"
#include "codec/jpeg.h"
#include "codec/png_file.h"
#include "codec/radiance_hdr.h"
#include "codec/raw_file.h"
#include "codec/tiff_file.h"
#include "mosaic/defects.h"
#include "support/scenes.h"

#include <QTest>
#include <cmath>
#include <fstream>
#include <opencv2/imgcodecs.hpp>
#include <random>
#include <tiffio.h>

using namespace ml;

namespace {

Image<float> radiance(int width = 61, int height = 43) {
  Image<float> image(width, height, 3);
  std::mt19937 random(11);
  std::uniform_real_distribution<float> stops(-12, 9);
  for (std::size_t i = 0; i < image.size(); ++i) image.data()[i] = std::exp2(stops(random));
  return image;
}

Image<std::uint16_t> codes(int maxCode, int width = 61, int height = 43) {
  Image<std::uint16_t> image(width, height, 3);
  std::mt19937 random(12);
  for (std::size_t i = 0; i < image.size(); ++i) image.data()[i] = std::uint16_t(random() % (unsigned(maxCode) + 1));
  return image;
}

/// 16 bits; in tiles of `tile` pixels, or strips of 8 rows; a fourth channel holds 7.
void writeCut(const std::filesystem::path& file, const Image<std::uint16_t>& image, int tile, bool apart, int samples) {
  TIFF* t = TIFFOpen(file.c_str(), "w");
  TIFFSetField(t, TIFFTAG_IMAGEWIDTH, image.width());
  TIFFSetField(t, TIFFTAG_IMAGELENGTH, image.height());
  TIFFSetField(t, TIFFTAG_BITSPERSAMPLE, 16);
  TIFFSetField(t, TIFFTAG_SAMPLESPERPIXEL, samples);
  TIFFSetField(t, TIFFTAG_PHOTOMETRIC, samples == 1 ? PHOTOMETRIC_MINISBLACK : PHOTOMETRIC_RGB);
  TIFFSetField(t, TIFFTAG_PLANARCONFIG, apart ? PLANARCONFIG_SEPARATE : PLANARCONFIG_CONTIG);
  TIFFSetField(t, TIFFTAG_COMPRESSION, COMPRESSION_LZW);
  if (tile)
    TIFFSetField(t, TIFFTAG_TILEWIDTH, tile), TIFFSetField(t, TIFFTAG_TILELENGTH, tile);
  else
    TIFFSetField(t, TIFFTAG_ROWSPERSTRIP, 8);
  const int width = tile ? tile : image.width(), height = tile ? tile : 8, together = apart ? 1 : samples;
  for (int plane = 0; plane < (apart ? samples : 1); ++plane)
    for (int y0 = 0; y0 < image.height(); y0 += height)
      for (int x0 = 0; x0 < image.width(); x0 += width) {
        const int rows = tile ? height : std::min(height, image.height() - y0);
        std::vector<std::uint16_t> block;
        for (int y = y0; y < y0 + rows; ++y)
          for (int x = x0; x < x0 + width; ++x)
            for (int c = plane; c < plane + together; ++c)
              block.push_back(c == 3 ? 7
                                     : image.at(std::min(x, image.width() - 1), std::min(y, image.height() - 1))[c]);
        const auto bytes = tmsize_t(2 * block.size());
        if (tile)
          TIFFWriteTile(t, block.data(), std::uint32_t(x0), std::uint32_t(y0), 0, std::uint16_t(plane));
        else
          TIFFWriteEncodedStrip(t, TIFFComputeStrip(t, std::uint32_t(y0), std::uint16_t(plane)), block.data(), bytes);
      }
  TIFFClose(t);
}

void cutTo(const std::filesystem::path& file, double share) {
  std::filesystem::resize_file(file, std::uintmax_t(double(std::filesystem::file_size(file)) * share));
}

/// OpenCV's BGR float picture against ours.
double worstRelative(const cv::Mat& theirs, const Image<float>& ours) {
  double worst = 0;
  for (int y = 0; y < ours.height(); ++y)
    for (int x = 0; x < ours.width(); ++x)
      for (int c = 0; c < 3; ++c)
        worst = std::max(worst, std::abs(theirs.at<cv::Vec3f>(y, x)[2 - c] / double(ours.at(x, y)[c]) - 1));
  return worst;
}

cv::Mat toCv(const Image<float>& image) {
  cv::Mat out(image.height(), image.width(), CV_32FC3);
  for (int y = 0; y < image.height(); ++y)
    for (int x = 0; x < image.width(); ++x)
      for (int c = 0; c < 3; ++c) out.at<cv::Vec3f>(y, x)[2 - c] = image.at(x, y)[c];
  return out;
}

constexpr double kHalfRelative = 1.0 / 2048; // rounding to 11 significant bits
/// RGBE keeps 8 bits relative to the largest channel; small channels beside it lose more: compared at the largest only.
constexpr double kRgbeOfLargest = 1.0 / 128;

double worstOfLargest(const Image<float>& a, const Image<float>& b) {
  double worst = 0;
  for (int y = 0; y < a.height(); ++y)
    for (int x = 0; x < a.width(); ++x) {
      const float* p = b.at(x, y);
      const double largest = std::max({p[0], p[1], p[2]});
      for (int c = 0; c < 3; ++c) worst = std::max(worst, std::abs(a.at(x, y)[c] - p[c]) / largest);
    }
  return worst;
}

} // namespace

namespace {
bool sameCodes(const Image<std::uint16_t>& image, const Codes& codes) {
  for (int y = 0; y < image.height(); ++y)
    for (int x = 0; x < image.width(); ++x)
      for (int c = 0; c < 3; ++c)
        if (image.at(x, y)[c] != codes.at(x, y, c)) return false;
  return codes.width() == image.width() && codes.height() == image.height();
}
} // namespace

class TestCodec : public QObject {
  Q_OBJECT
  QTemporaryDir dir_;
  std::filesystem::path at(const char* name) const { return test::pathOf(dir_) / name; }

private slots:
  void aGreyJpegHasThreeEqualChannels() {
    QTemporaryDir dir;
    const auto file = test::pathOf(dir) / "grey.jpg";
    cv::Mat grey(24, 40, CV_8UC1);
    for (int y = 0; y < grey.rows; ++y)
      for (int x = 0; x < grey.cols; ++x) grey.at<std::uint8_t>(y, x) = std::uint8_t(5 * x + y);
    QVERIFY(cv::imwrite(file.string(), grey, {cv::IMWRITE_JPEG_QUALITY, 98}));
    const auto read = readJpeg(file);
    QVERIFY2(read, read ? "" : read.error().message.c_str());
    for (int y = 0; y < grey.rows; ++y)
      for (int x = 0; x < grey.cols; ++x)
        for (int c = 0; c < 3; ++c)
          QVERIFY(std::abs(int(read->pixels.at(x, y, c)) - int(grey.at<std::uint8_t>(y, x))) <= 3);
  }

  /// A joined view of ours may be large; a file that is small claims it for nothing.
  void hugePicturesAreReadWhereTheirBytesExplainThem() {
    QTemporaryDir dir;
    const auto file = test::pathOf(dir) / "claims.exr";
    std::ofstream(file) << "light";
    std::filesystem::resize_file(file, 10'000'000); // no more on disk than before
    QVERIFY(checkSize(file, 20'000, 20'000));
    QVERIFY(checkSize(file, 25'000, 20'000)); // 50 pixels a byte
    QVERIFY(!checkSize(file, 25'100, 20'000));
    QVERIFY(!checkSize(file, 1'000'001, 1));
    QVERIFY(!checkSize(file, std::int64_t(1) << 32, std::int64_t(1) << 32));
    std::filesystem::resize_file(file, 100'000'000);
    QVERIFY(checkSize(file, 62'000, 62'000));
    QVERIFY(!checkSize(file, 65'000, 65'000)); // more than is ever drawn
    QVERIFY(!checkSize(file, 0, 5));
    QVERIFY(checkSize(file, 65'000, 65'000).error().message.find("claims.exr") != std::string::npos);
  }

  // A defect stands alone; a point of light is drawn by the lens and lights its neighbours too (a Gaussian of 0.6
  // pixels here).
  void defectsAreMendedAndPointsOfLightAreNot() {
    constexpr int n = 64, black = 512;
    std::vector<std::uint16_t> mosaic(n * n);
    std::mt19937 random(3);
    std::normal_distribution<double> normal;
    const auto light = [](int x, int y) { return 1000 + 10 * x + 600 * (y > 40); };
    for (int y = 0; y < n; ++y)
      for (int x = 0; x < n; ++x) {
        const double star = 9000 * std::exp(-((x - 20) * (x - 20) + (y - 21) * (y - 21)) / (2 * 0.36));
        mosaic[std::size_t(y * n + x)] = std::uint16_t(black + light(x, y) + star + 12 * normal(random));
      }
    const std::pair<int, int> defects[] = {{10, 10}, {33, 30}, {50, 51}};
    mosaic[10 * n + 10] = 16000;
    mosaic[30 * n + 33] = black + 20;
    mosaic[51 * n + 50] = 6000;
    const int star = mosaic[21 * n + 20];
    QCOMPARE(mendDefects({mosaic.data(), n, n, n}, black), std::size_t(3));
    for (const auto& [x, y] : defects) QVERIFY(std::abs(mosaic[std::size_t(y * n + x)] - black - light(x, y)) < 80);
    QCOMPARE(int(mosaic[21 * n + 20]), star);
  }

  void exrFloatIsExact() {
    const auto image = radiance();
    ExrOptions options;
    options.half = false;
    QVERIFY(writeExr(at("f.exr"), image.view(), options).has_value());
    const auto back = readExr(at("f.exr"));
    QVERIFY(std::equal(image.data(), image.data() + image.size(), back->pixels.data()));
    QCOMPARE(worstRelative(cv::imread(at("f.exr"), cv::IMREAD_UNCHANGED), image), 0.0); // reader: OpenCV 4.6
  }
  void exrHalfKeepsElevenBits() {
    const auto image = radiance();
    QVERIFY(writeExr(at("h.exr"), image.view(), {}).has_value());
    QVERIFY(worstRelative(cv::imread(at("h.exr"), cv::IMREAD_UNCHANGED), image) <= kHalfRelative);
  }
  void exrOfOpenCvIsRead() {
    const auto image = radiance();
    QVERIFY(cv::imwrite(at("cv.exr"), toCv(image)));
    const auto back = readExr(at("cv.exr"));
    QVERIFY(back.has_value());
    for (std::size_t i = 0; i < image.size(); ++i)
      QVERIFY(std::abs(back->pixels.data()[i] / image.data()[i] - 1) <= kHalfRelative);
  }
  void exrKeepsItsPlace() {
    PlacedImage placed{Image<float>(5, 4, 4), 7, 9, 40, 30};
    placed.pixels.fill(0.5f);
    QVERIFY(writePlacedExr(at("p.exr"), placed, {}).has_value());
    const auto back = readExr(at("p.exr"));
    QCOMPARE(back->x, 7);
    QCOMPARE(back->y, 9);
    QCOMPARE(back->fullWidth, 40);
    QCOMPARE(back->pixels.channels(), 4);
  }

  void hdrIsReadByOpenCv() {
    const auto image = radiance();
    QVERIFY(writeHdr(at("a.hdr"), image.view()).has_value());
    const cv::Mat theirs = cv::imread(at("a.hdr"), cv::IMREAD_UNCHANGED);
    QVERIFY(!theirs.empty());
    Image<float> read(image.width(), image.height(), 3);
    for (int y = 0; y < read.height(); ++y)
      for (int x = 0; x < read.width(); ++x)
        for (int c = 0; c < 3; ++c) read.at(x, y)[c] = theirs.at<cv::Vec3f>(y, x)[2 - c];
    QVERIFY(worstOfLargest(read, image) <= kRgbeOfLargest);
  }
  void hdrOfOpenCvIsRead() {
    const auto image = radiance();
    QVERIFY(cv::imwrite(at("cv.hdr"), toCv(image)));
    const auto back = readHdr(at("cv.hdr"));
    QVERIFY(back.has_value());
    QVERIFY(worstOfLargest(*back, image) <= kRgbeOfLargest);
  }
  void hdrRunsRoundTrip() { // long runs, short runs and widths at the coding's limits
    for (const int width : {1, 7, 8, 127, 128, 129, 300}) {
      Image<float> image(width, 3, 3);
      for (int y = 0; y < 3; ++y)
        for (int x = 0; x < width; ++x)
          for (int c = 0; c < 3; ++c) image.at(x, y)[c] = y == 0 ? 1.f : y == 1 ? float(1 + x / 5) : float(1 + x);
      QVERIFY(writeHdr(at("r.hdr"), image.view()).has_value());
      const auto back = readHdr(at("r.hdr"));
      QVERIFY(back.has_value());
      QVERIFY(worstOfLargest(*back, image) <= kRgbeOfLargest);
    }
  }

  void tiff16IsExact() {
    const auto image = codes(65535);
    QVERIFY(writeTiff16(at("a.tif"), image.view(), srgbProfile()).has_value());
    const auto back = readTiff(at("a.tif"));
    QCOMPARE(back->maxCode, 65535);
    QVERIFY(sameCodes(image, back->pixels));
    const cv::Mat theirs = cv::imread(at("a.tif"), cv::IMREAD_UNCHANGED);
    QCOMPARE(theirs.type(), CV_16UC3);
    QCOMPARE(int(theirs.at<cv::Vec3w>(17, 23)[2]), int(image.at(23, 17)[0]));
  }
  /// Other programs write tiles, and channels that lie apart.
  void tiffIsReadHoweverItIsCut_data() {
    QTest::addColumn<int>("tile"); // 0: strips
    QTest::addColumn<bool>("apart");
    QTest::addColumn<int>("samples");
    for (const int tile : {0, 16, 32})
      for (const bool apart : {false, true})
        for (const int samples : {1, 3, 4})
          QTest::addRow("%d %s %d", tile, apart ? "apart" : "together", samples) << tile << apart << samples;
  }
  void tiffIsReadHoweverItIsCut() {
    QFETCH(int, tile);
    QFETCH(bool, apart);
    QFETCH(int, samples);
    const auto image = codes(65535);
    const auto file = at("cut.tif");
    writeCut(file, image, tile, apart, samples);
    const auto back = readTiff(file);
    QVERIFY2(back.has_value(), back ? "" : back.error().message.c_str());
    QCOMPARE(back->pixels.width(), image.width());
    for (int y = 0; y < image.height(); ++y)
      for (int x = 0; x < image.width(); ++x)
        for (int c = 0; c < 3; ++c) QCOMPARE(int(back->pixels.at(x, y, c)), int(image.at(x, y)[samples >= 3 ? c : 0]));
    cutTo(file, 0.6);
    QVERIFY(!readTiff(file).has_value());
  }

  void floatTiffIsExact() {
    const auto image = radiance();
    QVERIFY(writeTiffFloat(at("f.tif"), image.view(), linearRec709Profile()).has_value());
    const auto back = readFloatTiff(at("f.tif"));
    QVERIFY(std::equal(image.data(), image.data() + image.size(), back->data()));
    QCOMPARE(worstRelative(cv::imread(at("f.tif"), cv::IMREAD_UNCHANGED), image), 0.0);
  }
  void pngIsExact_data() {
    QTest::addColumn<int>("maxCode");
    QTest::newRow("8 bit") << 255;
    QTest::newRow("16 bit") << 65535;
  }
  void pngIsExact() {
    QFETCH(int, maxCode);
    const auto image = codes(maxCode);
    QVERIFY(writePng(at("a.png"), image.view(), maxCode, srgbProfile()).has_value());
    const auto back = readPng(at("a.png"));
    QVERIFY(back.has_value());
    QCOMPARE(back->maxCode, maxCode);
    QVERIFY(sameCodes(image, back->pixels));
    const cv::Mat theirs = cv::imread(at("a.png"), cv::IMREAD_UNCHANGED);
    QCOMPARE(int(maxCode == 255 ? theirs.at<cv::Vec3b>(3, 5)[1] : theirs.at<cv::Vec3w>(3, 5)[1]),
             int(image.at(5, 3)[1]));
  }
  void jpegIsCloseAndReadableElsewhere() {
    Image<std::uint8_t> image(64, 48, 3);
    for (int y = 0; y < 48; ++y)
      for (int x = 0; x < 64; ++x)
        for (int c = 0; c < 3; ++c) image.at(x, y)[c] = std::uint8_t(40 + 2 * x + y + 10 * c);
    QVERIFY(writeJpeg(at("a.jpg"), image.view(), {95, true, srgbProfile(), false}).has_value());
    const auto back = readJpeg(at("a.jpg"));
    const cv::Mat theirs = cv::imread(at("a.jpg"));
    for (int y = 0; y < 48; ++y)
      for (int x = 0; x < 64; ++x)
        for (int c = 0; c < 3; ++c) {
          QVERIFY(std::abs(int(back->pixels.at(x, y, c)) - int(image.at(x, y)[c])) <= 4);
          QVERIFY(std::abs(int(theirs.at<cv::Vec3b>(y, x)[2 - c]) - int(back->pixels.at(x, y, c))) <= 2);
        }
  }

  void truncatedFilesAreSaid_data() {
    QTest::addColumn<QString>("name");
    QTest::addColumn<double>("share");
    for (const char* name : {"t.jpg", "t.png", "t.tif", "t.exr", "t.hdr", "t.dng"})
      for (const double share : {0.0, 0.001, 0.3, 0.9})
        QTest::addRow("%s at %g", name, share) << QString(name) << share;
  }
  void truncatedFilesAreSaid() {
    QFETCH(QString, name);
    QFETCH(double, share);
    const auto file = at(qPrintable(name));
    const auto big = codes(255, 256, 200);
    Image<std::uint8_t> bytes(256, 200, 3);
    for (std::size_t i = 0; i < bytes.size(); ++i) bytes.data()[i] = std::uint8_t(big.data()[i]);
    Image<std::uint16_t> mosaic(256, 200, 1);
    std::copy_n(big.data(), mosaic.size(), mosaic.data());
    MosaicDescription description;
    description.xyzToCamera = {0.7, 0.1, 0, 0, 0.9, 0.1, 0, 0.1, 0.8};
    description.camera = "Test";
    if (name == "t.jpg") QVERIFY(writeJpeg(file, bytes.view(), {}).has_value());
    if (name == "t.png") QVERIFY(writePng(file, big.view(), 255, {}).has_value());
    if (name == "t.tif") QVERIFY(writeTiff16(file, codes(65535, 256, 200).view(), {}).has_value());
    if (name == "t.exr") QVERIFY(writeExr(file, radiance(256, 200).view(), {}).has_value());
    if (name == "t.hdr") QVERIFY(writeHdr(file, radiance(256, 200).view()).has_value());
    if (name == "t.dng") QVERIFY(writeDng(file, mosaic.view(), description).has_value());
    cutTo(file, share);
    std::optional<Error> error;
    if (name == "t.jpg") error = readJpeg(file) ? std::nullopt : std::optional(readJpeg(file).error());
    if (name == "t.png") error = readPng(file) ? std::nullopt : std::optional(readPng(file).error());
    if (name == "t.tif") error = readTiff(file) ? std::nullopt : std::optional(readTiff(file).error());
    if (name == "t.exr") error = readExr(file) ? std::nullopt : std::optional(readExr(file).error());
    if (name == "t.hdr") error = readHdr(file) ? std::nullopt : std::optional(readHdr(file).error());
    if (name == "t.dng") error = readRaw(file) ? std::nullopt : std::optional(readRaw(file).error());
    QVERIFY(error.has_value());
    QCOMPARE(int(error->code), int(ErrorCode::FileUnreadable));
    QVERIFY(error->message.find(name.toStdString()) != std::string::npos);
  }

  void sniffingGoesByContent() {
    MosaicDescription description;
    description.camera = "Test";
    QVERIFY(writeDng(at("negative.tif"), Image<std::uint16_t>(64, 48, 1).view(), description).has_value());
    QCOMPARE(int(*sniff(at("negative.tif"))), int(FileKind::Raw));
    QVERIFY(writeTiff16(at("picture.tif"), codes(65535).view(), {}).has_value());
    QCOMPARE(int(*sniff(at("picture.tif"))), int(FileKind::Tiff));
    std::ofstream(at("note.jpg")) << "not a picture";
    QCOMPARE(int(*sniff(at("note.jpg"))), int(FileKind::Unknown));
    QVERIFY(writePng(at("really.png"), codes(255).view(), 255, {}).has_value());
    std::filesystem::rename(at("really.png"), at("called.jpg"));
    QCOMPARE(int(*sniff(at("called.jpg"))), int(FileKind::Png));
    QCOMPARE(int(sniff(at("gone")).error().code), int(ErrorCode::FileMissing));
    std::ofstream(at("empty.jpg")).close();
    QCOMPARE(int(sniff(at("empty.jpg")).error().code), int(ErrorCode::FileUnreadable));
  }

  void hugeClaimsAreRefusedBeforeMemoryIsTaken() {
    std::ofstream(at("huge.hdr")) << "#?RADIANCE\nFORMAT=32-bit_rle_rgbe\n\n-Y 90000 +X 90000\n";
    const auto huge = readHdr(at("huge.hdr"));
    QVERIFY(!huge);
    QVERIFY(huge.error().message.find("90000") != std::string::npos);
  }
};

QTEST_GUILESS_MAIN(TestCodec)
#include "test_codec.moc"
