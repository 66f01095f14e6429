// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <functional>

class QPrinter;
class QWidget;

namespace ml {

/// Shows what would be printed, with the system's own choice of printer and paper; `draw` is called as often as needed.
void preview(QWidget* parent, const std::function<void(QPrinter&)>& draw);

} // namespace ml
