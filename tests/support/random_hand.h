// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/main_window.h"

#include <QTimer>
#include <random>

namespace ml::test {

/// Does anything that a hand can do to the window, by a seed: clicks, drags, keys, wheel, resizing, dropped files,
/// other views, all of it in the middle of work. Answers dialogs and menus that come up. Never waits.
class RandomHand : public QObject {
public:
  /// `drops`: what may be dropped onto the window, files and folders.
  RandomHand(unsigned seed, std::vector<QStringList> drops);
  /// One action; its name is in `last`.
  void act(MainWindow& window);
  [[nodiscard]] const QString& last() const { return last_; }
  /// Finishes were laid on other views: undoing one view does not bring back another.
  [[nodiscard]] bool copied() const { return copied_; }
  /// Between two values.
  [[nodiscard]] int number(int low, int high) { return std::uniform_int_distribution<int>(low, high)(random_); }

private:
  [[nodiscard]] double share() { return std::uniform_real_distribution<double>(0, 1)(random_); }
  [[nodiscard]] QPoint somewhereIn(const QWidget& widget);
  void useWidget(MainWindow& window);
  void touch(QWidget* widget);
  void dragOn(QWidget* widget);
  void pressKey(MainWindow& window);
  void drop(MainWindow& window);
  void answer();

  std::mt19937 random_;
  std::vector<QStringList> drops_;
  QString last_;
  bool copied_ = false;
  QTimer dialogs_;
};

} // namespace ml::test
