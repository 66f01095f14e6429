// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/log_charts.h"
#include "model/workbench.h"

#include <QFrame>

class QCheckBox;
class QComboBox;
class QLineEdit;
class QListWidget;
class QPushButton;
class QTabWidget;
class QTextBrowser;
class QTextEdit;

namespace ml {

/// All visits: found by words, read one by one, and what they have taught. Stands in place of picture and bench.
class LogbookPage : public QFrame {
  Q_OBJECT

public:
  explicit LogbookPage(Workbench& workbench, QWidget* parent = nullptr);
  void refresh();
  void setTheme(const Theme& theme);
  /// What Ctrl+Return presses.
  [[nodiscard]] QPushButton* next() const { return open_; }

signals:
  void jobWanted(const QString& folder);

private:
  QWidget* buildSearch();
  QWidget* buildVisit();
  QWidget* buildLearnt();
  QWidget* buildCharts();
  QWidget* buildTools();
  void search();
  void showLearnt();
  void showEntry();
  void keepWords();
  void exportAs(const QString& format, const QString& ending);

  Workbench& workbench_;
  LogbookModel& model_;
  QLineEdit* words_;
  QComboBox *tag_, *year_, *order_;
  QCheckBox* faults_;
  QListWidget *visits_, *lessons_, *cases_;
  QTabWidget* tabs_;
  QTextBrowser* page_;
  QLineEdit* tags_;
  QTextEdit* lesson_;
  QPushButton *keep_, *open_, *export_, *rebuild_, *svg_, *start_;
  std::vector<LogChartView*> charts_;
  std::int64_t shown_ = 0;
  QString html_; ///< That stands on the page.
  bool filling_ = false;
};

} // namespace ml
