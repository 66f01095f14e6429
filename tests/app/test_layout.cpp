// SPDX-License-Identifier: GPL-3.0-or-later
// Nothing is cut off, nothing overlaps, everything can be named and reached by keys: every station and page, both
// themes, two window sizes.
#include <QSettings>
#include <QTest>

#include "app/language.h"
#include "app/main_window.h"
#include "app/theme.h"
#include "support/scenes.h"
#include "support/whole_walk.h"
#include "support/window.h"

#include <QAbstractButton>
#include <QCheckBox>
#include <QComboBox>
#include <QLabel>
#include <QScrollArea>
#include <QScrollBar>
#include <QStyleOptionButton>
#include <QStyleOptionComboBox>
#include <QTabWidget>
#include <QTableWidget>
#include <QTemporaryDir>
#include <QToolButton>
#include <cmath>

using namespace ml;
using namespace ml::test;

namespace {

QString called(const QWidget* w) {
  return QString("%1 `%2` in `%3`")
      .arg(w->metaObject()->className(), w->objectName().isEmpty() ? w->property("text").toString() : w->objectName(),
           w->parentWidget() ? w->parentWidget()->objectName() : QString());
}

/// Width that a button or box leaves for its text; -1: not known.
int roomForText(QWidget* w) {
  if (auto* box = qobject_cast<QCheckBox*>(w)) {
    QStyleOptionButton option;
    option.initFrom(box);
    option.text = box->text();
    return box->style()->subElementRect(QStyle::SE_CheckBoxContents, &option, box).width();
  }
  if (auto* button = qobject_cast<QPushButton*>(w)) {
    QStyleOptionButton option;
    option.initFrom(button);
    option.text = button->text();
    return button->style()->subElementRect(QStyle::SE_PushButtonContents, &option, button).width();
  }
  if (auto* combo = qobject_cast<QComboBox*>(w)) {
    QStyleOptionComboBox option;
    option.initFrom(combo);
    return combo->style()->subControlRect(QStyle::CC_ComboBox, &option, QStyle::SC_ComboBoxEditField, combo).width();
  }
  return -1;
}

QString textOf(QWidget* w) {
  if (auto* button = qobject_cast<QAbstractButton*>(w)) return button->text();
  if (auto* combo = qobject_cast<QComboBox*>(w)) return combo->currentText();
  return {};
}

/// As the keyboard does when it comes to a widget.
void bringIntoView(QWidget* widget) {
  for (QWidget* w = widget->parentWidget(); w; w = w->parentWidget()) {
    if (auto* area = qobject_cast<QScrollArea*>(w)) area->ensureWidgetVisible(widget, 0, 0);
    auto* table = qobject_cast<QTableWidget*>(w);
    if (!table || widget->parentWidget() != table->viewport()) continue;
    const int over = widget->geometry().right() - table->viewport()->width() + 1;
    if (over > 0) table->horizontalScrollBar()->setValue(table->horizontalScrollBar()->value() + over);
    if (widget->x() < 0) table->horizontalScrollBar()->setValue(table->horizontalScrollBar()->value() + widget->x());
  }
}

/// What is wrong with the way the visible widgets lie; empty: nothing.
QStringList flawsOf(MainWindow& window) {
  QStringList flaws;
  for (QWidget* w : window.findChildren<QWidget*>()) {
    if (!w->isVisible() || w->width() == 0 || w->visibleRegion().isEmpty()) continue;
    if (const QString text = textOf(w); !text.isEmpty())
      if (const int room = roomForText(w); room >= 0 && w->fontMetrics().horizontalAdvance(text) > room + 1)
        flaws << QString("%1: \"%2\" needs %3 px and has %4")
                     .arg(called(w), text)
                     .arg(w->fontMetrics().horizontalAdvance(text))
                     .arg(room);
    if (auto* label = qobject_cast<QLabel*>(w); label && !label->text().isEmpty() && label->pixmap().isNull()) {
      const int needed = label->wordWrap() ? label->heightForWidth(label->width()) : label->sizeHint().height();
      if (!label->wordWrap() && label->sizeHint().width() > label->width() + 1)
        flaws << QString("%1: \"%2\" is cut off").arg(called(w), label->text());
      if (needed > label->height() + 1)
        flaws << QString("%1: \"%2\" needs %3 px of height and has %4")
                     .arg(called(w), label->text())
                     .arg(needed)
                     .arg(label->height());
    }
    if (auto* label = qobject_cast<QLabel*>(w); label && !label->text().isEmpty())
      for (QObject* other : w->parentWidget()->children())
        if (auto* sibling = qobject_cast<QWidget*>(other);
            sibling && sibling->isVisible() &&
            (qobject_cast<QAbstractButton*>(sibling) || qobject_cast<QComboBox*>(sibling)) &&
            sibling->geometry().intersects(w->geometry()))
          flaws << QString("%1 lies %2 px under %3")
                       .arg(called(w))
                       .arg(sibling->geometry().intersected(w->geometry()).width())
                       .arg(called(sibling));
    if (qobject_cast<QAbstractButton*>(w) || qobject_cast<QComboBox*>(w)) {
      bringIntoView(w);
      const QRect place(w->mapTo(&window, QPoint(0, 0)), w->size());
      if (w->visibleRegion().boundingRect() != w->rect()) flaws << called(w) + " reaches beyond what shows it";
      if (!window.rect().contains(place)) flaws << called(w) + " reaches beyond the window";
      for (QObject* other : w->parentWidget()->children())
        if (auto* sibling = qobject_cast<QWidget*>(other);
            sibling && sibling != w && sibling->isVisible() &&
            (qobject_cast<QAbstractButton*>(sibling) || qobject_cast<QComboBox*>(sibling)) &&
            sibling->geometry().intersects(w->geometry()))
          flaws << called(w) + " overlaps " + called(sibling);
    }
  }
  flaws.removeDuplicates();
  return flaws;
}

/// Controls that neither show a text nor have a name for those who hear the screen, or that no key reaches.
QStringList mute(MainWindow& window) {
  QStringList found;
  for (QWidget* w : window.findChildren<QWidget*>()) {
    const bool control = qobject_cast<QAbstractButton*>(w) || qobject_cast<QComboBox*>(w) ||
                         w->inherits("QAbstractSlider") || w->inherits("QLineEdit");
    if (!control || !w->isVisible() || w->inherits("QScrollBar") || qobject_cast<QComboBox*>(w->parentWidget()) ||
        w->objectName().startsWith("qt_"))
      continue;
    if (w->accessibleName().isEmpty() && w->toolTip().isEmpty() && textOf(w).isEmpty())
      found << called(w) + " has no name";
    if (w->isEnabled() && !(w->focusPolicy() & Qt::TabFocus) && !qobject_cast<QToolButton*>(w))
      found << called(w) + " cannot be reached by keys";
  }
  return found;
}

/// Contrast ratio, 1 to 21 (WCAG 2.1, "contrast ratio" and "relative luminance").
double contrast(const QColor& a, const QColor& b) {
  const auto luminance = [](const QColor& c) {
    const auto linear = [](double v) { return v <= 0.03928 ? v / 12.92 : std::pow((v + 0.055) / 1.055, 2.4); };
    return 0.2126 * linear(c.redF()) + 0.7152 * linear(c.greenF()) + 0.0722 * linear(c.blueF());
  };
  const double one = luminance(a), other = luminance(b);
  return (std::max(one, other) + 0.05) / (std::min(one, other) + 0.05);
}

} // namespace

class TestLayout : public QObject {
  Q_OBJECT

private slots:
  void initTestCase() { prepareWindows(); }

  void theFirstWindowLiesInsideTheScreen() {
    for (const QRect free :
         {QRect(0, 0, 1280, 800), QRect(0, 28, 1366, 740), QRect(60, 0, 1860, 1080), QRect(0, 0, 3840, 2160)}) {
      const QRect place = firstPlace(free);
      QVERIFY(free.contains(place.adjusted(-1, -36, 1, 1))); // with its frame and title bar
      QVERIFY(place.width() <= 1280 && place.height() <= 800);
      QVERIFY(place.width() >= std::min(1240, free.width() - 8) && place.height() >= std::min(640, free.height() - 60));
    }
    MainWindow window(std::filesystem::temp_directory_path() / "mellow-lantern-no-jobs" / "jobs");
    window.setGeometry(40, 50, 1300, 700);
    window.close();
    MainWindow again(std::filesystem::temp_directory_path() / "mellow-lantern-no-jobs" / "jobs");
    QCOMPARE(again.size(), QSize(1300, 700)); // it comes back as it was
    QSettings().remove("window");
  }

  // WCAG 2.1, success criterion 1.4.3: at least 4.5 for text; 1.4.11: at least 3 for what shows where a control is
  // used.
  void textStandsOutFromItsGround() {
    QCOMPARE(std::round(10 * contrast(Qt::black, Qt::white)) / 10, 21.0);
    for (const Theme* theme : {&Theme::dusk(), &Theme::paper()}) {
      for (const QColor& ground : {theme->ground, theme->panel, theme->raised}) {
        QVERIFY2(contrast(theme->text, ground) >= 7, qPrintable(theme->name));
        QVERIFY2(contrast(theme->quiet, ground) >= 4.5,
                 qPrintable(QString("%1: %2").arg(theme->name).arg(contrast(theme->quiet, ground))));
        QVERIFY2(contrast(theme->info, ground) >= 3,
                 qPrintable(QString("%1: %2").arg(theme->name).arg(contrast(theme->info, ground))));
        QVERIFY2(contrast(theme->accent, ground) >= 3,
                 qPrintable(QString("%1: %2").arg(theme->name).arg(contrast(theme->accent, ground))));
      }
      QVERIFY2(contrast(theme->onAccent, theme->accent) >= 3,
               qPrintable(
                   QString("%1: %2").arg(theme->name).arg(contrast(theme->onAccent, theme->accent)))); // bold and large
      for (const QColor& grey : {theme->ground, theme->surround, theme->panel})
        QVERIFY(grey.red() == grey.green() && grey.green() == grey.blue()); // nothing tints the eye
    }
  }

  // Asked for by tests/display.sh: on that display, at that factor, the screens are whole and as sharp as it is.
  void onTheDisplayAskedFor() {
    const QString display = qEnvironmentVariable("ML_DISPLAY");
    if (display.isEmpty()) QSKIP("tests/display.sh asks for this.");
    const double factor = qEnvironmentVariable("QT_SCALE_FACTOR").toDouble();
    QCOMPARE(QGuiApplication::platformName(), display);
    QTemporaryDir dir;
    MainWindow window(pathOf(dir) / "jobs");
    window.resize(1280, 800);
    window.show();
    QVERIFY(QTest::qWaitForWindowExposed(&window));
    QCOMPARE(window.devicePixelRatioF(), factor);
    QStringList flaws;
    const auto look = [&](const QString& where) {
      QVERIFY(settled(window));
      window.resize(1280, 800);
      QVERIFY(waitFor([&] { return window.size() == QSize(1280, 800); }));
      const QPixmap seen = window.grab();
      QCOMPARE(seen.size(), QSize(int(1280 * factor), int(800 * factor)));
      for (const QString& flaw : flawsOf(window)) flaws << where + ": " + flaw;
    };
    window.openDemo();
    Workbench& bench = window.workbench();
    QVERIFY(settled(window));
    bench.light.readSpot(0.33, 0.235);
    QVERIFY(settled(window));
    bench.light.readSpot(0.165, 0.66);
    look("light");
    bench.goTo(stations::kFrames);
    look("frames");
    bench.goTo(stations::kShoot);
    bench.shoot.shoot();
    look("shoot");
    bench.combine.combine({});
    bench.goTo(stations::kFinish);
    look("finish");
    window.showPage(MainWindow::Page::Visit);
    look("visit");
    QVERIFY2(flaws.isEmpty(), qPrintable(flaws.join('\n')));
  }

  void everythingFitsAtEveryStation_data() {
    QTest::addColumn<double>("text");
    QTest::addColumn<QString>("language");
    QTest::newRow("as usual") << 1.0 << "en";
    QTest::newRow("text at 150 %") << 1.5 << "en"; // at 1280 x 800
    QTest::newRow("in German") << 1.0 << "de";     // the last: it stays
  }
  void everythingFitsAtEveryStation() {
    QFETCH(double, text);
    QFETCH(QString, language);
    if (language != "en") speakLanguage(language);
    setTextSize(text);
    QApplication::setFont(uiFont(10));
    QTemporaryDir dir;
    MainWindow window(pathOf(dir) / "jobs");
    window.resize(1280, 800);
    window.show();
    QVERIFY(QTest::qWaitForWindowExposed(&window));
    QStringList flaws;
    const auto look = [&](const QString& where) {
      QVERIFY(settled(window));
      for (const Theme* theme : {&Theme::dusk(), &Theme::paper()}) {
        if ((text > 1 || language != "en") && theme == &Theme::paper()) continue; // its letters are as wide
        window.setTheme(*theme);
        for (const QSize size : {QSize(1280, 800), window.minimumSize()}) {
          if (text > 1 && size != QSize(1280, 800)) continue;
          window.resize(size);
          QCoreApplication::processEvents();
          for (const QString& flaw : flawsOf(window))
            flaws << QString("%1, %2 x %3, %4: %5")
                         .arg(where)
                         .arg(size.width())
                         .arg(size.height())
                         .arg(theme->name, flaw);
        }
      }
      for (const QString& flaw : mute(window)) flaws << where + ": " + flaw;
      window.resize(1280, 800);
      QCoreApplication::processEvents();
    };
    walkTheProgram(window, look);
    for (const QString& flaw : flaws) qWarning().noquote() << flaw; // one by one: a long message would be cut
    QVERIFY(flaws.isEmpty());
  }
  void cleanup() { setTextSize(1), QApplication::setFont(uiFont(10)); }
};

QTEST_MAIN(TestLayout)
#include "test_layout.moc"
