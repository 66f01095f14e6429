// SPDX-License-Identifier: GPL-3.0-or-later
// Dialogs as they come up from the window's own commands: preferences, and paper as it will be printed.
#include "app/preferences.h"
#include "support/window.h"

#include <QAction>
#include <QComboBox>
#include <QDialog>
#include <QPrintPreviewDialog>
#include <QPrintPreviewWidget>
#include <QSettings>
#include <QSpinBox>
#include <QTemporaryDir>
#include <QTimer>

using namespace ml;
using namespace ml::test;

namespace {

/// Runs a command that opens a dialog and does something with that; false: none came.
bool withDialog(MainWindow& window, const char* command, const std::function<void(QDialog&)>& use) {
  auto* action = window.findChild<QAction*>(command);
  if (!action) return false;
  bool came = false;
  QTimer::singleShot(0, &window, [&] {
    auto* dialog = qobject_cast<QDialog*>(QApplication::activeModalWidget());
    if (!dialog) return;
    came = true;
    use(*dialog);
    if (dialog->isVisible()) dialog->reject();
  });
  action->trigger();
  return came;
}

/// Share of a picture that is neither its corner's colour nor nearly so.
double inkOf(const QImage& page) {
  const QRgb paper = page.pixel(page.width() / 2, 2);
  int ink = 0, all = 0;
  for (int y = 0; y < page.height(); y += 2)
    for (int x = 0; x < page.width(); x += 2, ++all) ink += std::abs(qGray(page.pixel(x, y)) - qGray(paper)) > 40;
  return double(ink) / std::max(1, all);
}

} // namespace

class TestDialogs : public QObject {
  Q_OBJECT

private slots:
  void initTestCase() { prepareWindows(); }
  void cleanup() {
    for (const char* key : {"textSize", "theme", "webEdge"}) QSettings().remove(key);
  }

  void whatIsChosenIsKept() {
    QTemporaryDir dir;
    MainWindow window(dir.path().toStdString());
    window.show();
    QCOMPARE(Preferences::textSize(), 1.0);
    QVERIFY(withDialog(window, "actionPreferences", [](QDialog& dialog) {
      auto* text = dialog.findChild<QComboBox*>("prefText");
      text->setCurrentIndex(text->findText("150 %"));
      dialog.findChild<QSpinBox*>("prefWeb")->setValue(1600);
      dialog.accept();
    }));
    QCOMPARE(Preferences::textSize(), 1.5);
    QCOMPARE(Preferences::webEdge(), 1600);
    QVERIFY(withDialog(window, "actionPreferences", [](QDialog& dialog) {
      QCOMPARE(dialog.findChild<QComboBox*>("prefText")->currentText(), "150 %");
      QVERIFY(dialog.findChild<QLabel*>("prefMonitor")->text().startsWith("sRGB")); // no screen names a profile here
      dialog.findChild<QSpinBox*>("prefWeb")->setValue(999);
    })); // and left
    QCOMPARE(Preferences::webEdge(), 1600);
    QSettings().setValue("textSize", 40);
    QCOMPARE(Preferences::textSize(), 1.5); // whatever stands there
  }

  /// Paper shows what is printed on it: the field card of a plan, and the sheet of all views.
  void paperIsShownBeforeItIsPrinted() {
    QTemporaryDir dir;
    MainWindow window(dir.path().toStdString());
    window.resize(1280, 800);
    window.show();
    Workbench& bench = window.workbench();
    window.openDemo();
    QVERIFY(settled(window));
    QVERIFY(!withDialog(window, "actionPrintCard", [](QDialog&) {})); // nothing is planned yet
    QVERIFY(window.findChild<QLabel*>("complaint")->text().contains("two readings"));
    bench.light.readSpot(0.33, 0.235);
    QVERIFY(settled(window));
    bench.light.readSpot(0.165, 0.66);
    QVERIFY(settled(window));
    double ink = 0;
    int pages = 0;
    QVERIFY(withDialog(window, "actionPrintCard", [&](QDialog& dialog) {
      auto* paper = dialog.findChild<QPrintPreviewWidget*>();
      QVERIFY(paper);
      pages = paper->pageCount();
      QCoreApplication::processEvents();
      ink = inkOf(paper->grab().toImage());
    }));
    QCOMPARE(pages, 1);
    QVERIFY2(ink > 0.01, qPrintable(QString::number(ink)));
  }
};

QTEST_MAIN(TestDialogs)
#include "test_dialogs.moc"
