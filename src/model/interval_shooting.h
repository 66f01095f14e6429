// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "model/shoot_model.h"

namespace ml {

/// One set after another, so many minutes from start to start: light that fades or comes, and a choice among moments.
/// The camera's own time counts, so that the simulated one keeps nobody waiting. Ends with the last set, by *Stop*,
/// when a set fails, or with the view.
class IntervalShooting : public QObject {
  Q_OBJECT

public:
  explicit IntervalShooting(ShootModel& shoot);

  /// The first set begins now. `minutes`: over 0; `sets`: in all.
  void begin(double minutes, int sets);
  /// Sets that are still to begin.
  [[nodiscard]] int toCome() const { return toCome_; }

private:
  void setEnded(bool complete);
  void waitForNext();

  ShootModel& shoot_;
  double minutes_ = 0;
  int toCome_ = 0;
  Seconds began_; ///< The set in hand, by the camera's clock.
};

} // namespace ml
