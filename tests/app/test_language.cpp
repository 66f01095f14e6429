// SPDX-License-Identifier: GPL-3.0-or-later
// Every word that the window says goes through the translators: a made-up language marks what it turns, and what shows
// letters without the mark has escaped it, or was glued together from pieces. German is complete and fits its
// sentences.
#include <QTest>

#include "app/language.h"
#include "app/main_window.h"
#include "base/phrase.h"
#include "support/scenes.h"
#include "support/whole_walk.h"
#include "support/window.h"

#include <QAction>
#include <QComboBox>
#include <QHeaderView>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QMenu>
#include <QRegularExpression>
#include <QTabWidget>
#include <QTableWidget>
#include <QTemporaryDir>
#include <QToolButton>
#include <QTranslator>
#include <QXmlStreamReader>

using namespace ml;
using namespace ml::test;

namespace {

constexpr char16_t kOpen = u'⟦', kClose = u'⟧';

QString marked(const QString& words) {
  return words.isEmpty() ? words : QChar(kOpen) + words + QChar(kClose);
}

class MadeUp : public QTranslator {
public:
  using QTranslator::QTranslator;
  QString translate(const char*, const char* source, const char*, int) const override { return marked(source); }
  bool isEmpty() const override { return false; }
};

/// What stands outside all marks.
QString outside(const QString& text) {
  QString out;
  int depth = 0;
  for (const QChar c : text) {
    if (c == QChar(kOpen)) ++depth;
    if (depth == 0) out += c;
    if (c == QChar(kClose)) --depth;
  }
  return out;
}

/// Names of the demo, of cameras and of files, units and figures are the same in every language.
bool isData(QString text) {
  static const QRegularExpression data(
      "Marl Quay( ferry house)?|Reading room|Boat hall|Jetty at dusk|Net loft|Cloud|Book spines|Lamp flame|"
      "Full frame, 24 MP, 14-bit|Crop sensor, 20 MP, 14-bit|Pocket, JPEG only, three frames up to one stop|"
      "Medium format, 50 MP, 16-bit|Spherical, two lenses|Europe/\\w+|[A-Z][a-z]+/[A-Za-z_/+-]+[0-9]*|UTC|"
      "interior|exterior|dusk|panorama|landscape|detail|sphere|English|Deutsch|[\\w./"
      "-]*\\.(dng|jpg|tif|avif|exr|html|md)|/\\S+|"
      "ISO|EV|f/|JPEG|OpenEXR|TIFF|DNG|SNR|cd/m2|mm|MB|GB|Mellow Lantern|IMG_\\d+|CARD|FRAME\\d+|\\bs\\b|\\bm\\b|um|"
      "\\{\\w+\\}|frame-\\d+|set-\\d+|Ctrl|Shift|Alt|Return|Reinhard|Drago|Durand|Dorsey|et al|SIGGRAPH|Eurographics");
  return !text.remove(data).contains(QRegularExpression("\\p{L}{2}"));
}

class Escaped {
public:
  void look(const QString& where, const QString& text) {
    if (text.isEmpty() || isData(outside(text))) return;
    found_ << where + ": " + text;
  }
  [[nodiscard]] QStringList found() {
    found_.removeDuplicates();
    return found_;
  }

private:
  QStringList found_;
};

QString plain(QString text) {
  static const QRegularExpression tag("<[^>]*>|&\\w+;");
  return text.contains('<') ? text.replace(tag, " ") : text;
}

void lookAt(QWidget* w, const QString& where, Escaped& escaped) {
  if (auto* label = qobject_cast<QLabel*>(w)) escaped.look(where, plain(label->text()));
  if (auto* button = qobject_cast<QAbstractButton*>(w)) escaped.look(where, button->text());
  if (auto* line = qobject_cast<QLineEdit*>(w)) escaped.look(where, line->placeholderText());
  if (auto* combo = qobject_cast<QComboBox*>(w); combo && combo->objectName() != "visitZone")
    for (int i = 0; i < combo->count(); ++i) escaped.look(where, combo->itemText(i));
  if (auto* tabs = qobject_cast<QTabWidget*>(w))
    for (int i = 0; i < tabs->count(); ++i) escaped.look(where, tabs->tabText(i));
  if (auto* list = qobject_cast<QListWidget*>(w))
    for (int i = 0; i < list->count(); ++i) escaped.look(where, list->item(i)->text());
  if (auto* table = qobject_cast<QTableWidget*>(w)) {
    for (int c = 0; c < table->columnCount(); ++c)
      if (auto* head = table->horizontalHeaderItem(c)) escaped.look(where, head->text());
    for (int r = 0; r < table->rowCount(); ++r)
      for (int c = 0; c < table->columnCount(); ++c)
        if (auto* cell = table->item(r, c)) escaped.look(where, cell->text());
  }
  escaped.look(where, plain(w->toolTip()));
  escaped.look(where, w->accessibleName());
  for (const QAction* action : w->actions()) escaped.look(where, action->text());
  if (auto* menu = qobject_cast<QMenu*>(w))
    for (const QAction* action : menu->actions()) escaped.look(where, action->text());
}

struct Message {
  QString source, translation;
};
std::vector<Message> messagesOf(const QString& file) {
  std::vector<Message> out;
  QFile opened(file);
  if (!opened.open(QIODevice::ReadOnly)) return out;
  QXmlStreamReader xml(&opened);
  while (!xml.atEnd()) {
    if (xml.readNext() != QXmlStreamReader::StartElement) continue;
    if (xml.name() == u"source") out.push_back({xml.readElementText(), {}});
    if (xml.name() == u"translation" && !out.empty()) out.back().translation = xml.readElementText();
  }
  return out;
}

/// "{}", "{:.1f}" and "{2}" as "{}"; "%1" and "%L1" as "%1": sorted.
QStringList placesIn(QString text) {
  static const QRegularExpression place("\\{\\d*(:[^{}]*(\\{\\})?[^{}]*)?\\}|%L?\\d");
  QStringList out;
  for (auto at = place.globalMatch(text); at.hasNext();) {
    const QString found = at.next().captured();
    out << (found.startsWith('{') ? QString("{}") : QString(found).remove('L'));
  }
  out.sort();
  return out;
}

} // namespace

class TestLanguage : public QObject {
  Q_OBJECT

private slots:
  void initTestCase() { prepareWindows(); }

  // A sentence that lost a value, or a figure without its decimal mark, would be said wrong.
  void germanIsComplete() {
    const auto messages = messagesOf(ML_SOURCE_DIR "/translations/mellow-lantern_de.ts");
    QVERIFY(messages.size() > 2000);
    static const QRegularExpression pointed("\\{\\d*:[^{}L]*[fg]\\}");
    for (const Message& m : messages) {
      QVERIFY2(!m.translation.isEmpty(), qPrintable(m.source));
      QVERIFY2(placesIn(m.source) == placesIn(m.translation), qPrintable(m.source + "\n" + m.translation));
      QVERIFY2(!m.translation.contains(pointed), qPrintable(m.translation));
      QCOMPARE(m.translation.startsWith(' '), m.source.startsWith(' '));
      QCOMPARE(m.translation.endsWith(' '), m.source.endsWith(' '));
    }
  }

  void noWordEscapes() {
    MadeUp madeUp;
    QCoreApplication::installTranslator(&madeUp);
    speak({[](std::string_view words) {
             return marked(QString::fromUtf8(words.data(), qsizetype(words.size()))).toStdString();
           },
           '.'});
    QTemporaryDir dir;
    MainWindow window(pathOf(dir) / "jobs");
    window.resize(1280, 800);
    window.show();
    QVERIFY(QTest::qWaitForWindowExposed(&window));
    Escaped escaped;
    const auto look = [&](const QString& where) {
      QVERIFY(settled(window));
      for (QWidget* w : window.findChildren<QWidget*>()) lookAt(w, where, escaped);
      escaped.look(where + ", verdict", window.workbench().verdict());
    };
    walkTheProgram(window, look);
    speak({});
    QCoreApplication::removeTranslator(&madeUp);
    for (const QString& words : escaped.found()) qWarning().noquote() << words;
    QVERIFY(escaped.found().isEmpty());
  }

  // The last: the language stays.
  void germanIsSpoken() {
    speakLanguage("de");
    QCOMPARE(QString::fromStdString(phrase("Frame {} of {}", 2, 5)), "Aufnahme 2 von 5");
    QCOMPARE(QString::fromStdString(phrase("{:.1f} stops", 2.5)), "2,5 Blenden");
    QCOMPARE(QString::fromStdString(phrase("nobody translated {:.1f}", 2.5)), "nobody translated 2.5");
    QCOMPARE(MainWindow::tr("Undo"), "Rückgängig");
    QCOMPARE(shownDate("2026-06-21"), "21.06.2026");
    QCOMPARE(shownDate("a day"), "a day");
    QTemporaryDir dir;
    MainWindow window(pathOf(dir) / "jobs");
    window.show();
    window.openDemo();
    QVERIFY(settled(window));
    Workbench& bench = window.workbench();
    bench.light.readSpot(0.33, 0.235);
    QVERIFY(settled(window));
    QVERIFY(bench.light.typeReading("", "2,5")); // with the comma of the language
    QVERIFY(settled(window));
    QVERIFY(bench.light.typeReading("", "8.25")); // and without
    QVERIFY(settled(window));
    QCOMPARE(bench.desk.view().readings.size(), std::size_t(3));
    QCOMPARE(bench.desk.view().readings[1].ev100.value, 2.5);
    QVERIFY2(bench.verdict().startsWith("Das Licht reicht von EV 2,5 bis EV 15,"), qPrintable(bench.verdict()));
  }
};

QTEST_MAIN(TestLanguage)
#include "test_language.moc"
