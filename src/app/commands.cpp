// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/commands.h"

#include <QSettings>
#include <QWidget>
#include <algorithm>

namespace ml {
namespace {

constexpr const char* kUsual = "usualKey";

QString settingOf(const QAction* action) {
  return "keys/" + action->objectName();
}

} // namespace

QAction* Commands::add(const QString& name, const QString& words, const QKeySequence& key,
                       const std::function<void()>& work) {
  auto* made = new QAction(words, window_);
  made->setObjectName(name);
  made->setProperty(kUsual, key.toString(QKeySequence::PortableText));
  const QVariant own = QSettings().value(settingOf(made));
  made->setShortcut(own.isValid() ? QKeySequence(own.toString(), QKeySequence::PortableText) : key);
  QObject::connect(made, &QAction::triggered, window_, work);
  window_->addAction(made);
  all_.push_back(made);
  return made;
}

QKeySequence Commands::usualKey(const QAction* action) const {
  return QKeySequence(action->property(kUsual).toString(), QKeySequence::PortableText);
}

void Commands::setKey(QAction* action, const QKeySequence& key) {
  action->setShortcut(key);
  if (key == usualKey(action))
    QSettings().remove(settingOf(action));
  else
    QSettings().setValue(settingOf(action), key.toString(QKeySequence::PortableText));
}

QAction* Commands::withKey(const QKeySequence& key, const QAction* butNot) const {
  const auto found = std::find_if(all_.begin(), all_.end(), [&](const QAction* a) {
    return a != butNot && !key.isEmpty() && a->shortcut() == key;
  });
  return found == all_.end() ? nullptr : *found;
}

} // namespace ml
