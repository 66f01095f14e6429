// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/theme.h"
#include "model/workbench.h"

#include <QFrame>
#include <QTimer>

class QLabel;
class QListWidget;
class QPushButton;
class QScrollArea;
class QStackedWidget;
class QTextBrowser;
class QVBoxLayout;

namespace ml {

class AnswerEditor;
class PictureView;

/// The practice room: exercises, one in hand with its clock, its answer and its score. Stands in place of picture and
/// bench.
class PracticePage : public QFrame {
  Q_OBJECT

public:
  explicit PracticePage(Workbench& workbench, QWidget* parent = nullptr);
  void refresh();
  void setTheme(const Theme& theme);
  /// What Ctrl+Return presses.
  [[nodiscard]] QPushButton* next() const { return next_; }

signals:
  void firstPathWanted();

private:
  QWidget* buildList();
  QWidget* buildExercise();
  void showExercise();
  void pressNext();
  void showPicture(int index);
  void showMarks(int index);

  Workbench& workbench_;
  PracticeModel& model_;
  const Theme* theme_ = &Theme::dusk();
  QListWidget* list_;
  QPushButton *first_, *next_, *leave_;
  QLabel *title_, *clock_, *caution_;
  QTextBrowser* words_;
  PictureView* picture_;
  QListWidget* pictures_;
  QScrollArea* answerArea_;
  AnswerEditor* editor_ = nullptr;
  std::string shown_; ///< Exercise whose editor stands there.
  bool filling_ = false, scored_ = false;
  QTimer tick_;
};

} // namespace ml
