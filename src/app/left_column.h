// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/station_path.h"
#include "app/view_list.h"

#include <QFrame>

class QToolButton;

namespace ml {

/// The left side of the window: the way through a view, and below it the views of the job.
class LeftColumn : public QFrame {
  Q_OBJECT

public:
  explicit LeftColumn(Workbench& workbench, QWidget* parent = nullptr);
  /// `onTheWay`: a station is shown, not a page beside the way.
  void refresh(bool allViewsShown, bool onTheWay);
  void setTheme(const Theme& theme);
  [[nodiscard]] ViewList& views() const { return *views_; }

signals:
  void allViewsWanted(bool shown);
  void stationChosen(int station);

private:
  Workbench& workbench_;
  StationPath* path_;
  ViewList* views_;
  QToolButton *all_, *add_;
};

} // namespace ml
