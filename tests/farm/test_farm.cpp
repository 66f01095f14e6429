// SPDX-License-Identifier: GPL-3.0-or-later
// Many machines make what one would: bit for bit, whatever dies, goes on as an orphan or is started twice.
#include "farm/farm.h"
#include "support/cli.h"
#include "support/radiance_sets.h"
#include "support/scenes.h"
#include "support/wait.h"

#include <QDir>
#include <QDirIterator>
#include <QFile>
#include <QJsonDocument>
#include <QJsonObject>
#include <QProcess>
#include <QStandardPaths>
#include <QTemporaryDir>
#include <QTest>
#include <unistd.h>

using namespace ml;

namespace {

QByteArray bytesOf(const QString& file) {
  QFile f(file);
  return f.open(QIODevice::ReadOnly) ? f.readAll() : QByteArray();
}

/// A card of `sets` brackets of two frames, each in a folder, and one that cannot be combined.
void makeCard(const QString& folder, int sets, bool withBad) {
  for (int i = 0; i < sets; ++i)
    (void)test::shootScene(test::texturedScene(96, 64, 6 + i % 5), test::exposedAt({7, 4}), FrameFormat::Jpeg,
                           (folder + QString("/s%1").arg(i, 3, 10, QChar('0'))).toStdString());
  if (!withBad) return;
  const QString bad = folder + "/s999";
  QDir().mkpath(bad);
  const QDir good(folder + "/s000");
  const auto names = good.entryList(QDir::Files, QDir::Name);
  QFile::copy(good.filePath(names[0]), bad + "/a.jpg");
  QFile::copy(good.filePath(names[1]), bad + "/b.jpg");
  for (const char* name : {"/a.jpg", "/b.jpg"}) {
    QFile cut(bad + name);
    cut.resize(cut.size() / 2);
  }
}

/// Files of a run's folder, but those of the farm itself, with what tells the folder taken out.
QMap<QString, QByteArray> filesIn(const QString& folder) {
  QMap<QString, QByteArray> files;
  for (QDirIterator it(folder, QDir::Files | QDir::Hidden, QDirIterator::Subdirectories); it.hasNext();) {
    const QString file = it.next(), name = QDir(folder).relativeFilePath(file);
    if (!name.startsWith("farm/")) files[name] = bytesOf(file).replace(folder.toUtf8(), "OUT");
  }
  return files;
}

QString differs(const QMap<QString, QByteArray>& a, const QMap<QString, QByteArray>& b) {
  for (const auto& name : a.keys() + b.keys())
    if (!a.contains(name) || !b.contains(name) || a[name] != b[name]) return name;
  return {};
}

} // namespace

class TestFarm : public QObject {
  Q_OBJECT

  QTemporaryDir dir_;
  QString card_;

private slots:
  void initTestCase() {
    card_ = dir_.filePath("card");
    makeCard(card_, 6, true);
    const auto run =
        test::run({"run", card_, "--out", dir_.filePath("run"), "--no-join", "--deliver", "jpeg,archive,hdr-jpeg"});
    QVERIFY2(run.code == 0 || run.code == 1, qPrintable(run.error));
  }

  QStringList farmArguments(const QString& out) {
    return {"farm", card_, "--out", out, "--no-join", "--deliver", "jpeg,archive,hdr-jpeg"};
  }

  void localIsTheSameAsARun() {
    const auto run = test::run({"run", card_, "--out", dir_.filePath("run"), "--no-join", "--deliver",
                                "jpeg,archive,hdr-jpeg"}); // again: its code
    const QString out = dir_.filePath("local");
    const auto farm = test::run(farmArguments(out));
    QCOMPARE(farm.code, run.code);
    auto expected = filesIn(dir_.filePath("run"));
    expected["report.json"].replace("\"done_before\": true", "\"done_before\": false"); // the run was run twice
    const QString other = differs(filesIn(out), expected);
    QVERIFY2(other.isEmpty(), qPrintable(other));
    // Again: nothing is made, the same is said.
    const auto before = filesIn(out);
    QCOMPARE(test::run(farmArguments(out)).code, run.code);
    QVERIFY(differs(filesIn(out), before).isEmpty());
  }

  void theManifestIsReadBackAndHostileOnesAreRefused() {
    FarmManifest manifest;
    manifest.arguments = {{"look", "natural"}};
    manifest.sets = {{"a", {{"/x/1.jpg", "/x/2.jpg"}}}};
    manifest.leftOut = {{"/x/3.jpg", {ErrorCode::FileUnreadable, "damaged"}, false}};
    const auto again = manifestFrom(toText(manifest)).value();
    QCOMPARE(again.sets[0].groups, manifest.sets[0].groups);
    QCOMPARE(again.arguments, manifest.arguments);
    QCOMPARE(again.leftOut[0].reason.message, manifest.leftOut[0].reason.message);
    for (const char* text :
         {"", "{}", "[]", R"({"version":2,"sets":[]})", R"({"version":1,"sets":[{"name":"../a","groups":[["x"]]}]})",
          R"({"version":1,"sets":[{"name":"a","groups":[[]]}]})", R"({"version":1,"sets":[{"name":"a","groups":[]}]})",
          R"({"version":1,"sets":[{"name":7,"groups":[["x"]]}]})", R"({"version":1,"arguments":[1],"sets":[]})"})
      QVERIFY2(!manifestFrom(text), text);
    QCOMPARE(test::run({"farm", "status", dir_.filePath("nowhere")}).code, 3);
    QCOMPARE(test::run({"farm", card_, "--out", dir_.filePath("x"), "--engine", "steam"}).code, 2);
    QCOMPARE(test::run({"farm"}).code, 2);
  }

  /// Killed in the middle, resumed; tasks started twice at once: every set once, equal to the run's.
  void whateverDiesIsMadeUp() {
    const QString out = dir_.filePath("killed");
    for (int kills = 0; kills < 4; ++kills) {
      QProcess process;
      process.start(ML_CLI, farmArguments(out));
      QVERIFY(process.waitForStarted());
      const int sets = kills;
      QVERIFY(test::waitFor([&] {
        return QDir(out).entryList({"*.json"}, QDir::Files).size() > sets || process.state() == QProcess::NotRunning;
      }));
      process.kill();
      process.waitForFinished();
    }
    const auto state = farmState(loadManifest(out.toStdString()).value(), out.toStdString());
    QCOMPARE(state.sets, std::size_t(7));
    std::vector<std::unique_ptr<QProcess>> twice;
    for (int i = 0; i < 7; ++i)
      for (int n = 0; n < 2; ++n) {
        twice.push_back(std::make_unique<QProcess>());
        twice.back()->start(ML_CLI, {"farm", "task", out, QString::number(i)});
      }
    for (auto& process : twice) QVERIFY(process->waitForFinished(120000));
    const auto status = test::run({"farm", "status", out});
    QVERIFY2(status.out.contains("6 of 7 sets are made, 1 failed, 0 are open"), qPrintable(status.out));
    QCOMPARE(test::run({"farm", "resume", out}).code, 1);
    auto expected = filesIn(dir_.filePath("run"));
    expected["report.json"].replace("\"done_before\": true", "\"done_before\": false");
    auto found = filesIn(out);
    for (const auto& name : found.keys()) // what the killed ones left half-written is hidden, and no picture
      if (name.section('/', -1).startsWith('.')) found.remove(name);
    const QString other = differs(found, expected);
    QVERIFY2(other.isEmpty(), qPrintable(other));
  }

  /// A real workload manager of two nodes; one is killed in the middle. By hand, or where it is installed: root, and no
  /// test of ours installs it.
  void onSlurm() {
    if (::geteuid() != 0 || QStandardPaths::findExecutable("slurmctld", {"/usr/sbin"}).isEmpty() ||
        QStandardPaths::findExecutable("sbatch").isEmpty())
      QSKIP("needs root and the packages slurmctld, slurmd, slurm-client and munge");
    const int kSets =
        qEnvironmentVariableIntValue("ML_FARM_SETS") > 0 ? qEnvironmentVariableIntValue("ML_FARM_SETS") : 12;
    const QString card = dir_.filePath("large"), out = dir_.filePath("slurm"), single = dir_.filePath("single");
    makeCard(card, kSets, false);
    const QString script = QString(ML_SOURCE_DIR) + "/tests/farm/slurm.sh", folder = dir_.filePath("manager");
    const auto slurm = [&](const QStringList& arguments) {
      QProcess process;
      process.setProcessChannelMode(QProcess::MergedChannels);
      process.setStandardOutputFile(dir_.filePath("slurm.txt"));
      process.start(script, arguments);
      process.waitForFinished(60000);
      return process.exitCode() == 0;
    };
    if (!slurm({"start", folder})) QSKIP("Slurm does not start on this machine");
    qputenv("SLURM_CONF", (folder + "/slurm.conf").toUtf8());
    const auto farm = test::run({"farm", card, "--out", out, "--no-join", "--engine", "slurm"});
    QVERIFY2(farm.code == 0, qPrintable(farm.error));
    QVERIFY(test::waitFor([&] { return QDir(out).entryList({"*.json"}, QDir::Files).size() >= kSets / 4; }));
    QVERIFY(slurm({"kill", folder, "0"})); // the node; what it was making goes on as an orphan
    QVERIFY(slurm({"node", folder, "0"}));
    const bool over = test::waitFor([&] { return QFile::exists(out + "/report.json"); }, 300000);
    const auto status = test::run({"farm", "status", out, "--json"});
    slurm({"stop", folder});
    qunsetenv("SLURM_CONF");
    QVERIFY2(over, qPrintable(status.out));
    const auto state = QJsonDocument::fromJson(status.out.toUtf8()).object();
    QCOMPARE(state["made"].toInt(), kSets);
    QCOMPARE(test::run({"run", card, "--out", single, "--no-join"}).code, 0);
    auto found = filesIn(out);
    for (const auto& name : found.keys())
      if (name.section('/', -1).startsWith('.')) found.remove(name);
    const QString other = differs(found, filesIn(single));
    QVERIFY2(other.isEmpty(), qPrintable(other));
  }
};

QTEST_GUILESS_MAIN(TestFarm)
#include "test_farm.moc"
