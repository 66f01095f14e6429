// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "model/camera_session.h"
#include "model/job_model.h"
#include "session/view_positions.h"

#include <QObject>

namespace ml {

/// The positions of the view in hand, and the one that the camera is pointed at. A simulated camera turns by itself; a
/// real one is turned by hand, with the angle said.
class PositionWalk : public QObject {
  Q_OBJECT

public:
  PositionWalk(JobModel& job, CameraSession& camera);

  /// More than one, and a camera that can be pointed.
  [[nodiscard]] bool several() const { return positions_.size() > 1; }
  [[nodiscard]] const std::vector<ViewPosition>& positions() const { return positions_; }
  /// In the order they are shot, from 0.
  [[nodiscard]] int at() const { return at_; }
  [[nodiscard]] const PlannedPosition& here() const { return positions_[std::size_t(at_)].planned; }
  [[nodiscard]] std::optional<int> missing() const { return nextMissing(positions_, at_); }
  void goTo(int index);

  /// "row 1, column 2", "plane 2".
  [[nodiscard]] QString nameOf(int index) const;
  /// What the hand does to get there from the position in hand: "turn 36 degrees to the right".
  [[nodiscard]] QString wayTo(int index) const;

signals:
  void moved();

private:
  void enter();
  void follow();
  void point();

  JobModel& job_;
  CameraSession& camera_;
  std::vector<ViewPosition> positions_{ViewPosition{}};
  int at_ = 0;
};

} // namespace ml
