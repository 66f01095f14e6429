// SPDX-License-Identifier: GPL-3.0-or-later
// The simulated camera as a device: refusals, clock, buffer, card, connection, faults; and sensor figures measured back
// from it.
#include "base/atomic_file.h"
#include "camera/simulated_camera.h"
#include "codec/raw_file.h"
#include "exposure/marks.h"
#include "ingest/load_frame.h"
#include "ingest/measure_sensor.h"
#include "session/locations.h"
#include "support/scenes.h"

#include <QTest>

using namespace ml;
namespace fs = std::filesystem;

namespace {

std::shared_ptr<const World> scene() {
  return std::make_shared<World>(World::still(test::texturedScene(200, 150, 8, 2), 1));
}

Image<float> flat(int width, int height, double candelas) {
  Image<float> image(width, height, 3);
  image.fill(float(candelas));
  return image;
}

} // namespace

class TestDevice : public QObject {
  Q_OBJECT

private slots:
  void clockCountsExposuresGapsAndTimers() {
    QTemporaryDir dir;
    SimulatedCamera camera(scene(), shippedProfiles().front());
    const auto frames = test::exposedAt({11, 8, 5});
    double exposures = 0;
    for (const auto& f : frames) exposures += f.time.value;
    QVERIFY(shootBracket(camera, {frames, FrameFormat::Jpeg, test::pathOf(dir), "f", 1, {10}}, {}, {}));
    QVERIFY(std::abs(camera.clock().value - (10 + exposures + 3 * camera.profile().frameGap.value)) < 1e-9);
  }

  void bufferFillsAndHoldsTheBurst() {
    QTemporaryDir dir;
    CameraProfile slow = shippedProfiles().front();
    slow.bufferFrames = 3;
    slow.writeTime = {2};
    SimulatedCamera camera(scene(), slow);
    const auto frames = test::exposedAt({11, 11.3, 11.6, 12, 12.3, 12.6});
    for (std::size_t i = 0; i < frames.size(); ++i)
      QVERIFY(camera.expose(frames[i], FrameFormat::Jpeg, test::pathOf(dir) / (std::to_string(i) + ".jpg")));
    QVERIFY(camera.status().buffered <= 3);
    QVERIFY(camera.clock().value > 2); // it had to wait for the card
    camera.wait({60});
    QCOMPARE(camera.status().buffered, 0);
  }

  void cardFillsUpAndIsChanged() {
    QTemporaryDir dir;
    SimulationOptions options;
    options.freeMegabytes = 2.5 * shippedProfiles().front().fileMegabytes;
    SimulatedCamera camera(scene(), shippedProfiles().front(), options);
    const auto shot =
        shootBracket(camera, {test::exposedAt({11, 8, 5}), FrameFormat::Jpeg, test::pathOf(dir), "f", 1, {0}}, {}, {});
    QVERIFY(!shot);
    QCOMPARE(int(shot.error().code), int(ErrorCode::CardFull));
    QVERIFY(fs::exists(test::pathOf(dir) / "f2.jpg")); // what was shot is kept
    QVERIFY(!fs::exists(test::pathOf(dir) / "f3.jpg"));
    camera.changeCard();
    QVERIFY(camera.expose(test::exposedAt({5})[0], FrameFormat::Jpeg, test::pathOf(dir) / "f3.jpg"));
  }

  void connectionIsLostAndTakenUpAgain() {
    QTemporaryDir dir;
    SimulationOptions options;
    options.faults = {{FaultKind::Disconnect, 1}};
    SimulatedCamera camera(scene(), shippedProfiles().front(), options);
    const auto frames = test::exposedAt({11, 8, 5});
    const auto shot = shootBracket(camera, {frames, FrameFormat::Jpeg, test::pathOf(dir), "f", 1, {0}}, {}, {});
    QVERIFY(!shot);
    QCOMPARE(int(shot.error().code), int(ErrorCode::CameraGone));
    QVERIFY(!camera.status().connected);
    QVERIFY(!camera.liveView(frames[0]));
    QVERIFY(camera.connect());
    QVERIFY(shootBracket(camera, {{frames[1], frames[2]}, FrameFormat::Jpeg, test::pathOf(dir), "f", 2, {0}}, {}, {}));
    QVERIFY(fs::exists(test::pathOf(dir) / "f3.jpg"));
  }

  void emptyBatteryRefuses() {
    QTemporaryDir dir;
    SimulationOptions options;
    options.battery = 0.01;
    SimulatedCamera camera(scene(), shippedProfiles().front(), options);
    QCOMPARE(int(camera.expose(test::exposedAt({11})[0], FrameFormat::Jpeg, test::pathOf(dir) / "a.jpg").error().code),
             int(ErrorCode::CameraRefused));
    QVERIFY(!camera.connect());
  }

  void allSettingsAreCheckedBeforeTheFirstFrame() {
    QTemporaryDir dir;
    SimulatedCamera camera(scene(), shippedProfiles().front());
    auto frames = test::exposedAt({11, 8});
    frames[1].time = {300};
    const auto shot = shootBracket(camera, {frames, FrameFormat::Jpeg, test::pathOf(dir), "f", 1, {0}}, {}, {});
    QCOMPARE(int(shot.error().code), int(ErrorCode::CameraRefused));
    QVERIFY(fs::is_empty(test::pathOf(dir)));
  }

  void ordersOfTheBracket() {
    const auto frames = test::exposedAt({11, 9, 7, 5, 3});
    const auto evs = [&](BracketOrder order) {
      QList<int> out;
      for (const auto& f : inOrder(frames, order)) out << int(std::lround(std::log2(64 / f.time.value)));
      return out;
    };
    QCOMPARE(evs(BracketOrder::DarkFirst), (QList<int>{11, 9, 7, 5, 3}));
    QCOMPARE(evs(BracketOrder::MiddleFirst), (QList<int>{7, 11, 9, 5, 3}));
    QCOMPARE(evs(BracketOrder::BrightFirst), (QList<int>{3, 5, 7, 9, 11}));
  }

  void faultsLeaveTheirMarkInTheFile() {
    QTemporaryDir dir;
    const auto frames = test::exposedAt({9, 8});
    const auto second = [&](FaultKind fault) {
      SimulationOptions options;
      options.faults = {{fault, 1}};
      SimulatedCamera camera(scene(), shippedProfiles().front(), options);
      for (int i = 0; i < 2; ++i)
        if (!camera.expose(frames[std::size_t(i)], FrameFormat::Dng, test::pathOf(dir) / "f.dng")) return Frame{};
      return std::move(*loadFrame(test::pathOf(dir) / "f.dng"));
    };
    QCOMPARE(second(FaultKind::IsoDrift).settings.iso.value, 200.0);
    QVERIFY(std::abs(second(FaultKind::ApertureDrift).settings.aperture.value / 8 - std::sqrt(2.0)) < 0.02);
    QCOMPARE(second(FaultKind::BracketingReset).settings.time.value, frames[0].time.value);
    const Frame plain = second(FaultKind::HandHeld), warm = second(FaultKind::WhiteBalanceDrift);
    QVERIFY(warm.saturation[0] / warm.saturation[2] > plain.saturation[0] / plain.saturation[2] * 1.3f);
  }

  void faultNamesAreParsed() {
    for (const auto& name : faultNames()) QVERIFY(parseFault(name.id)->kind == name.kind);
    QCOMPARE(parseFault("gust@3")->frame, 2); // frames are counted from 1, within from 0
    for (const char* wrong : {"", "gale", "gust@", "gust@x", "gust@0", "gust@99999"}) QVERIFY(!parseFault(wrong));
  }

  void duskFadesButLampsDoNot() {
    auto dusk = World::load(*findWorld("jetty_dusk"));
    QVERIFY(dusk);
    const World small = dusk->shrunk(6);
    const auto now = small.radiance({0}, {0.01}), later = small.radiance({240}, {0.01});
    const auto mean = [](const Image<float>& image, double x, double y, double r) {
      double sum = 0;
      int n = 0;
      for (int v = int((y - r) * image.height()); v < int((y + r) * image.height()); ++v)
        for (int u = int((x - r) * image.width()); u < int((x + r) * image.width()); ++u, ++n) sum += image.at(u, v)[1];
      return sum / n;
    };
    QVERIFY(std::abs(std::log2(mean(later, 0.5, 0.08, 0.04) / mean(now, 0.5, 0.08, 0.04)) +
                     small.fadeStopsPerMinute() * 4) < 0.02);                         // sky
    QVERIFY(mean(later, 0.705, 0.415, 0.008) > 0.9 * mean(now, 0.705, 0.415, 0.008)); // a lit window
  }

  void everyWorldIsAsLargeAndDeepAsItShouldBe_data() {
    QTest::addColumn<QString>("id");
    for (const char* id : {"reading_room", "boat_hall", "jetty_dusk"}) QTest::newRow(id) << QString(id);
  }
  void everyWorldIsAsLargeAndDeepAsItShouldBe() {
    QFETCH(QString, id);
    const auto world = World::load(*findWorld(id.toStdString()));
    QVERIFY(world);
    QVERIFY(world->width() >= 1800 && world->height() >= 1200);
    QVERIFY(world->moves());
    const auto picture = world->radiance({0}, {0.01});
    std::vector<float> light;
    for (int y = 0; y < picture.height(); y += 3)
      for (int x = 0; x < picture.width(); x += 3) light.push_back(picture.at(x, y)[1]);
    std::sort(light.begin(), light.end());
    const double stops =
        std::log2(light[light.size() * 9998 / 10000] / std::max(1e-6f, light[light.size() * 2 / 10000]));
    QVERIFY2(stops > 12, qPrintable(QString::number(stops)));
    const auto other = world->radiance({0.9}, {0.01});
    double moved = 0;
    for (std::size_t i = 0; i < picture.size(); ++i)
      moved += std::abs(picture.data()[i] - other.data()[i]) > 0.05f * picture.data()[i];
    QVERIFY(moved / double(picture.size()) > 0.002);
  }

  // Photon transfer, EMVA Standard 1288 (from memory): from pairs of flat and dark frames of the simulated camera its
  // true full well and read noise come back within 5 %.
  void sensorIsMeasuredBack_data() {
    QTest::addColumn<QString>("camera");
    QTest::addColumn<double>("iso");
    QTest::newRow("full frame, ISO 100") << QString("full-frame-24") << 100.0;
    QTest::newRow("full frame, ISO 800") << QString("full-frame-24") << 800.0;
    QTest::newRow("crop, ISO 100") << QString("crop-20") << 100.0;
  }
  void sensorIsMeasuredBack() {
    QFETCH(QString, camera);
    QFETCH(double, iso);
    QTemporaryDir dir;
    const CameraProfile profile = *findProfile(camera.toStdString());
    SimulatedCamera wall(std::make_shared<World>(World::still(flat(640, 480, 60), 1)), profile);
    SimulationOptions other;
    other.seed = 77;
    SimulatedCamera capped(std::make_shared<World>(World::still(flat(640, 480, 0), 1)), profile, other);
    std::vector<fs::path> files;
    const auto take = [&](SimulatedCamera& device, Seconds time) {
      files.push_back(test::pathOf(dir) / ("m" + std::to_string(files.size()) + ".dng"));
      const auto done = device.expose({time, {8}, {iso}}, FrameFormat::Dng, files.back());
      QVERIFY2(done.has_value(), done ? "" : done.error().message.c_str());
    };
    for (int k = 0; k < 2; ++k) take(capped, profile.shortest);
    const double metered = timeFor(ev100Of(60), {8}, {iso}).value;
    for (const double stops : {-1.0, 0.0, 1.0, 1.67, 2.0})
      for (int k = 0; k < 2; ++k) take(wall, {metered * std::exp2(stops)});
    const auto report = measureSensorFiles(files);
    QVERIFY2(report.has_value(), report ? "" : report.error().message.c_str());
    QCOMPARE(report->pairs, 6);
    const double well = profile.fullWellAt({iso}), read = profile.readNoiseAt({iso});
    QVERIFY2(std::abs(report->measurement.fullWell / well - 1) < 0.05,
             qPrintable(QString("%1 against %2").arg(report->measurement.fullWell).arg(well)));
    QVERIFY2(std::abs(report->measurement.readNoise / read - 1) < 0.05,
             qPrintable(QString("%1 against %2").arg(report->measurement.readNoise).arg(read)));
  }

  void whatCannotBeMeasuredIsSaid() {
    QTemporaryDir dir;
    SimulatedCamera wall(std::make_shared<World>(World::still(flat(200, 150, 60), 1)), shippedProfiles().front());
    QVERIFY(wall.expose({{1 / 64.0}, {8}, {100}}, FrameFormat::Dng, test::pathOf(dir) / "a.dng"));
    QCOMPARE(int(measureSensorFiles({test::pathOf(dir) / "a.dng"}).error().code), int(ErrorCode::TooFewFrames));
    QVERIFY(wall.expose({{1 / 64.0}, {8}, {100}}, FrameFormat::Dng, test::pathOf(dir) / "b.dng"));
    QCOMPARE(int(measureSensorFiles({test::pathOf(dir) / "a.dng", test::pathOf(dir) / "b.dng"}).error().code),
             int(ErrorCode::InvalidArgument)); // no dark pair
    QVERIFY(!measureSensorFiles({test::pathOf(dir) / "none.dng"}));
  }
};

QTEST_GUILESS_MAIN(TestDevice)
#include "test_device.moc"
