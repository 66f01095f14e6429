// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "image/image.h"

namespace ml {

/// Covers the foot of a sphere, where a camera sees its own stand, out to `degrees` from straight down: a straight look
/// down is covered with what lies beside it (as heal), and laid back. In place; a picture that is not twice as wide as
/// high stays. 0 < degrees <= kWidestFoot.
inline constexpr double kWidestFoot = 40;
void coverFoot(Image<float>& sphere, double degrees);

} // namespace ml
