// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "align/common_tones.h"

namespace ml {

/// Whole-pixel shift within a fifth of the picture at which both correlate best: tones that are not told apart rightly
/// yet do not lead it astray, as differences would. Of shifts that do nearly as well the shortest.
[[nodiscard]] Transform searchShift(const CommonTones& tones);

} // namespace ml
