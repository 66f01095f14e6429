// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

namespace ml {

/// The number of a new drag, of a slider, a tool or the Ladder: edits under one number are one step of undo. 0 is no
/// drag.
[[nodiscard]] inline int newDrag() {
  static int last = 0;
  return ++last;
}

} // namespace ml
