// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "finish/recipe.h"

namespace ml {

/// Covers each place with what lies beside it, where its rim fits best, brought to the colours around it by mean-value
/// coordinates (Farbman et al., ACM TOG 28, 2009), in log light. In place.
void heal(Image<float>& radiance, const std::vector<Healing>& healings);

} // namespace ml
