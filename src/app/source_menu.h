// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "model/shoot_model.h"

#include <QToolButton>

class QMenu;

namespace ml {

/// Where frames come from: the simulated camera, a folder that is watched, a camera by USB or at an address.
class SourceMenu : public QToolButton {
  Q_OBJECT

public:
  explicit SourceMenu(ShootModel& shoot);
  void refresh();

private:
  void fill();
  void askAddress();

  ShootModel& shoot_;
  QMenu* menu_;
};

} // namespace ml
