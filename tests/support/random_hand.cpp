// SPDX-License-Identifier: GPL-3.0-or-later
#include "support/random_hand.h"

#include <QAbstractButton>
#include <QAbstractItemView>
#include <QApplication>
#include <QComboBox>
#include <QDialog>
#include <QDropEvent>
#include <QLineEdit>
#include <QMenu>
#include <QMimeData>
#include <QSlider>
#include <QSpinBox>
#include <QTest>
#include <QUrl>
#include <QWheelEvent>

namespace ml::test {
namespace {

/// What would leave the window: other programs.
const QStringList kNever{"openFolder"};

struct Key {
  int key;
  Qt::KeyboardModifiers with = Qt::NoModifier;
};
constexpr Key kKeys[] = {{Qt::Key_1},
                         {Qt::Key_2},
                         {Qt::Key_3},
                         {Qt::Key_4},
                         {Qt::Key_5},
                         {Qt::Key_6},
                         {Qt::Key_Z},
                         {Qt::Key_M},
                         {Qt::Key_N},
                         {Qt::Key_S},
                         {Qt::Key_T},
                         {Qt::Key_BracketLeft},
                         {Qt::Key_BracketRight},
                         {Qt::Key_Escape},
                         {Qt::Key_Tab},
                         {Qt::Key_Up},
                         {Qt::Key_Down},
                         {Qt::Key_Left},
                         {Qt::Key_Right},
                         {Qt::Key_Space},
                         {Qt::Key_Return},
                         {Qt::Key_Delete},
                         {Qt::Key_Return, Qt::ControlModifier},
                         {Qt::Key_Z, Qt::ControlModifier},
                         {Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier},
                         {Qt::Key_T, Qt::ControlModifier},
                         {Qt::Key_Up, Qt::AltModifier},
                         {Qt::Key_PageDown},
                         {Qt::Key_PageUp},
                         {Qt::Key_0},
                         {Qt::Key_P},
                         {Qt::Key_X},
                         {Qt::Key_G},
                         {Qt::Key_F2},
                         {Qt::Key_0, Qt::ControlModifier},
                         {Qt::Key_K, Qt::ControlModifier},
                         {Qt::Key_Comma, Qt::ControlModifier}};
const QStringList kWords{"13 1/3", "1/125 f/8",       "4000 cd/m2", "nonsense", "",    "-7",
                         "1e9",    "{view}-{target}", "sky",        "../../x",  "0.4", QString(300, 'x')};

} // namespace

RandomHand::RandomHand(unsigned seed, std::vector<QStringList> drops) : random_(seed), drops_(std::move(drops)) {
  connect(&dialogs_, &QTimer::timeout, this, &RandomHand::answer);
  dialogs_.start(2);
}

QPoint RandomHand::somewhereIn(const QWidget& widget) {
  return {number(0, std::max(0, widget.width() - 1)), number(0, std::max(0, widget.height() - 1))};
}

void RandomHand::act(MainWindow& window) {
  const double what = share();
  if (what < 0.5)
    useWidget(window);
  else if (what < 0.72)
    pressKey(window);
  else if (what < 0.86)
    dragOn(window.findChild<QWidget*>(share() < 0.8 ? "picture" : "ladder"));
  else if (what < 0.89) {
    last_ = "resize";
    window.resize(number(1240, 1900), number(640, 1100));
  } else if (what < 0.9)
    drop(window);
  else {
    last_ = "let time pass";
    QTest::qWait(number(0, 12));
  }
  QCoreApplication::processEvents();
}

void RandomHand::useWidget(MainWindow& window) {
  std::vector<QWidget*> all;
  for (auto* widget : window.findChildren<QWidget*>()) {
    const bool useful = qobject_cast<QAbstractButton*>(widget) || qobject_cast<QComboBox*>(widget) ||
                        qobject_cast<QLineEdit*>(widget) || qobject_cast<QSlider*>(widget) ||
                        qobject_cast<QSpinBox*>(widget) || qobject_cast<QAbstractItemView*>(widget) ||
                        widget->objectName() == "stations";
    if (useful && widget->isVisible() && widget->isEnabled() && !kNever.contains(widget->objectName()))
      all.push_back(widget);
  }
  if (all.empty()) return;
  touch(all[std::size_t(number(0, int(all.size()) - 1))]);
}

void RandomHand::touch(QWidget* widget) {
  last_ = QString("%1 %2").arg(widget->metaObject()->className(), widget->objectName());
  if (widget->objectName() == "copyFinish" || widget->objectName() == "layFinish") copied_ = true;
  if (auto* box = qobject_cast<QComboBox*>(widget)) {
    if (box->count() == 0) return;
    const int index = number(0, box->count() - 1);
    last_ += QString(" %1").arg(index);
    box->setCurrentIndex(index); // as the list that drops down would
    emit box->activated(index);
  } else if (auto* line = qobject_cast<QLineEdit*>(widget)) {
    line->setFocus();
    line->selectAll();
    QTest::keyClicks(line, kWords[number(0, int(kWords.size()) - 1)]);
    if (share() < 0.7) QTest::keyClick(line, Qt::Key_Return);
  } else if (auto* slider = qobject_cast<QSlider*>(widget)) {
    if (share() < 0.5)
      dragOn(slider);
    else
      QTest::keyClick(slider, share() < 0.5 ? Qt::Key_Left : Qt::Key_Right);
  } else if (auto* spin = qobject_cast<QSpinBox*>(widget)) {
    spin->setValue(number(spin->minimum(), spin->maximum()));
    QTest::keyClick(spin, Qt::Key_Return);
  } else if (auto* list = qobject_cast<QAbstractItemView*>(widget)) {
    QTest::mouseClick(list->viewport(), Qt::LeftButton, {}, somewhereIn(*list->viewport()));
    if (share() < 0.3) QTest::keyClick(list, Qt::Key_Space);
  } else {
    QTest::mouseClick(widget, Qt::LeftButton, {},
                      qobject_cast<QAbstractButton*>(widget) ? QPoint() : somewhereIn(*widget));
  }
}

void RandomHand::dragOn(QWidget* widget) {
  if (!widget || !widget->isVisible() || !widget->isEnabled()) return;
  last_ = "drag on " + widget->objectName();
  const Qt::KeyboardModifiers with = share() < 0.1 ? Qt::ControlModifier : Qt::NoModifier;
  QPoint at = somewhereIn(*widget);
  if (share() < 0.1) {
    QWheelEvent wheel(at, widget->mapToGlobal(at), {}, {0, number(-2, 2) * 120}, Qt::NoButton, Qt::NoModifier,
                      Qt::NoScrollPhase, false);
    QApplication::sendEvent(widget, &wheel);
    return;
  }
  QTest::mousePress(widget, Qt::LeftButton, with, at);
  const int moves = number(0, 4);
  for (int i = 0; i < moves; ++i) {
    at = somewhereIn(*widget);
    QMouseEvent move(QEvent::MouseMove, QPointF(at), QPointF(widget->mapToGlobal(at)), Qt::NoButton, Qt::LeftButton,
                     with);
    QApplication::sendEvent(widget, &move);
    if (share() < 0.3) QCoreApplication::processEvents(); // the work of the drag, in its middle
    if (share() < 0.02) QTest::keyClick(widget->window(), Qt::Key_Z, Qt::ControlModifier);
  }
  QTest::mouseRelease(widget, Qt::LeftButton, with, at);
}

void RandomHand::pressKey(MainWindow& window) {
  const Key key = kKeys[number(0, int(std::size(kKeys)) - 1)];
  last_ = "key " + QKeySequence(key.key | key.with).toString();
  QWidget* focus = QApplication::focusWidget();
  QWidget* target = focus && focus->window() == &window && share() < 0.5 ? focus : &window;
  if (key.key == Qt::Key_M && share() < 0.3) {
    QTest::keyPress(target, Qt::Key_B); // held over other things
    return;
  }
  QTest::keyClick(target, Qt::Key(key.key), key.with);
  if (share() < 0.05) QTest::keyRelease(target, Qt::Key_B);
}

void RandomHand::drop(MainWindow& window) {
  if (drops_.empty()) return;
  last_ = "drop";
  QMimeData data;
  QList<QUrl> urls;
  for (const QString& path : drops_[std::size_t(number(0, int(drops_.size()) - 1))]) urls << QUrl::fromLocalFile(path);
  data.setUrls(urls);
  QDragEnterEvent enter({600, 400}, Qt::CopyAction, &data, Qt::LeftButton, Qt::NoModifier);
  QApplication::sendEvent(&window, &enter); // without it nothing is dropped
  QDropEvent event(QPointF(600, 400), Qt::CopyAction, &data, Qt::LeftButton, Qt::NoModifier);
  QApplication::sendEvent(&window, &event);
}

/// Whatever asks: menus get a choice, dialogs some words and one of their buttons.
void RandomHand::answer() {
  if (auto* menu = qobject_cast<QMenu*>(QApplication::activePopupWidget())) {
    QList<QAction*> choices;
    for (QAction* a : menu->actions())
      if (a->isEnabled() && !a->isSeparator() && !a->menu() && a->objectName() != "actionQuit") choices << a;
    QAction* chosen = choices.isEmpty() || share() < 0.3 ? nullptr : choices[number(0, int(choices.size()) - 1)];
    menu->close();
    if (chosen) QMetaObject::invokeMethod(chosen, &QAction::trigger, Qt::QueuedConnection);
    return;
  }
  if (QWidget* popup = QApplication::activePopupWidget()) {
    popup->close();
    return;
  }
  auto* dialog = qobject_cast<QDialog*>(QApplication::activeModalWidget());
  if (!dialog) return;
  const bool files = dialog->inherits("QFileDialog");
  for (auto* line : dialog->findChildren<QLineEdit*>())
    if (!files && line->isEnabled() && share() < 0.5) line->setText(kWords[number(0, int(kWords.size()) - 1)]);
  if (files || share() < 0.5)
    dialog->reject();
  else
    dialog->accept();
}

} // namespace ml::test
