// SPDX-License-Identifier: GPL-3.0-or-later
// A visit that is planned, shot against the clock and remembered; the practice room and the first path; all in the real
// window.
#include "app/log_pages.h"
#include "logbook/store.h"
#include "support/window.h"
#include "visit/visit_file.h"

#include <QComboBox>
#include <QDateEdit>
#include <QDialog>
#include <QDialogButtonBox>
#include <QDir>
#include <QFile>
#include <QLineEdit>
#include <QListWidget>
#include <QSpinBox>
#include <QTabWidget>
#include <QTableWidget>
#include <QTemporaryDir>
#include <QTextBrowser>
#include <QTextEdit>
#include <QTimeEdit>
#include <QTimer>
#include <QToolButton>
#include <algorithm>
#include <fmt/format.h>
#include <set>

using namespace ml;
using namespace ml::test;
using std::chrono::minutes;
using std::chrono::seconds;

namespace {

void type(QLineEdit* field, const QString& words) {
  QVERIFY(field);
  field->setFocus();
  field->selectAll();
  QTest::keyClicks(field, words);
  QTest::keyClick(field, Qt::Key_Return);
}

void choose(MainWindow& window, const QString& name, const QString& entry) {
  auto* box = window.findChild<QComboBox*>(name);
  QVERIFY2(box, qPrintable(name));
  const int index = box->findText(entry);
  QVERIFY2(index >= 0, qPrintable(entry));
  box->setFocus();
  box->setCurrentIndex(index);
  emit box->activated(index);
  emit box->textActivated(entry);
}

void show(MainWindow& window) {
  window.resize(1280, 800);
  window.show();
  QVERIFY(QTest::qWaitForWindowExposed(&window));
}

bool planned(MainWindow& window) {
  return waitFor([&] { return !window.workbench().visit.planning() && window.workbench().settled(); });
}

QString whenOf(MainWindow& window, int row) {
  return window.findChild<QTableWidget*>("visitViews")->item(row, 2)->text();
}

/// A job that somebody worked on: an entry of the logbook as the product writes it.
LogEntry workedOn(int number) {
  LogEntry out;
  out.folder = fmt::format("/elsewhere/{}", number);
  out.name = fmt::format("Timber house {}", number);
  out.date = fmt::format("2026-05-{:02d}", 1 + number % 28);
  out.lesson = number == 7 ? "Close the creaking shutters first." : "";
  LogView view;
  view.folder = "01-room";
  view.name = "Reading room";
  view.kind = "interior";
  view.spent = {{"light", 60}, {"shoot", 60.0 + number}, {"finish", 90}};
  const double stops = (number % 12) / 2.0 - 1;
  const bool sharp = stops < 2 || number % 5 == 0;
  FrameNote note{"f.dng", std::exp2(stops) / 24, 24, true, sharp ? 0.1 : 1.5, {}};
  if (!sharp) {
    note.flaws = {"soft"};
    view.faults.push_back({"soft", 11});
  }
  view.frames = {note};
  view.offsets = {{"detail", 0.25}, {"exposure", 0}};
  out.views = {view};
  return out;
}

} // namespace

class TestVisitWindow : public QObject {
  Q_OBJECT

private slots:
  void initTestCase() { prepareWindows(); }

  void sixViewsAgainstTheClock() {
    QTemporaryDir dir;
    const auto jobs = std::filesystem::path(dir.path().toStdString()) / "jobs";
    MainWindow window(jobs);
    show(window);
    window.openDemo();
    QVERIFY(settled(window));
    Workbench& bench = window.workbench();
    QVERIFY(bench.desk.job.remove(3).has_value()); // the net loft comes as a further view
    Moment now = momentOf("Europe/Zurich", *parseDate("2026-10-10"), 9 * 60);
    bench.visit.setClock([&now] { return now; });
    window.activateWindow();
    QVERIFY(QTest::qWaitForWindowActive(&window));
    QTest::keyClick(&window, Qt::Key_V);
    QVERIFY(window.page() == MainWindow::Page::Visit);

    // Place, day and light, typed and chosen.
    type(window.findChild<QLineEdit*>("visitPlace"), "Marl Quay");
    type(window.findChild<QLineEdit*>("visitLatitude"), "46 48 N");
    type(window.findChild<QLineEdit*>("visitLongitude"), "9.5");
    type(window.findChild<QComboBox*>("visitZone")->lineEdit(), "Europe/Zurich");
    window.findChild<QDateEdit*>("visitDate")->setDate(QDate(2026, 10, 10));
    window.findChild<QTimeEdit*>("visitFrom")->setTime(QTime(13, 0));
    window.findChild<QTimeEdit*>("visitTo")->setTime(QTime(20, 0));
    QCOMPARE(bench.visit.visit().place.latitude, 46.8);
    for (const char* name : {"Lake front", "Net loft", "Stair"})
      type(window.findChild<QLineEdit*>("visitNewView"), name);
    QCOMPARE(window.findChild<QTableWidget*>("visitViews")->rowCount(), 6);
    choose(window, "visitLight-0", "no sun in window");
    window.findChild<QSpinBox*>("visitTowards-0")->setValue(80);
    choose(window, "visitLamps-1", "both");
    choose(window, "visitLight-2", "after sunset");
    choose(window, "visitLight-3", "sun on front");
    window.findChild<QSpinBox*>("visitTowards-3")->setValue(60);
    window.findChild<QSpinBox*>("visitPlaces-4")->setValue(3);
    window.findChild<QSpinBox*>("visitPlanes-4")->setValue(2);
    QCOMPARE(bench.visit.visit().views[4].planes, 2);
    click(window.findChild<QPushButton*>("visitUndo"));
    QCOMPARE(bench.visit.visit().views[4].planes, 1);
    QVERIFY(planned(window));
    QVERIFY2(verdictOf(window).startsWith("Six views from "), qPrintable(verdictOf(window)));
    QVERIFY(whenOf(window, 2).startsWith("18:5"));
    const VisitPlan first = *bench.visit.plan();
    QCOMPARE(first.order.back().view, 2);

    // What was typed is on disk, and a step can be taken back.
    QVERIFY(waitFor([&] { return readVisit(bench.job().folder())->value_or(Visit()).views.size() == 6; }));
    click(window.findChild<QPushButton*>("visitUndo"));
    QCOMPARE(bench.visit.visit().views[4].positions, 1);
    click(window.findChild<QPushButton*>("visitRedo"));
    QCOMPARE(bench.visit.visit().views[4].positions, 3);
    type(window.findChild<QLineEdit*>("visitLatitude"), "146"); // makes no sense: said, and stays as it was
    QCOMPARE(bench.visit.visit().place.latitude, 46.8);
    QVERIFY(window.findChild<QLabel*>("complaint")->text().contains("90 degrees"));

    // The sheet and the calendar.
    QVERIFY(planned(window));
    click(window.findChild<QPushButton*>("visitSheet"));
    const QDir folder(QString::fromStdString(bench.job().folder().string()));
    QVERIFY(QFile(folder.filePath("visit.pdf")).size() > 5000);
    QCOMPARE(QImage(folder.filePath("visit.png")).size(), QSize(1080, 2160));
    QVERIFY(bench.visit.writeCalendar(bench.job().folder() / "visit.ics").has_value());

    // The clock runs: the reading room is shot, and done by itself when its frames hold.
    now = first.order.front().begin;
    window.showPage(MainWindow::Page::Station);
    QVERIFY(window.findChild<QLabel*>("viewName")->text().contains("Now: "));
    clickPicture(window, 0.33, 0.235);
    clickPicture(window, 0.165, 0.66);
    QVERIFY(settled(window));
    bench.goTo(stations::kShoot);
    clickNext(window);
    QVERIFY(settled(window));
    QVERIFY(bench.shoot.check().verdict.good());
    QVERIFY(bench.visit.visit().views[0].done);
    QVERIFY(planned(window));
    window.showPage(MainWindow::Page::Visit);
    QCOMPARE(whenOf(window, 0), QString("done"));

    // A slip: half an hour is gone. What is left goes into the light that is left; what cannot is said.
    now = first.order.back().begin - minutes{6};
    click(window.findChild<QPushButton*>("visitAgain"));
    QVERIFY(planned(window));
    const VisitPlan second = *bench.visit.plan();
    QVERIFY(second.order.size() < 5 || !second.leftOut.empty());
    QVERIFY(second.begin >= now);
    QVERIFY(!second.leftOut.empty()); // the sun has left the front
    QVERIFY(std::any_of(second.leftOut.begin(), second.leftOut.end(), [](const auto& l) { return l.view == 3; }));
    QVERIFY(std::any_of(second.order.begin(), second.order.end(), [](const auto& e) { return e.view == 2; }));
    auto* done = window.findChild<QTableWidget*>("visitViews")->item(1, 0); // the boat hall is ticked by hand
    done->setCheckState(Qt::Checked);
    QVERIFY(planned(window));
    QVERIFY(bench.visit.visit().views[1].done);

    // Its page in the logbook, written by itself; a lesson written there lies in the job.
    window.showPage(MainWindow::Page::Logbook);
    auto* visits = window.findChild<QListWidget*>("logVisits");
    QVERIFY(waitFor([&] { return visits->count() == 1 && visits->item(0)->text().contains("Marl Quay"); }));
    visits->setCurrentRow(0);
    auto* page = window.findChild<QTextBrowser*>("logPage");
    QVERIFY(waitFor([&] { return page->toPlainText().contains("Reading room"); }));
    QVERIFY(waitFor([&] {
      window.workbench().logbook.show(window.workbench().logbook.rows().front().id);
      return waitFor([&] { return page->toPlainText().contains("frames in one set"); }, 1500);
    }));
    QVERIFY(page->toPlainText().contains("practice")); // shot with the simulated camera: read, not counted
    window.findChild<QTextEdit*>("logLesson")->setFocus();
    QTest::keyClicks(window.findChild<QTextEdit*>("logLesson"), "Shoot the front before lunch.");
    click(window.findChild<QPushButton*>("logKeep"));
    QVERIFY(waitFor(
        [&] { return readVisit(bench.job().folder())->value_or(Visit()).lesson == "Shoot the front before lunch."; }));
    QVERIFY(settled(window));
    QTest::keyClicks(window.findChild<QLineEdit*>("logWords"), "lunch");
    QVERIFY(waitFor([&] { return !bench.logbook.busy() && visits->count() == 1; }));
    QTest::keyClicks(window.findChild<QLineEdit*>("logWords"), "eon");
    QVERIFY(waitFor([&] { return visits->count() == 0; }));
    QVERIFY(verdictOf(window).startsWith("No visit fits"));
  }

  // Stands and ways are given in the window: two views from one stand, a long way to the third; one step takes it back.
  void standsAndWays() {
    QTemporaryDir dir;
    MainWindow window(std::filesystem::path(dir.path().toStdString()) / "jobs");
    show(window);
    window.openDemo();
    QVERIFY(settled(window));
    window.showPage(MainWindow::Page::Visit);
    Workbench& bench = window.workbench();
    const auto first = bench.visit.visit().views;
    bool asked = false;
    QTimer::singleShot(0, &window, [&] {
      auto* dialog = window.findChild<QDialog*>("waysDialog");
      asked = dialog && dialog->isVisible();
      if (!asked) return;
      dialog->findChild<QComboBox*>("stand-1")->setEditText(text(first[0].name));
      click(dialog->findChild<QPushButton*>("addWay"));
      click(dialog->findChild<QPushButton*>("addWay"));
      dialog->findChild<QComboBox*>("to-1")->setCurrentText(text(first[2].name));
      dialog->findChild<QSpinBox*>("wayMinutes-1")->setValue(17);
      dialog->findChild<QSpinBox*>("wayUsual")->setValue(4);
      click(dialog->findChild<QDialogButtonBox*>()->button(QDialogButtonBox::Ok));
    });
    click(window.findChild<QPushButton*>("visitWays"));
    QVERIFY(asked);
    const Visit& visit = bench.visit.visit();
    QCOMPARE(standsOf(visit).size(), first.size() - 1);
    QCOMPARE(visit.wayBetween(visit.views[0], visit.views[1]), 0.0);
    QCOMPARE(visit.wayBetween(visit.views[1], visit.views[2]), 17.0);
    QCOMPARE(visit.wayBetween(visit.views[2], visit.views[0]), 17.0);
    QCOMPARE(visit.wayMinutes, 4.0);
    QVERIFY(
        waitFor([&] { return readVisit(bench.job().folder())->value_or(Visit()).ways.size() == visit.ways.size(); }));
    click(window.findChild<QPushButton*>("visitUndo"));
    QVERIFY(visit.ways.empty() && visit.views == first);
  }

  // Six views of one job are shot in the order that was found, by the clock; a slip in the middle moves what is left.
  void allSixAreShot() {
    QTemporaryDir dir;
    MainWindow window(std::filesystem::path(dir.path().toStdString()) / "jobs");
    show(window);
    window.openDemo();
    QVERIFY(settled(window));
    Workbench& bench = window.workbench();
    QVERIFY(bench.desk.job.remove(3).has_value());
    for (const char* name : {"Lake front", "Net loft", "Stair"})
      QVERIFY(bench.desk.job.add(name, "reading_room", "full-frame-24"));
    Moment now = momentOf("Europe/Zurich", *parseDate("2026-10-10"), 9 * 60);
    bench.visit.setClock([&now] { return now; });
    bench.visit.change("place", [](Visit& v) {
      v.place = {"Marl Quay", 46.8, 9.5, "Europe/Zurich"};
      v.date = *parseDate("2026-10-10");
      v.from = 13 * 60;
      v.to = 20 * 60;
      v.views[2].light.want = LightWant::AfterSunset;
    });
    QVERIFY(planned(window));
    QCOMPARE(bench.visit.plan()->order.size(), std::size_t(6));
    QVERIFY(bench.visit.plan()->leftOut.empty());
    std::set<int> shot;
    while (shot.size() < 6) {
      const auto& order = bench.visit.plan()->order;
      QVERIFY2(order.size() == 6 - shot.size(), qPrintable(bench.visit.verdict()));
      const int view = order.front().view;
      QVERIFY(!shot.contains(view));
      now = std::max(now, order.front().begin);
      bench.selectView(view);
      QVERIFY(settled(window));
      window.showPage(MainWindow::Page::Station);
      bench.goTo(stations::kLight);
      for (const auto& [x, y] : {std::pair(0.33, 0.235), {0.165, 0.66}}) clickPicture(window, x, y);
      QVERIFY(settled(window));
      bench.goTo(stations::kShoot);
      clickNext(window);
      QVERIFY(settled(window));
      QVERIFY2(bench.visit.visit().views[std::size_t(view)].done, bench.view().name.c_str());
      shot.insert(view);
      if (shot.size() == 2) now += minutes{40}; // a slip
      window.showPage(MainWindow::Page::Visit);
      if (shot.size() < 6) click(window.findChild<QPushButton*>("visitAgain"));
      QVERIFY(planned(window));
      QCOMPARE(whenOf(window, view), QString("done"));
      for (const auto& entry : bench.visit.plan()->order) QVERIFY(entry.begin >= now);
    }
    window.showPage(MainWindow::Page::Logbook);
    auto* visits = window.findChild<QListWidget*>("logVisits");
    QVERIFY(waitFor([&] { return visits->count() == 1; }));
    visits->setCurrentRow(0);
    QVERIFY(waitFor([&] {
      const QString page = window.findChild<QTextBrowser*>("logPage")->toPlainText();
      return page.contains("Lake front") && page.contains("Net loft") && page.contains("Stair");
    }));
  }

  void whatTheLogbookHasLearnt() {
    QTemporaryDir dir;
    const auto jobs = std::filesystem::path(dir.path().toStdString()) / "jobs";
    {
      auto book = Logbook::open(logbookFile(jobs));
      std::vector<LogEntry> entries;
      for (int i = 0; i < 60; ++i) entries.push_back(workedOn(i));
      QVERIFY(book->put(entries).has_value());
    }
    MainWindow window(jobs);
    show(window);
    QVERIFY(settled(window));
    QVERIFY(visible<QToolButton>(window, "logbookPageButton"));
    click(visible<QToolButton>(window, "logbookPageButton")); // without a job
    QVERIFY(settled(window));
    QCOMPARE(window.findChild<QListWidget*>("logVisits")->count(), 60);
    QTest::keyClicks(window.findChild<QLineEdit*>("logWords"), "creak");
    QVERIFY(waitFor([&] { return window.findChild<QListWidget*>("logVisits")->count() == 1; }));
    window.findChild<QTabWidget*>("logTabs")->setCurrentIndex(1);
    auto* lessons = window.findChild<QListWidget*>("logLessons");
    QVERIFY(lessons->count() >= 3);
    for (int i = 0; i < lessons->count(); ++i) {
      lessons->setCurrentRow(i);
      QVERIFY2(window.findChild<QListWidget*>("logCases")->count() >= 10, qPrintable(lessons->item(i)->text()));
    }
    auto* cases = window.findChild<QListWidget*>("logCases"); // a sentence opens what is behind it
    emit cases->itemActivated(cases->item(0));
    QVERIFY(
        waitFor([&] { return window.findChild<QTextBrowser*>("logPage")->toPlainText().contains("Timber house"); }));
    QCOMPARE(window.findChild<QTabWidget*>("logTabs")->currentIndex(), 0);
    // The hand goes into the plan of who takes the camera into it.
    QVERIFY(window.workbench().desk.habits.handStops.has_value());
    window.openDemo();
    QVERIFY(settled(window));
    QVERIFY(!window.workbench().view().situation.ownHandStops);
    window.workbench().frames.setHandHeld(true);
    QCOMPARE(window.workbench().view().situation.ownHandStops, window.workbench().desk.habits.handStops);
    const auto limit = longestAllowed(window.workbench().view().situation, window.workbench().view().profile());
    QVERIFY(std::abs(std::log2(limit->value * 24) - *window.workbench().desk.habits.handStops) < 0.01);
    // And exports.
    window.workbench().logbook.search({});
    QVERIFY(settled(window));
    window.workbench().logbook.exportTo(dir.filePath("log.csv"), "csv");
    QVERIFY(settled(window));
    QFile csv(dir.filePath("log.csv"));
    QVERIFY(csv.open(QIODevice::ReadOnly));
    QVERIFY(csv.readAll().count("\r\n") >= 61);
    // A year as a PDF, and where finishes end as a look.
    QVERIFY(writeLogPdf({workedOn(1), workedOn(2)}, window.workbench().logbook.lessons(),
                        std::filesystem::path(dir.filePath("log.pdf").toStdString()))
                .has_value());
    QFile pdf(dir.filePath("log.pdf"));
    QVERIFY(pdf.open(QIODevice::ReadOnly));
    QVERIFY(pdf.readAll().startsWith("%PDF-") && pdf.size() > 5000);
    QVERIFY(window.workbench().logbook.keepOwnStart("Mine"));
    const auto& looks = window.workbench().desk.looks.looks();
    const auto mine = std::find_if(looks.begin(), looks.end(), [](const Look& l) { return l.name == "Mine"; });
    QVERIFY(mine != looks.end() && std::abs(mine->recipe.tone.detail - 1.25) < 1e-9);
    for (const LogChart chart : kLogCharts) {
      QVERIFY(writeLogChart(dir.filePath("chart.svg"), chart, window.workbench().logbook.cases()));
      QFile svg(dir.filePath("chart.svg"));
      QVERIFY(svg.open(QIODevice::ReadOnly));
      const QByteArray drawn = svg.readAll(); // texts are written as they are
      QVERIFY2(drawn.contains("<svg") && drawn.contains("</svg>") && drawn.size() > 1500, drawn.constData());
    }
  }

  void exercisesInTheWindow() {
    QTemporaryDir dir;
    MainWindow window(std::filesystem::path(dir.path().toStdString()) / "jobs");
    show(window);
    click(visible<QToolButton>(window, "practicePageButton"));
    QVERIFY(settled(window));
    PracticeModel& practice = window.workbench().practice;
    auto* list = window.findChild<QListWidget*>("exercises");
    QCOMPARE(list->count(), int(practice.exercises().size()));
    auto* next = window.findChild<QPushButton*>("exerciseNext");
    click(next); // what it proposes
    QVERIFY(settled(window));
    QCOMPARE(practice.current()->id, std::string("settings-1"));
    // Settings: every one is chosen as it should be.
    for (const auto& item : std::get<SettingsTruth>(practice.material()->truth).items)
      if (item.now != item.right) choose(window, "setting-" + text(item.id), text(item.right));
    QCOMPARE(next->text(), QString("That is my answer"));
    click(next);
    QVERIFY(practice.score() && practice.score()->points == 100);
    QVERIFY(verdictOf(window).startsWith("100 of 100"));
    QVERIFY(list->item(0)->text().contains("best 100"));
    // Spots: two of three right.
    practice.begin("read-spot-1");
    QVERIFY(settled(window));
    QVERIFY(visible<PictureView>(window, "exercisePicture"));
    const auto spots = std::get<SpotTruth>(practice.material()->truth).spots;
    for (std::size_t i = 0; i < spots.size(); ++i)
      window.findChild<QDoubleSpinBox*>(QString("spot-%1").arg(i + 1))
          ->setValue(spots[i].ev100.value + (i == 0 ? 3 : 0));
    click(next);
    QVERIFY(std::abs(practice.score()->points - 200.0 / 3) < 0.1);
    QVERIFY(window.findChild<QTextBrowser*>("exerciseWords")->toPlainText().contains("too bright"));
    // A wrong answer comes back at once, a right one later.
    QVERIFY(practice.due("read-spot-1") && !practice.due("settings-1"));
    QCOMPARE(practice.next()->id, std::string("read-spot-1"));
    QVERIFY(QFile::exists(dir.filePath("practice.json")));
    // Finishes: how, and where, pointed at in the picture; what was there is shown afterwards.
    practice.begin("judge-finish-1");
    QVERIFY(settled(window));
    const auto finishes = std::get<FinishTruth>(practice.material()->truth).pictures;
    auto* picture = visible<PictureView>(window, "exercisePicture");
    for (std::size_t i = 0; i < finishes.size(); ++i) {
      window.findChild<QListWidget*>("exercisePictures")->setCurrentRow(int(i));
      auto* how = window.findChild<QComboBox*>(QString("finish-%1").arg(i + 1));
      how->setCurrentIndex(how->findData(int(finishes[i].flaw)));
      if (finishes[i].flaw == FinishFlaw::Natural) continue;
      QVERIFY(window.findChild<QLabel*>(QString("where-%1").arg(i + 1))->text().contains("Click"));
      QTest::mouseClick(picture, Qt::LeftButton, {},
                        picture->widgetPlace(finishes[i].place.x, finishes[i].place.y).toPoint());
      QVERIFY(window.findChild<QLabel*>(QString("where-%1").arg(i + 1))->text().startsWith("there: "));
    }
    click(next);
    QVERIFY2(practice.score()->points > 99, qPrintable(QString::number(practice.score()->points)));
    // A card: every frame has its small picture, and the field in hand shows it.
    practice.begin("sort-1");
    QVERIFY(settled(window));
    const auto& frames = std::get<SortTruth>(practice.material()->truth).frames;
    auto* small = window.findChild<QListWidget*>("exercisePictures");
    QCOMPARE(small->count(), int(frames.size()));
    for (int i = 0; i < small->count(); ++i) QVERIFY(!small->item(i)->icon().isNull());
    auto* third = window.findChild<QSpinBox*>("sort-" + text(frames[2].name));
    window.activateWindow();
    QVERIFY(QTest::qWaitForWindowActive(&window));
    third->setFocus();
    QCOMPARE(small->currentRow(), 2);
    for (const auto& frame : frames)
      window.findChild<QSpinBox*>("sort-" + text(frame.name))->setValue(frame.set + 1); // none is 0
    click(next);
    QCOMPARE(practice.score()->points, 100.0);
    // Dusk has a clock: both sets must be shot before there is an answer.
    practice.begin("dusk-1");
    QVERIFY(settled(window));
    QVERIFY(!next->isEnabled());
    click(visible<QPushButton>(window, "duskShoot"));
    QVERIFY(!visible<QPushButton>(window, "duskShoot")->isEnabled()); // it is being shot
    QVERIFY(!next->isEnabled());
    click(visible<QPushButton>(window, "exerciseLeave"));
    QVERIFY(!practice.current());
    // Practice is no visit.
    QCOMPARE(*Logbook::open(logbookFile(window.workbench().desk.jobsFolder))->count(), 0);
  }

  void theFirstTenMinutes() {
    QTemporaryDir dir;
    MainWindow window(std::filesystem::path(dir.path().toStdString()) / "jobs");
    show(window);
    Workbench& bench = window.workbench();
    window.showPage(MainWindow::Page::Practice);
    click(visible<QPushButton>(window, "firstPath"));
    QVERIFY(settled(window));
    QVERIFY(window.page() == MainWindow::Page::Station);
    const auto words = [&] { return window.findChild<QLabel*>("pathWords")->text(); };
    const auto stepIs = [&](int number) {
      return waitFor([&] { return words().contains(QString("%1 of 7").arg(number)); });
    };
    QVERIFY2(stepIs(1), qPrintable(words()));
    QVERIFY(!window.findChild<QLabel*>("pathWhy")->text().isEmpty());
    clickPicture(window, 0.33, 0.235);
    QVERIFY(settled(window));
    QVERIFY2(stepIs(2), qPrintable(words()));
    clickPicture(window, 0.165, 0.66);
    QVERIFY(settled(window));
    QVERIFY2(stepIs(3), qPrintable(words()));
    click(window.findChild<QPushButton*>("pathGo"));
    QVERIFY2(stepIs(4), qPrintable(words()));
    click(window.findChild<QPushButton*>("pathGo"));
    QCOMPARE(bench.station().id(), stations::kShoot);
    clickNext(window);
    QVERIFY(settled(window));
    QVERIFY2(stepIs(5), qPrintable(words()));
    click(window.findChild<QPushButton*>("pathGo"));
    clickNext(window);
    QVERIFY(settled(window));
    QVERIFY2(stepIs(6), qPrintable(words()));
    click(window.findChild<QPushButton*>("pathGo"));
    QVERIFY(settled(window));
    auto* warmth = window.findChild<QSlider*>("exposure");
    QVERIFY(warmth);
    warmth->setValue(warmth->value() + 10);
    emit warmth->sliderReleased();
    QVERIFY(settled(window));
    QVERIFY2(stepIs(7), qPrintable(words()));
    click(window.findChild<QPushButton*>("pathGo"));
    clickNext(window);
    QVERIFY(waitFor([&] { return words().contains("a finished picture of your own"); }, 60000));
    // It lies with practice, and is no visit.
    QVERIFY(!QDir(dir.filePath("practice")).entryList({"first-path-*"}, QDir::Dirs).isEmpty());
    bench.logbook.flush();
    QCOMPARE(*Logbook::open(logbookFile(bench.desk.jobsFolder))->count(), 0);
    click(window.findChild<QPushButton*>("pathEnd"));
    QVERIFY(!visible<QLabel>(window, "pathWords"));
  }
};

QTEST_MAIN(TestVisitWindow)
#include "test_visit_window.moc"
