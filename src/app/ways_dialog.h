// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "visit/visit.h"

class QWidget;

namespace ml {

/// Where each view's camera stands, and how long the ways between two stands take. True when accepted.
bool editWays(QWidget* parent, Visit& visit);

} // namespace ml
