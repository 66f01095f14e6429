#pragma once
#include "app/theme.h"
#include "model/workbench.h"

#include <QWidget>

namespace ml {

/// The way through a view, top to bottom: where the work is, what is done, what is out of date. Click, arrows, or 1 to 6.
class StationPath : public QWidget {
  Q_OBJECT

public:
  explicit StationPath(QWidget* parent = nullptr);
  void show(Station current, const StationStates& states);
  void setTheme(const Theme& theme);
  /// Middle of a station's target, for tests and tooltips.
  [[nodiscard]] QPoint place(Station station) const;
  [[nodiscard]] static QString nameOf(Station station);
  QSize sizeHint() const override { return {124, 400}; }

signals:
  void chosen(Station station);

protected:
  void paintEvent(QPaintEvent*) override;
  void mousePressEvent(QMouseEvent*) override;
  void keyPressEvent(QKeyEvent*) override;

private:
  [[nodiscard]] StationState stateOf(int index) const;
  const Theme* theme_ = &Theme::dusk();
  Station current_ = Station::Light;
  StationStates states_{};
};

} // namespace ml
