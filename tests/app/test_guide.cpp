// SPDX-License-Identifier: GPL-3.0-or-later
// The guide: read, searched and opened where the hand is; and what it names is what the window shows.
#include "model/guide.h"
#include "support/scenes.h"
#include "support/window.h"

#include <QDialog>
#include <QDirIterator>
#include <QFile>
#include <QLineEdit>
#include <QListWidget>
#include <QRegularExpression>
#include <QTextBrowser>

using namespace ml;

namespace {

QString contents(const QString& file) {
  QFile f(file);
  return f.open(QIODevice::ReadOnly) ? QString::fromUtf8(f.readAll()) : QString();
}

QString guideText(const QString& language = "en") {
  return contents(QString::fromStdString(guideFile(language).string()));
}

/// All text of the program's source, lines of a string joined.
QString words() {
  QString out;
  for (const char* room : {"app", "model", "deliver", "judge", "plan"}) {
    QDirIterator files(QStringLiteral(ML_SOURCE_DIR "/src/") + room, {"*.cpp", "*.h"}, QDir::Files);
    while (files.hasNext()) out += contents(files.next());
  }
  static const QRegularExpression joint("\"\\s*\n\\s*\"");
  return out.replace(joint, "");
}

} // namespace

class TestGuide : public QObject {
  Q_OBJECT

  static void languages() {
    QTest::addColumn<QString>("language");
    QTest::newRow("English") << "en";
    QTest::newRow("German") << "de";
  }

private slots:
  void initTestCase() { test::prepareWindows(); }

  void tasksAreRead() {
    const auto sections = guideSections("# All\nbefore\n## One\n<!-- station: light -->\ntext *a*\n## Two\nmore\n");
    QCOMPARE(sections.size(), std::size_t(2));
    QCOMPARE(sections[0].title, QString("One"));
    QCOMPARE(sections[0].station, QString("light"));
    QVERIFY(sections[0].text.contains("text *a*") && !sections[0].text.contains("station"));
    QVERIFY(sections[1].station.isEmpty());
    QVERIFY(says(sections[1], "MORE two") && !says(sections[1], "more one") && says(sections[1], ""));
    QVERIFY(guideSections("").empty());
  }

  void tenTasksAndEveryStationHasOne_data() { languages(); }
  void tenTasksAndEveryStationHasOne() {
    QFETCH(QString, language);
    QVERIFY(guideText("fr") == guideText("en") && guideText("de") != guideText("en"));
    const auto sections = guideSections(guideText(language));
    static const QRegularExpression numbered("^\\d+\\. ");
    QCOMPARE(std::count_if(sections.begin(), sections.end(),
                           [&](const GuideSection& s) { return numbered.match(s.title).hasMatch(); }),
             10);
    for (const QString& station : {stations::kLight, stations::kFrames, stations::kShoot, stations::kCombine,
                                   stations::kFinish, stations::kDeliver})
      QCOMPARE(
          std::count_if(sections.begin(), sections.end(), [&](const GuideSection& s) { return s.station == station; }),
          1);
  }

  // What stands in italics the reader looks for on the screen.
  void whatItNamesIsThere_data() { languages(); }
  void whatItNamesIsThere() {
    QFETCH(QString, language);
    const QString program =
        language == "en"
            ? words()
            : contents(ML_SOURCE_DIR "/translations/mellow-lantern_" + language + ".ts").replace("%L1", "");
    static const QRegularExpression named(R"((?<!\*)\*([^*\n]+)\*(?!\*))");
    QStringList missing;
    int count = 0;
    for (auto it = named.globalMatch(guideText(language)); it.hasNext();) {
      const QString name = it.next().captured(1).remove("...").remove(QRegularExpression("[.:]$")).trimmed();
      ++count;
      if (!program.contains(name, Qt::CaseInsensitive)) missing << name;
    }
    QVERIFY(count > 30);
    QVERIFY2(missing.isEmpty(), qPrintable(missing.join(" | ")));
  }

  void itsPicturesAreThere_data() { languages(); }
  void itsPicturesAreThere() {
    QFETCH(QString, language);
    static const QRegularExpression picture(R"(!\[[^\]]+\]\(([^)]+)\))");
    int count = 0;
    for (auto it = picture.globalMatch(guideText(language)); it.hasNext(); ++count)
      QVERIFY(QFile::exists(QStringLiteral(ML_SOURCE_DIR "/docs/") + it.next().captured(1)));
    QVERIFY(count >= 8);
  }

  void itsKeysAreTheProgramsKeys() {
    QTemporaryDir dir;
    MainWindow window(test::pathOf(dir));
    QStringList keys;
    for (const auto* action : window.findChildren<QAction*>()) keys << action->shortcut().toString();
    static const QRegularExpression row(R"(^\| ([^|]+) \| [^|]+\|$)", QRegularExpression::MultilineOption);
    int count = 0;
    for (auto it = row.globalMatch(guideText().section("## Keys worth knowing", 1)); it.hasNext();) {
      const QString cell = it.next().captured(1);
      if (cell == "key" || cell.contains("held") || cell.contains(" to ")) continue;
      for (QString key : cell.split(", ")) {
        key.replace("PageUp", "PgUp").replace("PageDown", "PgDown");
        QVERIFY2(keys.contains(key), qPrintable(key));
        ++count;
      }
    }
    QVERIFY(count > 12);
  }

  void f1OpensItWhereTheHandIsAndItIsSearched() {
    QTemporaryDir dir;
    MainWindow window(test::pathOf(dir));
    window.show();
    window.openDemo();
    QVERIFY(test::settled(window));
    window.workbench().goTo(stations::kFrames);
    QTest::keyClick(&window, Qt::Key_F1);
    auto* guide = window.findChild<QDialog*>("guide");
    QVERIFY(guide && guide->isVisible());
    auto* tasks = guide->findChild<QListWidget*>("guideTasks");
    auto* page = guide->findChild<QTextBrowser*>("guidePage");
    auto* search = guide->findChild<QLineEdit*>("guideSearch");
    QVERIFY(tasks->currentItem()->text().contains("Choose the bracket"));
    QVERIFY(page->toPlainText().contains("smallest set"));
    const int all = tasks->count();
    QTest::keyClicks(search, "plumb");
    QVERIFY(tasks->count() > 0 && tasks->count() < all / 2);
    QVERIFY(page->toPlainText().contains("plumb", Qt::CaseInsensitive));
    QVERIFY(!page->extraSelections().isEmpty());
    QTest::keyClicks(search, " xyzzy");
    QCOMPARE(tasks->count(), 0);
    QVERIFY(page->toPlainText().contains("Ctrl+K"));
    search->clear();
    QCOMPARE(tasks->count(), all);
    QTest::keyClick(search, Qt::Key_Down);
    QVERIFY(tasks->currentRow() > 0);
    QTest::keyClick(guide, Qt::Key_Escape);
    QVERIFY(!guide->isVisible());
  }
};

QTEST_MAIN(TestGuide)
#include "test_guide.moc"
