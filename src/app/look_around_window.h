// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "model/look_around.h"

#include <QDialog>

namespace ml {

/// The finished sphere as somebody sees it who stands in it: dragging turns, the wheel goes closer, arrow keys turn by
/// steps. Follows the finish.
class LookAroundWindow : public QDialog {
  Q_OBJECT

public:
  explicit LookAroundWindow(const FinishModel& finish, QWidget* parent = nullptr);
  [[nodiscard]] const LookAround& around() const { return around_; }

protected:
  void paintEvent(QPaintEvent*) override;
  void mousePressEvent(QMouseEvent*) override;
  void mouseMoveEvent(QMouseEvent*) override;
  void wheelEvent(QWheelEvent*) override;
  void keyPressEvent(QKeyEvent*) override;

private:
  LookAround around_;
  QPointF at_;
};

} // namespace ml
