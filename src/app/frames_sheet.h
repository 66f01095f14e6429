// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/snr_chart.h"
#include "app/stations.h"
#include "app/ways_chart.h"
#include "model/frames_model.h"

class QLabel;
class QTableWidget;
class QToolButton;

namespace ml {

/// What the planner answers: the frames in large type, the ways that most people weigh side by side, the settings to
/// make and what to watch for; all ways with their figures unfold. Stands where the picture stands elsewhere.
class FramesSheet : public StationSheet {
  Q_OBJECT

public:
  explicit FramesSheet(FramesModel& frames);
  [[nodiscard]] bool wanted() const override { return frames_.desk().camera.present(); }
  void refresh() override;
  void setTheme(const Theme& theme) override;

private:
  QWidget* buildAnswer();
  void buildTable();
  QWidget* buildSide();
  void refreshTable();
  void refreshSettings();

  FramesModel& frames_;
  QTableWidget *table_, *settings_;
  WaysChart* ways_;
  QToolButton* all_;
  QLabel *times_, *answer_, *warnings_, *shots_, *empty_;
  SnrChart* chart_;
  QWidget* body_;
};

} // namespace ml
