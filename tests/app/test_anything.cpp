// SPDX-License-Identifier: GPL-3.0-or-later
// A random user: whatever a hand does to the window, it neither crashes nor hangs nor loses anything. Four seeds here;
// by hand
//   ML_SEED=n ML_ACTIONS=100000 [ML_LOG=file] test_anything
#include "support/random_hand.h"
#include "support/scenes.h"
#include "support/window.h"

#include <QComboBox>
#include <fstream>
#include <set>

using namespace ml;
using namespace ml::test;

namespace {

int number(const char* name, int otherwise) {
  bool known = false;
  const int value = qEnvironmentVariableIntValue(name, &known);
  return known ? value : otherwise;
}

/// What undo answers for: what the world did (frames that came, files that were written) is not taken back.
struct Undoable {
  std::vector<SpotReading> readings;
  PlanChoices choices;
  Recipe recipe;
  std::string stamp;
  bool combined;
  bool operator==(const Undoable&) const = default;
};
Undoable undoable(const View& v) {
  return {v.readings, choicesOf(v), v.recipe, v.radianceStamp, v.combined.has_value()};
}

std::string difference(const Undoable& a, const Undoable& b) {
  std::string out;
  if (!(a.readings == b.readings))
    out += " readings (" + std::to_string(a.readings.size()) + " and " + std::to_string(b.readings.size()) + ")";
  if (!(a.choices == b.choices)) {
    out += " choices";
    const Situation &x = a.choices.situation, &y = b.choices.situation;
    if (!(x == y))
      out += " (situation, fade " + std::to_string(x.fadeStopsPerMinute) + " and " +
             std::to_string(y.fadeStopsPerMinute) + ")";
  }
  if (!(a.recipe == b.recipe)) out += " recipe " + toJson(a.recipe) + " for " + toJson(b.recipe);
  if (a.stamp != b.stamp || a.combined != b.combined) out += " what was combined (" + a.stamp + " and " + b.stamp + ")";
  return out;
}

/// What is shown is what lies on disk; the first difference, or nothing.
std::string lost(const JobModel& shown) {
  const auto disk = Job::open(shown.job().folder());
  if (!disk) return disk.error().message;
  if (disk->views().size() != shown.job().views().size()) return "views";
  for (std::size_t i = 0; i < disk->views().size(); ++i) {
    const View &a = shown.job().views()[i], &b = disk->views()[i];
    std::string what = difference(undoable(a), undoable(b));
    if (a.format != b.format) what += " format";
    if (a.delivered.size() != b.delivered.size()) what += " delivered";
    if (a.activeSet != b.activeSet) what += " active set";
    for (std::size_t k = 0; k < std::max(a.sets.size(), b.sets.size()); ++k)
      if (k >= a.sets.size() || k >= b.sets.size() || !(a.sets[k].frames == b.sets[k].frames) ||
          a.sets[k].label != b.sets[k].label)
        what += " set " + std::to_string(k);
    if (!what.empty()) return a.name + ":" + what;
  }
  return {};
}

} // namespace

class TestAnything : public QObject {
  Q_OBJECT

private:
  QTemporaryDir dir_;
  std::vector<QStringList> drops_;
  std::map<std::string, Undoable> beginning_; ///< Of the views of the job that is open.
  std::set<std::string> byItself_;            ///< Combined in the background, which is not taken back.
  std::filesystem::path job_;

  /// A window that remembers each view as it was when its job was opened.
  std::unique_ptr<MainWindow> opened(const std::filesystem::path& jobs) {
    auto window = std::make_unique<MainWindow>(jobs);
    const JobModel& job = window->workbench().desk.job;
    connect(&job, &JobModel::jobOpened, this, [this, &job] {
      job_ = job.job().folder();
      beginning_.clear();
      byItself_.clear();
      for (const View& v : job.job().views()) beginning_[idOf(v)] = undoable(v);
    });
    connect(&job, &JobModel::viewsChanged, this, [this, &job] { // a view that came begins as it came
      for (const View& v : job.job().views()) beginning_.try_emplace(idOf(v), undoable(v));
    });
    connect(&window->workbench().views, &AllViews::combined, this,
            [this](const std::string& view) { byItself_.insert(view); });
    window->show();
    return window;
  }
  void undoAll(MainWindow& window) {
    Workbench& bench = window.workbench();
    window.setFocus(); // what was typed and not taken yet is taken when its field is left
    QVERIFY(settled(window));
    while (bench.desk.job.canBringBack()) { // views that were taken out come first, and into the hand
      bench.undo();
      QVERIFY(settled(window));
    }
    const std::string id = idOf(bench.view());
    const auto now = [&] {
      Undoable state = undoable(bench.view());
      double& fade = state.choices.situation.fadeStopsPerMinute; // told by the sun: the visit has an undo of its own
      if (bench.visit.toldFade(id) == fade) fade = beginning_[id].choices.situation.fadeStopsPerMinute;
      if (byItself_.contains(id)) state.stamp = beginning_[id].stamp, state.combined = beginning_[id].combined;
      return state;
    };
    int ahead = 0; // the hand may have gone back last: the end lies where nothing is left to be done again
    for (; bench.canRedo(); ++ahead) {
      bench.redo();
      QVERIFY(waitFor([&] { return !bench.busy(); }));
    }
    QVERIFY(settled(window));
    if (ahead) qInfo("%d steps had been taken back at the end", ahead);
    const Undoable end = now();
    int steps = 0;
    for (; bench.canUndo(); ++steps) {
      bench.undo();
      if (steps % 7 == 0) QCoreApplication::processEvents();
      QVERIFY(waitFor([&] { return !bench.busy(); }));
    }
    QVERIFY(settled(window));
    const std::string first = difference(now(), beginning_[id]);
    QVERIFY2(first.empty(), ("not as in the beginning after " + std::to_string(steps) + " steps:" + first).c_str());
    while (bench.canRedo()) {
      bench.redo();
      QVERIFY(waitFor([&] { return !bench.busy(); })); // what it loads keeps the next step waiting
    }
    QVERIFY(settled(window));
    const std::string last = difference(now(), end);
    QVERIFY2(last.empty(), ("not as at the end:" + last).c_str());
  }

private slots:
  void initTestCase() {
    prepareWindows();
    const auto folder = pathOf(dir_);
    (void)shootScene(texturedScene(420, 300, 12, 5), exposedAt({3, 7, 11}), FrameFormat::Jpeg, folder / "card");
    const auto other =
        shootScene(texturedScene(300, 420, 9, 6), exposedAt({4, 6, 8, 10}), FrameFormat::Jpeg, folder / "other");
    std::filesystem::create_directories(folder / "empty");
    std::ofstream(folder / "notes.txt") << "no frame";
    const auto text = [](const std::filesystem::path& p) { return QString::fromStdString(p.string()); };
    drops_ = {{text(folder / "card")},
              {text(other.files[0]), text(other.files[2])},
              {text(folder / "card"), text(folder / "other")},
              {text(folder / "empty")},
              {text(folder / "notes.txt")}};
  }

  void whateverAHandDoes_data() {
    QTest::addColumn<int>("seed");
    const int one = number("ML_SEED", 0);
    if (one > 0)
      QTest::newRow(qPrintable(QString::number(one))) << one;
    else
      for (const int seed : {11, 12, 13, 14}) QTest::newRow(qPrintable(QString::number(seed))) << seed;
  }

  void whateverAHandDoes() {
    QFETCH(int, seed);
    const int actions = number("ML_ACTIONS", 800);
    std::ofstream log(qEnvironmentVariable("ML_LOG").toStdString());
    const auto jobs = pathOf(dir_) / ("seed-" + std::to_string(seed)) / "jobs";
    RandomHand hand(unsigned(seed), drops_);
    auto window = opened(jobs);
    if (seed % 2)
      window->openDemo();
    else
      window->openPaths(drops_[0]);
    QVERIFY(settled(*window));
    for (int i = 1; i <= actions; ++i) {
      hand.act(*window);
      if (log) log << i << " " << hand.last().toStdString() << std::endl;
      if (i % 100) continue;
      Workbench& bench = window->workbench();
      QVERIFY2(waitFor([&] { return bench.settled(); }), qPrintable("hangs after " + hand.last()));
      if (!bench.hasView()) continue;
      const std::string what = lost(bench.desk.job);
      QVERIFY2(
          what.empty(),
          qPrintable(QString("action %1: on disk is other than shown: %2").arg(i).arg(QString::fromStdString(what))));
      if (hand.number(0, 5) > 0) continue;
      window.reset(); // closed in whatever state it is, and opened again
      window = opened(jobs);
      window->openPaths({QString::fromStdString(job_.string())});
      QVERIFY(settled(*window));
    }
    QVERIFY(settled(*window));
    if (window->workbench().hasView() && !hand.copied()) undoAll(*window);
  }
};

QTEST_MAIN(TestAnything)
#include "test_anything.moc"
