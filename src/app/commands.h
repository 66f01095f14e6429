// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <QAction>
#include <QKeySequence>
#include <functional>
#include <vector>

class QWidget;

namespace ml {

/// Everything that can be done by a name and a key, in one list: menus, the search for commands and the keys in the
/// preferences all read it. Keys of the user's own are kept.
class Commands {
public:
  explicit Commands(QWidget* window) : window_(window) {}

  /// `name`: never shown, the same in every language.
  QAction* add(const QString& name, const QString& words, const QKeySequence& key, const std::function<void()>& work);
  [[nodiscard]] const std::vector<QAction*>& all() const { return all_; }
  [[nodiscard]] QKeySequence usualKey(const QAction* action) const;
  /// An empty sequence: none; the usual one: nothing is kept.
  void setKey(QAction* action, const QKeySequence& key);
  /// What already has this key; null: nothing.
  [[nodiscard]] QAction* withKey(const QKeySequence& key, const QAction* butNot) const;

private:
  QWidget* window_;
  std::vector<QAction*> all_;
};

} // namespace ml
