// SPDX-License-Identifier: GPL-3.0-or-later
// Drives the real window through the demo job and saves one picture of each main view: ml_screenshots FOLDER [sharp |
// de]
#include "../../tests/support/wait.h"
#include "app/field_card.h"
#include "app/language.h"
#include "app/main_window.h"
#include "app/sort_sheet.h"

#include <QApplication>
#include <QDir>
#include <QListWidget>
#include <QPushButton>
#include <QStandardPaths>
#include <QTableWidget>
#include <QTemporaryDir>
#include <QToolButton>
#include <cmath>
#include <cstdio>
#include <random>

using namespace ml;

namespace {

void settle(MainWindow& window) {
  test::waitFor([&] { return window.workbench().settled(); });
  QCoreApplication::processEvents();
}

void save(MainWindow& window, const QString& folder, const char* name) {
  settle(window);
  window.grab().save(folder + "/" + name + ".png");
  std::printf("%s: %s\n", name, qPrintable(window.workbench().verdict()));
}

/// Visits of an invented photographer, for what the logbook has learnt.
std::vector<LogEntry> inventedVisits() {
  std::mt19937 random(3);
  const auto share = [&] { return double(random()) / 4294967296.0; };
  std::vector<LogEntry> out;
  for (int i = 0; i < 60; ++i) {
    LogEntry entry;
    entry.folder = "/invented/" + std::to_string(i);
    entry.name = (i % 3 ? "Timber house " : "Mill ") + std::to_string(i + 1);
    entry.place = i % 2 ? "Marl Quay" : "Low Ferry";
    entry.date = print(year_month_day{std::chrono::year{2026}, std::chrono::month{unsigned(1 + i / 6)},
                                      std::chrono::day{unsigned(1 + i % 28)}});
    entry.tags = {i % 2 ? "timber" : "brick"};
    for (const char* kind : {"interior", "exterior", "dusk", "kitchen"}) {
      LogView view;
      view.folder = "01-view";
      view.name = std::string("The ") + kind;
      view.kind = kind;
      view.hasRange = true;
      view.darkest = 2 + share();
      view.brightest = 10 + 4 * share() + double(out.size() % 3);
      view.spent = {{"light", 40 + 60 * share()}, {"shoot", 60 + 120 * share()}, {"finish", 60 + 100 * share()}};
      view.fired = view.combinedOf = 5;
      view.sets = 1;
      view.spoke = share() < 0.9 ? 3 : 5;
      view.answer = "holds";
      view.verdict = "All frames hold what they were shot for.";
      const double stops = share() * 6 - 1;
      const bool sharp = share() < 1 / (1 + std::exp(1.5 * (stops - 2.5)));
      FrameNote note{"frame-1.dng", std::exp2(stops) / 24, 24, true, sharp ? 0.1 : 1.2, {}};
      if (!sharp) {
        note.flaws = {"soft"};
        view.faults.push_back({"soft", 15});
      }
      view.frames = {note};
      entry.views.push_back(view);
    }
    out.push_back(entry);
  }
  return out;
}

} // namespace

int main(int count, char** arguments) {
  QStandardPaths::setTestModeEnabled(true);
  QApplication application(count, arguments);
  QApplication::setApplicationName("Mellow Lantern screenshots");
  QApplication::setOrganizationName("mellow-lantern-screenshots");
  QApplication::setStyle("Fusion");
  installFonts();
  QApplication::setFont(uiFont(10));
  const QString folder = count > 1 ? arguments[1] : ".";
  const QString wanted = count > 2 ? arguments[2] : "";
  const bool sharp = wanted == "sharp";
  if (!sharp && !wanted.isEmpty()) speakLanguage(wanted);
  QDir().mkpath(folder);
  QTemporaryDir jobs;
  MainWindow window(jobs.filePath("jobs").toStdString());
  window.setTheme(Theme::dusk());
  window.resize(1280, 800);
  window.show();
  if (!sharp) save(window, folder, "welcome");
  window.openDemo();
  settle(window);
  Workbench& bench = window.workbench();
  bench.light.readSpot(0.33, 0.235);
  bench.light.readSpot(0.165, 0.66);
  settle(window);
  bench.light.renameReading(0, "Cloud");
  bench.light.renameReading(1, "Book spines");
  bench.light.typeReading("Lamp flame", "15.5");
  bench.light.setKeepTexture(2, false);
  if (!sharp) save(window, folder, "light");
  bench.goTo(stations::kFrames);
  PlanChoices choices = bench.frames.choices();
  choices.snrTarget = 40;
  bench.frames.choose(choices);
  save(window, folder, sharp ? "frames-sharp" : "frames");
  if (sharp) { // one picture with two pixels of the screen to one; and the card, which has a size of its own
    fieldCardImage(fieldCardOf(bench.frames)).save(folder + "/field-card.png");
    return 0;
  }
  bench.goTo(stations::kShoot);
  bench.desk.camera.armFault(FaultKind::PasserBy);
  window.findChild<QPushButton*>("dismiss")->click();
  bench.shoot.shoot();
  settle(window);
  bench.shoot.showFrame(1);
  save(window, folder, "shoot");
  bench.shoot.doNext();
  settle(window);
  bench.shoot.showFrame(3);
  bench.goTo(stations::kCombine);
  bench.combine.combine({});
  save(window, folder, "combine");
  window.findChild<PictureView*>("picture")->setFocus();
  QTest::keyClick(window.findChild<PictureView*>("picture"), Qt::Key_Right); // a place, at 100 %
  window.findChild<PictureView*>("picture")->showWhole();
  bench.goTo(stations::kFinish);
  save(window, folder, "finish");
  window.findChild<QToolButton*>("sidePlaces")->click();
  bench.finish.tools.choose(FinishTool::Oval);
  bench.finish.tools.press({0.72, 0.86});
  bench.finish.tools.drag({0.86, 0.98});
  bench.finish.tools.release({0.86, 0.98});
  bench.finish.tools.addFound(AreaShape::Windows);
  bench.finish.tools.selectArea(0);
  bench.finish.compare.set(Comparing::Divider);
  save(window, folder, "finish-places");
  bench.finish.compare.set(Comparing::Off);
  window.findChild<QToolButton*>("sideColour")->click();
  bench.finish.tools.choose(FinishTool::Colour);
  bench.finish.tools.press({0.2, 0.45});
  bench.finish.tools.drag({0.1, 0.45});
  bench.finish.tools.release({0.1, 0.45});
  settle(window);
  window.findChild<QToolButton*>("sideShape")->click();
  bench.finish.tools.setCropGuide(CropGuide::Thirds);
  bench.finish.tools.choose(FinishTool::Crop);
  bench.finish.tools.press({0.1, 0.08});
  bench.finish.tools.drag({0.88, 0.97});
  save(window, folder, "finish-shape");
  bench.finish.tools.choose(FinishTool::Light); // the cut is let go
  window.findChild<QToolButton*>("sideLight")->click();
  bench.goTo(stations::kDeliver);
  bench.deliver.deliver({{"jpeg", "web", "archive"}});
  settle(window);
  save(window, folder, "deliver");
  window.setTheme(Theme::paper());
  bench.goTo(stations::kFinish);
  window.findChild<QToolButton*>("sideLooks")->click();
  for (const auto& what : bench.finish.compare.comparands())
    if (what.against == Against::Drago) bench.finish.compare.with(what);
  settle(window);
  save(window, folder, "finish-looks");
  bench.finish.compare.set(Comparing::Off);
  window.setTheme(Theme::dusk());
  bench.selectView(3); // the net loft, from wall to wall: two positions read, then three shot and joined
  settle(window);
  bench.light.lookAtPosition(1);
  settle(window);
  bench.light.readSpot(0.5, 0.42);
  settle(window);
  bench.light.lookAtPosition(0);
  settle(window);
  bench.light.readSpot(0.06, 0.5);
  settle(window);
  PlanChoices loft = bench.frames.choices();
  loft.snrTarget = 40;
  bench.frames.choose(loft);
  settle(window);
  bench.goTo(stations::kShoot);
  for (int position = 0; position < 2; ++position) {
    settle(window);
    bench.shoot.doNext();
  }
  save(window, folder, "shoot-positions");
  bench.shoot.doNext();
  settle(window);
  bench.goTo(stations::kCombine);
  settle(window);
  bench.combine.doNext();
  save(window, folder, "combine-positions");
  std::vector<std::filesystem::path> frames;
  for (const int view : {1, 2, 0}) { // more frames, so that there is something to sort
    bench.selectView(view);
    settle(window);
    if (bench.view().frames.empty()) {
      bench.light.takeTestFrame();
      settle(window);
      bench.light.takeProposals();
      bench.goTo(stations::kShoot);
      bench.shoot.shoot();
      settle(window);
    }
    for (const auto& set : bench.view().sets)
      for (const auto& frame : set.frames) frames.push_back(frame.file);
  }
  for (const int view : {1, 2}) {
    bench.selectView(view);
    settle(window);
    bench.combine.combine({});
    settle(window);
  }
  window.showAllViews(true);
  window.findChild<QListWidget*>("allViewsList")->setCurrentRow(1);
  save(window, folder, "all-views");
  bench.visit.change("demo", [](Visit& visit) {
    visit.place = {"Marl Quay", 46.8, 9.5, "Europe/Zurich"}; // an invented place
    visit.date = *parseDate("2026-10-10");
    visit.from = 13 * 60;
    visit.to = 20 * 60;
    visit.views[0].light = {LightWant::NoSunInWindow, 80, {}};
    visit.views[1].lamps = Lamps::Both;
    visit.views[2].kind = "dusk";
    visit.views[2].light = {LightWant::AfterSunset, 250, {}};
    visit.views[3].kind = "panorama";
    visit.views[3].light = {LightWant::Daylight, 60, {}};
    for (const auto& [name, want, kind] : {std::tuple{"Lake front", LightWant::SunOnFront, "exterior"},
                                           {"Morning mist", LightWant::BeforeSunrise, "landscape"}}) {
      VisitView view;
      view.name = name;
      view.kind = kind;
      view.light = {want, 60, {}};
      visit.views.push_back(view);
    }
  });
  window.showPage(MainWindow::Page::Visit);
  test::waitFor([&] { return !bench.visit.planning(); });
  window.findChild<QTableWidget*>("visitViews")->selectRow(2);
  save(window, folder, "visit");
  bench.logbook.flush();
  {
    auto book = Logbook::open(logbookFile(bench.desk.jobsFolder));
    (void)book->put(inventedVisits());
  }
  window.showPage(MainWindow::Page::Logbook);
  bench.logbook.rebuild();
  settle(window);
  window.findChild<QListWidget*>("logVisits")->setCurrentRow(2); // the ferry house, between the invented ones
  save(window, folder, "logbook");
  window.showPage(MainWindow::Page::Practice);
  bench.practice.begin("read-spot-1");
  save(window, folder, "practice");
  bench.practice.leave();
  window.showPage(MainWindow::Page::Station);
  Grouping grouping = groupFiles(frames);
  lookAtGroups(grouping, {});
  SortSheet sheet(grouping, Theme::dusk(), &window);
  sheet.resize(1180, 740);
  sheet.show();
  QTest::qWait(3000); // the small pictures come one by one
  sheet.grab().save(folder + "/sort.png");
  return 0;
}
