// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/theme.h"
#include "model/workbench.h"

#include <QFrame>

class QComboBox;
class QLabel;
class QListWidget;
class QPushButton;

namespace ml {

/// All views of the job side by side, before and after, with what is done to several at once: combined otherwise, given
/// one finish, left out, delivered. Stands in place of picture and bench.
class AllViewsSheet : public QFrame {
  Q_OBJECT

public:
  explicit AllViewsSheet(Workbench& workbench, QWidget* parent = nullptr);
  void refresh();
  void setTheme(const Theme& theme);
  /// What Ctrl+Return presses.
  [[nodiscard]] QPushButton* next() const { return deliver_; }

signals:
  /// It is to be worked on by itself.
  void viewOpened(int index);

private:
  QWidget* buildTools();
  [[nodiscard]] std::vector<std::string> chosen() const;
  void combineChosen();
  void menu(const QPoint& at);

  Workbench& workbench_;
  QListWidget* list_;
  class PairCard* card_;
  QLabel* count_;
  QComboBox* how_;
  QPushButton *combine_, *lay_, *leave_, *open_, *deliver_;
};

} // namespace ml
