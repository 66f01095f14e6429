// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/theme.h"
#include "model/ways.h"

#include <QWidget>

namespace ml {

/// Ways to bracket side by side on the scale of the Ladder: what each records, and hatched what it leaves uncovered.
/// A click, or arrows and Return, takes one.
class WaysChart : public QWidget {
  Q_OBJECT

public:
  explicit WaysChart(QWidget* parent = nullptr);
  /// `scale`: EV100 from bottom to top; `wanted`: the light that must be kept.
  void show(std::vector<Way> ways, const LadderData::Stretch& scale, const LadderData::Stretch& wanted);
  void setTheme(const Theme& theme);
  [[nodiscard]] const std::vector<Way>& ways() const { return ways_; }
  /// Where a way is clicked.
  [[nodiscard]] QRectF lane(int index) const;

signals:
  void chosen(const std::string& id);

protected:
  void paintEvent(QPaintEvent*) override;
  void mousePressEvent(QMouseEvent*) override;
  void mouseMoveEvent(QMouseEvent*) override;
  void keyPressEvent(QKeyEvent*) override;
  bool event(QEvent*) override;

private:
  [[nodiscard]] double yOf(double ev) const;
  [[nodiscard]] int laneAt(QPointF at) const;
  void drawScale(QPainter& p) const;
  void drawLane(QPainter& p, int index) const;
  void say();

  const Theme* theme_ = &Theme::dusk();
  std::vector<Way> ways_;
  LadderData::Stretch scale_, wanted_;
  int focused_ = 0, hovered_ = -1;
};

} // namespace ml
