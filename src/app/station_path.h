// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/theme.h"
#include "session/job.h"

#include <QWidget>

namespace ml {

/// The way through a view, top to bottom: where the work is, what is done, what is out of date. Click, arrows, or 1
/// to 6.
class StationPath : public QWidget {
  Q_OBJECT

public:
  explicit StationPath(QWidget* parent = nullptr);
  struct Step {
    QString name;
    StationState state = StationState::Open;
  };
  /// `current` -1: none is in hand.
  void show(int current, std::vector<Step> steps);
  void setTheme(const Theme& theme);
  /// Middle of a station's target, for tests and tooltips.
  [[nodiscard]] QPoint place(int station) const;

signals:
  void chosen(int station);

protected:
  void paintEvent(QPaintEvent*) override;
  void mousePressEvent(QMouseEvent*) override;
  void keyPressEvent(QKeyEvent*) override;

private:
  const Theme* theme_ = &Theme::dusk();
  int current_ = 0;
  std::vector<Step> steps_;
};

} // namespace ml
