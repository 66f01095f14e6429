// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/theme.h"
#include "model/position_walk.h"

#include <QWidget>

namespace ml {

/// The positions of a view as they lie beside and above one another: which the camera is pointed at, which were shot. A
/// click, or arrows and Return, points the camera.
class PositionMap : public QWidget {
  Q_OBJECT

public:
  explicit PositionMap(const PositionWalk& walk, QWidget* parent = nullptr);
  void refresh();
  void setTheme(const Theme& theme);
  /// Where a position is clicked.
  [[nodiscard]] QRectF cell(int index) const;

signals:
  void chosen(int index);

protected:
  void paintEvent(QPaintEvent*) override;
  void mousePressEvent(QMouseEvent*) override;
  void keyPressEvent(QKeyEvent*) override;
  bool event(QEvent*) override;

private:
  [[nodiscard]] int cellAt(QPointF at) const;
  [[nodiscard]] QString wordsOf(int index) const;

  const PositionWalk& walk_;
  const Theme* theme_ = &Theme::dusk();
  int rows_ = 1, columns_ = 1, planes_ = 1;
  int focused_ = 0;
};

} // namespace ml
