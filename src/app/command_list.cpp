// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/command_list.h"

#include "app/commands.h"
#include "app/theme.h"

#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QVBoxLayout>

namespace ml {
namespace {

/// What is done on the picture and the Ladder by keys that are no commands.
QString otherKeys() {
  return CommandList::tr(
      "On the picture: arrows move the cross (Shift: finely) or go from place to place, Return presses and lets go, "
      "Ctrl with arrows moves the enlarged picture, Alt with left and right the divider. On the Ladder: up and down "
      "choose a frame or a tie, Shift with them pulls the tie. B, while held: the exposure instead of the finish.");
}

} // namespace

CommandList::CommandList(const Commands& commands, QWidget* parent) : QDialog(parent), commands_(commands) {
  setObjectName("commandList");
  setWindowTitle(tr("Commands and keys"));
  resize(560, 560);
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(18, 16, 18, 16);
  search_ = new QLineEdit;
  search_->setObjectName("commandSearch");
  search_->setPlaceholderText(tr("Type what you want to do"));
  search_->setAccessibleName(tr("Search the commands"));
  search_->installEventFilter(this);
  list_ = new QListWidget;
  list_->setObjectName("commandMatches");
  list_->setAccessibleName(tr("Commands"));
  auto* others = new QLabel(otherKeys());
  others->setWordWrap(true);
  others->setProperty("role", "quiet");
  others->setFont(uiFont(9));
  column->addWidget(search_);
  column->addWidget(list_, 1);
  column->addWidget(others);
  connect(search_, &QLineEdit::textChanged, this, &CommandList::narrow);
  connect(search_, &QLineEdit::returnPressed, this, &CommandList::run);
  connect(list_, &QListWidget::itemActivated, this, &CommandList::run);
  narrow({});
}

/// Commands that have all the typed words, in any order.
void CommandList::narrow(const QString& words) {
  list_->clear();
  const QStringList wanted = words.simplified().split(' ', Qt::SkipEmptyParts);
  for (QAction* action : commands_.all()) {
    const QString key = action->shortcut().toString(QKeySequence::NativeText), line = action->text();
    const bool all = std::all_of(wanted.begin(), wanted.end(), [&](const QString& w) {
      return line.contains(w, Qt::CaseInsensitive) || key.compare(w, Qt::CaseInsensitive) == 0;
    });
    if (!all) continue;
    auto* item = new QListWidgetItem(list_);
    auto* cell = new QWidget;
    auto* row = new QHBoxLayout(cell);
    row->setContentsMargins(6, 3, 6, 3);
    auto* name = new QLabel(line);
    auto* shortcut = new QLabel(key);
    shortcut->setProperty("role", "quiet");
    row->addWidget(name, 1);
    row->addWidget(shortcut);
    item->setData(Qt::UserRole, QVariant::fromValue(static_cast<QObject*>(action)));
    item->setData(Qt::AccessibleTextRole, line + " " + key);
    item->setSizeHint(QSize(100, 30));
    list_->setItemWidget(item, cell);
  }
  list_->setCurrentRow(0);
}

void CommandList::run() {
  const auto* item = list_->currentItem();
  if (!item) return;
  auto* action = qobject_cast<QAction*>(item->data(Qt::UserRole).value<QObject*>());
  accept();
  if (action) QMetaObject::invokeMethod(action, &QAction::trigger, Qt::QueuedConnection); // after this dialog is gone
}

/// Up and down choose in the list while the words are typed.
bool CommandList::eventFilter(QObject* watched, QEvent* event) {
  if (watched != search_ || event->type() != QEvent::KeyPress) return QDialog::eventFilter(watched, event);
  const int key = static_cast<QKeyEvent*>(event)->key();
  if (key != Qt::Key_Up && key != Qt::Key_Down) return QDialog::eventFilter(watched, event);
  list_->setCurrentRow(std::clamp(list_->currentRow() + (key == Qt::Key_Down ? 1 : -1), 0, list_->count() - 1));
  return true;
}

} // namespace ml
