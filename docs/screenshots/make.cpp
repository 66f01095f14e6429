// Drives the real window through the demo job and saves one picture of each main view: ml_screenshots FOLDER
#include "../../tests/support/wait.h"
#include "app/main_window.h"

#include <QApplication>
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
  bench.typeReading("Lamp flame", "15.5");
  bench.setKeepTexture(2, false);
  save(window, folder, "light");
  bench.goTo(Station::Frames);
  PlanChoices choices = bench.planChoices();
  choices.snrTarget = 40;
  bench.choosePlan(choices);
  save(window, folder, "frames");
  bench.goTo(Station::Shoot);
  bench.shoot();
  settle(window);
  bench.showFrame(0);
  save(window, folder, "shoot");
  bench.goTo(Station::Combine);
  bench.combine({});
  save(window, folder, "combine");
  window.findChild<QToolButton*>("why")->click();
  save(window, folder, "combine-why");
  window.findChild<QToolButton*>("why")->click();
  bench.goTo(Station::Finish);
  save(window, folder, "finish");
  bench.goTo(Station::Deliver);
  bench.deliver({true, true, false, true});
  settle(window);
  // The folder's name is the machine's: it has no place in the picture.
  save(window, folder, "deliver");
  window.setTheme(Theme::paper());
  bench.goTo(Station::Finish);
  save(window, folder, "finish-paper");
  return 0;
}
