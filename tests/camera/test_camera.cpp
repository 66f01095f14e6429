// SPDX-License-Identifier: GPL-3.0-or-later
#include "base/parallel.h"
#include "camera/lens_view.h"
#include "camera/photon_noise.h"
#include "codec/exif.h"
#include "exposure/marks.h"
#include "image/colour.h"
#include "plan/sensor_model.h"
#include "session/locations.h"
#include "support/scenes.h"

#include <QTest>
#include <algorithm>
#include <cmath>
#include <map>

using namespace ml;

namespace {

Image<float> flatScene(int width, int height, float light) {
  Image<float> scene(width, height, 3);
  scene.fill(light);
  return scene;
}

} // namespace

class TestCamera : public QObject {
  Q_OBJECT

private slots:
  /// f^2 / (N s) for what is far away when focused at s (Ray, Applied Photographic Optics, ch. 22; the closed form is
  /// from memory): 24 mm, f/4, 2 m on 36 mm and 3000 pixels: 0.072 mm, 6 pixels.
  void whatIsOutOfFocusBecomesADisc() {
    LensView view;
    view.focalMm = 24, view.aperture = FNumber{4}, view.width = 3000, view.height = 2000;
    view.aim.focusMetres = 2;
    QVERIFY(std::abs(view.blurPixels(0) - 6) < 1e-9);
    QVERIFY(std::abs(view.blurPixels(1) - 6) < 1e-9); // as far on the near side, in dioptres
    QCOMPARE(view.blurPixels(0.5), 0.);
    view.aperture = FNumber{8};
    QVERIFY(std::abs(view.blurPixels(0) - 3) < 1e-9);
    view.aim.focusMetres = 0; // everything is sharp
    QCOMPARE(view.blurPixels(3), 0.);
  }

  // A lens spreads light and never takes any away: beside an edge of six stops nothing is darker than the dark side,
  // wherever the camera stands.
  void noLensDrawsABlackLine() {
    Image<float> world(120, 90, 3);
    for (int y = 0; y < world.height(); ++y)
      for (int x = 0; x < world.width(); ++x) std::fill_n(world.at(x, y), 3, x + 2 * y < 130 ? 64.f : 1.f);
    for (const CameraPose pose : {CameraPose{0, 0, 0}, {0.5, 0.3, 0}, {-0.7, 0.4, 0.02}}) {
      const Image<float> seen = seenBy(world, pose);
      const auto [least, most] = std::minmax_element(seen.data(), seen.data() + seen.size());
      QVERIFY2(*least > 0.999f, qPrintable(QString::number(double(*least))));
      QVERIFY2(*most < 64.01f, qPrintable(QString::number(double(*most))));
    }
  }

  // Photon transfer: the variance of a flat field is mean / gain + read noise (EMVA 1288, linear model).
  void flatFieldHasTheProfilesNoise_data() {
    QTest::addColumn<double>("share");
    for (const double share : {0.002, 0.05, 0.5}) QTest::addRow("%g of saturation", share) << share;
  }
  void flatFieldHasTheProfilesNoise() {
    QFETCH(double, share);
    const CameraProfile& camera = shippedProfiles().front();
    const ExposureSettings s{{1.0 / 64}, {8}, {100}};
    const double light = share * luminanceOf(SensorModel(camera).clipsAt(s));
    const auto mosaic = exposeMosaic(flatScene(300, 200, float(light)), camera, s, 5);
    const double electronsPerCode = camera.fullWell / ((1 << camera.bits) - 1 - kSensorBlack);
    double sum = 0, squares = 0;
    int count = 0;
    for (int y = 0; y < 200; ++y)
      for (int x = 1 - (y & 1); x < 300; x += 2) { // the green sites
        const double electrons = (*mosaic.at(x, y) - kSensorBlack) * electronsPerCode;
        sum += electrons;
        squares += electrons * electrons;
        ++count;
      }
    const double mean = sum / count, variance = squares / count - mean * mean;
    const double expected = share * camera.fullWell;
    const double model = expected + camera.readNoise * camera.readNoise + electronsPerCode * electronsPerCode / 12;
    QVERIFY(std::abs(mean / expected - 1) < 5 * std::sqrt(model / count) / expected + 1e-3);
    QVERIFY(std::abs(variance / model - 1) < 0.05); // 30,000 samples: standard error of a variance 0.8 %
  }

  // The distribution function against erfc (C++ library), 2 million draws: the largest distance of a sample of that
  // size from its law is below 0.0014 in 999 of 1000 (Kolmogorov); and the tails by their counts.
  void normalIsNormal() {
    constexpr int kDraws = 2000000;
    RowRandom random{7};
    std::vector<double> drawn(kDraws);
    for (double& z : drawn) z = normal(random);
    std::sort(drawn.begin(), drawn.end());
    const auto law = [](double z) { return 0.5 * std::erfc(-z / std::sqrt(2.0)); };
    double apart = 0;
    for (int i = 0; i < kDraws; ++i) apart = std::max(apart, std::abs(law(drawn[std::size_t(i)]) - (i + 0.5) / kDraws));
    QVERIFY2(apart < 0.0014, qPrintable(QString::number(apart)));
    for (const double z : {3.0, 3.5, 4.0}) {
      const double expected = 2 * law(-z) * kDraws;
      const auto beyond = std::count_if(drawn.begin(), drawn.end(), [&](double d) { return std::abs(d) > z; });
      QVERIFY2(std::abs(double(beyond) - expected) < 4 * std::sqrt(expected), qPrintable(QString::number(z)));
    }
  }

  // Against the law's own probabilities, from lgamma (C++ library).
  void photonsFollowPoisson_data() {
    QTest::addColumn<double>("mean");
    QTest::addColumn<double>("apart");
    for (const double mean : {0.02, 0.7, 5.0, 11.9}) QTest::addRow("%g", mean) << mean << 0.0022; // sampling alone
    for (const double mean : {12.1, 30.0, 200.0, 5000.0}) QTest::addRow("%g", mean) << mean << 0.005;
  }
  void photonsFollowPoisson() {
    QFETCH(double, mean);
    QFETCH(double, apart);
    constexpr int kDraws = 800000;
    RowRandom random{std::uint64_t(1 + 1000 * mean)};
    std::map<int, int> counts;
    for (int i = 0; i < kDraws; ++i) ++counts[int(photons(mean, random))];
    double law = 0, seen = 0, largest = 0;
    for (int n = 0; n <= int(mean + 10 * std::sqrt(mean) + 20); ++n) {
      law += std::exp(n * std::log(mean) - mean - std::lgamma(n + 1.0));
      seen += counts[n] / double(kDraws);
      largest = std::max(largest, std::abs(law - seen));
    }
    QVERIFY2(largest < apart, qPrintable(QString::number(largest)));
    QVERIFY(std::abs(seen - 1) < 1e-9); // nothing beyond, nothing below nought
  }

  void clipsWhereThePlannerSays() {
    const CameraProfile& camera = shippedProfiles().front();
    const ExposureSettings s{{1.0 / 64}, {8}, {100}};
    const double limit = luminanceOf(SensorModel(camera).clipsAt(s));
    const auto share = [&](double light) {
      const auto mosaic = exposeMosaic(flatScene(64, 64, float(light)), camera, s, 1);
      int clipped = 0;
      for (int y = 0; y < 64; ++y)
        for (int x = 1 - (y & 1); x < 64; x += 2) clipped += *mosaic.at(x, y) == (1 << camera.bits) - 1;
      return clipped / 2048.0;
    };
    QVERIFY(share(limit * 0.97) < 0.01);
    QVERIFY(share(limit * 1.03) > 0.99);
  }

  void sameSeedSameBitsWhateverTheThreads() {
    const CameraProfile& camera = shippedProfiles().front();
    const auto scene = test::texturedScene(200, 140, 10);
    setThreadCount(1);
    const auto one = exposeMosaic(scene, camera, {}, 3);
    setThreadCount(4);
    const auto four = exposeMosaic(scene, camera, {}, 3);
    setThreadCount(0);
    QVERIFY(std::equal(one.data(), one.data() + one.size(), four.data()));
    const auto other = exposeMosaic(scene, camera, {}, 4);
    QVERIFY(!std::equal(one.data(), one.data() + one.size(), other.data()));
  }

  void filesSayHowTheyWereExposed_data() {
    QTest::addColumn<int>("format");
    QTest::newRow("DNG") << int(FrameFormat::Dng);
    QTest::newRow("JPEG") << int(FrameFormat::Jpeg);
    QTest::newRow("TIFF") << int(FrameFormat::Tiff);
  }
  void filesSayHowTheyWereExposed() {
    QFETCH(int, format);
    QTemporaryDir dir;
    const ExposureSettings s{timeAtThirds(10), *parseFNumber("f/5.6"), *parseIso("200")};
    const auto set = test::shootScene(test::texturedScene(160, 120, 8), {s}, FrameFormat(format), test::pathOf(dir));
    const auto exif = readExif(set.files[0]);
    QVERIFY(exif.has_value());
    QVERIFY(std::abs(exif->time->value - 0.1) < 1e-6); // the printed mark
    QVERIFY(std::abs(exif->aperture->value - 5.6) < 1e-6);
    QCOMPARE(exif->iso->value, 200.0);
    QVERIFY(!exif->takenAt.empty());
    QCOMPARE(set.frames[0].settings.time.value, s.time.value); // exact again
    QVERIFY(std::abs(set.frames[0].settings.aperture.value - std::exp2(2.5)) < 1e-9);
  }

  /// A DNG read back through LibRaw gives the scene's colour: matrix, neutral, black and white levels all hold.
  void rawColourSurvives() {
    QTemporaryDir dir;
    Image<float> scene(160, 120, 3);
    for (int y = 0; y < 120; ++y)
      for (int x = 0; x < 160; ++x) {
        const float patch[3][3] = {{40, 20, 10}, {12, 30, 15}, {10, 16, 40}};
        std::copy_n(patch[x / 54], 3, scene.at(x, y));
      }
    const auto set = test::shootScene(std::move(scene), test::exposedAt({8}), FrameFormat::Dng, test::pathOf(dir));
    const Frame& frame = set.frames[0];
    const auto colourAt = [&](int x) {
      std::array<double, 3> mean{};
      for (int y = 40; y < 80; ++y)
        for (int u = x - 8; u < x + 8; ++u) {
          float rgb[3];
          frame.linearAt(u, y, rgb);
          for (std::size_t c = 0; c < 3; ++c) mean[c] += rgb[c] / (40 * 16);
        }
      return ml::apply(frame.toRec709, mean);
    };
    const auto check = [&](int x, double r, double g, double b) {
      const auto got = colourAt(x);
      const double scale = got[1] / g;
      QVERIFY2(std::abs(got[0] / scale / r - 1) < 0.03, qPrintable(QString::number(got[0] / scale)));
      QVERIFY2(std::abs(got[2] / scale / b - 1) < 0.03, qPrintable(QString::number(got[2] / scale)));
    };
    check(26, 40, 20, 10);
    check(78, 12, 30, 15);
    check(128, 10, 16, 40);
  }

  void refusals_data() {
    QTest::addColumn<double>("seconds");
    QTest::addColumn<double>("iso");
    QTest::addColumn<QString>("camera");
    QTest::newRow("too short") << 1.0 / 30000 << 100.0 << "full-frame-24";
    QTest::newRow("too long") << 100.0 << 100.0 << "full-frame-24";
    QTest::newRow("ISO too low") << 0.01 << 50.0 << "full-frame-24";
    QTest::newRow("no raw") << 0.01 << 100.0 << "pocket-jpeg";
  }
  void refusals() {
    QFETCH(double, seconds);
    QFETCH(double, iso);
    QFETCH(QString, camera);
    QTemporaryDir dir;
    SimulatedCamera device(std::make_shared<World>(World::still(flatScene(100, 100, 5), 1)),
                           *findProfile(camera.toStdString()));
    const auto file = test::pathOf(dir) / "a.dng";
    const auto exposed = device.expose({{seconds}, {8}, {iso}}, FrameFormat::Dng, file);
    QVERIFY(!exposed);
    QCOMPARE(int(exposed.error().code), int(ErrorCode::CameraRefused));
    QVERIFY(!std::filesystem::exists(file));
  }

  void spotReadingIsTheScenesLuminance() {
    SimulatedCamera device(std::make_shared<World>(World::still(flatScene(200, 150, 2), 64)),
                           shippedProfiles().front());
    const auto reading = device.spotReading(0.5, 0.5, 0.02);
    QVERIFY(std::abs(reading->ev100.value - ev100Of(128).value) < 1e-4);
    QVERIFY(!device.spotReading(3, 3, 0.001));
  }

  void shootingStopsBetweenFramesAndKeepsWhatIsThere() {
    QTemporaryDir dir;
    SimulatedCamera device(std::make_shared<World>(World::still(flatScene(100, 100, 5), 1)), shippedProfiles().front());
    Progress progress;
    int arrived = 0;
    const auto shot =
        shootBracket(device, {test::exposedAt({9, 7, 5}), FrameFormat::Tiff, test::pathOf(dir), "f", 1, {0}}, progress,
                     [&](const ShotFrame&) {
                       if (++arrived == 2) progress.stop.request();
                     });
    QVERIFY(!shot);
    QCOMPARE(int(shot.error().code), int(ErrorCode::Stopped));
    QVERIFY(std::filesystem::exists(test::pathOf(dir) / "f1.tif"));
    QVERIFY(std::filesystem::exists(test::pathOf(dir) / "f2.tif"));
    QVERIFY(!std::filesystem::exists(test::pathOf(dir) / "f3.tif"));
  }

  void readingRoomIsWhatTheIssueAsks() {
    const auto folder = findWorld("reading_room");
    QVERIFY(folder.has_value());
    for (const auto& entry : std::filesystem::directory_iterator(*folder))
      if (entry.path().extension() == ".exr")
        QVERIFY2(std::filesystem::file_size(entry.path()) < 4'000'000, entry.path().c_str());
    const auto world = World::load(*folder);
    QVERIFY2(world.has_value(), world ? "" : world.error().message.c_str());
    QVERIFY(world->width() >= 1800 && world->height() >= 1200);
    const auto now = world->radiance({0}, {0.01}), later = world->radiance({1.3}, {0.01});
    std::vector<float> light;
    int moved = 0;
    for (int y = 0; y < now.height(); ++y)
      for (int x = 0; x < now.width(); ++x) {
        light.push_back(luminance(now.at(x, y)));
        QVERIFY(std::isfinite(light.back()) && light.back() >= 0);
        moved += std::abs(luminance(later.at(x, y)) - light.back()) > 0.2f * light.back();
      }
    std::sort(light.begin(), light.end());
    QVERIFY(std::log2(light[light.size() - light.size() / 1000] / light[light.size() / 1000]) > 12);
    QVERIFY(moved > 2000);
    const auto broken = World::load("/nowhere");
    QCOMPARE(int(broken.error().code), int(ErrorCode::FileMissing));
  }
};

QTEST_GUILESS_MAIN(TestCamera)
#include "test_camera.moc"
