// SPDX-License-Identifier: GPL-3.0-or-later
#include <QTest>

#include "codec/avif_file.h"
#include "codec/icc.h"
#include "codec/jxl_file.h"
#include "finish/finish.h"
#include "image/resample.h"
#include "pipeline/deliver_view.h"
#include "support/scenes.h"

#include <QTemporaryDir>
#include <avif/avif.h>
#include <cmath>
#include <ctime>
#include <exiv2/exiv2.hpp>
#include <fstream>
#include <iterator>
#include <jxl/decode.h>
#include <lcms2.h>
#include <limits>
#include <opencv2/imgcodecs.hpp>
#include <tiffio.h>

using namespace ml;

namespace {

std::vector<unsigned char> bytesOf(const std::filesystem::path& file) {
  std::ifstream in(file, std::ios::binary);
  return {std::istreambuf_iterator<char>(in), {}};
}

DeliverRequest request(const QTemporaryDir& dir, std::initializer_list<const char*> ids) {
  DeliverRequest r;
  for (const char* id : ids) r.targets.push_back(*findTarget(id));
  r.folder = test::pathOf(dir);
  r.name.view = "Reading room";
  return r;
}

} // namespace

class TestTargets : public QObject {
  Q_OBJECT

private slots:
  // A plain JPEG alone is finished in 8 bits, beside a print file from its 16: the same picture to a code or two of the
  // file's compression.
  void aJpegIsTheSameAloneAndBesideOthers() {
    const Image<float> scene = test::texturedScene(300, 200, 8);
    QTemporaryDir alone, beside;
    QVERIFY(!needsDeepCodes(*findTarget("jpeg")) && !needsDeepCodes(*findTarget("archive")) &&
            !needsDeepCodes(*findTarget("hdr-avif")));
    QVERIFY(needsDeepCodes(*findTarget("web")) && needsDeepCodes(*findTarget("print")));
    const auto one = deliverView(scene.view(), request(alone, {"jpeg"}), {}),
               two = deliverView(scene.view(), request(beside, {"jpeg", "print"}), {});
    QVERIFY(one && two);
    const cv::Mat a = cv::imread(one->files.front().string()), b = cv::imread(two->files.front().string());
    QCOMPARE(a.size(), b.size());
    int most = 0;
    long differing = 0;
    for (int y = 0; y < a.rows; ++y)
      for (int i = 0; i < 3 * a.cols; ++i) {
        const int off = std::abs(int(a.ptr(y)[i]) - int(b.ptr(y)[i]));
        most = std::max(most, off);
        differing += off > 0;
      }
    QVERIFY2(most <= 4 && differing < 3L * a.rows * a.cols / 20,
             qPrintable(QString("%1, %2").arg(most).arg(differing)));
    QCOMPARE(one->report.whiteShare, two->report.whiteShare);
  }

  /// Compression moves the mean of a few pixels by more than that of many: small pictures are delivered, too.
  void tinyPicturesAreDelivered() {
    const Image<float> large = test::texturedScene(900, 600, 10, 4);
    for (const int width : {9, 16, 27, 40, 64, 90, 150}) {
      QTemporaryDir dir;
      const Image<float> small = shrinkTo(large.view(), width, std::max(8, width * 2 / 3));
      const auto done =
          deliverView(small.view(), request(dir, {"jpeg", "web", "print", "hdr-jpeg", "hdr-avif", "archive"}), {});
      QVERIFY2(done.has_value(), done ? "" : done.error().message.c_str());
    }
  }

  /// A picture that lies on disk gives the files of one in memory, and is held as a whole only for the archive.
  void rowsThatLieElsewhereGiveTheSameFiles() {
    const Image<float> scene = test::texturedScene(400, 300, 8);
    const test::StoredRows stored(scene.view());
    QTemporaryDir held, spooled;
    const auto one = deliverView(scene.view(), request(held, {"jpeg", "print", "hdr-jpeg"}), {}),
               two = deliverView(PictureRows(stored), request(spooled, {"jpeg", "print", "hdr-jpeg"}), {});
    QVERIFY(one && two);
    QVERIFY(stored.most() < 40);
    for (std::size_t i = 0; i < one->files.size(); ++i) QCOMPARE(bytesOf(one->files[i]), bytesOf(two->files[i]));
    QCOMPARE(one->report.whiteShare, two->report.whiteShare);
    QCOMPARE(one->judgement.findings.size(), two->judgement.findings.size());
    const auto archived = deliverView(PictureRows(stored), request(spooled, {"archive"}), {});
    QVERIFY(archived);
    QCOMPARE(stored.most(), 300);
  }

  // ITU-R BT.2100-2, table 4, evaluated; the points at 0, 100 and 10000 cd/m2 are in many tables (0.5081 at 100: from
  // memory of BT.2408).
  void pqIsThatOfTheStandard() {
    QVERIFY(std::abs(pqEncode(10000) - 1) < 1e-12);
    QVERIFY(std::abs(pqEncode(100) - 0.5081) < 5e-5);
    QVERIFY(std::abs(pqEncode(203) - 0.5807) < 5e-4); // BT.2408: 58 % for diffuse white
    QVERIFY(std::abs(pqEncode(1000) - 0.7518) < 5e-5);
    QVERIFY(pqEncode(0) < 1e-6);
    for (double nits = 0.01; nits < 10000; nits *= 1.7) QVERIFY(std::abs(pqDecode(pqEncode(nits)) / nits - 1) < 1e-9);
  }

  // SMPTE RP 177 from the primaries; the sRGB matrix is printed in IEC 61966-2-1, that of opRGB in IEC 61966-2-5 (from
  // memory).
  void matricesFollowFromPrimaries() {
    const Matrix3 srgb = toXyz(primariesOf(ColourSpace::Srgb));
    for (std::size_t i = 0; i < 9; ++i) QVERIFY(std::abs(srgb[i] - kRec709ToXyz[i]) < 5e-4);
    const double opRgb[9] = {0.5767, 0.1856, 0.1882, 0.2973, 0.6274, 0.0753, 0.0270, 0.0707, 0.9911};
    const Matrix3 op = toXyz(primariesOf(ColourSpace::OpRgb));
    for (std::size_t i = 0; i < 9; ++i) QVERIFY(std::abs(op[i] - opRgb[i]) < 5e-4);
    for (const auto space : {ColourSpace::Srgb, ColourSpace::DisplayP3, ColourSpace::OpRgb}) { // white stays white
      const auto white = apply(rec709To(space), {1, 1, 1});
      for (const double v : white) QVERIFY(std::abs(v - 1) < 1e-9);
    }
    const auto red = apply(rec709To(ColourSpace::DisplayP3), {1, 0, 0}); // inside the wider gamut
    QVERIFY(red[0] < 0.9 && red[1] > 0 && red[2] > 0);
  }

  // The measure itself: Sharma, Wu and Dalal, Color Research and Application 30 (2005), table 1 (values from memory;
  // Little CMS computes them by its own code, so that a slip in either would show).
  void colourDifferencesFollowThePublishedTable() {
    struct Row {
      cmsCIELab a, b;
      double difference;
    };
    const Row table[] = {{{50, 2.6772, -79.7751}, {50, 0, -82.7485}, 2.0425},
                         {{50, 3.1571, -77.2803}, {50, 0, -82.7485}, 2.8615},
                         {{50, 2.8361, -74.0200}, {50, 0, -82.7485}, 3.4412},
                         {{50, -1.3802, -84.2814}, {50, 0, -82.7485}, 1.0000},
                         {{50, -1.1848, -84.8006}, {50, 0, -82.7485}, 1.0000},
                         {{50, -0.9009, -85.5211}, {50, 0, -82.7485}, 1.0000},
                         {{50, 0, 0}, {50, -1, 2}, 2.3669},
                         {{50, -1, 2}, {50, 0, 0}, 2.3669},
                         {{50, 2.4900, -0.0010}, {50, -2.4900, 0.0009}, 7.1792},
                         {{50, 2.4900, -0.0010}, {50, -2.4900, 0.0010}, 7.1792},
                         {{50, 2.4900, -0.0010}, {50, -2.4900, 0.0011}, 7.2195},
                         {{50, 2.4900, -0.0010}, {50, -2.4900, 0.0012}, 7.2195},
                         {{50, -0.0010, 2.4900}, {50, 0.0009, -2.4900}, 4.8045},
                         {{50, -0.0010, 2.4900}, {50, 0.0010, -2.4900}, 4.8045},
                         {{50, -0.0010, 2.4900}, {50, 0.0011, -2.4900}, 4.7461},
                         {{50, 2.5, 0}, {50, 0, -2.5}, 4.3065},
                         {{50, 2.5, 0}, {73, 25, -18}, 27.1492},
                         {{50, 2.5, 0}, {61, -5, 29}, 22.8977},
                         {{50, 2.5, 0}, {56, -27, -3}, 31.9030},
                         {{50, 2.5, 0}, {58, 24, 15}, 19.4535},
                         {{50, 2.5, 0}, {50, 3.1736, 0.5854}, 1.0000},
                         {{50, 2.5, 0}, {50, 3.2972, 0}, 1.0000},
                         {{50, 2.5, 0}, {50, 1.8634, 0.5757}, 1.0000},
                         {{50, 2.5, 0}, {50, 3.2592, 0.3350}, 1.0000},
                         {{60.2574, -34.0099, 36.2677}, {60.4626, -34.1751, 39.4387}, 1.2644},
                         {{63.0109, -31.0961, -5.8663}, {62.8187, -29.7946, -4.0864}, 1.2630},
                         {{61.2901, 3.7196, -5.3901}, {61.4292, 2.2480, -4.9620}, 1.8731},
                         {{35.0831, -44.1164, 3.7933}, {35.0232, -40.0716, 1.5901}, 1.8645},
                         {{22.7233, 20.0904, -46.6940}, {23.0331, 14.9730, -42.5619}, 2.0373},
                         {{36.4612, 47.8580, 18.3852}, {36.2715, 50.5065, 21.2231}, 1.4146},
                         {{90.8027, -2.0831, 1.4410}, {91.1528, -1.6435, 0.0447}, 1.4441},
                         {{90.9257, -0.5406, -0.9208}, {88.6381, -0.8985, -0.7239}, 1.5381},
                         {{6.7747, -0.2908, -2.4247}, {5.8714, -0.0985, -2.2286}, 0.6377},
                         {{2.0776, 0.0795, -1.1350}, {0.9033, -0.0636, -0.5514}, 0.9082}};
    QCOMPARE(std::size(table), std::size_t(34));
    for (const Row& row : table) {
      const double found = cmsCIE2000DeltaE(&row.a, &row.b, 1, 1, 1);
      QVERIFY2(std::abs(found - row.difference) < 1e-4,
               qPrintable(QString("%1 for %2").arg(found).arg(row.difference)));
    }
  }

  // Little CMS as the judge: what our codes mean by the profile we embed is what the sRGB codes mean by its own sRGB.
  void profilesMeanWhatWeEncode_data() {
    QTest::addColumn<int>("space");
    QTest::newRow("Display P3") << int(ColourSpace::DisplayP3);
    QTest::newRow("opRGB") << int(ColourSpace::OpRgb);
  }
  void profilesMeanWhatWeEncode() {
    QFETCH(int, space);
    const auto bytes = profileOf(ColourSpace(space));
    cmsHPROFILE ours = cmsOpenProfileFromMem(bytes.data(), cmsUInt32Number(bytes.size())),
                srgb = cmsCreate_sRGBProfile(), lab = cmsCreateLab4Profile(nullptr);
    cmsHTRANSFORM fromOurs =
        cmsCreateTransform(ours, TYPE_RGB_DBL, lab, TYPE_Lab_DBL, INTENT_RELATIVE_COLORIMETRIC, cmsFLAGS_NOOPTIMIZE);
    cmsHTRANSFORM fromSrgb =
        cmsCreateTransform(srgb, TYPE_RGB_DBL, lab, TYPE_Lab_DBL, INTENT_RELATIVE_COLORIMETRIC, cmsFLAGS_NOOPTIMIZE);
    for (const auto& c :
         {std::array{0.2, 0.5, 0.8}, {0.9, 0.1, 0.1}, {0.5, 0.5, 0.5}, {0.02, 0.03, 0.01}, {1.0, 1.0, 0.0}}) {
      const auto linear = apply(rec709To(ColourSpace(space)), {srgbDecode(c[0]), srgbDecode(c[1]), srgbDecode(c[2])});
      const double encoded[3] = {encodeFor(ColourSpace(space), linear[0]), encodeFor(ColourSpace(space), linear[1]),
                                 encodeFor(ColourSpace(space), linear[2])};
      cmsCIELab a, b;
      cmsDoTransform(fromOurs, encoded, &a, 1);
      cmsDoTransform(fromSrgb, c.data(), &b, 1);
      const double difference = cmsCIE2000DeltaE(&a, &b, 1, 1, 1);
      QVERIFY2(difference < 0.35, qPrintable(QString::number(difference)));
    }
    cmsDeleteTransform(fromOurs), cmsDeleteTransform(fromSrgb);
    cmsCloseProfile(ours), cmsCloseProfile(srgb), cmsCloseProfile(lab);
  }

  void everyTargetIsWrittenAndReadByOthers() {
    QTemporaryDir dir;
    const Image<float> scene = test::texturedScene(320, 200, 9);
    const auto shot = test::shootScene(test::texturedScene(96, 64, 6), test::exposedAt({7}), FrameFormat::Jpeg,
                                       test::pathOf(dir) / "frames");
    DeliverRequest r = request(dir, {"jpeg", "web", "print", "archive", "hdr-avif", "hdr-jxl"});
    r.targets[1].longEdge = 160;
    r.metadataFrom = shot.files[0];
    r.wishes.creator = "A photographer", r.wishes.rights = "All rights reserved";
    const auto done = deliverView(scene.view(), r, {});
    QVERIFY2(done, done ? "" : done.error().message.c_str());
    QCOMPARE(done->files.size(), std::size_t(6));
    QCOMPARE(QString::fromStdString(done->files[1].filename().string()), QString("Reading room-web.jpg"));
    const cv::Mat web = cv::imread(done->files[1].string());
    QCOMPARE(std::max(web.cols, web.rows), 160);
    QVERIFY(std::filesystem::file_size(done->files[1]) < 1500 * 1000);
    // libtiff: 16 bits, the profile, the resolution.
    TIFF* tiff = TIFFOpen(done->files[2].c_str(), "r");
    std::uint16_t bits = 0;
    float ppi = 0;
    std::uint32_t size = 0;
    void* icc = nullptr;
    TIFFGetField(tiff, TIFFTAG_BITSPERSAMPLE, &bits);
    TIFFGetField(tiff, TIFFTAG_XRESOLUTION, &ppi);
    QCOMPARE(bits, 16);
    QCOMPARE(ppi, 300.f);
    QVERIFY(TIFFGetField(tiff, TIFFTAG_ICCPROFILE, &size, &icc) && size == profileOf(ColourSpace::OpRgb).size());
    TIFFClose(tiff);
    for (const std::size_t i : {0, 2}) {
      auto opened = Exiv2::ImageFactory::open(done->files[i].string());
      opened->readMetadata();
      QCOMPARE(QString::fromStdString(opened->exifData()["Exif.Image.Artist"].toString()), QString("A photographer"));
      QVERIFY(!opened->exifData()["Exif.Photo.DateTimeOriginal"].toString().empty());
    }
    // libavif and libjxl: BT.2020 primaries and PQ (9 and 16 of ITU-T H.273), highlights above paper white.
    for (const std::size_t i : {4, 5}) {
      const auto hdr = i == 4 ? readAvif(done->files[i]) : readJxl(done->files[i]);
      QVERIFY2(hdr, hdr ? "" : hdr.error().message.c_str());
      QCOMPARE(hdr->primaries, 9);
      QCOMPARE(hdr->transfer, 16);
      const double brightest =
          pqDecode(*std::max_element(hdr->signal.data(), hdr->signal.data() + hdr->signal.size()) / 65535.0);
      QVERIFY2(brightest > 400 && brightest < 1150, qPrintable(QString::number(brightest)));
    }
    avifDecoder* decoder = avifDecoderCreate();
    QCOMPARE(avifDecoderSetIOFile(decoder, done->files[4].c_str()), AVIF_RESULT_OK);
    QCOMPARE(avifDecoderParse(decoder), AVIF_RESULT_OK);
    QCOMPARE(decoder->image->depth, 10u);
    QCOMPARE(decoder->image->yuvFormat, AVIF_PIXEL_FORMAT_YUV444);
    QVERIFY(decoder->image->exif.size > 0);
    const auto jxl = bytesOf(done->files[5]); // its box is not packed (ISO/IEC 18181-2)
    QVERIFY(std::string(jxl.begin(), jxl.end()).find("A photographer") != std::string::npos);
    avifDecoderDestroy(decoder);
  }

  // The pixels of a print file, read through its own profile by Little CMS, are the colours of the sRGB picture.
  void coloursOfAPrintFileAreThoseOfThePicture() {
    QTemporaryDir dir;
    Image<std::uint16_t> picture(64, 32, 3);
    const std::uint16_t patches[4][3] = {
        {9000, 40000, 12000}, {52000, 20000, 9000}, {12000, 20000, 50000}, {30000, 30000, 30000}};
    for (int y = 0; y < 32; ++y)
      for (int x = 0; x < 64; ++x) std::copy_n(patches[x / 16], 3, picture.at(x, y));
    Material material;
    material.picture = std::as_const(picture).view();
    const auto file = test::pathOf(dir) / "print.tif";
    Target print = *findTarget("print");
    print.sharpening = 0;
    const auto done = deliverTarget(material, print, file, {});
    QVERIFY2(done, done ? "" : done.error().message.c_str());
    const cv::Mat read = cv::imread(file.string(), cv::IMREAD_UNCHANGED);
    QCOMPARE(read.depth(), CV_16U);
    const auto bytes = profileOf(print.space);
    cmsHPROFILE theirs = cmsOpenProfileFromMem(bytes.data(), cmsUInt32Number(bytes.size())),
                srgb = cmsCreate_sRGBProfile(), lab = cmsCreateLab4Profile(nullptr);
    cmsHTRANSFORM ofFile = cmsCreateTransform(theirs, TYPE_RGB_DBL, lab, TYPE_Lab_DBL, INTENT_RELATIVE_COLORIMETRIC, 0),
                  ofPicture =
                      cmsCreateTransform(srgb, TYPE_RGB_DBL, lab, TYPE_Lab_DBL, INTENT_RELATIVE_COLORIMETRIC, 0);
    for (int k = 0; k < 4; ++k) {
      const auto bgr = read.at<cv::Vec3w>(16, 8 + 16 * k);
      const double is[3] = {bgr[2] / 65535.0, bgr[1] / 65535.0, bgr[0] / 65535.0},
                   meant[3] = {patches[k][0] / 65535.0, patches[k][1] / 65535.0, patches[k][2] / 65535.0};
      cmsCIELab a, b;
      cmsDoTransform(ofFile, is, &a, 1);
      cmsDoTransform(ofPicture, meant, &b, 1);
      const double difference = cmsCIE2000DeltaE(&a, &b, 1, 1, 1);
      QVERIFY2(difference < 0.5, qPrintable(QString("patch %1: %2").arg(k).arg(difference)));
    }
    cmsDeleteTransform(ofFile), cmsDeleteTransform(ofPicture);
    cmsCloseProfile(theirs), cmsCloseProfile(srgb), cmsCloseProfile(lab);
  }

  // Sharpening after reducing steepens an edge and overshoots it by no more than 0.08 of the square root of light.
  void sharpeningOvershootsLittle() {
    QTemporaryDir dir;
    const std::uint16_t dark = 20000, bright = 42000;
    Image<std::uint16_t> picture(64, 32, 3);
    for (int y = 0; y < 32; ++y)
      for (int x = 0; x < 64; ++x) std::fill_n(picture.at(x, y), 3, x < 32 ? dark : bright);
    Material material;
    material.picture = std::as_const(picture).view();
    Target target;
    target.id = "test";
    target.format = Target::Format::Png;
    target.sharpening = 1;
    const auto file = test::pathOf(dir) / "sharp.png";
    QVERIFY(deliverTarget(material, target, file, {}).has_value());
    const cv::Mat read = cv::imread(file.string(), cv::IMREAD_UNCHANGED);
    const auto rootOf = [](int code) { return std::sqrt(srgbDecode(code / 65535.0)); };
    double least = 1, most = 0;
    for (int x = 0; x < 64; ++x) {
      const double root = rootOf(read.at<cv::Vec3w>(16, x)[1]);
      least = std::min(least, root), most = std::max(most, root);
    }
    QVERIFY2(most - rootOf(bright) > 0.01 && most - rootOf(bright) < 0.082,
             qPrintable(QString::number(most - rootOf(bright))));
    QVERIFY2(rootOf(dark) - least > 0.01 && rootOf(dark) - least < 0.082,
             qPrintable(QString::number(rootOf(dark) - least)));
  }

  void locationsAreRemovedWhenAsked() {
    QTemporaryDir dir;
    const auto shot = test::shootScene(test::texturedScene(96, 64, 6), test::exposedAt({7}), FrameFormat::Jpeg,
                                       test::pathOf(dir) / "frames");
    {
      auto image = Exiv2::ImageFactory::open(shot.files[0].string());
      image->readMetadata();
      image->exifData()["Exif.GPSInfo.GPSLatitudeRef"] = "N";
      image->exifData()["Exif.GPSInfo.GPSLatitude"] = "10/1 20/1 30/1";
      image->exifData()["Exif.GPSInfo.GPSLongitudeRef"] = "E";
      image->exifData()["Exif.GPSInfo.GPSLongitude"] = "20/1 1/1 2/1";
      image->exifData()["Exif.GPSInfo.GPSAltitude"] = "431/1";
      image->exifData()["Exif.GPSInfo.GPSDateStamp"] = "2026:05:14";
      image->xmpData()["Xmp.exif.GPSLongitude"] = "20,1,2E";
      image->xmpData()["Xmp.iptc.Location"] = "Marl Quay";
      image->iptcData()["Iptc.Application2.City"] = "Marl Quay";
      image->iptcData()["Iptc.Application2.CountryName"] = "Nowhere";
      image->writeMetadata();
    }
    for (const bool keep : {true, false}) {
      DeliverRequest r = request(dir, {"jpeg", "hdr-avif"});
      r.metadataFrom = shot.files[0];
      r.wishes.keepLocation = keep;
      const auto done = deliverView(test::texturedScene(120, 80, 6).view(), r, {});
      QVERIFY(done);
      auto opened = Exiv2::ImageFactory::open(done->files[0].string());
      opened->readMetadata();
      QCOMPARE(opened->exifData().findKey(Exiv2::ExifKey("Exif.GPSInfo.GPSLatitude")) != opened->exifData().end(),
               keep);
      if (keep) continue;
      for (const auto& datum : opened->exifData())
        QVERIFY2(datum.groupName() != "GPSInfo" && datum.key() != "Exif.Image.GPSTag", datum.key().c_str());
      for (const auto& datum : opened->xmpData())
        QVERIFY2(datum.key().find("GPS") == std::string::npos && datum.tagName() != "Location", datum.key().c_str());
      for (const auto& datum : opened->iptcData())
        QVERIFY2(datum.tagName() != "City" && datum.tagName() != "CountryName", datum.key().c_str());
    }
  }

  // PQ (SMPTE ST 2084) codes reach 10,000 cd/m2, and the file says so; read by the format's own library.
  void jpegXlSaysHowBrightItsCodesAre() {
    QTemporaryDir dir;
    const auto done = deliverView(test::texturedScene(96, 64, 8).view(), request(dir, {"hdr-jxl"}), {});
    QVERIFY(done);
    const auto bytes = bytesOf(done->files[0]);
    JxlDecoder* decoder = JxlDecoderCreate(nullptr);
    QCOMPARE(JxlDecoderSubscribeEvents(decoder, JXL_DEC_BASIC_INFO), JXL_DEC_SUCCESS);
    QCOMPARE(JxlDecoderSetInput(decoder, bytes.data(), bytes.size()), JXL_DEC_SUCCESS);
    QCOMPARE(JxlDecoderProcessInput(decoder), JXL_DEC_BASIC_INFO);
    JxlBasicInfo info;
    QCOMPARE(JxlDecoderGetBasicInfo(decoder, &info), JXL_DEC_SUCCESS);
    QCOMPARE(info.intensity_target, 10000.f);
    JxlDecoderDestroy(decoder);
  }

  void fileSizesAreKept() {
    QTemporaryDir dir;
    DeliverRequest r = request(dir, {"jpeg"});
    const Image<float> scene = test::texturedScene(600, 400, 10);
    const auto large = deliverView(scene.view(), r, {});
    QVERIFY(large);
    const auto size = std::filesystem::file_size(large->files[0]);
    r.targets[0].mostKilobytes = int(size / 1000 * 6 / 10);
    const auto small = deliverView(scene.view(), r, {});
    QVERIFY2(small, small ? "" : small.error().message.c_str());
    QVERIFY(small->files[0] != large->files[0]); // nothing is overwritten
    QVERIFY(std::filesystem::file_size(small->files[0]) <= std::uintmax_t(r.targets[0].mostKilobytes) * 1000);
    // The next better quality would not have fitted.
    const auto limit = std::uintmax_t(r.targets[0].mostKilobytes) * 1000,
               is = std::filesystem::file_size(small->files[0]);
    r.targets[0].mostKilobytes = 100000;
    std::uintmax_t next = std::numeric_limits<std::uintmax_t>::max();
    int low = 40, high = 92; // what `low` gives is no larger than what was written, what `high` gives is
    while (high - low > 1) {
      r.targets[0].quality = (low + high) / 2;
      const auto made = deliverView(scene.view(), r, {});
      QVERIFY(made);
      const auto bytes = std::filesystem::file_size(made->files[0]);
      (bytes <= is ? low : high) = r.targets[0].quality;
      if (bytes > is) next = bytes;
    }
    QVERIFY2(next > limit,
             qPrintable(QString("%1 would fit into %2, and %3 was written").arg(next).arg(limit).arg(is)));
    r.targets[0].mostKilobytes = 2;
    const auto tooSmall = deliverView(scene.view(), r, {});
    QVERIFY(!tooSmall && tooSmall.error().code == ErrorCode::CannotWrite);
  }

  void namesFollowTheirPattern() {
    NameFacts f{"Marl Quay", "Boat / hall", "2026-11-26", 7, 6000, 4000};
    const Target& web = *findTarget("web");
    QCOMPARE(QString::fromStdString(*fileName("{number}-{view}{target}", f, web)), QString("07-Boat - hall-web"));
    QCOMPARE(QString::fromStdString(*fileName("{job} {date} {width}", f, web)), QString("Marl Quay 2026-11-26 6000"));
    QVERIFY(!fileName("{colour}", f, web));
    QVERIFY(!fileName("..", f, web));
    QCOMPARE(QString::fromStdString(sizeWords(*findTarget("print"), 6000, 4000)),
             QString("6000 x 4000 pixels, 50.8 x 33.9 cm at 300 ppi"));
  }

  void theSameRecipeGivesTheSameBits() {
    QTemporaryDir dir;
    const Image<float> scene = test::texturedScene(400, 260, 10);
    DeliverRequest r = request(dir, {"jpeg", "print"});
    r.recipe.hues = {{40, 30, -0.2, 0.1}};
    r.recipe.geometry.pitch = 3;
    const auto once = deliverView(scene.view(), r, {});
    r.recipe = *recipeFromJson(toJson(r.recipe)); // as after reopening
    const std::time_t began = std::time(nullptr);
    QTRY_VERIFY(std::time(nullptr) > began); // a date of making anywhere would differ
    const auto again = deliverView(scene.view(), r, {});
    QVERIFY(once && again);
    for (std::size_t i = 0; i < 2; ++i) QCOMPARE(bytesOf(once->files[i]), bytesOf(again->files[i]));
  }

  void damagedHdrFilesAreErrors() {
    QTemporaryDir dir;
    const auto done = deliverView(test::texturedScene(200, 140, 8).view(), request(dir, {"hdr-avif", "hdr-jxl"}), {});
    QVERIFY(done);
    for (const auto& file : done->files) {
      const auto bytes = bytesOf(file);
      for (const std::size_t keep : {std::size_t(0), std::size_t(20), bytes.size() / 2, bytes.size() - 30}) {
        const auto cut = test::pathOf(dir) / ("cut" + file.extension().string());
        std::ofstream(cut, std::ios::binary).write(reinterpret_cast<const char*>(bytes.data()), std::streamsize(keep));
        const auto read = file.extension() == ".avif" ? readAvif(cut) : readJxl(cut);
        QVERIFY(!read && read.error().code == ErrorCode::FileUnreadable);
      }
    }
  }

  void losslessJpegXlIsExact() {
    QTemporaryDir dir;
    Image<std::uint16_t> signal(64, 48, 3);
    for (std::size_t i = 0; i < signal.size(); ++i) signal.data()[i] = std::uint16_t((i * 2654435761u) >> 16);
    const auto file = test::pathOf(dir) / "exact.jxl";
    QVERIFY(writeJxlPq(file, std::as_const(signal).view(), 0, {}));
    const auto back = readJxl(file);
    QVERIFY(back);
    QVERIFY(std::equal(signal.data(), signal.data() + signal.size(), back->signal.data()));
  }

  void stoppingLeavesNothingHalfWritten() {
    QTemporaryDir dir;
    StopFlag stop;
    stop.request();
    const auto done =
        deliverView(test::texturedScene(300, 200, 8).view(), request(dir, {"jpeg", "archive"}), Progress{stop, {}});
    QVERIFY(!done && done.error().code == ErrorCode::Stopped);
    QVERIFY(std::filesystem::is_empty(test::pathOf(dir)));
  }
};

QTEST_GUILESS_MAIN(TestTargets)
#include "test_targets.moc"
