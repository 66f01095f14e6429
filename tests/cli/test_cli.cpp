// SPDX-License-Identifier: GPL-3.0-or-later
#include "codec/jpeg.h"
#include "plan/planner.h"
#include "support/cli.h"
#include "support/scenes.h"

#include <QJsonArray>
#include <QJsonDocument>
#include <QJsonObject>
#include <QTest>
#include <fstream>

using namespace ml;
using namespace ml::test;

namespace {

bool isSentence(const QString& text) {
  return text.trimmed().size() > 20 && text.trimmed().endsWith('.');
}

} // namespace

class TestCli : public QObject {
  Q_OBJECT
  QTemporaryDir dir_;
  QString at(const char* name) const { return dir_.filePath(name); }

private slots:
  void initTestCase() { // the whole path once, by the commands alone; the others build on what it leaves
    const auto plan = run({"plan", "--low", "2", "--high", "14.3", "--json"});
    QCOMPARE(plan.code, 0);
    const auto document = QJsonDocument::fromJson(plan.out.toUtf8()).object();
    QCOMPARE(document["version"].toInt(), 1);
    QVERIFY(document["covers"].toBool());
    QVERIFY(document["frames"].toArray().size() >= 2);
    std::ofstream(at("plan.json").toStdString()) << plan.out.toStdString();
    const auto shoot = run({"shoot", "--world", "reading_room", "--plan", at("plan.json"), "--out", at("frames"),
                            "--format", "dng", "--fault", "hand-held"});
    QVERIFY2(shoot.code == 0, qPrintable(shoot.error));
    QCOMPARE(shoot.out.trimmed().split('\n').size(), document["frames"].toArray().size());
  }

  void runGoesOnAndDeliversWhatIsAsked() {
    const QStringList asked{"run",          at("frames"), "--out",          at("asked"), "--deliver",
                            "web,hdr-avif", "--creator",  "A photographer", "--jobs",    "1"};
    const auto first = run(asked);
    QCOMPARE(first.code, 0);
    QVERIFY(!first.out.contains("done before"));
    const QDir folder(at("asked"));
    QCOMPARE(folder.entryList({"*-web.jpg"}).size(), 1);
    QCOMPARE(folder.entryList({"*-hdr.avif"}).size(), 1);
    QVERIFY(folder.entryList({"*.exr"}).isEmpty());
    const auto second = run(asked);
    QCOMPARE(second.code, 0);
    QVERIFY(second.out.contains("done before"));
    QVERIFY(QFile::remove(folder.filePath(folder.entryList({"*-hdr.avif"}).first())));
    const auto third = run(asked);
    QVERIFY(third.code == 0 && !third.out.contains("done before"));
    QCOMPARE(folder.entryList({"*-hdr.avif"}).size(), 1);
  }

  void runLeavesPictureRadianceAndReport() {
    const auto done = run({"run", at("frames"), "--out", at("out")});
    QVERIFY2(done.code == 0, qPrintable(done.error));
    for (const char* name : {"out/frame-1.jpg", "out/frame-1.exr", "out/frame-1.json", "out/report.json"})
      QVERIFY(QFile::exists(at(name)));
    const auto picture = readJpeg(at("out/frame-1.jpg").toStdString());
    QVERIFY(picture.has_value());
    QFile report(at("out/frame-1.json"));
    QVERIFY(report.open(QIODevice::ReadOnly));
    const auto findings =
        QJsonDocument::fromJson(report.readAll()).object()["judgement"].toObject()["findings"].toArray();
    QCOMPARE(findings.size(), 11);
    for (const auto& finding : findings)
      QVERIFY(!finding.toObject()["sentence"].toString().isEmpty() && finding.toObject().contains("threshold"));
    int white = 0;
    double sum = 0;
    picture->pixels.visit([&](auto codes) {
      for (int y = 0; y < codes.height; ++y)
        for (int i = 0; i < 3 * codes.width; ++i) {
          white += codes.row(y)[i] >= 254;
          sum += codes.row(y)[i];
        }
    });
    const double n = double(picture->pixels.size());
    QVERIFY(white / n < 0.05);              // the window is not burnt out
    QVERIFY(sum / n > 60 && sum / n < 160); // nor the room black
  }

  void combineThenFinish() {
    const auto combined = run({"combine", at("frames"), "--out", at("c.exr"), "--align", "rigid", "--motion", "low",
                               "--crop", "overlap", "--reference", "1", "--report", at("c.json")});
    QVERIFY2(combined.code == 0, qPrintable(combined.error));
    QFile report(at("c.json"));
    QVERIFY(report.open(QIODevice::ReadOnly));
    QCOMPARE(QJsonDocument::fromJson(report.readAll()).object()["kind"].toString(), QString("combine"));
    for (const char* name : {"f.jpg", "f.tif", "f.png"}) {
      const auto finished =
          run({"finish", at("c.exr"), "--out", at(name), "--look", "quiet", "--report", at("f.json")});
      QVERIFY2(finished.code == 0, qPrintable(finished.error));
      QVERIFY(QFile::exists(at(name)));
    }
    QFile judged(at("f.json"));
    QVERIFY(judged.open(QIODevice::ReadOnly));
    const auto ghosts =
        QJsonDocument::fromJson(judged.readAll()).object()["judgement"].toObject()["findings"].toArray()[7].toObject();
    QVERIFY(!ghosts["looked_at"].toBool() && !ghosts.contains("figure")); // a radiance picture alone cannot say
  }

  void inspectGroups() {
    const auto text = run({"inspect", at("frames")});
    QCOMPARE(text.code, 0);
    QVERIFY(text.out.contains("frames"));
    const auto json = run({"inspect", at("frames"), "--json"});
    QCOMPARE(QJsonDocument::fromJson(json.out.toUtf8()).object()["sets"].toArray().size(), 1);
  }

  // The window by a frame with flash: planned, shot, told by its file, and sound.
  void aWindowIsShotWithFlash() {
    const auto plan = run({"plan", "--low", "5", "--high", "16", "--school", "window-flash", "--json"});
    QVERIFY2(plan.code == 0, qPrintable(plan.error));
    std::ofstream(at("flash.json").toStdString()) << plan.out.toStdString();
    const auto shoot = run({"shoot", "--world", "reading_room", "--plan", at("flash.json"), "--out", at("flash")});
    QVERIFY2(shoot.code == 0, qPrintable(shoot.error));
    QCOMPARE(shoot.out.trimmed().split('\n').size(), 3);
    const auto inspected = run({"inspect", at("flash")});
    QVERIFY2(inspected.code == 0 && inspected.out.contains("Lit by flash"), qPrintable(inspected.out));
    const auto combined = run({"combine", at("flash"), "--out", at("flash.exr"), "--report", at("flash-report.json")});
    QVERIFY2(combined.code == 0 && combined.out.contains("was lit by flash"),
             qPrintable(combined.out + combined.error));
    QFile report(at("flash-report.json"));
    QVERIFY(report.open(QIODevice::ReadOnly));
    int lit = 0;
    for (const auto& frame : QJsonDocument::fromJson(report.readAll()).object()["frames"].toArray())
      lit += frame.toObject()["flash"].toBool();
    QCOMPARE(lit, 1);
  }

  // What is wrong with a set is said without a window.
  void inspectFindsTheSoftFrame() {
    QCOMPARE(
        run({"shoot", "--world", "boat_hall", "--plan", at("plan.json"), "--out", at("windy"), "--fault", "gust@2"})
            .code,
        0);
    const auto text = run({"inspect", at("windy")});
    QCOMPARE(text.code, 0);
    QVERIFY2(text.out.contains("Frame 2 is soft"), qPrintable(text.out));
    const auto json = QJsonDocument::fromJson(run({"inspect", at("windy"), "--json"}).out.toUtf8())
                          .object()["sets"]
                          .toArray()[0]
                          .toObject();
    QVERIFY(!json["good"].toBool());
    QVERIFY(json["frames"].toArray()[1].toObject()["flaws"].toArray().contains("soft"));
    QVERIFY(json["frames"].toArray()[0].toObject()["flaws"].toArray().isEmpty());
  }

  void schoolsAreCompared() {
    const auto text = run({"plan", "--low", "4", "--high", "15.3", "--compare"});
    QCOMPARE(text.code, 0);
    for (const auto& school : schools())
      if (school.shape != SchoolShape::Free)
        QVERIFY2(text.out.contains(QString::fromStdString(school.id)), school.id.c_str());
    const auto json =
        QJsonDocument::fromJson(run({"plan", "--low", "4", "--high", "15.3", "--compare", "--json"}).out.toUtf8())
            .object();
    QVERIFY(json["alternatives"].toArray().size() > 10);
    QVERIFY(json["recommended"].toObject()["covers"].toBool());
  }

  void isoRisesOnlyUnderTheCap() {
    const auto planned = [&](const QStringList& more) {
      return QJsonDocument::fromJson(
                 run(QStringList{"plan", "--low", "4", "--high", "12", "--handheld", "--focal", "100", "--json"} + more)
                     .out.toUtf8())
          .object();
    };
    const auto base = planned({}), capped = planned({"--iso-cap", "1600"});
    const auto iso = [](const QJsonObject& plan) { return plan["frames"].toArray()[0].toObject()["iso"].toDouble(); };
    QCOMPARE(iso(base), 100.0);
    // More gain gathers no more light; it lowers the read noise, so a little deeper shadow is reached, not a lot.
    QVERIFY(iso(capped) > 100 && iso(capped) <= 1600);
    const double gained =
        base["coverage"].toObject()["low_ev100"].toDouble() - capped["coverage"].toObject()["low_ev100"].toDouble();
    QVERIFY2(gained > 0 && gained < 0.5, qPrintable(QString::number(gained)));
  }

  void exitCodes_data() {
    QTest::addColumn<QStringList>("arguments");
    QTest::addColumn<int>("code");
    const QString frames = dir_.filePath("frames"), first = dir_.filePath("frames/frame-1.dng");
    const QString text = dir_.filePath("notes.txt"), bare = dir_.filePath("bare.jpg"), cut = dir_.filePath("cut.jpg");
    std::ofstream(text.toStdString()) << "buy milk";
    Image<std::uint8_t> image(64, 48, 3);
    for (std::size_t i = 0; i < image.size(); ++i) image.data()[i] = std::uint8_t(i * 31);
    (void)writeJpeg(bare.toStdString(), image.view(), {});
    (void)writeJpeg(cut.toStdString(), image.view(), {});
    std::filesystem::resize_file(cut.toStdString(), 900);
    const QString small = dir_.filePath("small");
    const auto tiny =
        test::shootScene(test::texturedScene(96, 64, 6), test::exposedAt({5}), FrameFormat::Jpeg, small.toStdString());
    QTest::newRow("no command") << QStringList{} << 2;
    QTest::newRow("unknown command") << QStringList{"juggle"} << 2;
    QTest::newRow("unknown option") << QStringList{"plan", "--low", "1", "--high", "9", "--sideways"} << 2;
    QTest::newRow("readings upside down") << QStringList{"plan", "--low", "9", "--high", "1"} << 2;
    QTest::newRow("reading is no number") << QStringList{"plan", "--low", "dark", "--high", "1"} << 2;
    QTest::newRow("no such camera") << QStringList{"plan", "--low", "1", "--high", "9", "--camera", "teapot"} << 2;
    QTest::newRow("no such school") << QStringList{"plan", "--low", "1", "--high", "9", "--school", "eleven"} << 2;
    QTest::newRow("hand-held without focal length")
        << QStringList{"plan", "--low", "1", "--high", "9", "--handheld"} << 2;
    QTest::newRow("no such world") << QStringList{"shoot", "--world", "moon", "--plan", dir_.filePath("plan.json"),
                                                  "--out", small}
                                   << 2;
    QTest::newRow("no such fault")
        << QStringList{"shoot", "--world", "reading_room", "--plan",    dir_.filePath("plan.json"),
                       "--out", small,     "--fault",      "earthquake"}
        << 2;
    QTest::newRow("cable comes off") << QStringList{"shoot",
                                                    "--world",
                                                    "reading_room",
                                                    "--plan",
                                                    dir_.filePath("plan.json"),
                                                    "--out",
                                                    dir_.filePath("half"),
                                                    "--fault",
                                                    "disconnect@2"}
                                     << 1;
    QTest::newRow("card full") << QStringList{"shoot",
                                              "--world",
                                              "reading_room",
                                              "--plan",
                                              dir_.filePath("plan.json"),
                                              "--out",
                                              dir_.filePath("full"),
                                              "--fault",
                                              "card-full@1"}
                               << 5;
    QTest::newRow("no such SNR") << QStringList{"plan", "--low", "1", "--high", "9", "--snr", "clean"} << 2;
    QTest::newRow("no such ISO") << QStringList{"plan", "--low", "1", "--high", "9", "--iso-cap", "-3"} << 2;
    QTest::newRow("no such method") << QStringList{"combine",  frames, "--out", dir_.filePath("x.exr"),
                                                   "--method", "stew"}
                                    << 2;
    QTest::newRow("no such look") << QStringList{"finish", dir_.filePath("c.exr"),
                                                 "--out",  dir_.filePath("x.jpg"),
                                                 "--look", "loud"}
                                  << 2;
    QTest::newRow("output of another kind") << QStringList{"combine", first, "--out", dir_.filePath("x.jpg")} << 2;
    QTest::newRow("no such target") << QStringList{"run", first, "--out", small, "--deliver", "jpeg,poster"} << 2;
    QTest::newRow("missing path") << QStringList{"run", dir_.filePath("gone"), "--out", small} << 3;
    QTest::newRow("not an image") << QStringList{"run", text, "--out", small} << 3;
    QTest::newRow("no Exif") << QStringList{"run", bare, "--out", dir_.filePath("bare")} << 0;
    for (const char* method : {"fusion", "tone-range", "single"})
      QTest::addRow("method %s", method) << QStringList{"combine",  frames, "--out", dir_.filePath("m.exr"),
                                                        "--method", method}
                                         << 0;
    QTest::newRow("cut short") << QStringList{"combine", cut, "--out", dir_.filePath("x.exr")} << 3;
    QTest::newRow("finish what is no radiance") << QStringList{"finish", bare, "--out", dir_.filePath("x.jpg")} << 3;
    QTest::newRow("inspect nothing usable") << QStringList{"inspect", text} << 3;
    QTest::newRow("different sizes") << QStringList{"combine", first, QString::fromStdString(tiny.files[0].string()),
                                                    "--out", dir_.filePath("x.exr")}
                                     << 4;
    QTest::newRow("unwritable") << QStringList{"combine", first, "--out", "/proc/nowhere/x.exr"} << 5;
    QTest::newRow("one left out") << QStringList{"run", first, text, "--out", dir_.filePath("partial")} << 1;
    QTest::newRow("one frame") << QStringList{"run", first, "--out", dir_.filePath("single")} << 0;
    QTest::newRow("own camera file missing field")
        << QStringList{"plan", "--low", "1", "--high", "9", "--camera", dir_.filePath("plan.json")} << 2;
  }
  void exitCodes() {
    QFETCH(QStringList, arguments);
    QFETCH(int, code);
    const auto outcome = run(arguments);
    QVERIFY2(outcome.code == code, qPrintable(QString("%1: %2%3").arg(outcome.code).arg(outcome.out, outcome.error)));
    if (code > 1 && !QString(QTest::currentDataTag()).startsWith("no command") &&
        !QString(QTest::currentDataTag()).startsWith("unknown"))
      QVERIFY2(isSentence(outcome.error), qPrintable(outcome.error));
    QVERIFY(!outcome.error.contains("terminate called"));
  }

  void planSaysTheTimes() {
    const auto plan = run({"plan", "--low", "4", "--high", "13", "--school", "three-by-two", "--aperture", "f/5.6"});
    QCOMPARE(plan.code, 0);
    QVERIFY(plan.out.startsWith("Three frames, two stops apart"));
    QCOMPARE(plan.out.count("f/5.6"), 3);
  }

  void handheldIsShortEnough() {
    const auto plan = run({"plan", "--low", "8", "--high", "13", "--handheld", "--focal", "50", "--json"});
    QCOMPARE(plan.code, 0);
    const auto frames = QJsonDocument::fromJson(plan.out.toUtf8()).object()["frames"].toArray();
    for (const auto& frame : frames) QVERIFY(frame.toObject()["seconds"].toDouble() <= 1.0 / 50 + 1e-9);
  }
};

QTEST_GUILESS_MAIN(TestCli)
#include "test_cli.moc"
