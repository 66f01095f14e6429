// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/day_chart.h"
#include "model/workbench.h"

#include <QFrame>

class QComboBox;
class QDateEdit;
class QLabel;
class QLineEdit;
class QPushButton;
class QTableWidget;
class QTimeEdit;
class QToolButton;

namespace ml {

/// Planning a visit, and following it while it is under way. Stands in place of picture and bench.
class VisitPage : public QFrame {
  Q_OBJECT

public:
  explicit VisitPage(Workbench& workbench, QWidget* parent = nullptr);
  void refresh();
  void setTheme(const Theme& theme);
  [[nodiscard]] QPushButton* next() const { return again_; }
  [[nodiscard]] DayPicture day() const;

private:
  QWidget* buildPlace();
  QWidget* buildTools();
  void connectFields();
  void fillTable();
  void fillRow(int row);
  [[nodiscard]] int chosen() const;
  void typePlace();
  void makeSheet();
  void exportCalendar();

  Workbench& workbench_;
  VisitModel& model_;
  QLineEdit *name_, *latitude_, *longitude_;
  QComboBox *zone_, *prefer_;
  QDateEdit* date_;
  QTimeEdit *from_, *to_;
  QToolButton* fromFrames_;
  QTableWidget* table_;
  DayChart* chart_;
  QLabel *sun_, *now_, *left_, *pace_;
  QLineEdit* newView_;
  QPushButton *add_, *remove_, *undo_, *redo_, *ways_, *again_, *sheet_, *calendar_;
  bool filling_ = false;
};

} // namespace ml
