// SPDX-License-Identifier: GPL-3.0-or-later
// A JPEG with the light of bright screens behind it: what other programs read of it (exiftool, libjpeg by OpenCV,
// Chromium), and damaged ones.
#include "codec/gain_map.h"
#include "codec/gain_map_blocks.h"
#include "codec/jpeg.h"
#include "finish/finish.h"
#include "image/colour.h"
#include "pipeline/deliver_view.h"
#include "support/scenes.h"

#include <QFile>
#include <QProcess>
#include <QStandardPaths>
#include <QTemporaryDir>
#include <QTest>
#include <cmath>
#include <fstream>
#include <opencv2/imgcodecs.hpp>

using namespace ml;

namespace {

constexpr int kFields = 8;
using Fields = std::vector<double>;

Fields fieldsOf(ImageView<const float> light) {
  Fields out;
  for (int j = 0; j < kFields; ++j)
    for (int i = 0; i < kFields; ++i)
      for (int c = 0; c < 3; ++c) {
        double sum = 0;
        int n = 0;
        for (int y = light.height * j / kFields; y < light.height * (j + 1) / kFields; ++y)
          for (int x = light.width * i / kFields; x < light.width * (i + 1) / kFields; ++x, ++n)
            sum += light.at(x, y)[c];
        out.push_back(sum / n);
      }
  return out;
}

/// The largest departure, as a share, of fields that are not next to black.
double worst(const Fields& found, const Fields& meant) {
  double most = found.size() == meant.size() ? 0 : 1e9;
  for (std::size_t i = 0; i < std::min(found.size(), meant.size()); ++i)
    most = std::max(most, std::abs(found[i] - meant[i]) / std::max(meant[i], 0.02));
  return most;
}

std::vector<unsigned char> bytesIn(const std::filesystem::path& file) {
  std::ifstream in(file, std::ios::binary);
  return {std::istreambuf_iterator<char>(in), {}};
}

void write(const std::filesystem::path& file, const std::vector<unsigned char>& bytes) {
  std::ofstream(file, std::ios::binary)
      .write(reinterpret_cast<const char*>(bytes.data()), std::streamsize(bytes.size()));
}

QString printed(const QString& program, const QStringList& arguments) {
  QProcess process;
  process.start(program, arguments);
  return process.waitForFinished(120000) ? QString::fromUtf8(process.readAllStandardOutput()) : QString();
}

} // namespace

class TestGainMap : public QObject {
  Q_OBJECT

  QTemporaryDir dir_;
  std::filesystem::path file_;
  Image<float> bright_, paper_; ///< Our finish for a screen with all the headroom, and with none.

private slots:
  void initTestCase() {
    const Image<float> scene = test::texturedScene(320, 200, 9);
    DeliverRequest r;
    r.targets = {*findTarget("hdr-jpeg")};
    r.folder = test::pathOf(dir_);
    r.name.view = "Reading room";
    const auto done = deliverView(scene.view(), r, {});
    QVERIFY2(done, done ? "" : done.error().message.c_str());
    file_ = done->files.front();
    QCOMPARE(QString::fromStdString(file_.filename().string()), QString("Reading room-hdr.jpg"));
    const ToneAnalysis analysis = analyseTone(scene.view(), {});
    Finisher finisher(analysis, nullptr);
    bright_ = *finisher.finishLight(scene.view(), {}, kHeadroomStops, {});
    paper_ = *finisher.finishLight(scene.view(), {}, 0, {});
  }

  /// An old program sees the finish, and nothing else.
  void thePictureIsThatOfPaper() {
    const cv::Mat picture = cv::imread(file_.string());
    QCOMPARE(picture.cols, paper_.width());
    Image<float> linear(picture.cols, picture.rows, 3);
    for (int y = 0; y < picture.rows; ++y)
      for (int x = 0; x < picture.cols; ++x)
        for (int c = 0; c < 3; ++c) linear.at(x, y)[c] = float(srgbDecode(picture.at<cv::Vec3b>(y, x)[2 - c] / 255.0));
    const double off = worst(fieldsOf(linear.view()), fieldsOf(paper_.view()));
    QVERIFY2(off < 0.03, qPrintable(QString::number(off)));
  }

  /// A sphere says so beside its gain map (Photo Sphere XMP Metadata), to a reader that is not ours.
  void aSphereSaysSoBesideItsMap() {
    const Image<float> scene = test::texturedScene(256, 128, 6);
    DeliverRequest r;
    r.targets = {*findTarget("hdr-jpeg")};
    r.folder = test::pathOf(dir_);
    r.name.view = "Sphere";
    r.facts.sphere = true;
    const auto done = deliverView(scene.view(), r, {});
    QVERIFY2(done, done ? "" : done.error().message.c_str());
    QVERIFY(readGainMap(done->files.front()));
    const QString said =
        printed("exiftool", {"-a", "-s", "-ProjectionType", "-FullPanoWidthPixels", "-DirectoryItemSemantic",
                             QString::fromStdString(done->files.front().string())});
    if (said.isEmpty()) QSKIP("exiftool is not installed");
    QVERIFY2(said.contains("equirectangular") && said.contains("256") && said.contains("GainMap"), qPrintable(said));
  }

  void readBackItIsTheLight() {
    const auto map = readGainMap(file_);
    QVERIFY2(map, map ? "" : map.error().message.c_str());
    QCOMPARE(map->codes.width(), (bright_.width() + 1) / 2);
    QVERIFY(std::abs(map->headroom - kHeadroomStops) < 1e-5);
    const auto picture = readJpeg(file_);
    Image<std::uint8_t> base(bright_.width(), bright_.height(), 3);
    picture->pixels.visit([&]<class T>(ImageView<const T> view) {
      for (int y = 0; y < view.height; ++y)
        for (int i = 0; i < 3 * view.width; ++i) base.row(y)[i] = std::uint8_t(view.row(y)[i]);
    });
    const double off =
        worst(fieldsOf(lightOf(std::as_const(base).view(), *map, kHeadroomStops).view()), fieldsOf(bright_.view()));
    QVERIFY2(off < 0.03, qPrintable(QString::number(off)));
    QVERIFY(worst(fieldsOf(lightOf(std::as_const(base).view(), *map, 0).view()), fieldsOf(paper_.view())) < 0.03);
  }

  /// Pixel by pixel, where the map is not asked for more than half its size can say.
  void aMapOfSmoothLight() {
    Image<std::uint8_t> base(64, 48, 3);
    Image<float> light(64, 48, 3);
    for (int y = 0; y < 48; ++y)
      for (int x = 0; x < 64; ++x)
        for (int c = 0; c < 3; ++c) {
          base.at(x, y)[c] = std::uint8_t(40 + 3 * x + 5 * c);
          light.at(x, y)[c] = float(srgbDecode(base.at(x, y)[c] / 255.0) * std::exp2(1.8 * y / 47));
        }
    const GainMap map = gainMapOf(base.view(), light.view(), 2);
    const Image<float> back = lightOf(base.view(), map, 2);
    for (int y = 1; y < 47; ++y)
      for (int x = 1; x < 63; ++x)
        for (int c = 0; c < 3; ++c) QVERIFY(std::abs(back.at(x, y)[c] / light.at(x, y)[c] - 1) < 0.02);
  }

  /// exiftool lists both pictures and all fields (ISO 21496-1 has no reader there; its XMP has).
  void exiftoolReadsIt() {
    const QString program = QStandardPaths::findExecutable("exiftool");
    if (program.isEmpty()) QSKIP("exiftool is not installed");
    const QString file = QString::fromStdString(file_.string());
    const QString listed = printed(program, {"-a", "-struct", "-s", file});
    for (const char* field :
         {"NumberOfImages                  : 2", "Baseline MP Primary Image", "Semantic=GainMap", "Semantic=Primary"})
      QVERIFY2(listed.contains(field), qPrintable(QString(field) + "\n" + listed));
    QVERIFY(!listed.contains("Warning"));
    const auto place = secondPicture(bytesIn(file_));
    QVERIFY(place);
    QVERIFY(listed.contains(QString("Length=%1").arg(place->size)));
    QCOMPARE(place->begin + place->size, std::size_t(std::filesystem::file_size(file_)));
    const auto all = bytesIn(file_);
    const auto mapFile = test::pathOf(dir_) / "map.jpg";
    write(mapFile, {all.begin() + std::ptrdiff_t(place->begin), all.end()});
    const QString map = printed(program, {"-s", QString::fromStdString(mapFile.string())});
    for (const char* field : {"GainMapMin", "GainMapMax", "Gamma ", "OffsetSDR", "OffsetHDR", "HDRCapacityMin",
                              "HDRCapacityMax                  : 2.3", "BaseRenditionIsHDR              : False"})
      QVERIFY2(map.contains(field), qPrintable(QString(field) + "\n" + map));
  }

  /// Chromium draws it to a canvas of floats: on paper our finish, with all headroom our light, in between what the
  /// standard says.
  void chromiumShowsIt() {
    const QString program = QStandardPaths::findExecutable("chromium");
    if (program.isEmpty()) QSKIP("chromium is not installed");
    QFile page(dir_.filePath("page.html"));
    QVERIFY(page.open(QIODevice::WriteOnly));
    page.write(R"(<html><body><div id=o></div><script>
const img = new Image(), out = [];
const linear = v => v <= 0.04045 ? v / 12.92 : Math.pow((v + 0.055) / 1.055, 2.4);
img.onload = () => {
  for (const stops of [0, 2, 2.3]) {
    const c = document.createElement('canvas'); c.width = img.width; c.height = img.height;
    const x = c.getContext('2d', {colorType: 'float16', colorSpace: 'srgb'});
    x.globalHDRHeadroom = stops;
    x.drawImage(img, 0, 0);
    const m = [], N = 8, W = c.width, H = c.height;
    const d = x.getImageData(0, 0, W, H, {pixelFormat: 'rgba-float16'}).data;
    for (let j = 0; j < N; ++j) for (let i = 0; i < N; ++i) for (let q = 0; q < 3; ++q) {
      let s = 0, n = 0;
      for (let y = Math.floor(H * j / N); y < Math.floor(H * (j + 1) / N); ++y)
        for (let u = Math.floor(W * i / N); u < Math.floor(W * (i + 1) / N); ++u, ++n)
          s += linear(d[4 * (y * W + u) + q]);
      m.push((s / n).toFixed(6));
    }
    out.push(m.join(' '));
  }
  document.getElementById('o').textContent = out.join('|');
};
img.src = 'Reading room-hdr.jpg';
</script></body></html>)");
    page.close();
    const QString shown =
        printed(program, {"--headless=new", "--no-sandbox", "--disable-gpu", "--allow-file-access-from-files",
                          "--enable-blink-features=CanvasHDR,CanvasGlobalHDRHeadroom", "--virtual-time-budget=20000",
                          "--dump-dom", "--user-data-dir=" + dir_.filePath("chromium"), "file://" + page.fileName()});
    const QStringList parts = shown.section("id=\"o\">", 1).section("</div>", 0, 0).split('|');
    if (parts.size() != 3) QSKIP("this Chromium draws no canvas of floats");
    std::vector<Fields> fields;
    for (const QString& part : parts) {
      fields.emplace_back();
      for (const QString& number : part.split(' ')) fields.back().push_back(number.toDouble());
    }
    const auto map = readGainMap(file_);
    const cv::Mat picture = cv::imread(file_.string());
    Image<std::uint8_t> base(picture.cols, picture.rows, 3);
    for (int y = 0; y < picture.rows; ++y)
      for (int x = 0; x < picture.cols; ++x)
        for (int c = 0; c < 3; ++c) base.at(x, y)[c] = picture.at<cv::Vec3b>(y, x)[2 - c];
    const double paper = worst(fields[0], fieldsOf(paper_.view())), all = worst(fields[2], fieldsOf(bright_.view())),
                 between = worst(fields[1], fieldsOf(lightOf(std::as_const(base).view(), *map, 2).view()));
    QVERIFY2(paper < 0.03 && between < 0.03 && all < 0.03,
             qPrintable(QString("%1 %2 %3").arg(paper).arg(between).arg(all)));
    QVERIFY(worst(fields[2], fields[0]) > 0.1); // it does change
  }

  void damagedOnesAreRefused() {
    const auto whole = bytesIn(file_);
    const auto place = secondPicture(whole);
    const auto file = test::pathOf(dir_) / "damaged.jpg";
    for (const double share : {0.1, 0.6, 0.99}) {
      auto cut = whole;
      cut.resize(place->begin + std::size_t(double(place->size) * share));
      write(file, cut);
      const auto map = readGainMap(file);
      QVERIFY(!map);
      QVERIFY2(QString::fromStdString(map.error().message).contains("damaged.jpg"), map.error().message.c_str());
      QVERIFY(readJpeg(file)); // the picture itself is whole
    }
    auto nonsense = whole;
    for (std::size_t i = place->begin; i < place->begin + 400; ++i) nonsense[i] ^= 0x5a;
    write(file, nonsense);
    QVERIFY(!readGainMap(file));
    write(file, {whole.begin(), whole.begin() + 50});
    QVERIFY(!readGainMap(file));
    QTemporaryDir plain;
    DeliverRequest r;
    r.targets = {*findTarget("jpeg")};
    r.folder = test::pathOf(plain);
    r.name.view = "x";
    const auto done = deliverView(test::texturedScene(64, 48, 3).view(), r, {});
    QCOMPARE(readGainMap(done->files.front()).error().code, ErrorCode::UnsupportedFormat);
  }
};

QTEST_GUILESS_MAIN(TestGainMap)
#include "test_gain_map.moc"
