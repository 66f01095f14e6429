// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "plan/situation.h"

class QWidget;

namespace ml {

/// Panorama, lens shift, planes of focus and focus distance. True when accepted.
bool editPositions(QWidget* parent, Situation& situation, bool feet);

} // namespace ml
