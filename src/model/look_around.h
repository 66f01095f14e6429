// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "image/look_around.h"
#include "model/finish_model.h"

#include <QTimer>

namespace ml {

/// The finished sphere in hand, and how somebody who stands in it looks. Shows the picture on screen at once, and when
/// the hand rests one that is drawn anew, larger and without a seam.
class LookAround : public QObject {
  Q_OBJECT

public:
  explicit LookAround(const FinishModel& finish);
  /// The view in hand shows all directions.
  [[nodiscard]] static bool possible(const FinishModel& finish);

  [[nodiscard]] QImage seen(int width, int height) const;
  [[nodiscard]] const Gaze& gaze() const { return gaze_; }
  /// The larger picture is there.
  [[nodiscard]] bool sharp() const { return sharp_; }
  /// Pixels of a view `width` wide.
  void drag(double dx, double dy, int width) { set(gaze_.dragged(dx, dy, width)); }
  /// Steps as of a wheel.
  void goCloser(double steps) { set(gaze_.closer(steps)); }

signals:
  void changed();

private:
  void set(const Gaze& gaze);
  void takePreview();
  void drawSharp();

  const FinishModel& finish_;
  Image<std::uint8_t> sphere_;
  bool sharp_ = false;
  Gaze gaze_;
  QTimer rest_;
  Lane work_;
};

} // namespace ml
