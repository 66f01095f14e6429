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
  /// Places of the exercise's pictures (0..1, by number from 0) belong to the answer.
  [[nodiscard]] virtual bool asksWhere() const { return false; }
  virtual void point(int, QPointF) {}
  [[nodiscard]] virtual std::optional<QPointF> pointed(int) const { return {}; }

signals:
  void edited();
  void lookedAt(int picture); ///< The field of this one was taken in hand.

protected:
  /// Taking `field` in hand looks at a picture.
  void follow(QWidget* field, int picture);
  bool eventFilter(QObject* watched, QEvent* event) override;
};

/// For the exercise in hand; it has material.
[[nodiscard]] AnswerEditor* makeAnswerEditor(const PracticeModel& model);

} // namespace ml
