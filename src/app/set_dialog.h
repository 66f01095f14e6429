// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "model/shoot_model.h"

class QWidget;

namespace ml {

/// Name and place of the active set: row and column of a panorama, plane of focus.
void describeSet(QWidget* parent, ShootModel& shoot);

} // namespace ml
