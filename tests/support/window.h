// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/main_window.h"
#include "support/wait.h"

#include <QApplication>
#include <QLabel>
#include <QPushButton>
#include <QStandardPaths>
#include <QTest>

/// What tests do with the real window: find what is shown, click it, wait for the work to settle.
namespace ml::test {

/// Settings of a test's own, the look and the typeface of the application.
inline void prepareWindows() {
  QStandardPaths::setTestModeEnabled(true);
  QCoreApplication::setOrganizationName("mellow-lantern-tests");
  QApplication::setStyle("Fusion");
  installFonts();
}

template <class Widget> Widget* visible(MainWindow& window, const QString& name) {
  for (auto* widget : window.findChildren<Widget*>(name))
    if (widget->isVisible()) return widget;
  return nullptr;
}

inline bool settled(MainWindow& window) {
  return waitFor([&] { return window.workbench().settled(); });
}

inline void click(QWidget* widget) {
  QVERIFY(widget);
  QVERIFY(widget->isEnabled());
  QTest::mouseClick(widget, Qt::LeftButton);
}

inline void clickNext(MainWindow& window) {
  click(visible<QPushButton>(window, "next"));
}

/// The sentence above the picture.
inline QString verdictOf(MainWindow& window) {
  return window.findChild<QLabel*>("verdict")->text();
}

inline void clickPicture(MainWindow& window, double x, double y) {
  auto* picture = window.findChild<PictureView*>("picture");
  QTest::mouseClick(picture, Qt::LeftButton, {}, picture->widgetPlace(x, y).toPoint());
}

} // namespace ml::test
