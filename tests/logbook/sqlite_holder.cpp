// SPDX-License-Identifier: GPL-3.0-or-later
// Holds a logbook for writing, as a second window in the middle of its work: file, descriptor to say "ready" on,
// descriptor to wait for.
#include <QCoreApplication>
#include <QSqlDatabase>
#include <QSqlQuery>
#include <cstdlib>
#include <unistd.h>

int main(int argc, char** argv) {
  QCoreApplication app(argc, argv);
  auto database = QSqlDatabase::addDatabase("QSQLITE");
  database.setDatabaseName(argv[1]);
  if (!database.open() || !QSqlQuery(database).exec("BEGIN IMMEDIATE")) return 1;
  char byte = 'r';
  if (write(std::atoi(argv[2]), &byte, 1) != 1 || read(std::atoi(argv[3]), &byte, 1) != 1) return 2;
  return QSqlQuery(database).exec("ROLLBACK") ? 0 : 3;
}
