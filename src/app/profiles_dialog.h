// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "model/frames_model.h"

class QWidget;

namespace ml {

/// Cameras: look at the shipped profiles, keep, edit, measure, import, export and remove ones of the user's own.
void editProfiles(QWidget* parent, FramesModel& frames);

} // namespace ml
