// SPDX-License-Identifier: GPL-3.0-or-later
// Every write, flush, rename, opening and large piece of memory of a whole run, and of a job being written, fails once:
// never half a file, never a crash, always a sentence; and the next run makes all of it.
#include "base/atomic_file.h"
#include "session/job.h"
#include "support/radiance_sets.h"
#include "support/scenes.h"

#include <QProcess>
#include <QTest>
#include <map>

using namespace ml;
namespace fs = std::filesystem;
using test::pathOf;

namespace {

using Files = std::map<std::string, std::string>;

struct Ended {
  int code = -1;
  bool crashed = true;
  QString words;
  long calls = 0;
};

struct Fault {
  QString kind;
  long at = 0; ///< 0: none.
  bool stays = false;
};

Ended start(const QString& program, const QStringList& arguments, const Fault& fault, const fs::path& counted) {
  QProcess process;
  QProcessEnvironment environment = QProcessEnvironment::systemEnvironment();
  environment.insert("LD_PRELOAD", ML_FAILING);
  environment.insert("FAIL_KIND", fault.kind);
  environment.insert("FAIL_AT", QString::number(fault.at));
  environment.insert("FAIL_STAYS", fault.stays ? "1" : "0");
  environment.insert("FAIL_COUNT", QString::fromStdString(counted.string()));
  process.setProcessEnvironment(environment);
  process.setProcessChannelMode(QProcess::MergedChannels);
  process.start(program, arguments);
  Ended ended;
  if (!process.waitForFinished(120000)) return ended;
  ended.crashed = process.exitStatus() != QProcess::NormalExit;
  ended.code = process.exitCode();
  ended.words = QString::fromUtf8(process.readAll());
  if (const auto text = readText(counted)) ended.calls = std::atol(text->c_str());
  return ended;
}

/// With what tells the folder taken out.
Files filesOf(const fs::path& folder) {
  Files out;
  for (const auto& entry : fs::recursive_directory_iterator(folder)) {
    if (!entry.is_regular_file()) continue;
    QByteArray bytes = QByteArray::fromStdString(*readText(entry.path()));
    bytes.replace(QByteArray::fromStdString(folder.string()), "OUT");
    out[entry.path().lexically_relative(folder).string()] = bytes.toStdString();
  }
  return out;
}

/// Calls to fail: all of them by hand (ML_FAULTS=all), some in the everyday run, first and last among them.
std::vector<long> chosen(long calls) {
  const long some = qEnvironmentVariable("ML_FAULTS") == "all" ? calls : 7;
  std::vector<long> out;
  for (long i = 0; i < std::min(some, calls); ++i) {
    const long at = 1 + (some >= calls ? i : i * (calls - 1) / (some - 1));
    if (out.empty() || out.back() != at) out.push_back(at);
  }
  return out;
}

} // namespace

class TestFaults : public QObject {
  Q_OBJECT

private:
  QTemporaryDir dir_;
  QStringList run_;
  Files whole_;

  [[nodiscard]] fs::path at(const char* name) const { return pathOf(dir_) / name; }
  [[nodiscard]] QStringList runTo(const fs::path& out) const {
    return QStringList{"run",       QString::fromStdString(at("card").string()),
                       "--out",     QString::fromStdString(out.string()),
                       "--deliver", "jpeg,print,hdr-jpeg,archive"};
  }
  static void kinds() {
    QTest::addColumn<QString>("kind");
    for (const char* kind : {"write", "flush", "rename", "open", "memory"}) QTest::newRow(kind) << QString(kind);
  }

private slots:
  void initTestCase() {
    (void)test::shootScene(test::texturedScene(300, 200, 7), test::exposedAt({7, 4}), FrameFormat::Jpeg, at("card"));
    const Ended ended = start(ML_CLI, runTo(at("whole")), {"write", 0, false}, at("count"));
    QVERIFY2(!ended.crashed && ended.code == 0, qPrintable(ended.words));
    whole_ = filesOf(at("whole"));
    QVERIFY(whole_.size() >= 5);
  }

  void aRunSurvivesEachFault_data() { kinds(); }
  void aRunSurvivesEachFault() {
    QFETCH(QString, kind);
    fs::remove_all(at("counted"));
    const Ended counted = start(ML_CLI, runTo(at("counted")), {kind, 0, false}, at("count"));
    QCOMPARE(counted.code, 0);
    QVERIFY2(counted.calls > 3, qPrintable(QString::number(counted.calls)));
    int said = 0, harmless = 0;
    for (const long n : chosen(counted.calls))
      for (const bool stays : {false, true}) {
        const QString where = QString("%1 %2 of %3%4").arg(kind).arg(n).arg(counted.calls).arg(stays ? " on" : "");
        fs::remove_all(at("out"));
        const Ended ended = start(ML_CLI, runTo(at("out")), {kind, n, stays}, at("count"));
        QVERIFY2(!ended.crashed, qPrintable(where + ": " + ended.words));
        const Files left = fs::exists(at("out")) ? filesOf(at("out")) : Files{};
        for (const auto& [name, bytes] : left) {
          if (name.ends_with(".json")) continue; // says what went wrong
          QVERIFY2(whole_.contains(name) && whole_.at(name) == bytes, qPrintable(where + ": half of " + name.c_str()));
        }
        if (ended.code == 0) {
          QVERIFY2(left.size() == whole_.size(), qPrintable(where + ": files are missing and nothing is said"));
          ++harmless;
        } else {
          QVERIFY2(ended.words.count(' ') > 4 && ended.words.contains('.'), qPrintable(where + ": " + ended.words));
          QVERIFY2(!ended.words.contains("terminate"), qPrintable(where));
          ++said;
        }
        const Ended again = start(ML_CLI, runTo(at("out")), {kind, 0, false}, at("count"));
        QVERIFY2(again.code == 0, qPrintable(where + ", again: " + again.words));
        const Files made = filesOf(at("out"));
        for (const auto& [name, bytes] : whole_)
          if (!name.ends_with(".json"))
            QVERIFY2(made.contains(name) && made.at(name) == bytes, qPrintable(where + ", again: " + name.c_str()));
        QVERIFY2(made.size() == whole_.size(), qPrintable(where + ": something is left over"));
      }
    qInfo("%s: %ld calls; said %d times, harmless %d times", qPrintable(kind), counted.calls, said, harmless);
    QVERIFY(said > 0 || kind == "memory");
  }

  // The program that writes a whole job (keep_job.cpp): what it leaves opens, or says which file is missing.
  void aJobSurvivesEachFault_data() { kinds(); }
  void aJobSurvivesEachFault() {
    QFETCH(QString, kind);
    if (kind == "memory") QSKIP("a job's files take no large memory");
    fs::remove_all(at("job"));
    const QStringList arguments{QString::fromStdString(at("job").string())};
    const Ended counted = start(ML_KEEP_JOB, arguments, {kind, 0, false}, at("count"));
    QCOMPARE(counted.code, 0);
    const Files whole = filesOf(at("job"));
    for (const long n : chosen(counted.calls))
      for (const bool stays : {false, true}) {
        const QString where = QString("%1 %2 of %3%4").arg(kind).arg(n).arg(counted.calls).arg(stays ? " on" : "");
        fs::remove_all(at("job"));
        const Ended ended = start(ML_KEEP_JOB, arguments, {kind, n, stays}, at("count"));
        QVERIFY2(!ended.crashed, qPrintable(where + ": " + ended.words));
        if (!fs::exists(at("job"))) continue;
        const auto job = Job::open(at("job"));
        if (!job) {
          QVERIFY2(job.error().message.find(at("job").string()) != std::string::npos, job.error().message.c_str());
          continue;
        }
        for (const auto& [name, bytes] : filesOf(at("job"))) {
          QVERIFY2(name.find(".part-") == std::string::npos, qPrintable(where + ": " + name.c_str()));
          if (name.ends_with(".json") && whole.contains(name) && !bytes.empty())
            QVERIFY2(bytes.back() == '\n', qPrintable(where + ": half of " + name.c_str()));
        }
      }
  }
};

QTEST_GUILESS_MAIN(TestFaults)
#include "test_faults.moc"
