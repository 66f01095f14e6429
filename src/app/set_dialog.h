// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "model/interval_shooting.h"

class QWidget;

namespace ml {

/// Name and place of the active set: row and column of a panorama, plane of focus.
void describeSet(QWidget* parent, ShootModel& shoot);
/// How many sets, and how far apart; begins at once.
void shootAtInterval(QWidget* parent, IntervalShooting& interval);

} // namespace ml
