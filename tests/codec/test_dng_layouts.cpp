// SPDX-License-Identifier: GPL-3.0-or-later
// The same photosites laid into a DNG (specification 1.4) as different cameras and converters do: what is read of them
// is the same.
#include "codec/raw_file.h"
#include "ingest/load_frame.h"
#include "zoo/lossless_jpeg.h"
#include "zoo/random.h"

#include <QTemporaryDir>
#include <QTest>
#include <tiffio.h>

using namespace ml;

namespace {

constexpr int kWidth = 212, kHeight = 150, kBlack = 256, kWhite = 4000; // 12 bits

struct Kind {
  bool preview = false;  ///< The first picture is a small one, the mosaic lies behind it (SubIFDs).
  int bits = 16;         ///< 12: packed without gaps.
  bool jpeg = false;     ///< Lossless, in one strip.
  int left = 0, top = 0; ///< Masked photosites around what is seen (ActiveArea).
  int crop = 0;          ///< Seen photosites that are there for demosaicing only (DefaultCropOrigin).
};

Image<std::uint16_t> seen() {
  zoo::Random random(11);
  Image<std::uint16_t> out(kWidth, kHeight, 1);
  for (int y = 0; y < kHeight; ++y)
    for (int x = 0; x < kWidth; ++x) {
      const int colour = (x & 1) + (y & 1); // 0 red, 1 green, 2 blue
      out.row(y)[x] = std::uint16_t(kBlack + (colour == 1 ? 900 : 500) + 8 * x + 5 * y + random.whole(-20, 20));
    }
  return out;
}

Image<std::uint16_t> sensor(const Kind& kind) {
  const Image<std::uint16_t> inside = seen();
  Image<std::uint16_t> all(kWidth + kind.left, kHeight + kind.top, 1);
  all.fill(kBlack);
  for (int y = 0; y < kHeight; ++y) std::copy_n(inside.row(y), kWidth, all.at(kind.left, kind.top + y));
  return all;
}

void colourTags(TIFF* t) {
  const std::uint8_t version[] = {1, 4, 0, 0}, backward[] = {1, 1, 0, 0};
  const float matrix[] = {3.2404542f, -1.5371385f, -0.4985314f, -0.9692660f, 1.8760108f,
                          0.0415560f, 0.0556434f,  -0.2040259f, 1.0572252f}; // IEC 61966-2-1
  const float neutral[] = {0.6f, 1, 0.7f};
  TIFFSetField(t, TIFFTAG_DNGVERSION, version);
  TIFFSetField(t, TIFFTAG_DNGBACKWARDVERSION, backward);
  TIFFSetField(t, TIFFTAG_UNIQUECAMERAMODEL, "Layout");
  TIFFSetField(t, TIFFTAG_COLORMATRIX1, 9, matrix);
  TIFFSetField(t, TIFFTAG_ASSHOTNEUTRAL, 3, neutral);
  TIFFSetField(t, TIFFTAG_CALIBRATIONILLUMINANT1, 21);
  TIFFSetField(t, TIFFTAG_MAKE, "Zoo");
  TIFFSetField(t, TIFFTAG_MODEL, "Layout");
}

void writePreview(TIFF* t) {
  TIFFSetField(t, TIFFTAG_SUBFILETYPE, 1);
  TIFFSetField(t, TIFFTAG_IMAGEWIDTH, 32);
  TIFFSetField(t, TIFFTAG_IMAGELENGTH, 24);
  TIFFSetField(t, TIFFTAG_BITSPERSAMPLE, 8);
  TIFFSetField(t, TIFFTAG_SAMPLESPERPIXEL, 3);
  TIFFSetField(t, TIFFTAG_PHOTOMETRIC, PHOTOMETRIC_RGB);
  TIFFSetField(t, TIFFTAG_PLANARCONFIG, PLANARCONFIG_CONTIG);
  std::uint64_t none[1] = {0};
  TIFFSetField(t, TIFFTAG_SUBIFD, 1, none);
  colourTags(t);
  std::vector<std::uint8_t> row(3 * 32, 90);
  for (std::uint32_t y = 0; y < 24; ++y) TIFFWriteScanline(t, row.data(), y);
  TIFFWriteDirectory(t);
}

/// 12 bits each, the first in the upper bits (TIFF 6.0).
std::vector<std::uint8_t> packed(const Image<std::uint16_t>& mosaic) {
  std::vector<std::uint8_t> out;
  for (int y = 0; y < mosaic.height(); ++y)
    for (int x = 0; x < mosaic.width(); x += 2) {
      const unsigned a = mosaic.row(y)[x], b = mosaic.row(y)[x + 1];
      for (const unsigned v : {a >> 4, (a << 4 | b >> 8) & 0xff, b & 0xff}) out.push_back(std::uint8_t(v));
    }
  return out;
}

void write(const std::filesystem::path& file, const Kind& kind) {
  const Image<std::uint16_t> mosaic = sensor(kind);
  const int w = mosaic.width(), h = mosaic.height();
  TIFF* t = TIFFOpen(file.c_str(), "w");
  if (kind.preview) writePreview(t);
  const std::uint16_t two[] = {2, 2};
  const std::uint8_t pattern[] = {0, 1, 1, 2};
  const float black[] = {kBlack};
  const std::uint32_t white[] = {kWhite};
  const std::uint32_t active[] = {std::uint32_t(kind.top), std::uint32_t(kind.left), std::uint32_t(h),
                                  std::uint32_t(w)};
  const float origin[] = {float(kind.crop), float(kind.crop)},
              size[] = {float(kWidth - 2 * kind.crop), float(kHeight - 2 * kind.crop)};
  TIFFSetField(t, TIFFTAG_SUBFILETYPE, 0);
  TIFFSetField(t, TIFFTAG_IMAGEWIDTH, w);
  TIFFSetField(t, TIFFTAG_IMAGELENGTH, h);
  TIFFSetField(t, TIFFTAG_BITSPERSAMPLE, kind.bits);
  TIFFSetField(t, TIFFTAG_SAMPLESPERPIXEL, 1);
  TIFFSetField(t, TIFFTAG_COMPRESSION, kind.jpeg ? COMPRESSION_JPEG : COMPRESSION_NONE);
  TIFFSetField(t, TIFFTAG_PHOTOMETRIC, 32803); // CFA (TIFF/EP)
  TIFFSetField(t, TIFFTAG_PLANARCONFIG, PLANARCONFIG_CONTIG);
  TIFFSetField(t, TIFFTAG_ROWSPERSTRIP, h);
  TIFFSetField(t, TIFFTAG_CFAREPEATPATTERNDIM, two);
  TIFFSetField(t, TIFFTAG_CFAPATTERN, 4, pattern);
  TIFFSetField(t, TIFFTAG_BLACKLEVEL, 1, black);
  TIFFSetField(t, TIFFTAG_WHITELEVEL, 1, white);
  if (kind.left + kind.top > 0) TIFFSetField(t, TIFFTAG_ACTIVEAREA, active);
  if (kind.crop > 0) TIFFSetField(t, TIFFTAG_DEFAULTCROPORIGIN, origin), TIFFSetField(t, TIFFTAG_DEFAULTCROPSIZE, size);
  if (!kind.preview) colourTags(t);
  std::vector<std::uint8_t> bytes;
  if (kind.jpeg)
    bytes = zoo::losslessJpeg({mosaic.data(), w, w, h}, w, h, {2, 1});
  else if (kind.bits == 12)
    bytes = packed(mosaic);
  else
    bytes.assign(reinterpret_cast<const std::uint8_t*>(mosaic.data()),
                 reinterpret_cast<const std::uint8_t*>(mosaic.data() + mosaic.size()));
  TIFFWriteRawStrip(t, 0, bytes.data(), tmsize_t(bytes.size()));
  TIFFClose(t);
}

} // namespace

class TestDngLayouts : public QObject {
  Q_OBJECT

private slots:
  void theSamePictureComesOut_data() {
    QTest::addColumn<bool>("preview");
    QTest::addColumn<int>("bits");
    QTest::addColumn<bool>("jpeg");
    QTest::addColumn<int>("left");
    QTest::addColumn<int>("top");
    QTest::addColumn<int>("crop");
    for (const bool preview : {false, true})
      for (const int form : {0, 1, 2})
        for (const auto& [left, top] : {std::pair{0, 0}, {40, 0}, {6, 10}, {16, 12}})
          for (const int crop : {0, 5, 8})
            QTest::addRow("%s, %s, %d and %d masked, %d cropped", preview ? "behind a preview" : "alone",
                          form == 0   ? "16 bits"
                          : form == 1 ? "12 bits packed"
                                      : "lossless JPEG",
                          left, top, crop)
                << preview << (form == 1 ? 12 : 16) << (form == 2) << left << top << crop;
  }
  void theSamePictureComesOut() {
    QFETCH(bool, preview);
    QFETCH(int, bits);
    QFETCH(bool, jpeg);
    QFETCH(int, left);
    QFETCH(int, top);
    QFETCH(int, crop);
    const Kind kind{preview, bits, jpeg, left, top, crop};
    QTemporaryDir dir;
    const std::filesystem::path plain = dir.filePath("plain.dng").toStdString(),
                                other = dir.filePath("other.dng").toStdString();
    write(plain, {});
    write(other, kind);
    const auto expected = readRaw(plain), found = readRaw(other);
    QVERIFY(expected.has_value());
    QVERIFY2(found.has_value(), found ? "" : found.error().message.c_str());
    QCOMPARE(found->pixels.width(), kWidth - 2 * crop);
    QCOMPARE(found->pixels.height(), kHeight - 2 * crop);
    for (std::size_t k = 0; k < 4; ++k) // an odd crop begins with blue
      QCOMPARE(found->pattern[k], expected->pattern[crop % 2 ? 3 - k : k]);
    for (int y = 0; y < found->pixels.height(); ++y)
      for (int x = 0; x < found->pixels.width(); ++x)
        QCOMPARE(int(*found->pixels.at(x, y)), int(*expected->pixels.at(x + crop, y + crop)));
    for (std::size_t i = 0; i < 9; ++i) QCOMPARE(found->toRec709[i], expected->toRec709[i]);
  }
};

QTEST_GUILESS_MAIN(TestDngLayouts)
#include "test_dng_layouts.moc"
