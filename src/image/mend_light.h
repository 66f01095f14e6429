// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "image/image.h"

namespace ml {

/// Light that other programs write and no scene has becomes light: infinite becomes the brightest finite light of the
/// picture (of its channel), what is not a number the mean of its finite neighbours, a pixel whose channels add up to
/// less than nothing becomes black. A single negative channel stays: colours outside the primaries have one. Returns
/// how many samples were changed.
std::size_t mendLight(Image<float>& radiance);

} // namespace ml
