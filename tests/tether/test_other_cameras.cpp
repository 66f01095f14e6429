// SPDX-License-Identifier: GPL-3.0-or-later
// A camera that nothing of the product made: the zoo's frames behind a responder of its own. See other_responder.cpp
// for what is different.
#include "codec/jpeg.h"
#include "support/cli.h"
#include "wire_bench.h"
#include "zoo/set.h"

#include <QTextStream>

using namespace ml;

class TestOtherCameras : public QObject {
  Q_OBJECT

  QTemporaryDir dir_;
  std::unique_ptr<zoo::MadeSet> raw_, jpeg_;
  QProcess responder_;
  QString address_;

  static QString start(QProcess& responder, const QStringList& arguments) {
    responder.start(ML_OTHER, arguments);
    while (!responder.canReadLine() && responder.waitForReadyRead(20000)) {
    }
    return "127.0.0.1:" + QString::fromUtf8(responder.readLine()).trimmed();
  }
  [[nodiscard]] ExposureSettings frameNow() const {
    const auto& made = raw_->frames.front();
    return {{made.shot.seconds}, {made.shot.fNumber}, {double(made.shot.iso)}};
  }

private slots:
  void initTestCase() {
    zoo::SetOptions options;
    options.seed = 31;
    options.width = 384;
    options.height = 256;
    options.type = zoo::FileType::Dng;
    const auto scene = zoo::sceneOf(3, options.width, options.height);
    for (const char* name : {"raw", "jpeg"}) QVERIFY(QDir(dir_.path()).mkpath(name));
    raw_ = std::make_unique<zoo::MadeSet>(scene, options, dir_.filePath("raw").toStdString());
    options.type = zoo::FileType::Jpeg;
    jpeg_ = std::make_unique<zoo::MadeSet>(scene, options, dir_.filePath("jpeg").toStdString());
    QVERIFY(raw_->frames.size() >= 3);
    QFile list(dir_.filePath("list"));
    QVERIFY(list.open(QIODevice::WriteOnly));
    QTextStream out(&list);
    for (std::size_t i = 0; i < raw_->frames.size(); ++i) {
      const auto printed = zoo::printedTime(raw_->frames[i].shot.seconds);
      const auto& beside = jpeg_->frames[std::min(i, jpeg_->frames.size() - 1)];
      out << qRound64(10000.0 * printed.over / printed.under) << ' '
          << QString::fromStdString(raw_->frames[i].file.string()) << ' '
          << QString::fromStdString(beside.file.string()) << '\n';
    }
    list.close();
    address_ = start(responder_, {list.fileName()});
  }
  void cleanupTestCase() {
    responder_.kill();
    responder_.waitForFinished();
  }

  /// Every frame that was asked for is that frame's raw, with its own JPEG beside it, though names, order and count
  /// tell nothing.
  void itsFramesAreTakenForWhatTheyAre() {
    WiredCamera camera(address_.toStdString(), shippedProfiles().front());
    const auto connected = camera.connect();
    QVERIFY2(connected, connected ? "" : connected.error().message.c_str());
    const CameraFacts facts = camera.facts();
    QVERIFY(facts.apertureName.empty() && !facts.timeName.empty() && !facts.isoName.empty());
    QVERIFY(facts.bracketCounts.empty() && facts.bulbWord.empty() && !facts.battery);
    QCOMPARE(facts.isos.front().value, 50.0); // "automatic" is none
    std::vector<ExposureSettings> frames;
    for (const auto& made : raw_->frames)
      frames.push_back({{made.shot.seconds}, {made.shot.fNumber}, {double(made.shot.iso)}});
    ExposureSettings beyond = frameNow();
    beyond.iso = Iso{1600};
    const auto refused = camera.accepts(beyond, FrameFormat::Dng);
    QVERIFY(!refused);
    QVERIFY2(refused.error().message.find("plan with ISO 200") != std::string::npos, refused.error().message.c_str());
    const QTemporaryDir folder;
    int told = 0;
    const auto shot = shootBracket(camera, test::orderOf(folder.path(), frames), {}, [&](const ShotFrame&) { ++told; });
    QVERIFY2(shot, shot ? "" : shot.error().message.c_str());
    QCOMPARE(told, int(frames.size()));
    for (std::size_t i = 0; i < frames.size(); ++i) {
      const QString stem = folder.path() + QString("/frame-%1").arg(i + 1);
      QCOMPARE(test::bytesOf(stem + ".dng"), test::bytesOf(QString::fromStdString(raw_->frames[i].file.string())));
      QVERIFY(QFile::exists(stem + ".jpeg"));
    }
  }

  /// The standard has no finder: a test frame is asked for. A camera with operations of its maker's shows one.
  void theFinder() {
    {
      WiredCamera plain(address_.toStdString(), shippedProfiles().front());
      QVERIFY(plain.connect());
      const auto none = plain.liveView(frameNow());
      QVERIFY(!none);
      QVERIFY2(none.error().message.find("test frame") != std::string::npos, none.error().message.c_str());
    }
    Image<std::uint8_t> shown(320, 214, 3);
    for (int y = 0; y < 214; ++y)
      for (int x = 0; x < 320; ++x)
        for (int c = 0; c < 3; ++c) shown.at(x, y)[c] = std::uint8_t(x < 160 ? 60 : 220 - 20 * c);
    const QString file = dir_.filePath("finder.jpg");
    QVERIFY(writeJpeg(file.toStdString(), shown.view(), {}));
    QProcess responder;
    const QString address = start(responder, {dir_.filePath("list"), file});
    WiredCamera camera(address.toStdString(), shippedProfiles().front());
    const auto connected = camera.connect();
    QVERIFY2(connected, connected ? "" : connected.error().message.c_str());
    for (int i = 0; i < 3; ++i) {
      const auto picture = camera.liveView(frameNow());
      QVERIFY2(picture, picture ? "" : picture.error().message.c_str());
      QCOMPARE(picture->width(), 320);
      QCOMPARE(picture->height(), 214);
      QVERIFY(std::abs(int(picture->at(40, 100)[0]) - 60) < 6 && std::abs(int(picture->at(280, 100)[2]) - 180) < 6);
    }
    // A set can be fired after the finder was open, and the finder shows again after it.
    const QTemporaryDir folder;
    const auto shot = shootBracket(camera, test::orderOf(folder.path(), {frameNow()}), {}, {});
    QVERIFY2(shot, shot ? "" : shot.error().message.c_str());
    QVERIFY(camera.liveView(frameNow()));
    // What it sends is damaged: a sentence, and a test frame is the way.
    QFile damaged(file);
    QVERIFY(damaged.open(QIODevice::WriteOnly));
    damaged.write("\xff\xd8\xff no picture \xff\xd9");
    damaged.close();
    const auto broken = camera.liveView(frameNow());
    QVERIFY(!broken);
    QVERIFY(broken.error().message.find("test frame") != std::string::npos);
    responder.kill();
    responder.waitForFinished();
  }

  /// The same through the command line, with a plan that knows nothing of its few times; what comes combines.
  void aPlanOnIt() {
    const QTemporaryDir folder;
    const auto made =
        test::run({"plan", "--low", "4", "--high", "12", "--aperture", QString::number(raw_->frames[0].shot.fNumber),
                   "--iso", QString::number(raw_->frames[0].shot.iso), "--json"});
    QVERIFY2(made.code == 0, qPrintable(made.error));
    QFile file(folder.filePath("plan.json"));
    QVERIFY(file.open(QIODevice::WriteOnly));
    file.write(made.out.toUtf8());
    file.close();
    const auto shot =
        test::run({"shoot", "--on", address_, "--plan", file.fileName(), "--out", folder.filePath("set")});
    QVERIFY2(shot.code == 0, qPrintable(shot.error + shot.out));
    QVERIFY(shot.out.contains("With this camera's times"));
    QVERIFY(QDir(folder.filePath("set")).entryList({"*.dng"}).size() >= 1);
    if (QDir(folder.filePath("set")).entryList({"*.dng"}).size() > 1)
      QCOMPARE(test::run({"combine", folder.filePath("set"), "--out", folder.filePath("r.exr")}).code, 0);
  }
};

QTEST_GUILESS_MAIN(TestOtherCameras)
#include "test_other_cameras.moc"
