// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "model/practice_model.h"

#include <QWidget>

namespace ml {

/// Where an answer is given: one kind of widget for each kind of exercise. Holds what was typed and nothing else.
class AnswerEditor : public QWidget {
  Q_OBJECT

public:
  using QWidget::QWidget;
  [[nodiscard]] virtual ExerciseAnswer answer() const = 0;
  /// Called while the clock runs.
  virtual void tick(double) {}
  /// All that can be given is given.
  [[nodiscard]] virtual bool complete() const { return true; }

signals:
  void edited();
};

/// For the exercise in hand; it has material.
[[nodiscard]] AnswerEditor* makeAnswerEditor(const PracticeModel& model);

} // namespace ml
