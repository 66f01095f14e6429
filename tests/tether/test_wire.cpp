// SPDX-License-Identifier: GPL-3.0-or-later
// Real cameras, through libgphoto2 and a socket: the stand-in is a process of its own, and what goes wrong goes wrong
// there.
#include "base/atomic_file.h"
#include "codec/exif.h"
#include "cutting_proxy.h"
#include "exposure/marks.h"
#include "plan/fit_times.h"
#include "support/cli.h"
#include "wire_bench.h"

#include <QElapsedTimer>
#include <random>

using namespace ml;

#define CONNECT(camera)                                                                                                \
  do {                                                                                                                 \
    const auto connected = (camera).connect();                                                                         \
    QVERIFY2(connected, connected ? "" : connected.error().message.c_str());                                           \
  } while (false)

namespace {

WiredCamera cameraAt(const std::string& address) {
  return {address, shippedProfiles().front()};
}

QStringList names(const QString& folder, const QString& pattern) {
  return QDir(folder).entryList({pattern}, QDir::Files, QDir::Name);
}

/// What the file of a frame says of its time.
std::string timeOf(const QString& folder, int frame) {
  const auto said = readExif(folder.toStdString() + "/frame-" + std::to_string(frame) + ".dng");
  return said && said->time ? print(exact(*said->time)) : "nothing";
}

Plan planOver(double low, double high) {
  PlanRequest request;
  request.low = {low};
  request.high = {high};
  return planBracket(shippedProfiles().front(), request).value();
}

QString planFile(const QString& folder, double low = 0, double high = 16) {
  const auto made = test::run({"plan", "--low", QString::number(low), "--high", QString::number(high), "--json"});
  const QString file = folder + "/plan.json";
  QFile f(file);
  if (f.open(QIODevice::WriteOnly)) f.write(made.out.toUtf8());
  return file;
}

} // namespace

class TestWire : public QObject {
  Q_OBJECT

private slots:
  // The words that cameras have for times, as libgphoto2 2.5.30 prints them for several makers (its own documentation
  // and tables), and the marks that they stand for (common practice, no source).
  void words_data() {
    QTest::addColumn<QString>("word");
    QTest::addColumn<double>("seconds");
    QTest::newRow("mark") << "1/125" << std::exp2(-7);
    QTest::newRow("with unit") << "1/60s" << std::exp2(-6);
    QTest::newRow("tenths of a millisecond") << "0.0040s" << std::exp2(-8);
    QTest::newRow("a thirtieth") << "0.0333s" << std::exp2(-5);
    QTest::newRow("comma") << "0,5" << 0.5;
    QTest::newRow("fraction above one") << "10/13" << std::exp2(-1.0 / 3);
    QTest::newRow("thirty") << "30.0000s" << 32.0;
    QTest::newRow("half stop") << "1/45" << 1.0 / 45;
  }
  void words() {
    QFETCH(QString, word);
    QFETCH(double, seconds);
    const auto listed = listedTimes({word.toStdString()});
    QCOMPARE(listed.size(), std::size_t(1));
    QVERIFY2(std::abs(std::log2(listed[0].value / seconds)) < 0.01, qPrintable(QString::number(listed[0].value)));
  }
  void wordsThatAreNone() {
    QVERIFY(
        listedTimes({"Bulb", "Auto", "", "x", "1/0", "-3", "1//2", "429496.7295s", "9999999999999", "1/2/3"}).empty());
    QCOMPARE(bulbWord({"1/2", "Bulb"}), std::optional<std::string>("Bulb"));
    QCOMPARE(bulbWord({"1/2", "429496.7295s"}), std::optional<std::string>("429496.7295s"));
    QVERIFY(listedIsos({"Auto", "0"}).empty());
    QCOMPARE(listedApertures({"f/5.6", "11", "F8"}).size(), std::size_t(3));
  }
  /// A word of tenths of a millisecond may mean several short times; none of them is off.
  void roundedWordsMeanAllTheyMayMean() {
    const auto list = listedTimes({"0.0003s", "0.0040s"});
    QCOMPARE(offFrom(list[0], 1.0 / 4096), 0.0);
    QCOMPARE(offFrom(list[0], std::exp2(-35.0 / 3)), 0.0); // 1/3200
    QVERIFY(offFrom(list[0], 1.0 / 2048) > 0.3);
    QCOMPARE(nearestListed(list, 1.0 / 256)->word, std::string("0.0040s"));
  }
  void addresses() {
    QCOMPARE(portOf("192.168.1.20").value(), std::string("ptpip:192.168.1.20"));
    QCOMPARE(portOf("127.0.0.1:7").value(), std::string("ptpip:127.0.0.1:7:7"));
    QCOMPARE(portOf("ptpip:127.0.0.1:7:8").value(), std::string("ptpip:127.0.0.1:7:8"));
    QCOMPARE(portOf("usb:001,004").value(), std::string("usb:001,004"));
    for (const char* wrong : {"", "a b", "1:2:3:4", "host:99999", "host:x", "../x", "ptpip:"})
      QVERIFY2(!portOf(wrong), wrong);
  }

  // ---- A plan on a camera with other times

  void nearestTimesWhereTheyCover() {
    const Plan plan = planOver(2, 14);
    std::vector<Seconds> halves;
    for (int i = -26; i <= 10; ++i) halves.push_back({std::exp2(i / 2.0)});
    const auto fitted = fitToTimes(plan, halves);
    QVERIFY(fitted.plan.covers);
    for (const auto& frame : fitted.plan.frames)
      QVERIFY(std::abs(std::remainder(2 * std::log2(frame.time.value), 1)) < 1e-9);
    QVERIFY(!fitToTimes(plan, {}).changed);
  }
  /// Over many scenes and four ladders: what covered with third stops covers with the camera's times whenever frames
  /// over all of them do, and no time is invented.
  void plannedAgainWhereTheyDoNot() {
    int again = 0, cases = 0;
    std::mt19937 random(5);
    for (int i = 0; i < 300; ++i) {
      const double low = std::uniform_real_distribution<>(-2, 8)(random),
                   high = low + std::uniform_real_distribution<>(3, 13)(random);
      const Plan plan = planOver(low, high);
      if (!plan.covers) continue;
      std::vector<Seconds> times;
      const double step = std::array{0.5, 1.0, 2.0, 1.5}[std::size_t(i % 4)];
      for (double at = -13; at <= 5; at += step) times.push_back({std::exp2(at)});
      const auto fitted = fitToTimes(plan, times);
      std::vector<ExposureSettings> all;
      for (const Seconds t : times) all.push_back({t, plan.frames[0].aperture, plan.iso()});
      ++cases, again += fitted.again;
      QCOMPARE(fitted.plan.covers, planOfFrames(plan.camera, plan.request, all).covers);
      for (const auto& frame : fitted.plan.frames)
        QVERIFY(std::any_of(times.begin(), times.end(), [&](Seconds t) { return t == frame.time; }));
    }
    QVERIFY(cases > 200);
    QVERIFY2(again > 5, qPrintable(QString::number(again)));
  }

  // ---- What is kept beside the frames

  void recordRoundTrip() {
    SetRecord record;
    record.before = {"/a/b.jpg"};
    record.entries = {{{{0.5}, {8}, {100}}, "frame-1", "/x/y.dng"}};
    const auto again = setRecordFrom(toText(record)).value();
    QCOMPARE(again.before, record.before);
    QCOMPARE(again.entries[0].onCamera, record.entries[0].onCamera);
    QCOMPARE(again.entries[0].settings, record.entries[0].settings);
  }
  void recordOfAStranger() {
    for (const char* text :
         {"", "{}", "[]", R"({"version":2})",
          R"({"version":1,"frames":[{"time":1,"aperture":8,"iso":100,"file":"../x"}]})",
          R"({"version":1,"frames":[{"time":0,"aperture":8,"iso":100,"file":"x"}]})",
          R"({"version":1,"frames":[{"time":1,"aperture":8,"iso":100,"file":".."}]})", R"({"version":1,"before":7})"})
      QVERIFY2(!setRecordFrom(text), text);
  }

  // ---- A set

  void whatTheCameraSays() {
    const test::StandInProcess standIn({"--battery", "0.63", "--card-megabytes", "900"});
    auto camera = cameraAt(standIn.address());
    CONNECT(camera);
    const CameraFacts facts = camera.facts();
    QVERIFY(QString::fromStdString(facts.model).contains("Stand-in"));
    QCOMPARE(facts.battery, std::optional(0.63));
    QVERIFY(std::abs(*facts.freeMegabytes - 900) < 1);
    QVERIFY(facts.times.size() > 40 && !facts.bulbWord.empty());
    QVERIFY(camera.accepts({{1.0 / 128}, {8}, {100}}, FrameFormat::Dng));
    QVERIFY(!camera.accepts({{1.0 / 128}, {8}, {10000000}}, FrameFormat::Dng));
    QVERIFY(!camera.accepts({{1.0 / 64000}, {8}, {100}}, FrameFormat::Dng));
    QCOMPARE(camera.status().connected, true);
  }

  void aSet_data() {
    QTest::addColumn<QStringList>("options");
    QTest::addColumn<int>("frames");
    QTest::newRow("its own bracket") << QStringList{} << 5;
    QTest::newRow("one by one") << QStringList{"--no-brackets"} << 5;
    QTest::newRow("an even count") << QStringList{} << 4;
    QTest::newRow("two files each") << QStringList{"--files", "both", "--no-brackets"} << 3;
    QTest::newRow("two files, own bracket") << QStringList{"--files", "both"} << 3;
    QTest::newRow("slow to write, small pieces")
        << QStringList{"--write", "0.3", "--chunk", "33", "--no-brackets"} << 3;
  }
  void aSet() {
    QFETCH(QStringList, options);
    QFETCH(int, frames);
    const test::StandInProcess standIn(options);
    auto camera = cameraAt(standIn.address());
    CONNECT(camera);
    const QTemporaryDir folder;
    const auto order = test::orderOf(folder.path(), test::ladder(frames, 2));
    int told = 0;
    const auto shot = shootBracket(camera, order, {}, [&](const ShotFrame& frame) {
      ++told;
      QVERIFY(QFile::exists(QString::fromStdString(frame.file.string()))); // on disk before it is told
      QCOMPARE(print(frame.settings.time), print(order.frames[std::size_t(frame.index)].time));
    });
    QVERIFY2(shot, shot ? "" : shot.error().message.c_str());
    QCOMPARE(told, frames);
    QCOMPARE(test::wrongWith(folder.path(), standIn.card(), frames), QString());
    QCOMPARE(names(folder.path(), "*.jpg").size(), options.contains("both") ? frames : 0);
    for (int i = 0; i < frames; ++i) QCOMPARE(timeOf(folder.path(), i + 1), print(order.frames[std::size_t(i)].time));
    // A second set is another: nothing of the first is taken for it.
    const QTemporaryDir second;
    QVERIFY(shootBracket(camera, test::orderOf(second.path(), test::ladder(frames, 2)), {}, {}));
    QCOMPARE(test::wrongWith(second.path(), standIn.card(), frames), QString());
    QVERIFY(test::bytesOf(second.path() + "/frame-1.dng") != test::bytesOf(folder.path() + "/frame-1.dng"));
  }

  void bulb() {
    const test::StandInProcess standIn({"--longest", "0.5", "--no-brackets"});
    auto camera = cameraAt(standIn.address());
    CONNECT(camera);
    const QTemporaryDir folder;
    const auto shot =
        shootBracket(camera, test::orderOf(folder.path(), {{{0.25}, {8}, {100}}, {{1}, {8}, {100}}}), {}, {});
    QVERIFY2(shot, shot ? "" : shot.error().message.c_str());
    const auto said = readExif(folder.path().toStdString() + "/frame-2.dng").value();
    QVERIFY2(std::abs(std::log2(said.time->value)) < 0.2, qPrintable(QString::number(said.time->value)));
  }

  /// The ring stands elsewhere and nobody turns it: told with the value, and nothing is shot in vain.
  void whatAHandMustSet() {
    const test::StandInProcess standIn({"--aperture-by-hand", "--iso-by-hand"});
    auto camera = cameraAt(standIn.address());
    CONNECT(camera);
    QCOMPARE(camera.handWork({{0.01}, {8}, {100}}).size(), std::size_t(0));
    const auto work = camera.handWork({{0.01}, {11.3137}, {200}});
    QCOMPARE(work.size(), std::size_t(2));
    QVERIFY2(work[0] == "Set the aperture to f/11: it stands at f/8.", work[0].c_str());
    const QTemporaryDir folder;
    auto frames = test::ladder(3, 2);
    for (auto& f : frames) f.aperture = {11.3137};
    StopFlag stop;
    QString said;
    const Progress progress{stop, [&](const std::string& stage, double) {
                              if (stage.starts_with("Set the aperture"))
                                said = QString::fromStdString(stage), stop.request();
                            }};
    const auto shot = shootBracket(camera, test::orderOf(folder.path(), frames), progress, {});
    QVERIFY(!shot && !said.isEmpty());
    QVERIFY(names(standIn.card(), "*.DNG").isEmpty());
  }

  // ---- What goes wrong

  void faults_data() {
    QTest::addColumn<QString>("fault");
    for (const char* fault : {"unplugged@1", "unplugged@2", "unplugged@3", "half-sent@1", "half-sent@3", "asleep@2",
                              "busy@2", "disconnect@2"})
      QTest::newRow(fault) << fault;
    QTest::newRow("silent@2") << "silent@2";
  }
  void faults() {
    QFETCH(QString, fault);
    for (const bool own : {false, true}) {
      QStringList options{"--fault", fault, "--files", "both"};
      if (!own) options << "--no-brackets";
      const test::StandInProcess standIn(options);
      auto camera = cameraAt(standIn.address());
      CONNECT(camera);
      const QTemporaryDir folder;
      int told = 0;
      const auto shot =
          shootBracket(camera, test::orderOf(folder.path(), test::ladder(3, 2)), {}, [&](const ShotFrame&) { ++told; });
      QVERIFY2(shot, shot ? "" : shot.error().message.c_str());
      QCOMPARE(told, 3);
      QCOMPARE(test::wrongWith(folder.path(), standIn.card(), 3), QString());
      QCOMPARE(names(folder.path(), "*.jpg").size(), 3);
      for (int i = 0; i < 3; ++i) // whatever the order they came in, each is what it was ordered as
        QCOMPARE(timeOf(folder.path(), i + 1), print(test::ladder(3, 2)[std::size_t(i)].time));
    }
  }

  void refusedWithTheRemedy_data() {
    QTest::addColumn<QString>("fault");
    QTest::addColumn<QString>("words");
    QTest::newRow("battery") << "battery-empty@2"
                             << "battery is empty; change it";
    QTest::newRow("card") << "card-full@2"
                          << "card is full; put in another";
  }
  void refusedWithTheRemedy() {
    QFETCH(QString, fault);
    QFETCH(QString, words);
    const test::StandInProcess standIn({"--fault", fault, "--no-brackets"});
    auto camera = cameraAt(standIn.address());
    CONNECT(camera);
    const QTemporaryDir folder;
    auto order = test::orderOf(folder.path(), test::ladder(3, 2));
    const auto shot = shootBracket(camera, order, {}, {});
    QVERIFY(!shot);
    QVERIFY2(QString::fromStdString(shot.error().message).contains(words), shot.error().message.c_str());
    const QByteArray first = test::bytesOf(folder.path() + "/frame-1.dng");
    QVERIFY(!first.isEmpty());
    standIn.mend();
    order.frames.erase(order.frames.begin());
    order.firstNumber = 2;
    QVERIFY(test::waitFor([&] { return shootBracket(camera, order, {}, {}).has_value(); }));
    QCOMPARE(test::bytesOf(folder.path() + "/frame-1.dng"), first);
    QCOMPARE(names(folder.path(), "*.dng").size(), 3);
  }

  void goneForGood() {
    test::StandInProcess standIn({"--no-brackets"});
    auto camera = cameraAt(standIn.address());
    CONNECT(camera);
    camera.setPatience({0.5});
    standIn.kill();
    const QTemporaryDir folder;
    const auto shot = shootBracket(camera, test::orderOf(folder.path(), test::ladder(2, 2)), {}, {});
    QVERIFY(!shot);
    QCOMPARE(shot.error().code, ErrorCode::CameraGone);
    QVERIFY(!camera.status().connected);
    QVERIFY(!camera.refresh());
  }

  /// The camera's program dies in the middle and is started again with the same card: nothing is shot twice.
  void diesAndComesBack() {
    const QTemporaryDir card, folder;
    auto standIn =
        std::make_unique<test::StandInProcess>(QStringList{"--no-brackets", "--write", "0.2"}, 0, card.path());
    const int port = standIn->port();
    auto camera = cameraAt(standIn->address());
    CONNECT(camera);
    std::atomic<int> told{0};
    std::thread killer([&] {
      while (told < 2) std::this_thread::yield();
      standIn->kill(); // its process was made by the test's thread: only the signal is sent from here
      standIn = std::make_unique<test::StandInProcess>(QStringList{"--no-brackets"}, port, card.path());
    });
    const auto shot = shootBracket(camera, test::orderOf(folder.path(), test::ladder(5, 1, 7)), {},
                                   [&](const ShotFrame&) { ++told; });
    killer.join();
    QVERIFY2(shot, shot ? "" : shot.error().message.c_str());
    QCOMPARE(test::wrongWith(folder.path(), card.path(), 5), QString());
  }

  void twoPrograms() {
    const test::StandInProcess standIn({});
    auto first = cameraAt(standIn.address()), second = cameraAt(standIn.address());
    QVERIFY(first.connect());
    const auto refused = second.connect();
    QVERIFY(!refused);
    QVERIFY(QString::fromStdString(refused.error().message).contains("no other program holds it"));
    const QTemporaryDir folder;
    QVERIFY(shootBracket(first, test::orderOf(folder.path(), test::ladder(3, 2)), {}, {}));
  }

  /// Whoever waits can be told to stop waiting: the window closes although a camera hangs.
  void givenUp() {
    const test::StandInProcess standIn({"--fault", "asleep@1", "--no-brackets"});
    auto camera = cameraAt(standIn.address());
    CONNECT(camera);
    const QTemporaryDir folder;
    std::thread user([&] { (void)shootBracket(camera, test::orderOf(folder.path(), test::ladder(3, 2)), {}, {}); });
    QElapsedTimer time;
    time.start();
    camera.giveUp();
    user.join();
    QVERIFY(!camera.connect());
  }

  /// The connection ends at any byte. `ml_wire_campaign` does this a thousand times.
  void cutAnywhere() {
    std::mt19937 random(19);
    const test::StandInProcess standIn({"--haste", "0", "--no-brackets", "--files", "both"});
    int cuts = 0;
    for (int i = 0; i < 6; ++i) {
      test::CuttingProxy proxy(standIn.port(), {long(std::exp2(std::uniform_real_distribution<>(10, 17.5)(random))),
                                                long(std::exp2(13 + i % 4))});
      auto camera = cameraAt("127.0.0.1:" + std::to_string(proxy.port()));
      (void)camera.connect();
      QVERIFY(test::waitFor([&] { return camera.connect().has_value(); }));
      const QTemporaryDir folder;
      const auto shot = shootBracket(camera, test::orderOf(folder.path(), test::ladder(3, 2)), {}, {});
      QVERIFY2(shot, shot ? "" : shot.error().message.c_str());
      QCOMPARE(test::wrongWith(folder.path(), standIn.card(), 3), QString());
      cuts += proxy.cut();
    }
    QVERIFY2(cuts > 6, qPrintable(QString::number(cuts)));
  }

  // ---- The command line

  void commandLine() {
    const test::StandInProcess standIn({"--files", "both"});
    const QTemporaryDir folder;
    const QString plan = planFile(folder.path()), out = folder.path() + "/set";
    const auto there = test::run(
        {"cameras", QString::fromStdString(standIn.address()), "--json", "--log", folder.path() + "/log.txt"});
    QCOMPARE(there.code, 0);
    QVERIFY(there.out.contains("Stand-in full-frame-24"));
    const QString log = QString::fromUtf8(test::bytesOf(folder.path() + "/log.txt"));
    QVERIFY(log.contains("shutterspeed") && log.contains("serialnumber | Serial Number | (left out)") &&
            !log.contains("LNT1"));
    const QStringList shoot{"shoot", "--on", QString::fromStdString(standIn.address()), "--plan", plan, "--out", out};
    const auto shot = test::run(shoot);
    QVERIFY2(shot.code == 0, qPrintable(shot.error));
    QCOMPARE(test::wrongWith(out, standIn.card(), 5), QString());
    QVERIFY(shot.out.contains("go on"));
    QCOMPARE(test::run({"combine", out, "--out", folder.path() + "/r.exr"}).code, 0);
    QDir(out).mkdir(".arriving"); // as a program leaves it that is killed at the very end
    const auto again = test::run(shoot);
    QVERIFY(again.code == 0 && again.out.contains("already"));
    QVERIFY(!QDir(out).exists(".arriving"));
    QCOMPARE(names(standIn.card(), "*.DNG").size(), 5);
    QCOMPARE(test::run({"shoot", "--plan", plan, "--out", out}).code, 2);
    QCOMPARE(test::run({"shoot", "--on", "no where", "--plan", plan, "--out", out}).code, 2);
    const auto nobody = test::run({"shoot", "--on", "127.0.0.1:1", "--plan", plan, "--out", out + "2"});
    QCOMPARE(nobody.code, 1);
    QVERIFY(nobody.error.contains("does not answer"));
  }

  /// Killed at any moment and started again, until it is done: every exposure once.
  void killedAndStartedAgain() {
    const test::StandInProcess standIn({"--no-brackets", "--write", "0.1"});
    const QTemporaryDir folder;
    const QString plan = planFile(folder.path()), out = folder.path() + "/set";
    std::mt19937 random(3);
    int kills = 0;
    for (bool done = false; !done;) {
      QProcess process;
      process.start(ML_CLI, {"shoot", "--on", QString::fromStdString(standIn.address()), "--plan", plan, "--out", out});
      if (kills < 8 && !process.waitForFinished(int(100 + random() % 900))) {
        process.kill();
        ++kills;
        process.waitForFinished();
        continue;
      }
      QVERIFY(process.state() == QProcess::NotRunning || process.waitForFinished(120000));
      done = process.exitCode() == 0;
      QVERIFY2(done || kills < 8, process.readAllStandardError().constData());
    }
    QVERIFY(kills > 2);
    QCOMPARE(test::wrongWith(out, standIn.card(), 5), QString());
    QCOMPARE(names(standIn.card(), "*.DNG").size(), 5);
  }

  void withoutTheLibrary() {
    qputenv("MELLOW_LANTERN_CAMERA_LIBRARY", "/nowhere/lib.so");
    const auto asked = test::run({"cameras"});
    qunsetenv("MELLOW_LANTERN_CAMERA_LIBRARY");
    QCOMPARE(asked.code, 2);
    QVERIFY(asked.error.contains("install the package libgphoto2-6"));
    const auto none = test::run({"cameras"});
    QCOMPARE(none.code, 0);
  }
};

QTEST_GUILESS_MAIN(TestWire)
#include "test_wire.moc"
