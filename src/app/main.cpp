// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/language.h"
#include "app/main_window.h"
#include "app/preferences.h"
#include "base/version.h"
#include "session/locations.h"

#include <QApplication>
#include <QCommandLineParser>
#include <QIcon>

int main(int count, char** arguments) {
  QApplication application(count, arguments);
  QApplication::setApplicationName("Mellow Lantern");
  QApplication::setOrganizationName("mellow-lantern");
  QApplication::setApplicationVersion(ml::version());
  QApplication::setStyle("Fusion");
  ml::speakLanguage(ml::Preferences::language());
  ml::installFonts();
  ml::setTextSize(ml::Preferences::textSize());
  QApplication::setFont(ml::uiFont(10));
  QApplication::setWindowIcon(QIcon(":/icon.svg"));

  QCommandLineParser parser;
  parser.setApplicationDescription(
      QCoreApplication::translate("main", "Plans, shoots, combines and finishes exposure brackets."));
  parser.addHelpOption();
  parser.addVersionOption();
  const QCommandLineOption demo("demo", QCoreApplication::translate("main", "Open the ferry house demo."));
  parser.addOption(demo);
  parser.addPositionalArgument(
      "paths", QCoreApplication::translate("main", "A job folder, or frames and folders of frames."), "[JOB|FILES...]");
  parser.process(application);

  ml::MainWindow window(ml::jobsFolder());
  window.show();
  if (parser.isSet(demo))
    window.openDemo();
  else
    window.openPaths(parser.positionalArguments());
  return QApplication::exec();
}
