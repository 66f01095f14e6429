// Drives the real window through the demo job and saves one picture of each main view: ml_screenshots FOLDER
#include "../../tests/support/wait.h"
#include "app/main_window.h"
#include "app/sort_sheet.h"

#include <QApplication>
#include <QDir>
#include <QPushButton>
#include <QStandardPaths>
#include <QTemporaryDir>
#include <QToolButton>
#include <cstdio>

using namespace ml;

namespace {

void settle(MainWindow& window) {
  test::waitFor([&] { return window.workbench().settled(); });
  QCoreApplication::processEvents();
}

void save(MainWindow& window, const QString& folder, const char* name) {
  settle(window);
  window.grab().save(folder + "/" + name + ".png");
  std::printf("%s: %s\n", name, qPrintable(window.workbench().verdictText()));
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
  QDir().mkpath(folder);
  QTemporaryDir jobs;
  MainWindow window(jobs.path().toStdString());
  window.setTheme(Theme::dusk());
  window.resize(1280, 800);
  window.show();
  save(window, folder, "welcome");
  window.openDemo();
  settle(window);
  Workbench& bench = window.workbench();
  bench.readSpot(0.33, 0.235);
  bench.readSpot(0.165, 0.66);
  bench.renameReading(0, "Cloud");
  bench.renameReading(1, "Book spines");
  bench.typeReading("Lamp flame", "15.5");
  bench.setKeepTexture(2, false);
  save(window, folder, "light");
  bench.goTo(Station::Frames);
  PlanChoices choices = bench.planChoices();
  choices.snrTarget = 40;
  bench.choosePlan(choices);
  save(window, folder, "frames");
  bench.goTo(Station::Shoot);
  bench.armFault(FaultKind::PasserBy);
  window.findChild<QPushButton*>("dismiss")->click();
  bench.shoot();
  settle(window);
  bench.showFrame(1);
  save(window, folder, "shoot");
  bench.doNext();
  settle(window);
  bench.showFrame(3);
  save(window, folder, "shoot-mended");
  bench.goTo(Station::Combine);
  bench.combine({});
  save(window, folder, "combine");
  window.findChild<QToolButton*>("why")->click();
  save(window, folder, "combine-why");
  window.findChild<QToolButton*>("why")->click();
  bench.goTo(Station::Finish);
  save(window, folder, "finish");
  window.findChild<QToolButton*>("sidePlaces")->click();
  bench.setFinishTool(FinishTool::Oval);
  bench.toolPress({0.72, 0.86});
  bench.toolDrag({0.86, 0.98});
  bench.toolRelease({0.86, 0.98});
  bench.addFound(AreaShape::Windows);
  bench.selectArea(0);
  bench.setComparison(Comparing::Divider);
  save(window, folder, "finish-places");
  bench.setComparison(Comparing::Off);
  window.findChild<QToolButton*>("sideColour")->click();
  bench.setFinishTool(FinishTool::Colour);
  bench.toolPress({0.2, 0.45});
  bench.toolDrag({0.1, 0.45});
  bench.toolRelease({0.1, 0.45});
  save(window, folder, "finish-colour");
  window.findChild<QToolButton*>("sideShape")->click();
  bench.setCropGuide(CropGuide::Thirds);
  bench.setFinishTool(FinishTool::Crop);
  bench.toolPress({0.1, 0.08});
  bench.toolDrag({0.88, 0.97});
  save(window, folder, "finish-shape");
  bench.setFinishTool(FinishTool::Light); // the cut is let go
  window.findChild<QToolButton*>("sideLight")->click();
  bench.goTo(Station::Deliver);
  bench.deliver({{"jpeg", "web", "archive"}});
  settle(window);
  save(window, folder, "deliver");
  window.setTheme(Theme::paper());
  bench.goTo(Station::Finish);
  window.findChild<QToolButton*>("sideLooks")->click();
  for (const auto& what : bench.comparands())
    if (what.against == Against::Drago) bench.compareWith(what);
  settle(window);
  save(window, folder, "finish-looks");
  bench.setComparison(Comparing::Off);
  bench.goTo(Station::Light);
  save(window, folder, "light-paper");
  bench.goTo(Station::Frames);
  save(window, folder, "frames-paper");
  bench.goTo(Station::Shoot);
  save(window, folder, "shoot-paper");
  bench.selectView(2);
  settle(window);
  bench.takeTestFrame();
  save(window, folder, "light-test-frame");
  window.setTheme(Theme::dusk());
  std::vector<std::filesystem::path> frames;
  for (const int view : {1, 2, 0}) { // more frames, so that there is something to sort
    bench.selectView(view);
    settle(window);
    if (bench.view().frames.empty()) {
      bench.takeTestFrame();
      settle(window);
      bench.takeProposals();
      bench.goTo(Station::Shoot);
      bench.shoot();
      settle(window);
    }
    for (const auto& set : bench.view().sets)
      for (const auto& frame : set.frames) frames.push_back(frame.file);
  }
  Grouping grouping = groupFiles(frames);
  lookAtGroups(grouping, {});
  SortSheet sheet(grouping, Theme::dusk(), &window);
  sheet.resize(1180, 740);
  sheet.show();
  QTest::qWait(3000); // the small pictures come one by one
  sheet.grab().save(folder + "/sort.png");
  return 0;
}
