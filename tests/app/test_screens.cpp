// SPDX-License-Identifier: GPL-3.0-or-later
// What the screens say is so, and all of it can be done without a mouse.
#include "app/command_list.h"
#include "app/sort_sheet.h"
#include "codec/jpeg.h"
#include "ingest/load_frame.h"
#include "model/pictures.h"
#include "support/scenes.h"
#include "support/window.h"

#include <QAccessible>
#include <QCheckBox>
#include <QComboBox>
#include <QDropEvent>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QMimeData>
#include <QPushButton>
#include <QSettings>
#include <QSignalSpy>
#include <QTest>
#include <QTimer>
#include <QToolButton>
#include <QUrl>
#include <QWheelEvent>
#include <set>

using namespace ml;
using namespace ml::test;
namespace fs = std::filesystem;

namespace {

/// Six views of three frames each, one folder a view.
QStringList shootCard(const fs::path& card) {
  for (unsigned view = 0; view < 6; ++view)
    (void)shootScene(texturedScene(300, 220, 10, 20 + view), exposedAt({3, 6, 9}), FrameFormat::Jpeg,
                     card / ("view-" + std::to_string(view + 1)));
  return {QString::fromStdString(card.string())};
}

void key(MainWindow& window, int which, Qt::KeyboardModifiers held = Qt::NoModifier) {
  QTest::keyClick(&window, Qt::Key(which), held);
}

QString nextWords(MainWindow& window) {
  auto* next = visible<QPushButton>(window, "next");
  return next ? next->text() : QString();
}

/// Everything that a hand could use now.
std::set<QWidget*> usable(MainWindow& window) {
  std::set<QWidget*> all;
  for (auto* w : window.findChildren<QWidget*>())
    if (w->isVisible() && w->isEnabled() && (w->focusPolicy() & Qt::TabFocus) && w->window() == &window &&
        !w->focusProxy() && !w->inherits("QAbstractScrollArea"))
      all.insert(w);
  return all;
}

/// What Tab comes to, once round.
std::set<QWidget*> reachedByTab(MainWindow& window) {
  std::set<QWidget*> reached;
  for (int i = 0; i < 160; ++i) {
    QWidget* at = QApplication::focusWidget();
    QTest::keyClick(at ? at : &window, Qt::Key_Tab);
    if (QWidget* now = QApplication::focusWidget()) reached.insert(now);
  }
  return reached;
}

QString nameless(QWidget* w) {
  const auto* a = QAccessible::queryAccessibleInterface(w);
  if (!a || a->text(QAccessible::Name).isEmpty())
    return QString("%1 `%2` has no name").arg(w->metaObject()->className(), w->objectName());
  return a->role() == QAccessible::NoRole ? w->objectName() + " has no role" : QString();
}

} // namespace

class TestScreens : public QObject {
  Q_OBJECT

private:
  /// The demo's first view, read and planned.
  static void plan(MainWindow& window) {
    window.activateWindow();
    QVERIFY(QTest::qWaitForWindowActive(&window));
    window.openDemo();
    QVERIFY(settled(window));
    window.workbench().light.typeReading("sky", "15");
    window.workbench().light.typeReading("corner", "4");
  }

  /// A job of one view, from frames of a still scene.
  static void openFrames(MainWindow& window, const QTemporaryDir& dir, Image<float> scene,
                         const std::vector<double>& evs) {
    (void)shootScene(std::move(scene), exposedAt(evs), FrameFormat::Jpeg, pathOf(dir) / "card");
    window.show();
    window.openPaths({QString::fromStdString((pathOf(dir) / "card").string())});
    QVERIFY(settled(window));
  }

private slots:
  void initTestCase() { prepareWindows(); }
  void init() { QSettings().clear(); }

  // ---- A whole visit at the desk

  void sixViewsFromACardToFiles() {
    QTemporaryDir dir;
    const QStringList card = shootCard(pathOf(dir) / "card");
    MainWindow window(pathOf(dir) / "jobs");
    window.show();
    QVERIFY(QTest::qWaitForWindowExposed(&window));
    int actions = 0;
    QMimeData data;
    data.setUrls({QUrl::fromLocalFile(card.front())});
    QDragEnterEvent enter({600, 400}, Qt::CopyAction, &data, Qt::LeftButton, {});
    QCoreApplication::sendEvent(&window, &enter);
    QDropEvent drop(QPointF(600, 400), Qt::CopyAction, &data, Qt::LeftButton, {});
    QCoreApplication::sendEvent(&window, &drop);
    ++actions;
    SortSheet* sheet = nullptr;
    QVERIFY(settled(window));
    sheet = window.findChild<SortSheet*>();
    QVERIFY2(sheet, qPrintable(window.findChild<QLabel*>("complaint")->text()));
    click(sheet->findChild<QPushButton*>("sortMake"));
    ++actions;
    Workbench& bench = window.workbench();
    // Combined in the order of the list, while the window can be used.
    QStringList order;
    connect(&bench.desk.job, &JobModel::viewChanged, &window, [&](const std::string& view, Aspect aspect) {
      if (aspect == Aspect::Combined) order << QString::fromStdString(view);
    });
    QVERIFY(waitFor([&] { return order.size() >= 1; }));
    QVERIFY(!bench.busy());
    window.activateWindow();
    QVERIFY(QTest::qWaitForWindowActive(&window));
    key(window, Qt::Key_5); // the first is finished while others are combined
    QVERIFY(settled(window));
    QCOMPARE(bench.station().id(), stations::kFinish);
    QCOMPARE(order.size(), 6);
    QVERIFY(std::is_sorted(order.begin(), order.end()));
    for (const View& v : bench.job().views()) {
      QVERIFY2(v.combined, v.name.c_str());
      QVERIFY(!v.sets.front().answer.empty() && !v.sets.front().verdict.empty());
      const auto& pair = bench.views.pictures.of(idOf(v));
      QVERIFY(!pair.before.isNull() && !pair.after.isNull());
      QVERIFY(pair.before.width() <= ViewPictures::kEdge);
    }
    // All at once: a finish for all, one view left out, the rest delivered.
    bench.finish.chooseLook(looks()[1].id, 1);
    key(window, Qt::Key_0);
    auto* list = visible<QListWidget>(window, "allViewsList");
    QVERIFY(list);
    QCOMPARE(list->count(), 6);
    list->selectAll();
    ++actions;
    click(visible<QPushButton>(window, "layFinish"));
    ++actions;
    QVERIFY(settled(window));
    for (const View& v : bench.job().views()) QCOMPARE(v.recipe.tone.exposure, bench.view().recipe.tone.exposure);
    list->clearSelection();
    list->setCurrentRow(5);
    click(visible<QPushButton>(window, "leaveViews"));
    QVERIFY(bench.job().views()[5].leftOut);
    list->clearSelection();
    click(visible<QPushButton>(window, "deliverViews"));
    actions += 3;
    QVERIFY(settled(window));
    QVERIFY2(actions <= 3 * 6, qPrintable(QString::number(actions)));
    for (int i = 0; i < 6; ++i) {
      const View& v = bench.job().views()[std::size_t(i)];
      QCOMPARE(v.delivered.size(), std::size_t(i == 5 ? 0 : 2));
      for (const auto& d : v.delivered) QVERIFY(fs::exists(v.deliveredFolder() / d.file));
      QCOMPARE(bench.views.state(v), i == 5 ? QString("left out") : QString("delivered"));
    }
    QVERIFY2(verdictOf(window).startsWith("6 of 6 views are combined, 5 delivered"), qPrintable(verdictOf(window)));
    // Sent back to be combined otherwise.
    list->setCurrentRow(1);
    auto* how = visible<QComboBox>(window, "combineHow");
    how->setCurrentIndex(3);
    click(visible<QPushButton>(window, "combineViews"));
    QVERIFY(settled(window));
    QVERIFY(bench.job().views()[1].combined->options.align == AlignMode::Off);
    QCOMPARE(bench.views.state(bench.job().views()[1]), QString("changed since delivered"));
    // Opened again, the pictures are there at once, without combining.
    const auto folder = bench.job().folder();
    MainWindow again(pathOf(dir) / "jobs");
    again.openPaths({QString::fromStdString(folder.string())});
    QVERIFY(settled(again));
    QVERIFY(!again.workbench().views.pictures.of(idOf(again.workbench().job().views()[4])).after.isNull());
  }

  /// A camera that nobody here made: the real bracket of tests/data, twice, as two rooms of one card.
  void realFramesGoThroughTheSameWay() {
    QTemporaryDir dir;
    const fs::path real = fs::path(ML_SOURCE_DIR) / "tests/data/real_bracket";
    for (const char* room : {"hall", "hall-again"})
      for (const auto& entry : fs::directory_iterator(real))
        if (entry.path().extension() == ".png") {
          fs::create_directories(pathOf(dir) / "card" / room);
          fs::copy_file(entry.path(), pathOf(dir) / "card" / room / entry.path().filename());
        }
    MainWindow window(pathOf(dir) / "jobs");
    window.show();
    window.openPaths({QString::fromStdString((pathOf(dir) / "card").string())});
    QVERIFY(settled(window));
    auto* sheet = window.findChild<SortSheet*>();
    QVERIFY(sheet);
    click(sheet->findChild<QPushButton*>("sortMake"));
    QVERIFY(settled(window));
    Workbench& bench = window.workbench();
    QCOMPARE(bench.job().views().size(), std::size_t(2));
    for (const View& v : bench.job().views()) {
      QVERIFY2(v.combined && v.frames.size() == 3, v.name.c_str());
      QVERIFY2(!bench.views.wantsALook(v), qPrintable(bench.views.says(v))); // a sound set raises no alarm
      QVERIFY(!bench.views.pictures.of(idOf(v)).before.isNull());
    }
    bench.goTo(stations::kShoot);
    QVERIFY(settled(window));
    QCOMPARE(bench.ladder().columns.size(), std::size_t(3));
    for (const auto& column : bench.ladder().columns)
      QVERIFY(column.number >= 1 && column.number <= 3 && !column.flawed);
    QVERIFY(!bench.shoot.marks().fullSize.isEmpty());
  }

  void viewsGoByKeyAtEveryStation() {
    QTemporaryDir dir;
    MainWindow window(pathOf(dir) / "jobs");
    window.show();
    plan(window);
    Workbench& bench = window.workbench();
    for (int station = 0; station < int(bench.path().size()); ++station) {
      bench.goTo(station);
      QVERIFY(settled(window));
      key(window, Qt::Key_PageDown);
      QVERIFY(settled(window));
      QCOMPARE(bench.desk.job.viewIndex(), 1);
      key(window, Qt::Key_PageUp);
      QVERIFY(settled(window));
      QCOMPARE(bench.desk.job.viewIndex(), 0);
    }
    key(window, Qt::Key_PageUp); // at the end nothing
    QCOMPARE(bench.desk.job.viewIndex(), 0);
  }

  void viewsAreRenamedDuplicatedAndRemoved() {
    QTemporaryDir dir;
    MainWindow window(pathOf(dir) / "jobs");
    window.show();
    plan(window);
    Workbench& bench = window.workbench();
    JobModel& job = bench.desk.job;
    job.rename("Library");
    job.writeNotes("Lamps on, please.");
    QVERIFY(job.duplicate(0, "Library, again").has_value());
    QVERIFY(settled(window));
    QCOMPARE(bench.job().views().size(), std::size_t(5));
    QCOMPARE(job.viewIndex(), 1);
    QCOMPARE(bench.view().readings.size(), std::size_t(2)); // what was read is not read again
    QVERIFY(bench.view().frames.empty());
    auto* list = visible<QListWidget>(window, "views");
    QCOMPARE(list->count(), 5);
    list->setFocus();
    QTest::keyClick(list, Qt::Key_Delete);
    QVERIFY(settled(window));
    QCOMPARE(list->count(), 4);
    QVERIFY(visible<QLabel>(window, "complaint")->text().contains("Undo brings it back"));
    QCOMPARE(Job::open(bench.job().folder())->views().size(), std::size_t(4));
    click(visible<QToolButton>(window, "undo"));
    QVERIFY(settled(window));
    QCOMPARE(list->count(), 5);
    QCOMPARE(job.viewIndex(), 1);
    QCOMPARE(bench.view().name, std::string("Library, again"));
    const auto disk = Job::open(bench.job().folder());
    QCOMPARE(disk->views().size(), std::size_t(5));
    QCOMPARE(disk->views()[0].name, std::string("Library"));
    QCOMPARE(disk->views()[0].notes, std::string("Lamps on, please."));
    // And what was renamed is renamed back.
    bench.selectView(0);
    QVERIFY(settled(window));
    key(window, Qt::Key_Z, Qt::ControlModifier);
    key(window, Qt::Key_Z, Qt::ControlModifier);
    QCOMPARE(bench.view().name, std::string("Reading room"));
    QVERIFY(bench.view().notes.empty());
  }

  // ---- What is said is so

  void shootFiresWhatTheTableSays() {
    QTemporaryDir dir;
    MainWindow window(pathOf(dir) / "jobs");
    window.show();
    plan(window);
    Workbench& bench = window.workbench();
    for (const char* school : {"two-sets", "window-flash"}) {
      bench.frames.chooseWay(school);
      const Plan& plan = *bench.view().plan;
      const int fired = plan.fired - plan.flashFrames();
      for (const Way& way : bench.frames.ways())
        if (way.id == school) QVERIFY2(way.frames.startsWith(QString("%1 frames").arg(fired)), qPrintable(way.frames));
      bench.shoot.shoot();
      QVERIFY(settled(window));
      QCOMPARE(int(bench.view().sets.back().frames.size()), fired);
      QVERIFY(bench.view().sets.back().answer.empty() || bench.shoot.check().verdict.action.frames.empty());
    }
    // The frame with flash is asked for by name.
    bool flash = false;
    for (const auto& s : bench.frames.settingsToMake()) flash = flash || s.name == "With flash";
    QVERIFY(flash);
  }

  void aStationIsDoneWhenSomebodyWasThere() {
    QTemporaryDir dir;
    MainWindow window(pathOf(dir) / "jobs");
    window.show();
    plan(window);
    Workbench& bench = window.workbench();
    QVERIFY(bench.view().plan && bench.frames.state() == StationState::Open);
    QCOMPARE(nextWords(window), QString("On to Frames"));
    clickNext(window);
    QVERIFY(bench.frames.state() == StationState::Done);
    clickNext(window);
    QCOMPARE(nextWords(window), QString("Shoot"));
    clickNext(window);
    QVERIFY(settled(window));
    bench.goTo(stations::kCombine);
    clickNext(window);
    QVERIFY(settled(window));
    QVERIFY(bench.combine.state() == StationState::Done && bench.finish.state() == StationState::Open);
    QCOMPARE(nextWords(window), QString("On to Finish")); // it only goes there, and says so
    clickNext(window);
    QVERIFY(settled(window));
    QVERIFY(bench.finish.state() == StationState::Done);
    QCOMPARE(nextWords(window), QString("On to Deliver"));
    // Combined anew elsewhere, the finish is out of date until it was looked at.
    bench.goTo(stations::kCombine);
    bench.combine.combine({});
    QVERIFY(settled(window));
    QVERIFY(bench.finish.state() == StationState::OutOfDate);
    QVERIFY(Job::open(bench.job().folder())->views()[0].framesSeen);
  }

  void aHundredPercentShowsTheFramesOwnPixels() {
    QTemporaryDir dir;
    MainWindow window(pathOf(dir) / "jobs");
    const auto small = texturedScene(500, 350, 10, 3);
    Image<float> large(2000, 1400, 3); // each pixel a block: larger than what is on screen
    for (int y = 0; y < 1400; ++y)
      for (int x = 0; x < 2000; ++x)
        for (int c = 0; c < 3; ++c) large.at(x, y)[c] = small.at(x / 4, y / 4)[c];
    openFrames(window, dir, std::move(large), {3, 6, 9});
    Workbench& bench = window.workbench();
    bench.goTo(stations::kShoot);
    QVERIFY(settled(window));
    auto* picture = window.findChild<PictureView*>("picture");
    QVERIFY(picture->picture().width() < bench.shoot.marks().fullSize.width()); // what is on screen is reduced
    QSignalSpy detail(&bench.shoot, &StationModel::detailDrawn);
    key(window, Qt::Key_P);
    QVERIFY(waitFor([&] { return detail.count() > 0; }));
    const QImage part = detail.last()[0].value<QImage>();
    const QRectF place = detail.last()[1].toRectF();
    const QSize full = bench.shoot.marks().fullSize;
    QVERIFY2(full.width() > 1600 && std::abs(part.width() - place.width() * full.width()) < 1.5,
             qPrintable(QString("%1 for %2 of %3").arg(part.width()).arg(place.width()).arg(full.width())));
    const auto frame = loadFrame(bench.view().frames[std::size_t(bench.shoot.shownFrame())]);
    const QImage whole = displayOf(*frame, {0, 0, full.width(), full.height()});
    const int x0 = int(std::lround(place.x() * full.width())), y0 = int(std::lround(place.y() * full.height()));
    for (int y = 0; y < part.height(); y += 37)
      for (int x = 0; x < part.width(); x += 41) {
        const QRgb a = part.pixel(x, y), b = whole.pixel(x0 + x, y0 + y);
        if (qGray(b) > 252 || qGray(b) < 4) continue; // marked as white or black
        QCOMPARE(a, b);
      }
    // The same at Combine, of the combined picture.
    bench.goTo(stations::kCombine);
    bench.combine.combine({});
    QVERIFY(settled(window));
    QSignalSpy combined(&bench.combine, &StationModel::detailDrawn);
    picture->showWhole();
    key(window, Qt::Key_P);
    QVERIFY(waitFor([&] { return combined.count() > 0; }));
    QVERIFY(std::abs(combined.last()[0].value<QImage>().width() - combined.last()[1].toRectF().width() * full.width()) <
            2.5);
  }

  void theVerdictCountsWhatTheLadderDraws() {
    QTemporaryDir dir;
    MainWindow window(pathOf(dir) / "jobs");
    openFrames(window, dir, texturedScene(420, 300, 12, 5), {3, 7, 11});
    Workbench& bench = window.workbench();
    CombineOptions still;
    still.align = AlignMode::Off;
    bench.combine.combine(still);
    QVERIFY(settled(window));
    QVERIFY2(bench.combine.verdict().contains("not aligned") && !bench.combine.verdict().contains("had moved"),
             qPrintable(bench.combine.verdict()));
    bench.goTo(stations::kFinish);
    QVERIFY(settled(window));
    bench.finish.setRecipe(bench.finish.recipe());
    const LadderData ladder = bench.ladder();
    const auto paper = [](const Tie& tie) { return std::clamp(tie.paper, -kPaperStops, 0.0); };
    const double light = ladder.ties.back().scene - ladder.ties.front().scene,
                 stops = paper(ladder.ties.back()) - paper(ladder.ties.front());
    if (!bench.finished.worstFinding())
      QVERIFY2(
          bench.finish.verdict().startsWith(
              QString("%1 stops of light are placed on %2 stops of paper").arg(light, 0, 'f', 1).arg(stops, 0, 'f', 1)),
          qPrintable(bench.finish.verdict()));
    float all = 0; // the tones of paper are those of the picture
    for (const float share : ladder.paper) all += share;
    QVERIFY(std::abs(all - 1) < 1e-3f);
  }

  // ---- One number, one scale

  void framesKeepTheirNumberAndPlace() {
    QTemporaryDir dir;
    MainWindow window(pathOf(dir) / "jobs");
    window.show();
    plan(window);
    Workbench& bench = window.workbench();
    bench.frames.chooseWay("five-by-two");
    bench.goTo(stations::kShoot);
    bench.shoot.setOrder(BracketOrder::MiddleFirst);
    const auto before = bench.ladder();
    QCOMPARE(before.columns.size(), std::size_t(5));
    std::set<int> numbers;
    for (const auto& c : before.columns) numbers.insert(c.number);
    QCOMPARE(numbers, (std::set<int>{1, 2, 3, 4, 5}));
    QCOMPARE(before.columns[2].number, 1); // the middle is fired first
    std::vector<LadderData> steps;
    connect(&bench.shoot, &ShootModel::frameArrived, &window, [&] { steps.push_back(bench.ladder()); });
    bench.shoot.shoot();
    QVERIFY(settled(window));
    QCOMPARE(steps.size(), std::size_t(5));
    for (const LadderData& step : steps) {
      QCOMPARE(step.columns.size(), std::size_t(5));
      for (std::size_t i = 0; i < 5; ++i) {
        QCOMPARE(step.columns[i].time, before.columns[i].time);
        QCOMPARE(step.columns[i].number, before.columns[i].number);
        QCOMPARE(step.columns[i].offset, before.columns[i].offset);
      }
      QCOMPARE(step.top, before.top);
      QCOMPARE(step.bottom, before.bottom);
    }
    // Badges, the list and the reasons at Combine say the same numbers.
    bench.goTo(stations::kCombine);
    bench.combine.combine({});
    QVERIFY(settled(window));
    const auto places = bench.combine.framePlaces();
    for (std::size_t i = 0; i < places.size(); ++i) QCOMPARE(places[i].number, int(i) + 1);
    const QString middle = before.columns[2].time;
    QVERIFY(places[0].line.startsWith("1 ") && places[0].line.contains(middle));
    QVERIFY(bench.combine.reasons().first().startsWith("Frame 1, " + middle));
    QCOMPARE(bench.ladder().top, before.top); // one scale, whatever is shown
    bench.goTo(stations::kLight);
    QCOMPARE(bench.ladder().bottom, before.bottom);
  }

  // ---- Without a mouse

  void tabComesToEverythingAndAllOfItHasAName() {
    QTemporaryDir dir;
    MainWindow window(pathOf(dir) / "jobs");
    window.show();
    window.activateWindow();
    QVERIFY(QTest::qWaitForWindowActive(&window));
    plan(window);
    Workbench& bench = window.workbench();
    bench.shoot.shoot();
    QVERIFY(settled(window));
    bench.goTo(stations::kCombine);
    bench.combine.combine({});
    QVERIFY(settled(window));
    QStringList flaws;
    const auto look = [&](const QString& where) {
      QVERIFY(settled(window));
      const auto reached = reachedByTab(window);
      for (QWidget* w : usable(window)) {
        if (!reached.contains(w) && !qobject_cast<QLineEdit*>(w))
          flaws
              << QString("%1: Tab does not come to %2 `%3`").arg(where, w->metaObject()->className(), w->objectName());
        if (const QString flaw = nameless(w); !flaw.isEmpty()) flaws << where + ": " + flaw;
      }
    };
    for (int station = 0; station < int(bench.path().size()); ++station) {
      bench.goTo(station);
      look(bench.station().id());
    }
    bench.goTo(stations::kFinish);
    for (const char* side : {"sideColour", "sideShape", "sidePlaces", "sideMend", "sideLooks"}) {
      visible<QToolButton>(window, side)->click();
      look(side);
    }
    key(window, Qt::Key_0);
    look("all views");
    for (const QString& flaw : flaws) qWarning().noquote() << flaw;
    QVERIFY(flaws.isEmpty());
  }

  void fromFramesToJpegByKeysAlone() {
    QTemporaryDir dir;
    MainWindow window(pathOf(dir) / "jobs");
    window.show();
    window.activateWindow();
    QVERIFY(QTest::qWaitForWindowActive(&window));
    openFrames(window, dir, texturedScene(420, 300, 10, 5), {3, 6, 9});
    Workbench& bench = window.workbench();
    QCOMPARE(bench.station().id(), stations::kCombine);
    const auto onwards = [&] {
      key(window, Qt::Key_Return, Qt::ControlModifier);
      QVERIFY(settled(window));
    };
    onwards(); // combined
    onwards(); // at Finish
    // A tone is drawn lighter on the picture, by the keys.
    key(window, Qt::Key_G);
    auto* picture = window.findChild<PictureView*>("picture");
    QCOMPARE(QApplication::focusWidget(), picture);
    for (int i = 0; i < 5; ++i) QTest::keyClick(picture, Qt::Key_Left);
    QVERIFY(picture->cross().x() < 0.45);
    QTest::keyClick(picture, Qt::Key_Return);
    for (int i = 0; i < 4; ++i) QTest::keyClick(picture, Qt::Key_Up);
    QTest::keyClick(picture, Qt::Key_Return);
    QVERIFY(settled(window));
    QCOMPARE(bench.view().recipe.tone.pulls.size(), std::size_t(1));
    // And another on the Ladder.
    auto* ladder = window.findChild<LadderWidget*>("ladder");
    ladder->setFocus();
    QTest::keyClick(ladder, Qt::Key_Up);
    QTest::keyClick(ladder, Qt::Key_Up);
    for (int i = 0; i < 3; ++i) QTest::keyClick(ladder, Qt::Key_Up, Qt::ShiftModifier);
    QVERIFY(settled(window));
    QCOMPARE(bench.view().recipe.tone.pulls.size(), std::size_t(2));
    onwards(); // at Deliver
    onwards(); // written
    QCOMPARE(bench.view().delivered.size(), std::size_t(2));
    QVERIFY(readJpeg(bench.view().deliveredFolder() / bench.view().delivered[0].file).has_value());
    QCOMPARE(nextWords(window), QString("All is delivered")); // the one warm thing is done
    QVERIFY(!visible<QPushButton>(window, "next")->isEnabled());
  }

  void spotsPlacesAndDividerByKeys() {
    QTemporaryDir dir;
    MainWindow window(pathOf(dir) / "jobs");
    window.show();
    window.activateWindow();
    QVERIFY(QTest::qWaitForWindowActive(&window));
    window.openDemo();
    QVERIFY(settled(window));
    Workbench& bench = window.workbench();
    auto* picture = window.findChild<PictureView*>("picture");
    picture->setFocus();
    for (int i = 0; i < 8; ++i) QTest::keyClick(picture, Qt::Key_Up);
    QTest::keyClick(picture, Qt::Key_Return);
    QVERIFY(settled(window));
    for (int i = 0; i < 20; ++i) QTest::keyClick(picture, Qt::Key_Down);
    QTest::keyClick(picture, Qt::Key_Right, Qt::ShiftModifier);
    QTest::keyClick(picture, Qt::Key_Return);
    QVERIFY(settled(window));
    QCOMPARE(bench.view().readings.size(), std::size_t(2));
    QVERIFY(std::abs(*bench.view().readings[0].y - 0.34) < 1e-9);
    QVERIFY(std::abs(*bench.view().readings[1].x - 0.502) < 1e-9);
    // Somebody walks through the next job.
    const auto ground = texturedScene(420, 320, 5, 3);
    const auto settings = exposedAt({7, 6, 5});
    for (int i = 0; i < 3; ++i) {
      auto scene = ground.clone();
      for (int y = 120; y < 210; ++y)
        for (int x = 60 + 100 * i; x < 100 + 100 * i; ++x)
          for (int c = 0; c < 3; ++c) scene.at(x, y)[c] = 0.1f * scene.at(x, y)[c];
      const auto shot =
          shootScene(std::move(scene), {settings[std::size_t(i)]}, FrameFormat::Jpeg, pathOf(dir) / "one");
      fs::create_directories(pathOf(dir) / "walk");
      fs::copy_file(shot.files.front(), pathOf(dir) / "walk" / ("f" + std::to_string(i) + ".jpg"));
    }
    window.openPaths({QString::fromStdString((pathOf(dir) / "walk").string())});
    QVERIFY(settled(window));
    bench.combine.combine({});
    QVERIFY(settled(window));
    const auto places = bench.combine.movedPlaces();
    QVERIFY2(!places.empty(), qPrintable(bench.combine.verdict()));
    picture->setFocus();
    QTest::keyClick(picture, Qt::Key_Right);
    QCOMPARE(picture->chosenPlace(), 0);
    QVERIFY(picture->actualSize());
    QTest::keyClick(picture, Qt::Key_Left);
    QCOMPARE(picture->chosenPlace(), int(places.size()) - 1);
    bench.goTo(stations::kFinish);
    bench.finish.compare.set(Comparing::Divider);
    QVERIFY(settled(window));
    picture->showWhole();
    const QImage before = picture->grab().toImage();
    picture->setFocus();
    for (int i = 0; i < 10; ++i) QTest::keyClick(picture, Qt::Key_Right, Qt::AltModifier);
    QVERIFY(picture->grab().toImage() != before);
  }

  // ---- Expected of a desktop program

  void commandsAreFoundByTheirWords() {
    QTemporaryDir dir;
    MainWindow window(pathOf(dir) / "jobs");
    window.show();
    window.activateWindow();
    QVERIFY(QTest::qWaitForWindowActive(&window));
    const QString theme = QSettings().value("theme").toString();
    QTimer::singleShot(0, [&] {
      auto* list = window.findChild<CommandList*>();
      QVERIFY(list);
      const auto* matches = list->findChild<QListWidget*>("commandMatches");
      QCOMPARE(matches->count(), int(window.commands().all().size())); // every command is there
      auto* search = list->findChild<QLineEdit*>("commandSearch");
      QTest::keyClicks(search, "paper dusk");
      QCOMPARE(matches->count(), 1);
      QTest::keyClick(search, Qt::Key_Return);
    });
    key(window, Qt::Key_K, Qt::ControlModifier);
    QVERIFY(waitFor([&] { return QSettings().value("theme").toString() != theme; }));
    // A key of one's own is kept, and no two commands share one.
    std::set<QString> keys;
    for (QAction* a : window.commands().all())
      if (!a->shortcut().isEmpty()) QVERIFY2(keys.insert(a->shortcut().toString()).second, qPrintable(a->text()));
    QAction* full = window.findChild<QAction*>("actionFullScreen");
    window.commands().setKey(full, QKeySequence("Ctrl+F"));
    MainWindow next(pathOf(dir) / "jobs");
    QCOMPARE(next.findChild<QAction*>("actionFullScreen")->shortcut(), QKeySequence("Ctrl+F"));
    window.commands().setKey(full, window.commands().usualKey(full));
  }

  /// WCAG 2.1: text 4.5:1; large text, and what cannot be used now, 3:1.
  void wordsStandOutFromTheirGround() {
    const auto light = [](const QColor& c) {
      const auto linear = [](double v) { return v <= 0.04045 ? v / 12.92 : std::pow((v + 0.055) / 1.055, 2.4); };
      return 0.2126 * linear(c.redF()) + 0.7152 * linear(c.greenF()) + 0.0722 * linear(c.blueF());
    };
    const auto contrast = [&](const QColor& a, const QColor& b) {
      const double x = light(a) + 0.05, y = light(b) + 0.05;
      return std::max(x, y) / std::min(x, y);
    };
    for (const Theme* t : {&Theme::dusk(), &Theme::paper()}) {
      for (const QColor& ground : {t->ground, t->panel, t->raised}) {
        QVERIFY2(contrast(t->text, ground) >= 4.5, qPrintable(t->name));
        QVERIFY2(contrast(t->quiet, ground) >= 4.5, qPrintable(t->name + " quiet on " + ground.name()));
        QVERIFY2(contrast(t->faint, ground) >= 3, qPrintable(t->name + " faint on " + ground.name()));
        QVERIFY2(contrast(t->info, ground) >= 3, qPrintable(t->name + " info on " + ground.name()));
      }
      QVERIFY2(contrast(t->onAccent, t->accent) >= 4.5, qPrintable(t->name + " warm button"));
      QVERIFY2(contrast(t->accent, t->panel) >= 3, qPrintable(t->name + " warm mark"));
    }
  }

  void anAreaIsKeptForOtherPictures() {
    QTemporaryDir dir;
    auto first = std::make_unique<MainWindow>(pathOf(dir) / "jobs");
    MainWindow& window = *first;
    openFrames(window, dir, texturedScene(420, 300, 10, 5), {3, 6, 9});
    Workbench& bench = window.workbench();
    bench.combine.combine({});
    QVERIFY(settled(window));
    bench.goTo(stations::kFinish);
    QVERIFY(settled(window));
    bench.finish.tools.choose(FinishTool::Oval);
    bench.finish.tools.press({0.3, 0.4});
    bench.finish.tools.release({0.4, 0.5});
    Recipe recipe = bench.finish.recipe();
    QCOMPARE(recipe.areas.size(), std::size_t(1));
    recipe.areas[0].exposure = -0.7;
    recipe.areas[0].warmth = 0.4;
    bench.finish.setRecipe(recipe);
    bench.finish.tools.keepArea("Reflection, darker");
    QVERIFY(settled(window));
    const auto job = QString::fromStdString(bench.job().folder().string());
    first.reset();
    // Another window, another day.
    MainWindow next(pathOf(dir) / "jobs");
    next.openPaths({job});
    QVERIFY(settled(next));
    QCOMPARE(next.workbench().desk.areas.looks().size(), std::size_t(1));
    const Look kept = next.workbench().desk.areas.looks().front();
    QCOMPARE(kept.name, std::string("Reflection, darker"));
    next.workbench().goTo(stations::kFinish);
    QVERIFY(settled(next));
    next.workbench().finish.tools.layArea(kept.id);
    QCOMPARE(next.workbench().view().recipe.areas.size(), std::size_t(2));
    QVERIFY(next.workbench().view().recipe.areas[1] == recipe.areas[0]);
    QVERIFY(next.workbench().canUndo());
  }

  void theWheelEnlargesAtThePointer() {
    QTemporaryDir dir;
    MainWindow window(pathOf(dir) / "jobs");
    window.show();
    window.activateWindow();
    QVERIFY(QTest::qWaitForWindowActive(&window));
    window.openDemo();
    QVERIFY(settled(window));
    auto* picture = window.findChild<PictureView*>("picture");
    const QPointF at(picture->width() * 0.7, picture->height() * 0.4);
    const QPointF origin = picture->widgetPlace(0, 0), size = picture->widgetPlace(1, 1) - origin;
    const QPointF place((at.x() - origin.x()) / size.x(), (at.y() - origin.y()) / size.y());
    for (int i = 0; i < 4; ++i) {
      QWheelEvent wheel(at, picture->mapToGlobal(at), {}, {0, 120}, Qt::NoButton, Qt::NoModifier, Qt::NoScrollPhase,
                        false);
      QCoreApplication::sendEvent(picture, &wheel);
    }
    QVERIFY(picture->actualSize());
    QVERIFY(QLineF(picture->widgetPlace(place.x(), place.y()), at).length() < 0.5);
    key(window, Qt::Key_0, Qt::ControlModifier);
    QVERIFY(!picture->actualSize());
  }

  void whatWasLeftIsFoundAgain() {
    QTemporaryDir dir;
    QString folder;
    {
      MainWindow window(pathOf(dir) / "jobs");
      window.show();
      plan(window);
      window.workbench().selectView(1);
      QVERIFY(settled(window));
      key(window, Qt::Key_3);
      QVERIFY(settled(window));
      key(window, Qt::Key_P);
      folder = QString::fromStdString(window.workbench().job().folder().string());
      window.close();
    }
    MainWindow next(pathOf(dir) / "jobs");
    next.show();
    click(visible<QPushButton>(next, "goOn"));
    QVERIFY(settled(next));
    QCOMPARE(next.workbench().desk.job.viewIndex(), 1);
    QVERIFY(waitFor([&] { return next.workbench().station().id() == stations::kShoot; }));
    QVERIFY(waitFor([&] { return next.findChild<PictureView*>("picture")->actualSize(); }));
  }
};

QTEST_MAIN(TestScreens)
#include "test_screens.moc"
