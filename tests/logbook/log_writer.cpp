// SPDX-License-Identifier: GPL-3.0-or-later
// Writes visits into a logbook, one after the other, and says each that is kept: to be killed by test_logbook.
#include "logbook/store.h"

#include <QCoreApplication>
#include <cstdio>
#include <fmt/format.h>

int main(int argc, char** argv) {
  QCoreApplication app(argc, argv);
  auto book = ml::Logbook::open(argv[1]);
  if (!book) return 1;
  for (int i = std::atoi(argv[2]);; ++i) {
    ml::LogEntry entry;
    entry.folder = fmt::format("/jobs/killed-{}", i);
    ml::LogView view;
    view.name = "Reading room";
    view.frames.push_back({"frame-1.dng", 0.125, 24, true, 0, {}});
    entry.views.push_back(view);
    if (!book->put(entry)) return 2;
    std::printf("%d\n", i);
    std::fflush(stdout);
  }
}
