// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <QTest>

#include "app/main_window.h"
#include "support/window.h"

#include <QPushButton>
#include <QTabWidget>
#include <QToolButton>

namespace ml::test {

/// Takes a new window through every station and page and calls look(where) at each, when all work has ended.
template <class Look> void walkTheProgram(MainWindow& window, const Look& look) {
  Workbench& bench = window.workbench();
  look("welcome");
  window.openDemo();
  look("light");
  bench.light.readSpot(0.33, 0.235);
  QVERIFY(settled(window));
  bench.light.readSpot(0.165, 0.66);
  QVERIFY(settled(window));
  if (auto* understood = visible<QPushButton>(window, "dismiss")) click(understood);
  look("light, read");
  bench.light.takeTestFrame();
  look("light, test frame");
  bench.goTo(stations::kFrames);
  look("frames");
  bench.goTo(stations::kShoot);
  look("shoot");
  bench.shoot.shoot();
  look("shoot, shot");
  bench.goTo(stations::kCombine);
  look("combine");
  bench.combine.combine({});
  look("combine, combined");
  bench.goTo(stations::kFinish);
  for (const char* side : {"sideLight", "sideColour", "sideShape", "sidePlaces", "sideMend", "sideLooks"}) {
    click(visible<QToolButton>(window, side));
    look(QString("finish, %1").arg(side));
  }
  click(visible<QToolButton>(window, "sidePlaces"));
  bench.finish.tools.addFound(AreaShape::Windows);
  look("finish, a place");
  bench.goTo(stations::kDeliver);
  look("deliver");
  bench.deliver.deliver({{"jpeg", "print", "hdr-avif"}, false, {}, kNamePattern, {}});
  bench.deliver.pause();
  look("deliver, paused");
  window.showPage(MainWindow::Page::Visit);
  QVERIFY(waitFor([&] { return bench.visit.plan() != nullptr; }));
  look("visit");
  window.showPage(MainWindow::Page::Logbook);
  for (int tab = 0; tab < 3; ++tab) {
    window.findChild<QTabWidget*>("logTabs")->setCurrentIndex(tab);
    look(QString("logbook, %1").arg(tab));
  }
  window.showPage(MainWindow::Page::Practice);
  look("practice");
  const auto exercises = bench.practice.exercises(); // a copy: they are read anew while the logbook learns
  for (const auto& exercise : exercises) {
    if (exercise.level > 1) continue;
    bench.practice.begin(exercise.id);
    look(QString::fromStdString("practice, " + exercise.id));
  }
}

} // namespace ml::test
