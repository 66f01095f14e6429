// SPDX-License-Identifier: GPL-3.0-or-later
// The queue at Deliver in the real window: goes on after a stop, changes its order, says what cannot be written and
// tries it again.
#include <QTest>

#include "app/main_window.h"
#include "app/queue_list.h"
#include "deliver/deliver.h"
#include "support/scenes.h"
#include "support/window.h"

#include <QCheckBox>
#include <QDropEvent>
#include <QLabel>
#include <QLineEdit>
#include <QMimeData>
#include <QPushButton>
#include <fstream>

using namespace ml;
using namespace ml::test;
namespace fs = std::filesystem;

namespace {

constexpr const char* kNames[] = {"Hall", "Kitchen", "Landing", "Attic"};

/// A job of four combined views, and three of them waiting to be delivered, as after the program was ended.
fs::path jobWithQueue(const fs::path& jobs) {
  auto job = Job::create(jobs / "house", "House");
  for (const char* name : kNames) {
    const std::size_t i = *job->addView(name, "", "full-frame-24");
    View& v = job->views()[i];
    const Image<float> light = texturedScene(360, 240, 11, 3 + unsigned(i));
    if (!deliverRadiance(light.view(), v.radianceFile(), {})) qFatal("no radiance");
    v.combined = CombineRecord{};
    v.combined->ev100OfUnit = 10;
    v.radianceStamp = "1";
    if (!v.saveCombined() || !v.saveFinish()) qFatal("no view");
  }
  if (!job->save()) qFatal("no job");
  DeliveryQueue queue(job->folder() / "deliveries.json");
  for (int i = 0; i < 3; ++i) {
    DeliveryOrder order;
    order.view = job->views()[std::size_t(i)].folder.filename().string();
    order.targets = {"jpeg"};
    order.recipe = toJson(Recipe{});
    order.pattern = kNamePattern;
    if (!queue.add(order)) qFatal("no queue");
  }
  return job->folder();
}

QStringList rows(QueueList* list) {
  QStringList names;
  for (int i = 0; i < list->count(); ++i) names << list->item(i)->text().section(':', 0, 0);
  return names;
}

int filesIn(const View& v) {
  std::error_code error;
  int n = 0;
  for ([[maybe_unused]] const auto& entry : fs::directory_iterator(v.deliveredFolder(), error)) ++n;
  return n;
}

/// What a drag that ends on a row brings; the dragging itself is the window system's.
void dropOnRow(QueueList* list, int from, int to) {
  struct Reached : QueueList {
    using QueueList::dropEvent;
  };
  list->setCurrentRow(from);
  const QMimeData rowData;
  QDropEvent drop(QPointF(list->visualItemRect(list->item(to)).center()), Qt::MoveAction, &rowData, Qt::LeftButton,
                  Qt::NoModifier);
  (list->*&Reached::dropEvent)(&drop);
}

class Opened {
public:
  Opened() : folder_(jobWithQueue(pathOf(dir_) / "jobs")), window(pathOf(dir_) / "jobs") {
    window.resize(1280, 800);
    window.show();
    window.openPaths({QString::fromStdString(folder_.string())});
    bench().goTo(stations::kDeliver);
    if (!settled(window)) qFatal("the window does not settle");
  }
  Workbench& bench() { return window.workbench(); }
  QueueList* list() { return qobject_cast<QueueList*>(visible<QListWidget>(window, "queue")); }
  const fs::path& folder() const { return folder_; }

private:
  QTemporaryDir dir_;
  fs::path folder_;

public:
  MainWindow window;
};

} // namespace

class TestDelivery : public QObject {
  Q_OBJECT

private slots:
  void initTestCase() { prepareWindows(); }

  void whatWaitedGoesOnInTheOrderAskedFor() {
    Opened job;
    QueueList* list = job.list();
    QVERIFY(list);
    QCOMPARE(rows(list), QStringList({"Hall", "Kitchen", "Landing"}));
    QVERIFY(visible<QLabel>(job.window, "complaint")
                ->text()
                .startsWith("3 files still wait")); // said when the job was opened
    QVERIFY(!job.bench().deliver.running());        // nothing is written before somebody says so
    QVERIFY2(verdictOf(job.window).contains("3 files wait"), qPrintable(verdictOf(job.window)));

    // By keys: the last goes first; by buttons: it goes back by one.
    list->setFocus();
    list->setCurrentRow(2);
    QTest::keyClick(list, Qt::Key_Up, Qt::AltModifier);
    QTest::keyClick(list, Qt::Key_Up, Qt::AltModifier);
    QTest::keyClick(list, Qt::Key_Up, Qt::AltModifier); // it is the first already
    QCOMPARE(rows(list), QStringList({"Landing", "Hall", "Kitchen"}));
    QCOMPARE(list->currentRow(), 0);
    click(visible<QPushButton>(job.window, "queueDown"));
    QCOMPARE(rows(list), QStringList({"Hall", "Landing", "Kitchen"}));
    // By dragging Hall onto the last row.
    dropOnRow(list, 0, 2);
    QCOMPARE(rows(list), QStringList({"Landing", "Kitchen", "Hall"}));
    QCOMPARE(rows(list), [&] { // and so it is on disk
      QStringList names;
      const DeliveryQueue onDisk(job.folder() / "deliveries.json");
      for (const auto& o : onDisk.orders())
        names << QString::fromStdString(o.view).mid(3).replace(0, 1, QString(QChar(o.view[3])).toUpper());
      return names;
    }());
    // Kitchen is not wanted after all.
    list->setCurrentRow(1);
    QTest::keyClick(list, Qt::Key_Delete);
    QCOMPARE(rows(list), QStringList({"Landing", "Hall"}));

    click(visible<QPushButton>(job.window, "pauseQueue")); // it says: go on
    QVERIFY(settled(job.window));
    const auto& views = job.bench().job().views();
    QCOMPARE(filesIn(views[0]), 1);
    QCOMPARE(filesIn(views[1]), 0);
    QCOMPARE(filesIn(views[2]), 1);
    QVERIFY(fs::last_write_time(views[2].deliveredFolder() / "landing.jpg") <
            fs::last_write_time(views[0].deliveredFolder() / "hall.jpg"));
    QCOMPARE(views[2].delivered.size(), std::size_t(1));
    QVERIFY(job.bench().deliver.orders().empty());
    QVERIFY2(verdictOf(job.window).startsWith("One file lies"), qPrintable(verdictOf(job.window)));
    QVERIFY(visible<QLabel>(job.window, "deliveredFiles")->text().contains("hall.jpg"));
    QVERIFY(DeliveryQueue(job.folder() / "deliveries.json").orders().empty());
  }

  void whatCannotBeWrittenIsSaidAndTriedAgain() {
    Opened job;
    const auto& views = job.bench().job().views();
    fs::remove_all(views[1].deliveredFolder());
    std::ofstream(views[1].deliveredFolder()) << "a file where the folder should be";
    click(visible<QPushButton>(job.window, "pauseQueue"));
    QVERIFY(settled(job.window));
    QCOMPARE(filesIn(views[0]), 1);
    QCOMPARE(filesIn(views[2]), 1); // the one that failed held nothing up
    QCOMPARE(rows(job.list()), QStringList({"Kitchen"}));
    QVERIFY(job.list()->item(0)->text().contains("not written"));
    QVERIFY2(verdictOf(job.window).contains("could not be written"), qPrintable(verdictOf(job.window)));
    QVERIFY(job.bench().reasoning().contains("kitchen"));
    fs::remove(views[1].deliveredFolder());
    click(visible<QPushButton>(job.window, "pauseQueue"));
    job.bench().goTo(stations::kFinish); // away from the queue, its end is told
    QVERIFY(settled(job.window));
    QCOMPARE(filesIn(views[1]), 1);
    QVERIFY(job.bench().deliver.orders().empty());
    QVERIFY(visible<QLabel>(job.window, "complaint")->text().contains("One file is written"));
  }

  void theFinishIsThatOfTheMomentItWasAskedFor() {
    Opened job;
    Recipe light;
    light.tone.exposure = 1;
    // Asked for as it is, and changed before it is written: both can be had.
    job.bench().selectView(3);
    QVERIFY(settled(job.window));
    job.bench().deliver.deliver({{"jpeg"}, false, {}, kNamePattern, {}});
    job.bench().finish.setRecipe(light);
    job.bench().deliver.deliver({{"jpeg"}, false, {}, kNamePattern, {}});
    QVERIFY(settled(job.window));
    const auto& attic = job.bench().job().views()[3];
    QCOMPARE(attic.delivered.size(), std::size_t(2));
    QVERIFY(attic.delivered[0].recipe == toJson(Recipe{}) && attic.delivered[1].recipe == toJson(light));
    const QImage first(QString::fromStdString((attic.deliveredFolder() / attic.delivered[0].file).string())),
        second(QString::fromStdString((attic.deliveredFolder() / attic.delivered[1].file).string()));
    QVERIFY(qGray(second.scaled(1, 1, Qt::IgnoreAspectRatio, Qt::SmoothTransformation).pixel(0, 0)) >
            qGray(first.scaled(1, 1, Qt::IgnoreAspectRatio, Qt::SmoothTransformation).pixel(0, 0)) + 15);
  }

  void pausingAndLeavingLoseNothing() {
    Opened job;
    click(visible<QPushButton>(job.window, "pauseQueue"));
    job.bench().deliver.pause();
    QVERIFY(settled(job.window));
    std::size_t there = 0, waiting = DeliveryQueue(job.folder() / "deliveries.json").orders().size();
    for (const auto& v : job.bench().job().views()) there += v.delivered.size();
    QCOMPARE(there + waiting, std::size_t(3));
    // Another job while files are written: each is either noted or waits.
    job.bench().deliver.goOn();
    QVERIFY(job.bench().opening.openDemo(job.folder().parent_path()));
    QVERIFY(settled(job.window));
    const auto left = Job::open(job.folder());
    QVERIFY(left.has_value());
    std::size_t noted = 0, files = 0;
    for (const auto& v : left->views()) noted += v.delivered.size(), files += std::size_t(filesIn(v));
    QCOMPARE(noted, files);
    QCOMPARE(noted + DeliveryQueue(job.folder() / "deliveries.json").orders().size(), std::size_t(3));
    // And here again, what waited goes on.
    QVERIFY(job.bench().opening.openJob(job.folder()));
    job.bench().goTo(stations::kDeliver);
    QVERIFY(settled(job.window));
    job.bench().deliver.goOn();
    QVERIFY(settled(job.window));
    for (int i = 0; i < 3; ++i) QCOMPARE(filesIn(job.bench().job().views()[std::size_t(i)]), 1);
  }
};

QTEST_MAIN(TestDelivery)
#include "test_delivery.moc"
