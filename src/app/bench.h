// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "model/workbench.h"

#include <QFrame>

class QHBoxLayout;
class QLabel;
class QPushButton;
class QVBoxLayout;

namespace ml {

/// The tools of one station, below the picture. Shows what its model says; holds no state of its own and changes
/// nothing while it refreshes.
class Bench : public QFrame {
  Q_OBJECT

public:
  explicit Bench(StationModel& station);
  /// Reads everything anew from the model; only with a view.
  void show();
  /// The thing to do next; the window gives it Ctrl+Return.
  [[nodiscard]] QPushButton* next() const { return next_; }

protected:
  virtual void refresh() = 0;
  /// A labelled column of controls.
  QVBoxLayout* group(const QString& title, int stretch = 0);
  [[nodiscard]] const View& view() const { return station_.desk().view(); }
  [[nodiscard]] bool busy() const { return station_.desk().busy(); }
  [[nodiscard]] bool hasCamera() const { return station_.desk().camera.present(); }

  StationModel& station_;
  QHBoxLayout* row_;
  QVBoxLayout* side_; ///< Above the thing to do next.

private:
  QPushButton* next_;
};

[[nodiscard]] Bench* makeLightBench(LightModel& light);
[[nodiscard]] Bench* makeFramesBench(FramesModel& frames);
[[nodiscard]] Bench* makeShootBench(ShootModel& shoot, FramesModel& frames, IntervalShooting& interval);
[[nodiscard]] Bench* makeCombineBench(CombineModel& combine);
[[nodiscard]] Bench* makeFinishBench(FinishModel& finish);
[[nodiscard]] Bench* makeDeliverBench(DeliverModel& deliver);

} // namespace ml
